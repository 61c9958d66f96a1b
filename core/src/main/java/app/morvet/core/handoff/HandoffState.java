package app.morvet.core.handoff;

/** How far a handoff is. */
public enum HandoffState {
    QUEUED("waiting to be sent"),
    SENT("sent, not yet accepted"),
    ACCEPTED("accepted"),
    RETURNED("returned"),
    DONE("done"),
    GIVEN_UP("not delivered");

    private final String words;

    HandoffState(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** Whether the desk may still change it. */
    public boolean followed() {
        return this == SENT || this == ACCEPTED;
    }
}
