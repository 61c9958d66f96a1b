package app.morvet.ground.page;

import java.math.BigDecimal;
import java.math.RoundingMode;

/** Figures as pages show them, where there are hundreds of them on one: {@code String.format} reads its pattern anew each time. */
public final class Figures {
    private Figures() {}

    /** {@code 1,204}. */
    public static String grouped(long value) {
        if (value > -1000 && value < 1000) return Long.toString(value);
        var digits = new StringBuilder(Long.toString(value));
        for (int at = digits.length() - 3; at > (value < 0 ? 1 : 0); at -= 3) digits.insert(at, ',');
        return digits.toString();
    }

    /** With one digit behind the point, as {@code 12.5}; half of it goes away from zero. */
    public static String tenths(double value) {
        return BigDecimal.valueOf(value).setScale(1, RoundingMode.HALF_UP).toPlainString();
    }
}
