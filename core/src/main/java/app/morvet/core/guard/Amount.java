package app.morvet.core.guard;

import org.jspecify.annotations.Nullable;

/**
 * What is made of the readings in a window.
 *
 * @param fold    how they become one value
 * @param share   for {@link Fold#PERCENTILE} the share (0 to 1) of readings at or under the value; for
 *                {@link Fold#EACH} the share of readings that must breach the limit, 0 for any one of them; else 0
 * @param least   with fewer readings than this in the window nothing is known; at least 1
 * @param ceiling what each reading is a share of, in per cent; null where readings are taken as they are
 */
public record Amount(Fold fold, double share, int least, @Nullable Ceiling ceiling) {
    /** How the readings of a window become a value. */
    public enum Fold {
        LAST("the last value"),
        MEAN("the mean"),
        MIN("the lowest"),
        MAX("the highest"),
        SUM("the sum"),
        COUNT("the number of readings"),
        PERCENTILE("the percentile"),
        /** The growth a minute; of a counter across its restarts. */
        RATE("the rate a minute"),
        /** The growth over the window; of a counter across its restarts. */
        CHANGE("the change"),
        /** No value of all: each reading is held against the limit, and a share of them must breach it. */
        EACH("each reading");

        private final String words;

        Fold(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What readings are a share of: a number, or the latest reading of another measure of the same component. */
    public sealed interface Ceiling {
        /** @param value above 0 */
        record Fixed(double value) implements Ceiling {
            public Fixed {
                if (!(value > 0) || Double.isInfinite(value))
                    throw new IllegalArgumentException("a ceiling is a number above 0");
            }
        }

        /** @param measure name of the measure that is the ceiling */
        record Measured(String measure) implements Ceiling {
            public Measured {
                if (measure.isBlank()) throw new IllegalArgumentException("name the measure that is the ceiling");
            }
        }
    }

    public Amount {
        if (least < 1) throw new IllegalArgumentException("at least 1 reading is needed, was " + least);
        if (fold == Fold.PERCENTILE && !(share > 0 && share < 1)) {
            throw new IllegalArgumentException("a percentile lies above 0 and under 100");
        }
        if (fold == Fold.EACH && !(share >= 0 && share <= 1)) {
            throw new IllegalArgumentException("a share of readings is 0 to 100 %");
        }
        if (fold != Fold.PERCENTILE && fold != Fold.EACH) share = 0;
    }

    public static Amount of(Fold fold) {
        return new Amount(fold, 0, 1, null);
    }

    public static Amount percentile(double share) {
        return new Amount(Fold.PERCENTILE, share, 1, null);
    }

    /** Of the readings in the window, at least this share must breach the limit; 0 is any one, 1 every one. */
    public static Amount each(double share) {
        return new Amount(Fold.EACH, share, 1, null);
    }

    public Amount least(int readings) {
        return new Amount(fold, share, readings, ceiling);
    }

    public Amount shareOf(@Nullable Ceiling other) {
        return new Amount(fold, share, least, other);
    }

    /** {@code the 95th percentile}, {@code every reading}, {@code at least 80 % of readings}. */
    public String words() {
        return switch (fold) {
            case PERCENTILE -> "the " + percent(share) + "th percentile";
            case EACH ->
                share == 0
                        ? "any reading"
                        : share == 1 ? "every reading" : "at least " + percent(share) + " % of readings";
            default -> fold.words();
        };
    }

    private static String percent(double share) {
        return Numbers.exact(Math.round(share * 100_000) / 1000.0);
    }
}
