package app.morvet.ground.page;

import java.util.ArrayList;
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
 * @param track     of a state what it was in, one after the other; its values are places in this list. Else empty
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
        String note,
        List<Stretch> track) {
    /**
     * A time in one state.
     *
     * @param from seconds since 1970
     * @param mark how bad the word is: {@code steady}, {@code warning}, {@code critical}, or {@code nodata} while it is not known
     */
    public record Stretch(double from, double to, String word, String mark) {}

    public Curve(
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
        this(times, values, low, high, projected, warning, critical, zone, name, unit, note, List.of());
    }

    /**
     * What a component was in, with a point every so often at which it can be read.
     *
     * @param track without gaps, from {@code from} to {@code to}
     */
    public static Curve track(List<Stretch> track, double from, double to, int points, String zone, String name) {
        var times = new ArrayList<Double>();
        var places = new ArrayList<@Nullable Double>();
        int place = 0;
        for (int i = 0; i <= points; i++) {
            double now = from + (to - from) * i / points;
            while (place + 1 < track.size() && track.get(place + 1).from() <= now) place++;
            times.add(now);
            places.add((double) place);
        }
        var none = List.<Double>of();
        return new Curve(times, places, List.of(), List.of(), List.of(), none, none, zone, name, "", "", track);
    }

    /** Where there is nothing to draw. */
    public static Curve nothing(String zone) {
        return new Curve(List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), zone, "", "", "");
    }
}
