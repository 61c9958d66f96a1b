package app.morvet.alerts;

/** What raised an alert. */
public sealed interface AlertSource {
    /** A guard, by its id. */
    record OfGuard(long guard) implements AlertSource {}

    /**
     * A sorting rule, for failed messages that fold into one.
     *
     * @param family  of the messages; of the first one, where the rule folds over all interfaces
     * @param overAll whether it folds over all interfaces
     */
    record OfRule(long rule, long family, boolean overAll) implements AlertSource {}

    /**
     * A guard over runs, by its id.
     *
     * @param cause the job that brings the trouble about, by the id of its component
     */
    record OfRunGuard(long guard, long cause) implements AlertSource {}
}
