package app.morvet.core.guard;

/**
 * A limit and the side of it that is bad.
 *
 * @param low  the limit; of {@link Side#OUTSIDE} the lower of the two
 * @param high the same as {@code low}; of {@link Side#OUTSIDE} the upper, above {@code low}
 */
public record Limit(Side side, double low, double high) {
    public Limit {
        if (!Double.isFinite(low) || !Double.isFinite(high)) {
            throw new IllegalArgumentException("a limit must be a finite number");
        }
        if (side == Side.OUTSIDE ? low >= high : low != high) {
            throw new IllegalArgumentException("the lower limit (%s) must be below the upper one (%s)"
                    .formatted(Numbers.exact(low), Numbers.exact(high)));
        }
    }

    public static Limit of(Side side, double value) {
        return new Limit(side, value, value);
    }

    public static Limit above(double value) {
        return of(Side.ABOVE, value);
    }

    public static Limit below(double value) {
        return of(Side.BELOW, value);
    }

    public static Limit outside(double low, double high) {
        return new Limit(Side.OUTSIDE, low, high);
    }

    public boolean breachedBy(double value) {
        return switch (side) {
            case ABOVE -> value > high;
            case BELOW -> value < low;
            case OUTSIDE -> value > high || value < low;
            case EQUAL -> value == low;
        };
    }

    /**
     * Whether a value keeps an alert of this limit up: it is not yet back by the margin. A margin of 0.9 on a limit of
     * 100 is back at 90 when above is bad and at 110 when below is bad; of two limits, it is a tenth of half their
     * distance inside them. At the line itself it is back, so that a limit of 0 can clear at 0.
     */
    public boolean heldBy(double value, double margin) {
        double off = 1 - margin;
        return switch (side) {
            case ABOVE -> value > high - off * Math.abs(high);
            case BELOW -> value < low + off * Math.abs(low);
            case OUTSIDE -> value > high - off * (high - low) / 2 || value < low + off * (high - low) / 2;
            case EQUAL -> value == low;
        };
    }

    /** Whether everything that breaches the other limit breaches this one too, and more does. */
    boolean milderThan(Limit other) {
        return switch (side) {
            case ABOVE -> high < other.high;
            case BELOW -> low > other.low;
            case OUTSIDE -> low >= other.low && high <= other.high && !equals(other);
            case EQUAL -> low != other.low;
        };
    }

    /** {@code above 12}, {@code outside 2 to 8}. */
    public String words(String unit) {
        return side == Side.OUTSIDE
                ? "outside %s to %s".formatted(Numbers.exact(low), Numbers.with(Numbers.exact(high), unit))
                : side.word() + " " + Numbers.with(Numbers.exact(low), unit);
    }
}
