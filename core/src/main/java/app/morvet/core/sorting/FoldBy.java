package app.morvet.core.sorting;

/** What has one alert together, of the failed messages that a rule takes. */
public enum FoldBy {
    FAMILY("family on each interface"),
    /** One error that shows on several interfaces is one trouble. */
    SHARED_FAMILY("family, over all interfaces"),
    RULE("rule, over all interfaces"),
    BUSINESS_KEY("business key");

    private final String words;

    FoldBy(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** Whether it is one trouble on whichever interfaces it shows. */
    public boolean everywhere() {
        return this == RULE || this == SHARED_FAMILY;
    }

    /** The key under which a message folds, within its rule. */
    public String key(long component, long family, String businessKey) {
        return switch (this) {
            case FAMILY -> "f" + family + "c" + component;
            case SHARED_FAMILY -> "a" + family;
            case RULE -> "r";
            case BUSINESS_KEY -> "k" + businessKey;
        };
    }
}
