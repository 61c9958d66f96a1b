package app.morvet.core.guard;

import java.util.Locale;

/** Figures as people read them. */
public final class Numbers {
    private Numbers() {}

    /** As it is, without a needless decimal point: {@code 10}, {@code 2.5}. For what somebody typed. */
    public static String exact(double value) {
        return value == Math.rint(value) && Math.abs(value) < 1e15
                ? Long.toString((long) value)
                : Double.toString(value);
    }

    /** Rounded to what an eye takes in: four figures, and none for what is not known. For what was measured. */
    public static String rounded(double value) {
        if (Double.isNaN(value)) return "no data";
        if (Double.isInfinite(value)) return value > 0 ? "never" : "before all time";
        double size = Math.abs(value);
        if (size >= 1000 || value == Math.rint(value)) return Long.toString(Math.round(value));
        int places = size >= 100 ? 1 : size >= 1 ? 2 : size >= 0.01 ? 4 : 6;
        var text = String.format(Locale.ROOT, "%." + places + "f", value);
        return text.replaceAll("0+$", "").replaceAll("\\.$", "");
    }

    /** With its unit: {@code 85 %}, {@code 12 ms}; the unit may be empty. */
    public static String with(String figure, String unit) {
        return unit.isEmpty() ? figure : figure + " " + unit;
    }
}
