package app.morvet.core.guard;

/**
 * A standing rule. Closed, so that the compiler finds every place that forgot a kind; each kind is a record of what its
 * sentence says and nothing else.
 */
public sealed interface Guard permits LimitGuard, SilenceGuard, TrendGuard, BandGuard, StateGuard, CombinationGuard {

    /** What all kinds have beside their condition. */
    Terms terms();

    /** What the value that the guard measures is held against. */
    Limits limits();

    /** The same with other limits. */
    Guard withLimits(Limits limits);

    /** How far back from an instant the recent readings must reach for it to be judged there. */
    java.time.Duration reach();

    /** {@code limit}, {@code silence}, {@code trend}, {@code band}, {@code state} or {@code combination}. */
    default String kind() {
        return switch (this) {
            case LimitGuard it -> "limit";
            case SilenceGuard it -> "silence";
            case TrendGuard it -> "trend";
            case BandGuard it -> "band";
            case StateGuard it -> "state";
            case CombinationGuard it -> "combination";
        };
    }
}
