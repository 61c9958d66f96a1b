package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.readings.StateWords;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Watches what a component is in: which words are bad, and for how long. Its value is the place of the word, and 1,000 more for
 * each step by which that word is worse, so that of two the worse one is the greater.
 *
 * @param warning  when it warns, or null for no warning
 * @param critical when it is critical, or null for never
 */
public record StateGuard(@Nullable Condition warning, @Nullable Condition critical, Terms terms) implements Guard {
    private static final int STEP = 1000;
    private static final Duration LONGEST = Duration.ofDays(7);

    /** How a word counts. */
    public enum Manner {
        /** While it is in one of the words, once it has been for the span. */
        IN,
        /** For the span after it came into one of the words from another. */
        CAME,
        /** For the span after it left all of the words. */
        LEFT
    }

    /** @param span from nothing to 7 days; a minute or more for what came or left */
    public record Condition(Manner manner, List<String> words, Duration span) {
        public Condition {
            words = List.copyOf(words);
            if (words.isEmpty()) throw new IllegalArgumentException("name the words that are bad");
            // They are held to what words may be; which of them the measure knows is said where it is edited.
            new StateWords(words);
            if (span.isNegative() || span.compareTo(LONGEST) > 0)
                throw new IllegalArgumentException("a state counts for 0 min to 7 days, was " + Spans.words(span));
            if (manner != Manner.IN && span.compareTo(Duration.ofMinutes(1)) < 0)
                throw new IllegalArgumentException(
                        "what a state came into or left counts for 1 min or more, was " + Spans.words(span));
        }

        public static Condition in(Duration span, String... words) {
            return new Condition(Manner.IN, List.of(words), span);
        }

        /** Whether a word is one that it asks for: one of its own, or for what was left any other. */
        boolean asksFor(String word) {
            return words.contains(word) != (manner == Manner.LEFT);
        }

        /** {@code when stopped for 2 min}, {@code when it left running within the last 10 min}. */
        public String text() {
            var any = String.join(" or ", words);
            return switch (manner) {
                case IN -> "when " + any + (span.isZero() ? "" : " for " + Spans.words(span));
                case CAME -> "when it came into " + any + " within the last " + Spans.words(span);
                case LEFT -> "when it left " + any + " within the last " + Spans.words(span);
            };
        }
    }

    public StateGuard {
        if (warning == null && critical == null)
            throw new IllegalArgumentException(
                    "say which words are bad: for a warning, for a critical alert, or for both");
    }

    /** Of the value as it is coded. */
    @Override
    public Limits limits() {
        return Limits.of(Side.ABOVE, warning == null ? null : STEP - 0.5, critical == null ? null : 2 * STEP - 0.5);
    }

    /** A state has words, no limits. */
    @Override
    public Guard withLimits(Limits other) {
        return this;
    }

    @Override
    public Duration reach() {
        return Stream.of(warning, critical)
                .filter(java.util.Objects::nonNull)
                .map(Condition::span)
                .reduce(Duration.ofMinutes(1), (one, other) -> one.compareTo(other) > 0 ? one : other);
    }

    /** All words that it names, each once. */
    public List<String> words() {
        return Stream.of(warning, critical)
                .filter(java.util.Objects::nonNull)
                .flatMap(one -> one.words().stream())
                .distinct()
                .toList();
    }

    /** How bad a word is, whatever its span; empty where it is good. */
    public Optional<Severity> mark(String word) {
        if (critical != null && critical.asksFor(word)) return Optional.of(Severity.CRITICAL);
        return warning != null && warning.asksFor(word) ? Optional.of(Severity.WARNING) : Optional.empty();
    }

    double value(String word, int place) {
        int step = mark(word).map(it -> it == Severity.CRITICAL ? 2 : 1).orElse(0);
        return place + (double) step * STEP;
    }

    /** The word that a value of it means. */
    public static String word(double value, StateWords words) {
        return words.word(value % STEP);
    }
}
