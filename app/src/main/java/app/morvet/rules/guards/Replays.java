package app.morvet.rules.guards;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Course;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Heard;
import app.morvet.core.guard.Hindsight;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Measuring;
import app.morvet.core.guard.Projection;
import app.morvet.core.guard.Replay;
import app.morvet.core.guard.Seer;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/**
 * Runs guards over stored history. What a guard measures is kept for a while, since a limit that is being dragged asks for
 * the same again and again: each further position is then one pass over it.
 */
@Service
class Replays {
    /** So many series are replayed at the most; of a guard that stands over more, the first by name. */
    static final int MOST = 200;

    /** Of so many the past is read at once. */
    private static final int READ_AT_ONCE = 25;

    private static final int KEPT = 12;
    private static final Duration KEPT_FOR = Duration.ofMinutes(10);
    private static final int MOST_PROJECTIONS = 300_000;

    /** What was heard of a subject, and what a guard measured there. */
    record Measured(Subject subject, Heard heard, Course course) {}

    /**
     * A guard measured over a span.
     *
     * @param left   how many series were left out because there are too many
     */
    record Taken(List<Measured> measured, int left, Instant from, Instant to) {
        List<Replay.Run> runs(Grouping grouping) {
            return measured.stream()
                    .map(one -> new Replay.Run(
                            one.subject().series().id(), one.subject().group(grouping), one.course()))
                    .toList();
        }
    }

    private record Key(String rule, Watch watch, Instant from, Instant to) {}

    /** @param readings how many it was made from: a late one makes it anew */
    private record ProjectionKey(
            long series, Duration lookback, boolean seasonal, ZoneId zone, Instant seen, int readings) {}

    private final Guards guards;
    private final Curves curves;
    private final GuardJson json;
    private final TroubleSource troubles;
    private final Cache<ProjectionKey, Optional<Projection>> projections =
            Caffeine.newBuilder().maximumSize(MOST_PROJECTIONS).build();
    private final Cache<Key, Taken> kept =
            Caffeine.newBuilder().maximumSize(KEPT).expireAfterWrite(KEPT_FOR).build();

    Replays(Guards guards, Curves curves, GuardJson json, TroubleSource troubles) {
        this.guards = guards;
        this.curves = curves;
        this.json = json;
        this.troubles = troubles;
    }

    /** Measures a guard over a span, or gives what was measured a moment ago. */
    Taken take(Guard rule, Watch watch, Instant from, Instant to) {
        var key = new Key(json.write(measuringPart(rule)), watch, from, to);
        var known = kept.getIfPresent(key);
        if (known != null) return known;
        var taken = afresh(rule, watch, from, to);
        kept.put(key, taken);
        return taken;
    }

    /** Measures a guard over a span and keeps nothing. */
    Taken afresh(Guard rule, Watch watch, Instant from, Instant to) {
        var subjects = guards.matches(rule, watch);
        var some = subjects.stream().limit(MOST).toList();
        var measured = rule instanceof CombinationGuard combination
                ? combined(combination, some, from, to)
                : IntStream.range(0, Math.ceilDiv(some.size(), READ_AT_ONCE))
                        .parallel()
                        .mapToObj(part ->
                                some.subList(part * READ_AT_ONCE, Math.min(some.size(), (part + 1) * READ_AT_ONCE)))
                        .flatMap(part -> measure(rule, part, from, to))
                        .toList();
        return new Taken(measured, subjects.size() - some.size(), from, to);
    }

    private Stream<Measured> measure(Guard rule, List<Subject> some, Instant from, Instant to) {
        var heard = curves.heard(rule, some, from, to, this::seer);
        return IntStream.range(0, some.size())
                .mapToObj(i -> new Measured(some.get(i), heard.get(i), Measuring.course(rule, heard.get(i), from, to)));
    }

    private Seer seer(long series) {
        return (past, seen, guard) -> projections
                .get(
                        new ProjectionKey(
                                series,
                                guard.lookback(),
                                guard.seasonal(),
                                guard.zone(),
                                seen,
                                count(past, seen, guard)),
                        key -> Optional.ofNullable(Projection.of(past, seen, guard)))
                .orElse(null);
    }

    private static int count(Past past, Instant seen, TrendGuard guard) {
        if (!(past instanceof Readings all))
            return past.between(seen.minus(guard.lookback()), seen).size();
        return all.firstAfter(Micros.of(seen) - 1) - all.firstAfter(Micros.of(seen.minus(guard.lookback())) - 1);
    }

    private List<Measured> combined(CombinationGuard rule, List<Subject> subjects, Instant from, Instant to) {
        var members = rule.members().stream().map(guards::byId).toList();
        var courses = new ArrayList<Map<Long, List<Course>>>();
        for (var member : members) {
            var byComponent = new HashMap<Long, List<Course>>();
            if (!(member.rule() instanceof CombinationGuard))
                for (var one : take(member.rule(), member.watch(), from, to).measured())
                    byComponent
                            .computeIfAbsent(one.subject().component().id(), none -> new ArrayList<>())
                            .add(one.course());
            courses.add(byComponent);
        }
        var measured = new ArrayList<Measured>();
        for (var subject : subjects) {
            var own = courses.stream()
                    .map(byComponent ->
                            byComponent.getOrDefault(subject.component().id(), List.of()))
                    .toList();
            var course = Replay.combined(
                    rule, members.stream().map(StoredGuard::rule).toList(), own, from, to);
            var nothing = Heard.of(Readings.NONE, subject.series().measure().sort(), Duration.ofMinutes(1));
            measured.add(new Measured(subject, nothing, course));
        }
        return measured;
    }

    Replay.Outcome run(Guard rule, Taken taken) {
        return Replay.of(rule, taken.runs(rule.terms().grouping()), taken.from(), taken.to());
    }

    /** Holds an outcome against how past cases on the same components were settled. */
    Hindsight hindsight(Replay.Outcome outcome, Taken taken, List<Hindsight.Trouble> known) {
        var components = new HashMap<Long, Long>();
        taken.measured()
                .forEach(one -> components.put(
                        one.subject().series().id(), one.subject().component().id()));
        var calls = outcome.alerts().stream()
                .map(alert ->
                        new Hindsight.Call(components.getOrDefault(alert.series(), 0L), alert.start(), alert.end()))
                .toList();
        return Hindsight.of(calls, known, taken.to());
    }

    List<Hindsight.Trouble> troubles(Taken taken) {
        var components = new HashSet<Long>();
        taken.measured().forEach(one -> components.add(one.subject().component().id()));
        return troubles.on(components, taken.from(), taken.to());
    }

    /** The rule with all that does not change what is measured made the same. */
    private static Guard measuringPart(Guard rule) {
        var of = rule.terms();
        var terms = new Terms(
                new app.morvet.core.guard.Clearing(1, Duration.ZERO),
                of.noData(),
                Grouping.EACH_SUBJECT,
                of.hours(),
                null);
        return switch (rule) {
            case LimitGuard it -> {
                var side = it.limits().side();
                boolean each = it.amount().fold() == Amount.Fold.EACH && (side == Side.OUTSIDE || side == Side.EQUAL);
                if (each) yield it;
                var limits = side == Side.OUTSIDE ? new Limits(Limit.outside(0, 1), null) : Limits.of(side, 1.0, null);
                yield new LimitGuard(it.window(), it.amount(), limits, terms);
            }
            case SilenceGuard it -> it;
            case TrendGuard it ->
                new TrendGuard(
                        it.target(),
                        it.side(),
                        it.lookback(),
                        it.seasonal(),
                        it.zone(),
                        Limits.of(Side.BELOW, 1.0, null),
                        terms);
            case BandGuard it ->
                new BandGuard(
                        it.window(),
                        it.share(),
                        it.side(),
                        it.weeks(),
                        it.zone(),
                        Limits.of(Side.ABOVE, 1.0, null),
                        terms);
            case StateGuard it -> new StateGuard(it.warning(), it.critical(), terms);
            case CombinationGuard it -> it;
        };
    }
}
