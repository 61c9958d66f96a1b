package app.morvet.core.cases;

import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.TreeSet;

/**
 * How often two things began at about the same time, against chance. Were the {@code other} spread evenly and at random over the span, as a
 * Poisson process is, one of the {@code one} would have another near by it with the chance {@code p = 1 − exp(−other · 2 near / span)}, and
 * {@code one · p} of them in all. {@link #lift} is how many times as many there were; {@link #chance} is the chance of so many or more by
 * accident, by the Poisson distribution with that mean.
 *
 * @param one   how often the one began
 * @param other how often the other did
 * @param both  how many of the one had another near by
 * @param near  how far apart they may have begun
 * @param span  in which they were counted
 */
public record Together(int one, int other, int both, Duration near, Duration span) {
    private static final int LEAST = 2;
    private static final double BY_ACCIDENT = 0.001;

    /** @throws IllegalArgumentException where there are more together than there are, or a span is empty */
    public Together {
        if (one < 0 || other < 0 || both < 0 || both > one)
            throw new IllegalArgumentException("%d of %d cannot be together".formatted(both, one));
        if (!near.isPositive() || !span.isPositive())
            throw new IllegalArgumentException("a span is longer than nothing");
    }

    /** Counts, from the instants at which each began. */
    public static Together of(Collection<Instant> one, Collection<Instant> other, Duration near, Duration span) {
        var known = new TreeSet<>(other);
        int both = (int) one.stream()
                .filter(at -> {
                    var next = known.ceiling(at.minus(near));
                    return next != null && !next.isAfter(at.plus(near));
                })
                .count();
        return new Together(one.size(), other.size(), both, near, span);
    }

    /** How many would be together by chance. */
    public double expected() {
        return one * -Math.expm1(-other * 2.0 * near.toMillis() / span.toMillis());
    }

    /** How many times as many as by chance; 0 where none were. */
    public double lift() {
        return both == 0 ? 0 : both / expected();
    }

    /** The chance of so many, or more, by accident. */
    public double chance() {
        double mean = expected();
        if (both == 0) return 1;
        // The tail itself, and not what the head leaves of 1, so that small ones are right.
        double term = Math.exp(-mean + both * Math.log(mean) - logFactorial(both));
        double sum = 0;
        for (int k = both; term > sum * 1e-17; k++) {
            sum += term;
            term *= mean / (k + 1);
        }
        return Math.min(1, sum);
    }

    private static double logFactorial(int n) {
        double sum = 0;
        for (int k = 2; k <= n; k++) sum += Math.log(k);
        return sum;
    }

    /** Whether it is worth saying that they go together. */
    public boolean tells() {
        return both >= LEAST && chance() < BY_ACCIDENT;
    }

    /** {@code went together 5 times of 6 in 90 days, 2,000 times as often as by chance}. */
    public String words() {
        var days = span.toDays();
        if (both == 0) return "did not go together before in %d days".formatted(days);
        double lift = lift();
        var often = lift < 10 ? "%.1f".formatted(lift) : "%,d".formatted(rounded(lift));
        return "went together %d of %d times in %d days, %s times as often as by chance"
                .formatted(both, one, days, often);
    }

    /** To two figures: more would say more than is known. */
    private static long rounded(double value) {
        double scale = Math.pow(10, Math.floor(Math.log10(value)) - 1);
        return Math.round(Math.round(value / scale) * scale);
    }
}
