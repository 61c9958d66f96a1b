package app.morvet.core.sorting;

/** What has one alert together, of the failed messages that a rule takes. */
public enum FoldBy {
    FAMILY("family on each interface"),
    RULE("rule, over all interfaces"),
    BUSINESS_KEY("business key");

    private final String words;

    FoldBy(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** The key under which a message folds, within its rule. */
    public String key(long component, long family, String businessKey) {
        return switch (this) {
            case FAMILY -> "f" + family + "c" + component;
            case RULE -> "r";
            case BUSINESS_KEY -> "k" + businessKey;
        };
    }
}
