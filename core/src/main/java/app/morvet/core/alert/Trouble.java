package app.morvet.core.alert;

/** What sort of trouble an alert tells of, so that many of a sort can be said in a few words. */
public enum Trouble {
    STATE("not as it should be", "not as they should be"),
    FAILING("fails messages", "fail messages"),
    RUN("run in trouble", "runs in trouble"),
    SILENT("silent", "silent"),
    CHANGED("changed outside a window", "changed outside a window"),
    LIMIT("over a limit", "over a limit"),
    UNUSUAL("unusual for the hour", "unusual for the hour"),
    AHEAD("heading for trouble", "heading for trouble");

    private final String one;
    private final String many;

    Trouble(String one, String many) {
        this.one = one;
        this.many = many;
    }

    /** As it stands in an address. */
    public String key() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }

    /** {@code 1 silent}, {@code 3 fail messages} */
    public String words(int count) {
        return count + " " + (count == 1 ? one : many);
    }
}
