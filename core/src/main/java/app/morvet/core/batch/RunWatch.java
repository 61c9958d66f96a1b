package app.morvet.core.batch;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What is wrong with a night, by job. A job that only waits for one in trouble is not in trouble itself; it is named among
 * what is held up. Pure: the same forecast gives the same findings.
 */
public final class RunWatch {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final Duration STRAYS_FOR = Duration.ofHours(2);
    private static final Duration LOOKS_AHEAD = Duration.ofHours(12);
    private static final int NAMED = 3;

    /**
     * One thing that is wrong.
     *
     * @param job    the job that it is about
     * @param cause  the job that brings it about, where that is another; else the job itself
     * @param since  from when on
     * @param value  minutes over, chance in percent, exit code or records, as the trouble has it; NaN where there is none
     * @param words  in one line
     * @param heldUp keys of the jobs that wait because of it
     * @param cycle  of the expected start, or null for a run that was not expected
     */
    public record Finding(
            RunTrouble trouble,
            String job,
            String cause,
            Instant since,
            double value,
            String words,
            List<String> heldUp,
            @Nullable Instant cycle,
            @Nullable Long run) {}

    private final Forecast forecast;
    private final Night night;
    private final ZoneId zone;
    private final UnaryOperator<String> names;
    private final Map<String, List<Occurrence>> byJob = new LinkedHashMap<>();
    private final Map<String, List<String>> next = new HashMap<>();

    /** @param names of jobs by key */
    public RunWatch(Forecast forecast, ZoneId zone, UnaryOperator<String> names) {
        this.forecast = forecast;
        this.night = forecast.night();
        this.zone = zone;
        this.names = names;
        for (var one : night.occurrences()) {
            byJob.computeIfAbsent(one.job().key(), none -> new ArrayList<>()).add(one);
        }
        for (var some : byJob.values())
            for (var wait : some.getFirst().job().waits())
                next.computeIfAbsent(wait, none -> new ArrayList<>())
                        .add(some.getFirst().job().key());
    }

    /**
     * All that is wrong.
     *
     * @param upBefore keys of jobs whose deadline was at risk when this was last asked, so that a chance that wavers about
     *     its limit does not come and go
     * @param below    the chance under which a job's deadline is at risk, in percent
     */
    public List<Finding> findings(Set<String> upBefore, java.util.function.ToIntFunction<Job> below) {
        var found = new ArrayList<Finding>();
        for (var some : byJob.values()) {
            int last = lastBegun(some);
            for (int i = Math.max(0, last); i < some.size(); i++) {
                var one = some.get(i);
                switch (one.outcome()) {
                    case FAILED -> found.add(failed(one));
                    case DID_NOT_START -> {
                        if (i == some.size() - 1 || some.get(i + 1).outcome() != Outcome.DID_NOT_START)
                            found.add(didNotStart(one));
                    }
                    case RUNNING_LONG -> found.add(runningLong(one));
                    case OUT_OF_TIME -> {
                        if (Objects.requireNonNull(one.last()).running()) found.add(outOfTime(one));
                    }
                    default -> {
                        // nothing is wrong with it by itself
                    }
                }
            }
            if (last >= 0 && some.get(last).suspicious()) found.add(suspicious(some.get(last)));
        }
        for (var ahead : forecast.ahead()) {
            if (Double.isNaN(ahead.makes())) continue;
            var job = ahead.occurrence().job();
            boolean was = upBefore.contains(job.key());
            var deadline = ahead.occurrence().deadline();
            boolean far = deadline != null && deadline.isAfter(night.now().plus(LOOKS_AHEAD));
            if (!far && RunGuard.atRisk(ahead.makes(), below.applyAsInt(job), was)) atRisk(ahead, found);
        }
        for (var stray : night.strays()) {
            boolean lately = stray.run().running()
                    || !stray.run().at().isBefore(night.now().minus(STRAYS_FOR));
            if (lately && stray.run().trigger() != Run.Trigger.BY_HAND) found.add(notExpected(stray));
        }
        return found;
    }

    /** The last start with a run; -1 where none has. What lay before it is over. */
    private static int lastBegun(List<Occurrence> some) {
        for (int i = some.size() - 1; i >= 0; i--) if (!some.get(i).runs().isEmpty()) return i;
        return -1;
    }

    private Finding failed(Occurrence one) {
        var last = Objects.requireNonNull(one.last());
        var code = last.exitCode();
        var meaning = code == null ? "" : one.job().exitCodes().of(code).words();
        var how = code == null
                ? ""
                : " with exit code %d%s".formatted(code, meaning.isEmpty() ? "" : " (" + meaning + ")");
        var times = one.runs().size() == 1
                ? ""
                : ", the %s time".formatted(nth(one.runs().size()));
        return finding(
                RunTrouble.FAILED,
                one,
                Objects.requireNonNull(last.ended()),
                code == null ? Double.NaN : code,
                "%s failed%s at %s%s".formatted(name(one), how, clock(last.ended()), times));
    }

    private Finding didNotStart(Occurrence one) {
        var latest = Objects.requireNonNull(one.latest());
        return finding(
                RunTrouble.DID_NOT_START,
                one,
                latest,
                Duration.between(latest, night.now()).toMinutes(),
                "%s did not start by %s; it was expected at %s"
                        .formatted(name(one), clock(latest), clock(Objects.requireNonNull(one.released()))));
    }

    private Finding runningLong(Occurrence one) {
        var run = Objects.requireNonNull(one.last());
        return finding(
                RunTrouble.RUNNING_LONG,
                one,
                run.at().plusSeconds((long) one.usual().longFrom()),
                one.over(night.now()).toMinutes(),
                "%s is running long: %s, usually %s"
                        .formatted(name(one), spoken(run.lasted(night.now())), usually(one)));
    }

    private Finding outOfTime(Occurrence one) {
        var run = Objects.requireNonNull(one.last());
        var longest = one.job().longest();
        if (longest == null || Night.lost(one.job(), run, night.now()))
            return finding(
                    RunTrouble.OUT_OF_TIME,
                    one,
                    run.at(),
                    run.lasted(night.now()).toMinutes(),
                    "%s began at %s and its end was never told".formatted(name(one), clock(run.at())));
        return finding(
                RunTrouble.OUT_OF_TIME,
                one,
                run.at().plus(longest),
                run.lasted(night.now()).minus(longest).toMinutes(),
                "%s has run %s and may run %s"
                        .formatted(name(one), spoken(run.lasted(night.now())), Spans.words(longest)));
    }

    private Finding suspicious(Occurrence one) {
        var run = Objects.requireNonNull(one.last());
        var ended = Objects.requireNonNull(run.ended());
        boolean few = run.records() != null && run.records() < one.job().leastRecords();
        return finding(
                RunTrouble.SUSPICIOUS_SUCCESS,
                one,
                ended,
                few ? run.records() : run.lasted(ended).toSeconds(),
                few
                        ? "%s was done at %s with %,d records; fewer than %,d are not believed"
                                .formatted(
                                        name(one),
                                        clock(ended),
                                        run.records(),
                                        one.job().leastRecords())
                        : "%s was done after %s at %s; less than %s is not believed"
                                .formatted(
                                        name(one),
                                        Spans.words(run.lasted(ended)),
                                        clock(ended),
                                        Spans.words(one.job().leastRun())));
    }

    private Finding notExpected(Night.Stray stray) {
        var job = stray.job();
        return new Finding(
                RunTrouble.NOT_EXPECTED,
                job.key(),
                job.key(),
                stray.run().at(),
                Double.NaN,
                "%s started at %s and was not expected"
                        .formatted(names.apply(job.key()), clock(stray.run().at())),
                List.of(),
                null,
                stray.run().id());
    }

    private void atRisk(Forecast.Ahead ahead, List<Finding> found) {
        var one = ahead.occurrence();
        var path = forecast.decidingPath(one);
        var culprit = culprit(path);
        var words = inWords(ahead, culprit);
        var last = one.last();
        found.add(new Finding(
                RunTrouble.DEADLINE_AT_RISK,
                one.job().key(),
                culprit == null ? one.job().key() : culprit.job().key(),
                night.now(),
                100 * ahead.makes(),
                words,
                List.of(),
                one.cycle(),
                last == null ? null : last.id()));
    }

    /** {@code Bank file likely 06:52, deadline 06:30 (8 % to make it): settle bookings is running 41 min over}. */
    private String inWords(Forecast.Ahead ahead, @Nullable Occurrence culprit) {
        var one = ahead.occurrence();
        var deadline = Objects.requireNonNull(one.deadline());
        boolean past = !night.now().isBefore(deadline);
        boolean again = culprit != null && stopped(culprit);
        var when =
                "likely " + clock(ahead.end().likely()) + (again ? " if " + name(culprit) + " is run again now" : "");
        var head = past
                ? "%s has missed its deadline %s; %s".formatted(name(one), clock(deadline), when)
                : "%s %s, deadline %s (%s to make it)"
                        .formatted(name(one), when, clock(deadline), percent(ahead.makes()));
        return culprit == null ? head : head + ": " + why(culprit);
    }

    private static String percent(double share) {
        if (share > 0 && share < 0.01) return "under 1\u00a0%";
        if (share < 1 && share > 0.99) return "over 99\u00a0%";
        return "%.0f\u00a0%%".formatted(100 * share);
    }

    private static boolean stopped(Occurrence one) {
        return switch (one.outcome()) {
            case FAILED, DID_NOT_START, CANCELLED -> true;
            default -> false;
        };
    }

    /** Of the path that decides, the first that is in trouble; where none is, the one that runs longest over. */
    private @Nullable Occurrence culprit(List<Occurrence> path) {
        for (var one : path) if (stopped(one) || one.outcome() == Outcome.OUT_OF_TIME) return one;
        for (var one : path) if (one.outcome() == Outcome.RUNNING_LONG) return one;
        Occurrence found = null;
        for (var one : path) {
            var last = one.last();
            if (last != null && last.running() && (found == null || delay(one) > delay(found))) found = one;
        }
        return found != null && delay(found) >= 60 ? found : null;
    }

    /** By how many seconds the end of one that runs lies after its usual one. */
    private double delay(Occurrence one) {
        var ahead = forecast.of(one);
        var last = one.last();
        if (ahead == null || last == null) return 0;
        double usual = one.usual().median();
        return Math.max(
                one.over(night.now()).toSeconds(),
                Duration.between(last.at(), ahead.end().likely()).toSeconds() - usual);
    }

    private String why(Occurrence culprit) {
        var last = culprit.last();
        return switch (culprit.outcome()) {
            case FAILED ->
                "%s failed at %s"
                        .formatted(
                                name(culprit),
                                clock(Objects.requireNonNull(last).ended()));
            case CANCELLED ->
                "%s was cancelled at %s"
                        .formatted(
                                name(culprit),
                                clock(Objects.requireNonNull(last).ended()));
            case DID_NOT_START -> name(culprit) + " did not start";
            default -> {
                var over = culprit.over(night.now());
                var ahead = forecast.of(culprit);
                yield over.toMinutes() >= 1
                        ? "%s is running %s over".formatted(name(culprit), spoken(over))
                        : ahead == null
                                ? name(culprit) + " is slow"
                                : "%s will likely take %s, usually %s"
                                        .formatted(
                                                name(culprit),
                                                spoken(Duration.between(
                                                        Objects.requireNonNull(last)
                                                                .at(),
                                                        ahead.end().likely())),
                                                usually(culprit));
            }
        };
    }

    private Finding finding(RunTrouble trouble, Occurrence one, Instant since, double value, String words) {
        var held = heldUp(one);
        var run = one.last();
        return new Finding(
                trouble,
                one.job().key(),
                one.job().key(),
                since,
                value,
                held.isEmpty() ? words : words + "; held up: " + named(held),
                held,
                one.cycle(),
                run == null ? null : run.id());
    }

    /** The jobs whose start waits for this one, the nearest first. */
    private List<String> heldUp(Occurrence one) {
        if (one.outcome().done()) return List.of();
        var held = new ArrayList<String>();
        var waiting = new java.util.HashSet<Integer>(Set.of(one.index()));
        for (var other : night.occurrences()) {
            if (other.index() <= one.index() || !other.runs().isEmpty()) continue;
            if (other.waits().stream().anyMatch(waiting::contains)) {
                waiting.add(other.index());
                if (!held.contains(other.job().key())) held.add(other.job().key());
            }
        }
        return held;
    }

    private String named(List<String> keys) {
        var first = keys.stream().limit(NAMED).map(names).toList();
        int more = keys.size() - first.size();
        return String.join(", ", first) + (more == 0 ? "" : " and " + more + " more");
    }

    private String usually(Occurrence one) {
        var because = one.usual().because();
        return spoken(Duration.ofSeconds((long) one.usual().median())) + (because.isEmpty() ? "" : " " + because);
    }

    private static String spoken(Duration span) {
        return Spans.words(span.toMinutes() >= 1 ? Duration.ofMinutes(span.toMinutes()) : span);
    }

    private static String nth(int count) {
        return count + (count == 2 ? "nd" : count == 3 ? "rd" : "th");
    }

    private String name(Occurrence one) {
        return names.apply(one.job().key());
    }

    private String clock(@Nullable Instant at) {
        if (at == null) return "";
        var there = at.atZone(zone);
        boolean today = Duration.between(night.now(), at).abs().toHours() < 18;
        return today ? CLOCK.format(there) : CLOCK.format(there) + " on " + there.toLocalDate();
    }

    /** How bad a finding is by a guard that stands over it. */
    public static Severity severity(RunGuard guard, Finding finding) {
        return guard.trouble() == RunTrouble.DEADLINE_AT_RISK
                ? guard.severityOf(finding.value() / 100)
                : guard.severity();
    }
}
