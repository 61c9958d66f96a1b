package app.morvet.core.callouts;

/** A way to reach people. */
public enum Way {
    MAIL("mail"),
    TEXT("text message"),
    /** A web call to a chat, a paging service, or anything else that takes one. */
    WEB("web call");

    private final String words;

    Way(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }
}
