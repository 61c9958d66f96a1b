package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What was to run in a span, and what became of it: every expected start of every job with its runs, and the runs that
 * nobody expected.
 *
 * <p>A job that has no timetable and waits for others has one start for each of theirs; of several, for each of the one
 * that starts most seldom. A job with a timetable waits for the last start of each other that lies at or before its own.
 *
 * @param occurrences each after those it waits for
 */
public record Night(Instant from, Instant to, Instant now, List<Occurrence> occurrences, List<Stray> strays) {
    private static final int MOST_STARTS = 3000;
    private static final Duration TRIED_AGAIN_WITHIN = Duration.ofMinutes(15);
    private static final Duration LOST_AFTER = Duration.ofHours(24);
    private static final int LOST_AFTER_LONGEST = 3;

    /** A run outside any schedule. */
    public record Stray(Job job, Run run) {}

    /** A file that came. */
    public record Arrival(String name, Instant at) {}

    /** What is known beside the jobs themselves. */
    public interface Known {
        /** Runs of a job that may matter in the span, in any order. */
        List<Run> runs(String job);

        /** Before which nothing was expected of a job. */
        default Instant since(String job) {
            return Instant.MIN;
        }

        /** How long it usually lasts when it starts at an instant. */
        Spread usual(Job job, Instant at);

        /** Files that came in the span or in the day before it. */
        List<Arrival> files();

        /** Whether a job is in a window at an instant, so that it is not expected to start. */
        default boolean inWindow(Job job, Instant at) {
            return false;
        }
    }

    /**
     * @param graph of all jobs
     * @param from  begin of the half-open span in which starts are expected
     * @param to    its end
     * @param now   what came later is not known yet
     */
    public static Night of(JobGraph graph, Instant from, Instant to, Instant now, Known known) {
        return new Builder(from, to, now, known).build(graph);
    }

    /** Those of a job, in order of time. */
    public List<Occurrence> of(String job) {
        return occurrences.stream().filter(one -> one.job().key().equals(job)).toList();
    }

    /** Whether the end of a run will hardly be told any more. */
    public static boolean lost(Job job, Run run, Instant now) {
        if (!run.running() || run.started() == null) return false;
        var longest = job.longest();
        var after = LOST_AFTER;
        if (longest != null && longest.multipliedBy(LOST_AFTER_LONGEST).compareTo(after) > 0)
            after = longest.multipliedBy(LOST_AFTER_LONGEST);
        return run.started().plus(after).isBefore(now);
    }

    /** The first time that a clock shows this at or after an instant. */
    static Instant next(LocalTime time, Instant after, ZoneId zone) {
        var there = after.atZone(zone);
        var that = there.with(time);
        return (that.isBefore(there) ? there.plusDays(1).with(time) : that).toInstant();
    }

    private static final class Builder {
        private final Instant from;
        private final Instant to;
        private final Instant now;
        private final Known known;
        private final List<Occurrence> all = new ArrayList<>();
        private final List<Stray> strays = new ArrayList<>();
        private final Map<String, TreeMap<Instant, Occurrence>> byJob = new HashMap<>();

        Builder(Instant from, Instant to, Instant now, Known known) {
            this.from = from;
            this.to = to;
            this.now = now;
            this.known = known;
        }

        Night build(JobGraph graph) {
            for (var job : graph.order()) add(job);
            return new Night(from, to, now, List.copyOf(all), List.copyOf(strays));
        }

        private void add(Job job) {
            var since = known.since(job.key());
            var cycles =
                    cycles(job).stream().filter(cycle -> !cycle.isBefore(since)).toList();
            var drafts = new ArrayList<Draft>(cycles.size());
            for (var cycle : cycles) drafts.add(draft(job, cycle));
            var anchors = new ArrayList<Instant>(drafts.size());
            for (var draft : drafts) {
                var anchor = draft.released != null && !job.waits().isEmpty() ? draft.released : draft.planned;
                anchors.add(anchors.isEmpty() || anchor.isAfter(anchors.getLast()) ? anchor : anchors.getLast());
            }
            var runs = known.runs(job.key()).stream()
                    .map(run -> run.asOf(now))
                    .filter(java.util.Objects::nonNull)
                    .toList();
            var matched = Matching.of(anchors, cycles, runs);
            var mine = new TreeMap<Instant, Occurrence>();
            for (int i = 0; i < drafts.size(); i++) {
                var one = finish(drafts.get(i), matched.runs().get(i), all.size());
                all.add(one);
                mine.put(one.cycle(), one);
            }
            byJob.put(job.key(), mine);
            if (job.planned())
                for (var run : matched.strays()) if (!run.at().isBefore(from)) strays.add(new Stray(job, run));
        }

        private List<Instant> cycles(Job job) {
            if (!job.timetable().schedules().isEmpty()) {
                var starts = job.timetable().starts(from, to);
                return starts.size() <= MOST_STARTS ? starts : starts.subList(0, MOST_STARTS);
            }
            TreeMap<Instant, Occurrence> fewest = null;
            for (var wait : job.waits()) {
                var theirs = byJob.get(wait);
                if (theirs != null && !theirs.isEmpty() && (fewest == null || theirs.size() < fewest.size()))
                    fewest = theirs;
            }
            return fewest == null ? List.of() : List.copyOf(fewest.keySet());
        }

        private static final class Draft {
            private final Job job;
            private final Instant cycle;
            private final List<Integer> waits = new ArrayList<>();
            private final List<String> missing = new ArrayList<>();
            private Instant planned;
            private @Nullable Instant released;
            /** Not expected because of a window, its own or that of what it waits for. */
            private boolean skipped;

            Draft(Job job, Instant cycle) {
                this.job = job;
                this.cycle = cycle;
                this.planned = cycle;
                this.released = cycle;
            }
        }

        private Draft draft(Job job, Instant cycle) {
            var draft = new Draft(job, cycle);
            for (var wait : job.waits()) {
                var theirs = byJob.get(wait);
                var before = theirs == null ? null : theirs.floorEntry(cycle);
                if (before == null) continue;
                var upstream = before.getValue();
                draft.waits.add(upstream.index());
                if (upstream.outcome() == Outcome.SKIPPED) draft.skipped = true;
                if (upstream.plannedEnd().isAfter(draft.planned)) draft.planned = upstream.plannedEnd();
                release(draft, upstream.doneAt(), wait);
            }
            for (var pattern : job.files()) release(draft, came(pattern, cycle), "file " + pattern);
            var notBefore = job.notBefore();
            if (notBefore != null) {
                var earliest = next(notBefore, cycle, job.timetable().zone());
                if (earliest.isAfter(draft.planned)) draft.planned = earliest;
                if (draft.released != null && earliest.isAfter(draft.released)) draft.released = earliest;
            }
            if (known.inWindow(job, draft.planned)) draft.skipped = true;
            return draft;
        }

        private static void release(Draft draft, @Nullable Instant there, String what) {
            if (there == null) {
                draft.missing.add(what);
                draft.released = null;
            } else if (draft.released != null && there.isAfter(draft.released)) draft.released = there;
        }

        /** When a file first came, from a day before the start on. */
        private @Nullable Instant came(String pattern, Instant cycle) {
            Instant first = null;
            for (var file : known.files())
                if (!file.at().isAfter(now)
                        && !file.at().isBefore(cycle.minus(Duration.ofHours(12)))
                        && file.at().isBefore(cycle.plus(Duration.ofHours(24)))
                        && Job.fits(pattern, file.name())
                        && (first == null || file.at().isBefore(first))) first = file.at();
            return first;
        }

        private Occurrence finish(Draft draft, List<Run> runs, int index) {
            var job = draft.job;
            var usual = known.usual(job, draft.planned);
            var plannedEnd = draft.planned.plusMillis((long) (usual.median() * 1000));
            var released = draft.released;
            var latest = released == null || draft.skipped ? null : released.plus(job.latestStart());
            var deadline = job.deadline() == null
                    ? null
                    : next(job.deadline(), draft.cycle, job.timetable().zone());
            var outcome = outcome(draft, runs, usual, latest, deadline);
            return new Occurrence(
                    index,
                    job,
                    draft.cycle,
                    draft.planned,
                    plannedEnd,
                    List.copyOf(draft.waits),
                    released,
                    latest,
                    deadline,
                    usual,
                    List.copyOf(runs),
                    outcome,
                    outcome == Outcome.HELD_UP ? List.copyOf(draft.missing) : List.of());
        }

        private Outcome outcome(
                Draft draft, List<Run> runs, Spread usual, @Nullable Instant latest, @Nullable Instant deadline) {
            if (runs.isEmpty()) {
                if (draft.skipped) return Outcome.SKIPPED;
                if (latest == null) return now.isBefore(draft.planned) ? Outcome.PLANNED : Outcome.HELD_UP;
                var released = java.util.Objects.requireNonNull(draft.released);
                if (now.isBefore(released)) return Outcome.PLANNED;
                return now.isAfter(latest) ? Outcome.DID_NOT_START : Outcome.DUE;
            }
            var job = draft.job;
            var last = runs.getLast();
            var lasted = last.lasted(now);
            boolean tooLong = job.longest() != null && lasted.compareTo(job.longest()) > 0;
            if (last.running()) {
                if (tooLong || lost(job, last, now)) return Outcome.OUT_OF_TIME;
                return usual.known() && lasted.toSeconds() > usual.longFrom() ? Outcome.RUNNING_LONG : Outcome.RUNNING;
            }
            var ended = java.util.Objects.requireNonNull(last.ended());
            return switch (java.util.Objects.requireNonNull(last.end())) {
                case CANCELLED -> Outcome.CANCELLED;
                case FAILED ->
                    runs.size() <= job.retries() && now.isBefore(ended.plus(TRIED_AGAIN_WITHIN))
                            ? Outcome.TO_BE_RETRIED
                            : Outcome.FAILED;
                case FINE, WARNED -> {
                    if (runs.size() > 1) yield Outcome.RECOVERED;
                    if (tooLong) yield Outcome.OUT_OF_TIME;
                    boolean lateStart = latest != null
                            && last.started() != null
                            && last.started().isAfter(latest);
                    yield lateStart || deadline != null && ended.isAfter(deadline) ? Outcome.LATE : Outcome.ON_TIME;
                }
            };
        }
    }
}
