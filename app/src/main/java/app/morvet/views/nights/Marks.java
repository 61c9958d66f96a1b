package app.morvet.views.nights;

import app.morvet.core.batch.Outcome;
import java.util.List;

/** The relief mark of how it stands with a start, and how bad a mark is. */
final class Marks {
    private static final List<String> RANKS = List.of("critical", "warning", "notice", "held", "steady", "nodata");

    private Marks() {}

    /** The worst first. */
    static int rank(String mark) {
        return RANKS.indexOf(mark);
    }

    static String of(Outcome outcome) {
        return switch (outcome) {
            case FAILED, DID_NOT_START, OUT_OF_TIME -> "warning";
            case RUNNING_LONG, LATE, CANCELLED, HELD_UP, NOT_EXPECTED, RECOVERED, TO_BE_RETRIED -> "notice";
            case SKIPPED -> "held";
            case PLANNED, DUE, RUNNING, ON_TIME -> "steady";
        };
    }
}
