package app.morvet.ground.connections;

/** There was no answer that says what came of a request. */
public final class Unanswered extends Exception {
    private static final long serialVersionUID = 1;
    private final boolean lasting;

    /** @param lasting whether trying again cannot help until somebody changes something */
    public Unanswered(String message, boolean lasting) {
        super(message);
        this.lasting = lasting;
    }

    public boolean lasting() {
        return lasting;
    }

    /** In words for people. */
    public String words() {
        return String.valueOf(getMessage());
    }
}
