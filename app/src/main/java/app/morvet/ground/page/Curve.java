package app.morvet.ground.page;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A curve over time, for a chart. All lists are as long as {@code times}; null is no value.
 *
 * @param times     seconds since 1970
 * @param values    what is drawn as the curve
 * @param low       lower edge of the usual range; empty where there is none
 * @param high      its upper edge
 * @param projected where a trend is heading; empty where there is none
 * @param warning   the warning limit as horizontal lines: none, one, or two
 * @param critical  the critical limit, likewise
 * @param zone      in which times are shown
 * @param name      what the curve is
 * @param unit      may be empty
 * @param note      a word about it, such as when a trend crosses; may be empty
 */
public record Curve(
        List<Double> times,
        List<@Nullable Double> values,
        List<@Nullable Double> low,
        List<@Nullable Double> high,
        List<@Nullable Double> projected,
        List<Double> warning,
        List<Double> critical,
        String zone,
        String name,
        String unit,
        String note) {

    /** Where there is nothing to draw. */
    public static Curve nothing(String zone) {
        return new Curve(List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), zone, "", "", "");
    }
}
