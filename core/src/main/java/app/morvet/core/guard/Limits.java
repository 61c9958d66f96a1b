package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The counts above which a guard alerts. Either may be left out, not both.
 *
 * @param warning  warns above this; 0 or more, or null for no warning
 * @param critical is critical above this; more than {@code warning}, or null for never critical
 */
public record Limits(@Nullable Double warning, @Nullable Double critical) {
    public Limits {
        if (warning == null && critical == null) {
            throw new IllegalArgumentException("a limit guard needs a warning limit, a critical limit or both");
        }
        check("warning", warning);
        check("critical", critical);
        if (warning != null && critical != null && critical <= warning) {
            throw new IllegalArgumentException("the critical limit (%s) must be above the warning limit (%s)"
                    .formatted(number(critical), number(warning)));
        }
    }

    private static void check(String name, @Nullable Double limit) {
        if (limit != null && (!Double.isFinite(limit) || limit < 0)) {
            throw new IllegalArgumentException("the " + name + " limit must be 0 or more, was " + limit);
        }
    }

    public static Limits of(double warning, double critical) {
        return new Limits(warning, critical);
    }

    /** The limit that goes with a severity, where there is one. */
    public Optional<Double> of(Severity severity) {
        return Optional.ofNullable(
                switch (severity) {
                    case CRITICAL -> critical;
                    case WARNING -> warning;
                    case NOTICE -> null;
                });
    }

    /** The worst severity whose limit {@code value} lies above. */
    public Optional<Severity> breachedBy(double value) {
        return Stream.of(Severity.CRITICAL, Severity.WARNING)
                .filter(severity -> of(severity).filter(limit -> value > limit).isPresent())
                .findFirst();
    }

    /** A count without a needless decimal point: {@code 10}, {@code 2.5}. */
    public static String number(double value) {
        return value == Math.rint(value) && Math.abs(value) < 1e15
                ? Long.toString((long) value)
                : Double.toString(value);
    }
}
