package app.morvet.core.callouts;

/** A way to reach people. */
public enum Way {
    MAIL("mail"),
    TEXT("text message"),
    /** A web call to a chat, a paging service, or anything else that takes one. */
    WEB("web call"),
    /** A line in a file. */
    FILE("file"),
    SYSLOG("system log"),
    /** A ticket at the desk of a team. */
    DESK("ticket");

    private final String words;

    Way(String words) {
        this.words = words;
    }

    /** Whether people are reached by it. */
    public boolean isPersonal() {
        return this == MAIL || this == TEXT;
    }

    public String words() {
        return words;
    }
}
