package app.morvet.core.batch;

/** What a guard over runs looks for. */
public enum RunTrouble {
    FAILED("has failed"),
    DID_NOT_START("did not start by its latest start"),
    RUNNING_LONG("is running long"),
    OUT_OF_TIME("runs longer than it may"),
    DEADLINE_AT_RISK("is likely to miss its deadline"),
    SUSPICIOUS_SUCCESS("is done in less time, or with fewer records, than can be believed"),
    NOT_EXPECTED("ran when it was not expected");

    private final String words;

    RunTrouble(String words) {
        this.words = words;
    }

    /** As it stands in a sentence after "a job". */
    public String words() {
        return words;
    }
}
