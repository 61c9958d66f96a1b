package app.morvet.nights;

import app.morvet.core.batch.Outcome;

/** The relief mark of how it stands with a start. */
final class Marks {
    private Marks() {}

    static String of(Outcome outcome) {
        return switch (outcome) {
            case FAILED, DID_NOT_START, OUT_OF_TIME -> "warning";
            case RUNNING_LONG, LATE, CANCELLED, HELD_UP, NOT_EXPECTED, RECOVERED, TO_BE_RETRIED -> "notice";
            case PLANNED, DUE, RUNNING, ON_TIME -> "steady";
        };
    }
}
