package app.morvet.core.callouts;

/** What happens to a case, of which a rule has people told. */
public enum Happening {
    /** It is as bad as the rule asks, for the first time since it was last over: it opened so, rose so, or came back. */
    OPENED("opens"),
    /** Nobody has taken it within its response time. */
    LATE("is not taken in time"),
    /** The team that it was handed to gave it back. */
    RETURNED("is returned by its team"),
    /** Nothing of it is wrong any more. */
    OVER("is over");

    private final String words;

    Happening(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** Whether somebody is needed still for what happened. */
    boolean calls(Standing now) {
        return switch (this) {
            case OPENED, LATE -> !now.over() && !now.taken() && !now.handedOff();
            case RETURNED -> !now.over() && now.returned();
            case OVER -> now.over();
        };
    }
}
