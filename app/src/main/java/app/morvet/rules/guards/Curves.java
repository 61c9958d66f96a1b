package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Headline;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Course;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.Heard;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Measuring;
import app.morvet.core.guard.Seer;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.UsualRange;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Thinned;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongFunction;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Draws what a guard judges: from the same readings and by the same measuring, so that a curve can never tell another story
 * than the alert.
 */
@Service
public class Curves {
    private final Histories histories;
    private final Matching matching;
    private final Times times;

    Curves(Histories histories, Matching matching, Times times) {
        this.histories = histories;
        this.matching = matching;
        this.times = times;
    }

    /** What is heard of a series, from the store, for judging a span. */
    private Heard heard(Guard rule, Subject subject, Instant from, Instant to) {
        return heard(rule, List.of(subject), from, to, series -> Seer.FRESH).getFirst();
    }

    /** The same of several, in their order. */
    List<Heard> heard(Guard rule, List<Subject> some, Instant from, Instant to, LongFunction<Seer> seers) {
        var start = from.minus(rule.reach()).minus(Duration.ofHours(1));
        var end = to.plusMillis(1);
        // One read for all: what is judged, and what trends and bands learn from.
        var oldest = from.minus(learnedFrom(rule));
        var all = histories.between(
                some.stream().map(Subject::series).toList(), oldest.isBefore(start) ? oldest : start, end);
        var ceilings = ceilings(rule, some);
        var ofCeilings =
                ceilings.isEmpty() ? Map.<Long, Readings>of() : histories.between(ceilings.values(), start, end);
        return some.stream()
                .map(subject -> {
                    var series = subject.series();
                    var ceiling = ceilings.get(series.id());
                    var readings = all.getOrDefault(series.id(), Readings.NONE);
                    return new Heard(
                            readings,
                            ceiling == null ? Readings.NONE : ofCeilings.getOrDefault(ceiling.id(), Readings.NONE),
                            readings,
                            series.measure().sort(),
                            matching.cadence(series),
                            seers.apply(series.id()),
                            series.measure().stateWords());
                })
                .toList();
    }

    /** The series of the measure that is the ceiling, by those that are a share of it. */
    private Map<Long, Series> ceilings(Guard rule, List<Subject> some) {
        var found = new HashMap<Long, Series>();
        if (rule instanceof LimitGuard limit
                && limit.amount().ceiling() instanceof Amount.Ceiling.Measured(var measure))
            for (var one : some)
                matching.ceiling(one.series(), measure)
                        .ifPresent(it -> found.put(one.series().id(), it));
        return found;
    }

    private static Duration learnedFrom(Guard rule) {
        return switch (rule) {
            case TrendGuard trend -> trend.lookback().plus(trend.grid());
            case BandGuard band -> Duration.ofDays(7L * band.weeks() + 1);
            default -> Duration.ZERO;
        };
    }

    /**
     * @param points about how many points the curve has
     * @throws IllegalArgumentException for a combination, whose members have the curves
     */
    public Curve of(Guard rule, Subject subject, Instant from, Instant to, int points) {
        if (rule instanceof CombinationGuard)
            throw new IllegalArgumentException("a combination has no curve of its own");
        var heard = heard(rule, subject, from, to);
        return of(rule, subject, heard, Measuring.course(rule, heard, from, to), from, to, points);
    }

    Curve of(Guard rule, Subject subject, Heard heard, @Nullable Course course, Instant from, Instant to, int points) {
        var measure = subject.series().measure();
        var unit = GuardSentence.unit(rule, measure.unitWords());
        return switch (rule) {
            case TrendGuard trend -> trend(trend, subject, heard, from, to, points);
            case BandGuard band -> band(band, subject, heard, from, to, points);
            case LimitGuard limit -> stepped(course, from, to, points, rule.limits(), name(limit, measure), unit);
            case StateGuard it -> track(it, subject, course, from, to, points);
            case SilenceGuard it ->
                stepped(course, from, to, points, rule.limits(), "promised readings that have not come", "");
            case CombinationGuard it -> Curve.nothing(times.zone().getId());
        };
    }

    private static String name(LimitGuard guard, Measure measure) {
        boolean failures = measure.countsFailures() && guard.amount().fold() == Amount.Fold.SUM;
        return (failures ? "failed" : guard.amount().words()) + " "
                + guard.window().words();
    }

    private Curve stepped(
            @Nullable Course course, Instant from, Instant to, int points, Limits limits, String name, String unit) {
        if (course == null) return Curve.nothing(times.zone().getId());
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        long step = Math.max(1, (Micros.of(to) - Micros.of(from)) / points);
        int next = 0;
        double value = Double.NaN;
        // Of each step both the extremes are kept, so that a short peak is seen in a long curve.
        for (long start = Micros.of(from); start < Micros.of(to); start += step) {
            double most = value;
            long mostAt = start;
            boolean moved = false;
            while (next < course.size() && course.micros(next) < start + step) {
                value = course.value(next);
                if (!moved || Double.isNaN(most) || limits.worse(most, value) != most) {
                    most = value;
                    mostAt = Math.max(start, course.micros(next));
                }
                moved = true;
                next++;
            }
            at.add(mostAt / 1e6);
            values.add(finite(most));
        }
        at.add(Micros.of(to) / 1e6);
        values.add(finite(course.size() == 0 ? Double.NaN : course.value(course.size() - 1)));
        return new Curve(
                at,
                values,
                List.of(),
                List.of(),
                List.of(),
                lines(limits.warning()),
                lines(limits.critical()),
                times.zone().getId(),
                name,
                unit,
                "");
    }

    private Curve track(
            StateGuard guard, Subject subject, @Nullable Course course, Instant from, Instant to, int points) {
        if (course == null) return Curve.nothing(times.zone().getId());
        var words = subject.series().measure().stateWords();
        var stretches = new ArrayList<Curve.Stretch>();
        for (int i = 0; i < course.size(); i++) {
            double start = course.micros(i) / 1e6;
            double end = (i + 1 < course.size() ? course.micros(i + 1) : Micros.of(to)) / 1e6;
            double value = course.value(i);
            var word = Double.isNaN(value) ? "not known" : StateGuard.word(value, words);
            var mark = Double.isNaN(value)
                    ? "nodata"
                    : guard.mark(word).map(Severity::word).orElse("steady");
            var last = stretches.isEmpty() ? null : stretches.getLast();
            if (last != null && last.word().equals(word))
                stretches.set(stretches.size() - 1, new Curve.Stretch(last.from(), end, word, mark));
            else stretches.add(new Curve.Stretch(start, end, word, mark));
        }
        return Curve.track(
                stretches,
                Micros.of(from) / 1e6,
                Micros.of(to) / 1e6,
                points,
                times.zone().getId(),
                subject.series().measure().words());
    }

    private static @Nullable Double finite(double value) {
        return Double.isFinite(value) ? value : null;
    }

    static List<Double> lines(@Nullable Limit limit) {
        if (limit == null) return List.of();
        return limit.side() == Side.OUTSIDE ? List.of(limit.low(), limit.high()) : List.of(limit.low());
    }

    private static Thinned drawn(Heard heard, Instant from, Instant to, int points) {
        return Thinned.of(heard.past().between(from, to.plusMillis(1)), points);
    }

    private Curve trend(TrendGuard guard, Subject subject, Heard heard, Instant from, Instant to, int points) {
        var drawn = drawn(heard, from, to, points);
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var projected = new ArrayList<@Nullable Double>();
        for (int i = 0; i < drawn.size(); i++) {
            at.add(drawn.times()[i] / 1e6);
            values.add(finite(drawn.values()[i]));
            projected.add(null);
        }
        var seen = Guards.projection(guard, heard.past(), to);
        var note = seen == null ? "too little was heard for a projection" : Headline.crossing(seen, guard);
        if (seen != null) {
            var crossing = seen.crossing(guard.target(), guard.side()).at();
            var span = Duration.between(from, to);
            var ahead = to.plus(span.dividedBy(3));
            var end = crossing != null && crossing.isBefore(ahead) && crossing.isAfter(to)
                    ? crossing.plus(span.dividedBy(40))
                    : ahead;
            var step = Duration.between(to, end).dividedBy(40);
            for (var later = to; !later.isAfter(end) && !step.isZero(); later = later.plus(step)) {
                at.add(later.toEpochMilli() / 1000.0);
                values.add(null);
                projected.add(seen.valueAt(later));
            }
        }
        return new Curve(
                at,
                values,
                List.of(),
                List.of(),
                projected,
                List.of(),
                List.of(guard.target()),
                times.zone().getId(),
                subject.series().measure().words(),
                subject.series().measure().unitWords(),
                note);
    }

    private Curve band(BandGuard guard, Subject subject, Heard heard, Instant from, Instant to, int points) {
        var drawn = drawn(heard, from, to, points);
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var low = new ArrayList<@Nullable Double>();
        var high = new ArrayList<@Nullable Double>();
        double width = guard.limits().mildest().low();
        Map<Instant, @Nullable UsualRange> learned = new HashMap<>();
        for (int i = 0; i < drawn.size(); i++) {
            var hour = UsualRange.hourOf(Micros.instant(drawn.times()[i]), guard.zone());
            if (!learned.containsKey(hour))
                learned.put(hour, UsualRange.learn(heard.past(), hour, guard.weeks(), guard.zone()));
            var usual = learned.get(hour);
            at.add(drawn.times()[i] / 1e6);
            values.add(finite(drawn.values()[i]));
            low.add(usual == null ? null : usual.edge(width));
            high.add(usual == null ? null : usual.edge(-width));
        }
        return new Curve(
                at,
                values,
                low,
                high,
                List.of(),
                List.of(),
                List.of(),
                times.zone().getId(),
                subject.series().measure().words(),
                subject.series().measure().unitWords(),
                learnedFrom(learned.values()));
    }

    /** What a reader of a band should know of where it comes from; empty where each hour speaks for itself. */
    private static String learnedFrom(Collection<@Nullable UsualRange> learned) {
        var known = learned.stream().filter(Objects::nonNull).toList();
        if (known.isEmpty() && !learned.isEmpty()) return "too little was heard yet to say what is usual";
        return known.stream()
                .map(UsualRange::source)
                .max(Comparator.naturalOrder())
                .filter(source -> source != UsualRange.Source.SAME_HOUR)
                .map(source -> {
                    long borrowed = known.stream()
                            .filter(one -> one.source() != UsualRange.Source.SAME_HOUR)
                            .count();
                    return "in %d of %d hours %s".formatted(borrowed, known.size(), source.words());
                })
                .orElse("");
    }
}
