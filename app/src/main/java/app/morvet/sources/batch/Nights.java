package app.morvet.sources.batch;

import app.morvet.core.batch.Forecast;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.Night;
import app.morvet.core.batch.Run;
import app.morvet.core.batch.RunWatch;
import app.morvet.core.batch.Spread;
import app.morvet.core.batch.WhatIf;
import app.morvet.ground.page.Times;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * The night as it stands: what was expected, what ran, and how it goes on. The one that the round made last serves all pages
 * for some seconds.
 */
@Service
public class Nights {
    static final Duration BACK = Duration.ofHours(30);
    static final Duration AHEAD = Duration.ofHours(26);
    /** So far before the first expected start a run of it may have begun. */
    static final Duration EARLIER = Duration.ofHours(1);

    /** What waits for others may be planned this long after the end of the span. */
    private static final Duration LONGEST_WAIT = Duration.ofHours(12);

    private static final Duration LASTS = Duration.ofSeconds(20);
    private static final int NIGHTS_OF_THE_PAST = 60;
    private static final long SEED = 20260318;

    /**
     * @param madeAt   what it is as of
     * @param findings what is wrong, whatever guards stand over it
     */
    public record View(
            Instant madeAt, Forecast forecast, List<RunWatch.Finding> findings, Map<String, StoredJob> jobs) {
        public Night night() {
            return forecast.night();
        }
    }

    private final JobBook jobs;
    private final RunStore runs;
    private final UsualDurations usuals;
    private final Schedulers schedulers;
    private final RiskLimits limits;
    private final JobWindows windows;
    private final Times times;
    private final Clock clock;
    private volatile @Nullable View last;

    Nights(
            JobBook jobs,
            RunStore runs,
            UsualDurations usuals,
            Schedulers schedulers,
            RiskLimits limits,
            JobWindows windows,
            Times times,
            Clock clock) {
        this.jobs = jobs;
        this.runs = runs;
        this.usuals = usuals;
        this.schedulers = schedulers;
        this.limits = limits;
        this.windows = windows;
        this.times = times;
        this.clock = clock;
    }

    /** As of some seconds ago at most. */
    public View now() {
        var kept = last;
        if (kept == null || kept.madeAt().plus(LASTS).isBefore(clock.instant())) kept = make(clock.instant(), Set.of());
        return kept;
    }

    /** As the round made it last; empty before the first. */
    public Optional<View> latest() {
        return Optional.ofNullable(last);
    }

    /** Made anew, with what was at risk before. */
    public View make(Instant now, Set<String> atRisk) {
        var known = runs.between(now.minus(BACK).minus(EARLIER), now.plus(Duration.ofMinutes(10)));
        var forecast = forecast(now, known, Forecast.NIGHTS);
        var made = new View(now, forecast, findings(forecast, atRisk), jobs.byKeys());
        last = made;
        return made;
    }

    /**
     * A past that is gone through as it would have been live. While one makes something of a step, the next is played on another
     * core.
     */
    public final class Past {
        private final Instant first;
        private final Instant to;
        private final Duration step;
        private final Map<Long, List<Run>> known;
        private Instant before = Instant.MIN;
        private @Nullable CompletableFuture<Forecast> next;

        private Past(Instant from, Instant to, Duration step) {
            this.to = to;
            this.step = step;
            this.first = runs.first().orElse(from);
            this.known = runs.between(first.minus(BACK).minus(EARLIER), to.plus(Duration.ofMinutes(10)));
            known.values().forEach(all -> all.sort(Comparator.comparing(Run::at)));
        }

        /** When the first run began that was ever told of. */
        public Instant first() {
            return first;
        }

        /** The place of the first run that is told of after an instant; of runs in the order of time. */
        private static int firstAfter(List<Run> all, Instant at) {
            int low = 0;
            int high = all.size();
            while (low < high) {
                int middle = (low + high) >>> 1;
                if (all.get(middle).at().isAfter(at)) high = middle;
                else low = middle + 1;
            }
            return low;
        }

        public View at(Instant now, Set<String> atRisk) {
            boolean inStep = before.equals(now.minus(step));
            var forecast = inStep && next != null ? next.join() : of(now);
            before = now;
            var then = now.plus(step);
            next = inStep && !then.isAfter(to) ? CompletableFuture.supplyAsync(() -> of(then)) : null;
            return new View(now, forecast, findings(forecast, atRisk), jobs.byKeys());
        }

        private Forecast of(Instant now) {
            var some = new HashMap<Long, List<Run>>();
            var begin = now.minus(BACK).minus(EARLIER);
            known.forEach((job, all) -> {
                var near = all.subList(firstAfter(all, begin), firstAfter(all, now));
                if (!near.isEmpty()) some.put(job, near);
            });
            return forecast(now, some, NIGHTS_OF_THE_PAST);
        }
    }

    /** @param step from one instant at which it is looked at to the next */
    public Past past(Instant from, Instant to, Duration step) {
        return new Past(from, to, step);
    }

    /**
     * As it stood at an instant, from runs that may reach beyond it.
     *
     * @param nights how many are played
     */
    private Forecast forecast(Instant now, Map<Long, List<Run>> known, int nights) {
        var night = night(now.minus(BACK), now.plus(AHEAD), now, known);
        return forecast(night, schedulers.pools(), List.of(), nights);
    }

    private List<RunWatch.Finding> findings(Forecast forecast, Set<String> atRisk) {
        return new RunWatch(forecast, times.zone(), jobs::nameOf).findings(atRisk, limits.limits());
    }

    /** How the night would go on if something were done about it. */
    public Forecast whatIf(Collection<WhatIf> changes) {
        return forecast(now().night(), schedulers.pools(), changes, Forecast.NIGHTS);
    }

    private Forecast forecast(Night night, Schedulers.Pools pools, Collection<WhatIf> changes, int nights) {
        var byKey = jobs.byKeys();
        return Forecast.of(night, pools.slots(), job -> pool(pools, byKey.get(job.key())), changes, nights, SEED);
    }

    private static int pool(Schedulers.Pools pools, @Nullable StoredJob job) {
        return job == null || job.feed() == null ? -1 : pools.place().getOrDefault(job.feed(), -1);
    }

    /** What was to run in a span, and what became of it; of the future nothing but the plan. */
    public Night between(Instant from, Instant to) {
        var now = clock.instant();
        return night(from.minus(Duration.ofHours(26)), to, now, runs.between(from.minus(Duration.ofHours(26)), to));
    }

    private Night night(Instant from, Instant to, Instant now, Map<Long, List<Run>> known) {
        var byKey = jobs.byKeys();
        var files = runs.files(from.minus(Duration.ofHours(12)), now.plus(Duration.ofMinutes(10)));
        var spreads = new HashMap<String, Map<Long, Spread>>();
        var within = windows.within(from, to.plus(LONGEST_WAIT));
        return Night.of(jobs.graph(), from, to, now, new Night.Known() {
            @Override
            public List<Run> runs(String job) {
                var standing = byKey.get(job);
                return standing == null
                        ? List.of()
                        : known.getOrDefault(standing.component().id(), List.of());
            }

            @Override
            public Spread usual(Job job, Instant at) {
                var standing = byKey.get(job.key());
                if (standing == null) return Spread.between(0, 600);
                long day = at.atZone(job.timetable().zone()).toLocalDate().toEpochDay();
                return spreads.computeIfAbsent(job.key(), none -> new HashMap<>())
                        .computeIfAbsent(day, none -> usuals.of(standing, at, now));
            }

            @Override
            public Instant since(String job) {
                var standing = byKey.get(job);
                return standing == null ? Instant.MAX : standing.knownSince();
            }

            @Override
            public List<Night.Arrival> files() {
                return files;
            }

            @Override
            public boolean inWindow(Job job, Instant at) {
                return within.has(job, at);
            }
        });
    }

    /** How long a job usually lasts when it starts at an instant. */
    public Spread usual(StoredJob job, Instant at) {
        return usuals.of(job, at, clock.instant());
    }
}
