package app.morvet.core.guard;

/**
 * What has one alert together.
 *
 * @param by    the kind of togetherness
 * @param label the name of the label for {@link By#LABEL}; empty otherwise
 */
public record Grouping(By by, String label) {
    public enum By {
        SUBJECT,
        LABEL,
        APPLICATION,
        GUARD
    }

    public static final Grouping EACH_SUBJECT = new Grouping(By.SUBJECT, "");

    public Grouping {
        if (by == By.LABEL && label.isBlank()) throw new IllegalArgumentException("name the label that alerts go by");
        if (by != By.LABEL) label = "";
    }

    /** {@code one alert for each subject}. */
    public String words() {
        return switch (by) {
            case SUBJECT -> "one alert for each subject";
            case LABEL -> "one alert for each " + label;
            case APPLICATION -> "one alert for each application";
            case GUARD -> "one alert for all of it";
        };
    }
}
