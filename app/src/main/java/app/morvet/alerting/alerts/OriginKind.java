package app.morvet.alerting.alerts;

import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Trouble;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Curve;
import app.morvet.sources.messages.MessageScope;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;

/**
 * A sort of rule that raises alerts. Whatever pages, tickets and call-outs want to know of what raised an alert, they ask
 * here; a new sort of rule is a bean of this in a package of its own, and a caller of {@link AlertDesk}.
 */
public interface OriginKind {
    /** The name that its {@link Origin}s bear. */
    String kind();

    /** What one of it is called in a sentence, such as {@code the guard}. */
    String noun();

    String name(Alert alert);

    /** The rule in words. */
    String sentence(Alert alert);

    /** Where the rule can be read and changed: a path. */
    String link(Alert alert);

    /** What to do about it, in Markdown; may be empty. */
    String fixNote(Alert alert);

    /** What sort of trouble it tells of. */
    default Trouble trouble(Alert alert) {
        return Trouble.LIMIT;
    }

    /** A value of an alert in words; empty where it says nothing. */
    String value(Alert alert, double value);

    /** The limits in words; empty where there are none. */
    default String limits(Alert alert) {
        return "";
    }

    /** The team that owns what it finds, in place of the component's own. */
    default Optional<Estate.Team> owner(Alert alert) {
        return Optional.empty();
    }

    /** The worse of two values; NaN is none. */
    default double worse(Origin origin, double one, double other) {
        return Double.isNaN(one) ? other : Double.isNaN(other) ? one : Math.max(one, other);
    }

    /** Whether it would be raised now, were it not up. */
    default boolean overItsLimit(Alert alert) {
        return true;
    }

    /** Where the trouble that it tells of may have begun, when it is raised. */
    default Instant troubleBegan(Alert alert) {
        return alert.raisedAt();
    }

    /** Whether it tells of what will come, and not of what is. */
    default boolean foretells(Alert alert) {
        return false;
    }

    /** Whether one that was still up when its case was settled has grown enough since to call again. */
    default boolean grewAgain(Alert alert, double atSettling) {
        return false;
    }

    /** Whether it counts what has happened, so that it stays up for a while though nothing is wrong any more. */
    default boolean standsOnPast(Alert alert) {
        return false;
    }

    /** The kinds of needed components whose trouble explains it. */
    default Set<String> explainedBy(Alert alert) {
        return Set.of();
    }

    /** The failed messages that it speaks of. */
    default Optional<MessageScope> messages(Alert alert) {
        return Optional.empty();
    }

    /** Whether it is told of each message that it counts by whoever takes all of them out of their queue. */
    default boolean hearsAllMessages() {
        return false;
    }

    /** The series that it judges, by its id; empty where it is none. */
    default Optional<Long> series(Alert alert) {
        return Optional.empty();
    }

    /** Whether there is a curve of it. */
    default boolean drawn(Alert alert) {
        return false;
    }

    /**
     * Its curve, from a while before the trouble to its end.
     *
     * @param firstSeen when the trouble of its case was first seen
     */
    default Curve curve(Alert alert, Instant firstSeen) {
        throw new IllegalArgumentException(kind() + " draws no curves");
    }

    /** What a value of its curve breaches: a severity in words, or empty. */
    default String breached(Alert alert, double value) {
        return "";
    }
}
