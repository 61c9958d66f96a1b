package app.morvet.standins.scheduler;

/** What can be done to a job on the panel. It happens to the run that is going on, or to the next one. */
enum Trouble {
    FAIL("fails"),
    HANG("hangs"),
    SLOW("runs three times as long"),
    DO_NOT_START("does not start"),
    TWICE("runs twice"),
    NOTHING("succeeds with nothing done");

    private final String words;

    Trouble(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }
}
