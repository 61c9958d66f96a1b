package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The limits of a guard. Either may be left out, not both; both look to the same side.
 *
 * @param warning  warns where this is breached, or null for no warning
 * @param critical is critical where this is breached; farther out than {@code warning}; or null for never critical
 */
public record Limits(@Nullable Limit warning, @Nullable Limit critical) {
    public Limits {
        if (warning == null && critical == null) {
            throw new IllegalArgumentException("a guard needs a warning limit, a critical limit or both");
        }
        if (warning != null && critical != null) {
            if (warning.side() != critical.side()) {
                throw new IllegalArgumentException("the warning and the critical limit look to different sides");
            }
            if (!warning.milderThan(critical)) {
                throw new IllegalArgumentException(
                        switch (warning.side()) {
                            case ABOVE ->
                                "the critical limit (%s) must be above the warning limit (%s)"
                                        .formatted(Numbers.exact(critical.low()), Numbers.exact(warning.low()));
                            case BELOW ->
                                "the critical limit (%s) must be below the warning limit (%s)"
                                        .formatted(Numbers.exact(critical.low()), Numbers.exact(warning.low()));
                            case OUTSIDE -> "the critical limits must lie outside the warning limits";
                            case EQUAL -> "the critical value must be another one than the warning value";
                        });
            }
        }
    }

    public static Limits above(double warning, double critical) {
        return new Limits(Limit.above(warning), Limit.above(critical));
    }

    public static Limits below(double warning, double critical) {
        return new Limits(Limit.below(warning), Limit.below(critical));
    }

    /** From values that may be missing. */
    public static Limits of(Side side, @Nullable Double warning, @Nullable Double critical) {
        return new Limits(
                warning == null ? null : Limit.of(side, warning), critical == null ? null : Limit.of(side, critical));
    }

    public Side side() {
        return mildest().side();
    }

    /** The limit that is breached first. */
    public Limit mildest() {
        if (warning != null) return warning;
        if (critical != null) return critical;
        throw new IllegalStateException("no limit");
    }

    /** The limit that goes with a severity, where there is one. */
    public Optional<Limit> of(Severity severity) {
        return Optional.ofNullable(
                switch (severity) {
                    case CRITICAL -> critical;
                    case WARNING -> warning;
                    case NOTICE -> null;
                });
    }

    /** The worst severity whose limit {@code value} breaches, or null. */
    public @Nullable Severity breachedBy(double value) {
        if (critical != null && critical.breachedBy(value)) return Severity.CRITICAL;
        return warning != null && warning.breachedBy(value) ? Severity.WARNING : null;
    }

    /** The worst severity whose limit {@code value} is not yet back from by the margin, or null. */
    public @Nullable Severity heldBy(double value, double margin) {
        if (critical != null && critical.heldBy(value, margin)) return Severity.CRITICAL;
        return warning != null && warning.heldBy(value, margin) ? Severity.WARNING : null;
    }

    /** The worse of two values; NaN is no value. */
    public double worse(double one, double other) {
        if (Double.isNaN(one)) return other;
        if (Double.isNaN(other)) return one;
        return switch (side()) {
            case ABOVE, EQUAL -> Math.max(one, other);
            case BELOW -> Math.min(one, other);
            case OUTSIDE -> {
                double middle = (mildest().low() + mildest().high()) / 2;
                yield Math.abs(other - middle) > Math.abs(one - middle) ? other : one;
            }
        };
    }

    /** {@code Warn above 12, critical above 80}. */
    public String words(String unit) {
        if (critical == null) return "Warn " + mildest().words(unit);
        if (warning == null) return "Critical " + critical.words(unit);
        return "Warn " + warning.words(unit) + ", critical " + critical.words(unit);
    }
}
