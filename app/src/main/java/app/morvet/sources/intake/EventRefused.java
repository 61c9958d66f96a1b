package app.morvet.sources.intake;

/** Why an event is refused, in words for its sender. */
public final class EventRefused extends Exception {
    private static final long serialVersionUID = 1;

    public EventRefused(String reason) {
        super(reason);
    }
}
