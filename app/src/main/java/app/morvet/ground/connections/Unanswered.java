package app.morvet.ground.connections;

import java.time.Duration;

/** There was no answer that says what came of a request. */
public final class Unanswered extends Exception {
    private static final long serialVersionUID = 1;
    private final boolean lasting;
    private final Duration asksToWait;
    private final boolean gone;

    /** @param lasting whether trying again cannot help until somebody changes something */
    public Unanswered(String message, boolean lasting) {
        this(message, lasting, Duration.ZERO);
    }

    /** @param asksToWait how long it wants not to be asked again; zero where it does not say */
    public Unanswered(String message, boolean lasting, Duration asksToWait) {
        this(message, lasting, asksToWait, false);
    }

    Unanswered(String message, boolean lasting, Duration asksToWait, boolean gone) {
        super(message);
        this.lasting = lasting;
        this.asksToWait = asksToWait;
        this.gone = gone;
    }

    /** Whether what was asked for is not there, or not any more. */
    public boolean isGone() {
        return gone;
    }

    public Duration asksToWait() {
        return asksToWait;
    }

    public boolean lasting() {
        return lasting;
    }

    /** In words for people. */
    public String words() {
        return String.valueOf(getMessage());
    }
}
