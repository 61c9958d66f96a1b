package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * What it means when nothing is heard. Until then, what is not known changes nothing: an alert stays as it is.
 *
 * @param after   how long after the last reading
 * @param meaning what it then means
 */
public record NoData(Duration after, Meaning meaning) {
    /** What silence means. */
    public enum Meaning {
        /** It says nothing: an alert stays as it is. */
        NOTHING("change nothing", null),
        /** It is as good as calm: an alert clears. */
        CALM("count it as calm", null),
        NOTICE("raise a notice", Severity.NOTICE),
        WARNING("warn", Severity.WARNING),
        CRITICAL("raise a critical alert", Severity.CRITICAL);

        private final String words;
        private final @Nullable Severity severity;

        Meaning(String words, @Nullable Severity severity) {
            this.words = words;
            this.severity = severity;
        }

        public String words() {
            return words;
        }

        public @Nullable Severity severity() {
            return severity;
        }
    }

    public static final NoData NOTHING = new NoData(Duration.ofMinutes(15), Meaning.NOTHING);

    public NoData {
        if (after.compareTo(Duration.ofMinutes(1)) < 0 || after.compareTo(Duration.ofDays(7)) > 0) {
            throw new IllegalArgumentException(
                    "silence means something after 1 min to 7 days, was " + Spans.words(after));
        }
    }
}
