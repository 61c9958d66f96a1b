package app.morvet.core.batch;

/** How it stands with a start that was expected, or a run that was not. */
public enum Outcome {
    PLANNED("planned"),
    DUE("due now"),
    HELD_UP("held up by what it waits for"),
    RUNNING("running"),
    RUNNING_LONG("running long"),
    OUT_OF_TIME("out of time"),
    ON_TIME("on time"),
    LATE("late"),
    RECOVERED("failed, then recovered"),
    TO_BE_RETRIED("failed, to be tried again"),
    FAILED("failed"),
    CANCELLED("cancelled"),
    DID_NOT_START("did not start"),
    SKIPPED("skipped by a window"),
    NOT_EXPECTED("not expected");

    private final String words;

    Outcome(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /**
     * Of a run that is not the last of its start, or that was not expected.
     *
     * @param planned whether its job has expected starts
     */
    public static Outcome of(Run run, boolean planned) {
        if (run.end() == null) return RUNNING;
        return switch (run.end()) {
            case FAILED -> FAILED;
            case CANCELLED -> CANCELLED;
            case FINE, WARNED -> planned && run.trigger() == Run.Trigger.SCHEDULE ? NOT_EXPECTED : ON_TIME;
        };
    }

    /** Whether the work is done. */
    public boolean done() {
        return this == ON_TIME || this == LATE || this == RECOVERED;
    }

    /** Whether a run of it is going on. */
    public boolean running() {
        return this == RUNNING || this == RUNNING_LONG;
    }

    /** Whether it can still become something else by itself or by what people do now. */
    public boolean open() {
        return switch (this) {
            case PLANNED,
                    DUE,
                    HELD_UP,
                    RUNNING,
                    RUNNING_LONG,
                    OUT_OF_TIME,
                    TO_BE_RETRIED,
                    DID_NOT_START,
                    FAILED,
                    CANCELLED -> true;
            case ON_TIME, LATE, RECOVERED, SKIPPED, NOT_EXPECTED -> false;
        };
    }

    /** Whether it went otherwise than it should. */
    public boolean bad() {
        return switch (this) {
            case RUNNING_LONG, OUT_OF_TIME, LATE, FAILED, CANCELLED, DID_NOT_START, NOT_EXPECTED, HELD_UP -> true;
            case PLANNED, DUE, RUNNING, ON_TIME, RECOVERED, TO_BE_RETRIED, SKIPPED -> false;
        };
    }
}
