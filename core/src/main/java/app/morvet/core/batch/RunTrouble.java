package app.morvet.core.batch;

/** What a guard over runs looks for. */
public enum RunTrouble {
    FAILED("has failed", "failed"),
    DID_NOT_START("did not start by its latest start", "did not start"),
    RUNNING_LONG("is running long", "running long"),
    OUT_OF_TIME("runs longer than it may", "out of time"),
    DEADLINE_AT_RISK("is likely to miss its deadline", "deadline at risk"),
    SUSPICIOUS_SUCCESS("is done in less time, or with fewer records, than can be believed", "suspicious success"),
    NOT_EXPECTED("ran when it was not expected", "not expected");

    private final String words;
    private final String state;

    RunTrouble(String words, String state) {
        this.words = words;
        this.state = state;
    }

    /** How it stands with a job that has it, as in a list. */
    public String state() {
        return state;
    }

    /** The worse of two values that alerts of this tell; NaN is none. */
    public double worse(double one, double other) {
        if (Double.isNaN(one)) return other;
        if (Double.isNaN(other)) return one;
        return switch (this) {
            case DEADLINE_AT_RISK, SUSPICIOUS_SUCCESS -> Math.min(one, other);
            case FAILED, DID_NOT_START, RUNNING_LONG, OUT_OF_TIME, NOT_EXPECTED -> Math.max(one, other);
        };
    }

    /** As it stands in a sentence after "a job". */
    public String words() {
        return words;
    }
}
