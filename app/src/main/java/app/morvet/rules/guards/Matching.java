package app.morvet.rules.guards;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Watch;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.LongFunction;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Which series a guard stands over, and what is promised of them. */
@Service
public class Matching {
    /** Of what is told only when it changes nothing is promised. */
    private static final Duration STANDS = Duration.ofDays(36_500);

    private final Estate estate;
    private final SeriesBook series;
    /** By feed, each of which keeps the one that it was made with. */
    private final Map<Long, Duration> cadences = new ConcurrentHashMap<>();

    Matching(Estate estate, SeriesBook series) {
        this.estate = estate;
        this.series = series;
    }

    /** The series that fit, by the name of their component. */
    public List<Subject> of(Watch watch) {
        return of(watch, all(watch.measure()));
    }

    boolean fitsAny(Watch watch) {
        return series.ofMeasure(watch.measure()).stream()
                .anyMatch(one -> watch.matches(subject(one).facts()));
    }

    /** All of a measure. */
    List<Subject> all(String measure) {
        return series.ofMeasure(measure).stream().map(this::subject).toList();
    }

    /** @param all of its measure */
    static List<Subject> of(Watch watch, List<Subject> all) {
        return all.stream()
                .filter(one -> watch.matches(one.facts()))
                .sorted(Comparator.comparing(Subject::name, String.CASE_INSENSITIVE_ORDER)
                        .thenComparing(one -> one.series().id()))
                .toList();
    }

    /**
     * The subjects of a guard. A combination has those that any of its members has, one for each component.
     *
     * @param guards gives a guard by its id, or null
     */
    public List<Subject> of(Guard rule, Watch watch, LongFunction<@Nullable StoredGuard> guards) {
        return of(rule, watch, guards, this::of);
    }

    /** @param of gives what fits a watch; for who asks for many guards */
    static List<Subject> of(
            Guard rule, Watch watch, LongFunction<@Nullable StoredGuard> guards, Function<Watch, List<Subject>> of) {
        if (!(rule instanceof CombinationGuard combination)) return of.apply(watch);
        var byComponent = new LinkedHashMap<Long, Subject>();
        for (long member : combination.members()) {
            var guard = guards.apply(member);
            if (guard == null || guard.rule() instanceof CombinationGuard) continue;
            for (var subject : of.apply(guard.watch()))
                if (watch.matchesComponent(subject.facts()))
                    byComponent.putIfAbsent(subject.component().id(), subject);
        }
        return byComponent.values().stream()
                .sorted(Comparator.comparing(Subject::name, String.CASE_INSENSITIVE_ORDER))
                .toList();
    }

    public Subject subject(Series one) {
        var component = estate.component(one.component());
        return new Subject(one, component, estate.applicationOf(component).orElse(null), estate.factsOf(component));
    }

    public Optional<Subject> subject(long id) {
        return series.series(id).map(this::subject);
    }

    /** The series of the measure that is a ceiling: with the same labels, or without any. */
    Optional<Series> ceiling(Series of, String measure) {
        return series.find(of.component(), measure, of.labels())
                .or(() -> series.find(of.component(), measure, Map.of()));
    }

    /** How often the feed of a series promised to be heard; a minute for what Morvet counts itself. */
    Duration cadence(Series one) {
        if (one.toldOnChange()) return STANDS;
        if (one.promised() != null) return one.promised();
        var feed = one.feed();
        if (feed == null) return Duration.ofMinutes(1);
        if (!cadences.containsKey(feed)) estate.feeds().forEach(each -> cadences.put(each.id(), each.cadence()));
        return cadences.getOrDefault(feed, Duration.ofMinutes(1));
    }

    public Optional<Measure> measure(String name) {
        return series.measure(name);
    }

    public List<Measure> measures() {
        return List.copyOf(series.measures());
    }

    /** The name of a component that lies nearest to a pattern that matches nothing, if one lies near at all. */
    Optional<String> nearest(Watch watch) {
        if (watch.scope().name().isEmpty()) return Optional.empty();
        var any = watch.named("");
        var wanted = watch.scope().name().replace("*", "").toLowerCase(java.util.Locale.ROOT);
        return of(any).stream()
                .flatMap(one -> java.util.stream.Stream.of(
                        one.component().key(), one.component().name()))
                .distinct()
                .min(Comparator.comparingInt(name -> distance(wanted, name.toLowerCase(java.util.Locale.ROOT))))
                .filter(name ->
                        distance(wanted, name.toLowerCase(java.util.Locale.ROOT)) <= Math.max(2, wanted.length() / 3));
    }

    /** How many letters must be typed, deleted or changed to make one text of another (Levenshtein 1966). */
    private static int distance(String one, String other) {
        var before = new int[other.length() + 1];
        for (int j = 0; j <= other.length(); j++) before[j] = j;
        for (int i = 1; i <= one.length(); i++) {
            var now = new int[other.length() + 1];
            now[0] = i;
            for (int j = 1; j <= other.length(); j++) {
                int change = one.charAt(i - 1) == other.charAt(j - 1) ? 0 : 1;
                now[j] = Math.min(before[j - 1] + change, Math.min(before[j], now[j - 1]) + 1);
            }
            before = now;
        }
        return before[other.length()];
    }
}
