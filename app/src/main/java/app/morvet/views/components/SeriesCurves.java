package app.morvet.views.components;

import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.UsualRange;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Outline;
import app.morvet.core.readings.Sort;
import app.morvet.core.tracks.Axis;
import app.morvet.ground.page.Times;
import app.morvet.rules.guards.LimitsOver;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The curve of a series over any span: what it was, what is usual, what guards hold it against, and what it was a week before. */
@Component
class SeriesCurves {
    private static final int STRETCHES = 360;
    private static final Duration WEEK = Duration.ofDays(7);
    /** A counter is known from the reading before the span on. */
    private static final Duration BEFORE = Duration.ofHours(1);

    /** Over more the band of each hour says nothing that could be seen. */
    private static final Duration BAND_DRAWN = Duration.ofDays(4);

    /** What a whole span had, in words; empty where nothing was heard. */
    record Figures(String least, String mean, String greatest, String last) {
        static final Figures NONE = new Figures("", "", "", "");
    }

    /**
     * A curve for the chart; all lists are as long as {@code at}, null is no value.
     *
     * @param at     seconds since 1970
     * @param reach  seconds; two values that are no further apart than either reaches belong together, though none lies between them
     * @param before the mean a week earlier; empty unless asked for
     * @param low    what is usual at least; empty where no guard says so
     */
    record Drawn(
            String zone,
            String name,
            String unit,
            List<Double> at,
            List<Double> reach,
            List<@Nullable Double> mean,
            List<@Nullable Double> least,
            List<@Nullable Double> greatest,
            List<@Nullable Double> before,
            List<@Nullable Double> low,
            List<@Nullable Double> high,
            List<Double> warning,
            List<Double> critical,
            Figures figures) {}

    private final ReadingHistory history;
    private final MessageStore messages;
    private final LimitsOver limits;
    private final Times times;

    SeriesCurves(ReadingHistory history, MessageStore messages, LimitsOver limits, Times times) {
        this.history = history;
        this.messages = messages;
        this.limits = limits;
        this.times = times;
    }

    /** {@code % }, or {@code a minute} of what is counted. */
    static String unit(Series one) {
        var unit = one.measure().unitWords();
        return switch (one.measure().sort()) {
            case GAUGE, STATE -> unit;
            case COUNTER, COUNT -> unit.isEmpty() ? "a minute" : unit + " a minute";
        };
    }

    Outline outline(Series one, Axis axis) {
        return outline(one, axis.from(), axis.to(), STRETCHES);
    }

    private Outline outline(Series one, Instant from, Instant to, int stretches) {
        if (one.measure().countsFailures()) return failed(one, from, to, stretches);
        var readings = history.between(one.id(), from.minus(BEFORE), to);
        return Outline.of(readings, one.measure().sort(), from, to, stretches);
    }

    /** Failed messages are counted where they are kept. */
    private Outline failed(Series one, Instant from, Instant to, int stretches) {
        var length = Duration.between(from, to).dividedBy(stretches);
        var counts = messages.counts(
                MessageScope.of(one.component()), from, from.plus(length.multipliedBy(stretches)), length);
        return Outline.ofCounts(counts, from, from.plus(length.multipliedBy(counts.length)));
    }

    Drawn of(Series one, Axis axis, boolean weekBefore) {
        var outline = outline(one, axis);
        var lines = limits.over(one);
        var before = weekBefore
                ? values(outline(one, axis.from().minus(WEEK), axis.to().minus(WEEK), STRETCHES)
                        .mean())
                : List.<@Nullable Double>of();
        var low = new ArrayList<@Nullable Double>();
        var high = new ArrayList<@Nullable Double>();
        var band = lines.band();
        if (band != null && one.measure().sort() == Sort.GAUGE && axis.length().compareTo(BAND_DRAWN) <= 0) {
            var hours = Arrays.stream(outline.at())
                    .mapToObj(at -> UsualRange.hourOf(Micros.instant(at), band.zone()))
                    .toList();
            var distinct = hours.stream().distinct().toList();
            var usual = limits.usual(band, one, distinct);
            var byHour = new HashMap<Instant, LimitsOver.@Nullable Usual>();
            for (int i = 0; i < distinct.size(); i++) byHour.put(distinct.get(i), usual.get(i));
            for (var hour : hours) {
                var known = byHour.get(hour);
                low.add(known == null ? null : known.low());
                high.add(known == null ? null : known.high());
            }
        }
        return new Drawn(
                times.zoneName(),
                one.measure().words(),
                unit(one),
                Arrays.stream(outline.at()).mapToObj(at -> at / 1e6).toList(),
                Arrays.stream(outline.reach()).mapToObj(far -> far / 1e6).toList(),
                values(outline.mean()),
                values(outline.least()),
                values(outline.greatest()),
                before,
                low,
                high,
                lines.warning(),
                lines.critical(),
                figures(one, outline.figures()));
    }

    static Figures figures(Series one, Outline.Figures figures) {
        if (figures.count() == 0 && one.measure().sort() != Sort.COUNT) return Figures.NONE;
        return new Figures(
                Numbers.rounded(figures.least()),
                Numbers.rounded(figures.mean()),
                Numbers.rounded(figures.greatest()),
                Numbers.with(Numbers.rounded(figures.last()), unit(one)));
    }

    private static List<@Nullable Double> values(double[] some) {
        var all = new ArrayList<@Nullable Double>(some.length);
        for (double one : some) all.add(Double.isFinite(one) ? one : null);
        return all;
    }
}
