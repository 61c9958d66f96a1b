package app.morvet.sources.batch;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.JobGraph;
import app.morvet.core.batch.ScheduleWords;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What is agreed about every job. A snapshot is kept, since it is asked for all the time, and made anew at every change here
 * and once in a while for changes made on another node.
 */
@Service
public class JobBook {
    private static final Logger log = LoggerFactory.getLogger(JobBook.class);
    private static final Duration SNAPSHOT_LASTS = Duration.ofSeconds(30);

    /** Somebody else changed the job in between. */
    public static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        public Overtaken(String words) {
            super(words);
        }

        Overtaken() {
            super(
                    "Somebody else changed this job while you were editing it. Nothing was saved; what you typed stands below.");
        }
    }

    /** What is agreed about a job has changed. */
    public record JobsChanged() {}

    /** @param by who made it, or null for Morvet */
    public record Version(int version, Instant at, @Nullable Long by, JobSpec spec, String fixNote) {}

    private record Snapshot(
            Instant madeAt, Map<String, StoredJob> byKey, JobGraph graph, Map<String, HolidayCalendar> calendars) {}

    /** The notice that what is agreed about jobs has changed. */
    public static final String CHANGED = "jobs";

    private final JobStore store;
    private final Estate estate;
    private final Audit audit;
    private final MorvetSettings settings;
    private final Notices notices;
    private final Clock clock;
    private final ApplicationEventPublisher events;
    private final Remembered<Snapshot> snapshot;

    JobBook(
            JobStore store,
            Estate estate,
            Audit audit,
            MorvetSettings settings,
            Notices notices,
            Clock clock,
            ApplicationEventPublisher events) {
        this.store = store;
        this.estate = estate;
        this.audit = audit;
        this.settings = settings;
        this.notices = notices;
        this.clock = clock;
        this.events = events;
        this.snapshot = new Remembered<>(
                this::read, kept -> !kept.madeAt().plus(SNAPSHOT_LASTS).isBefore(clock.instant()));
        notices.hearOthers(CHANGED, snapshot::forget);
    }

    private Snapshot now() {
        return snapshot.get();
    }

    private Snapshot read() {
        var madeAt = clock.instant();
        var calendars = new HashMap<String, HolidayCalendar>();
        store.calendars().forEach(one -> calendars.put(one.holidays().name(), one.holidays()));
        var byKey = new HashMap<String, StoredJob>();
        for (var row : store.all()) {
            var component = estate.component(row.component());
            try {
                var job = row.spec().job(component.key(), calendars::get);
                byKey.put(
                        component.key(),
                        new StoredJob(
                                component,
                                row.feed(),
                                row.spec(),
                                job,
                                row.fixNote(),
                                row.agreed(),
                                row.heldSince(),
                                row.knownSince(),
                                row.version()));
            } catch (IllegalArgumentException bad) {
                log.error("what is agreed about the job {} cannot be read", component.key(), bad);
            }
        }
        var ordered = byKey.values().stream()
                .sorted(Comparator.comparing(StoredJob::key))
                .map(StoredJob::job)
                .toList();
        return new Snapshot(madeAt, byKey, JobGraph.of(ordered), calendars);
    }

    /** All jobs, by name. */
    public List<StoredJob> all() {
        return now().byKey().values().stream()
                .sorted(Comparator.comparing(StoredJob::name, String.CASE_INSENSITIVE_ORDER)
                        .thenComparing(StoredJob::key))
                .toList();
    }

    public Optional<StoredJob> byKey(String key) {
        return Optional.ofNullable(now().byKey().get(key));
    }

    public Optional<StoredJob> byComponent(long component) {
        return byKey(estate.component(component).key());
    }

    public JobGraph graph() {
        return now().graph();
    }

    /** The name of a job by its key; the key itself where there is none. */
    public String nameOf(String key) {
        var job = now().byKey().get(key);
        return job == null ? key : job.name();
    }

    /** {@code every day at 01:00, after rate fares}. */
    public String scheduleWords(Job job) {
        return ScheduleWords.of(job, this::nameOf);
    }

    public List<HolidayCalendar> calendars() {
        return store.calendars().stream().map(JobStore.Calendar::holidays).toList();
    }

    public @Nullable HolidayCalendar calendar(String name) {
        return now().calendars().get(name);
    }

    public List<Version> versions(long component) {
        return store.versions(component).stream()
                .map(one -> new Version(one.version(), one.at(), one.by(), one.spec(), one.fixNote()))
                .toList();
    }

    /** What is to be agreed about a job; {@code version} 0 for one that is not known yet. */
    public record Agreement(
            String key, String name, @Nullable Long application, JobSpec spec, String fixNote, int version) {}

    /**
     * Checks what is to be agreed, with all other jobs as they are.
     *
     * @throws IllegalArgumentException saying what is wrong, and of cycles which jobs they go through
     */
    public Job check(String key, JobSpec spec) {
        return check(Map.of(key, spec)).getFirst();
    }

    /** Checks several at once, so that they may wait for each other. */
    public List<Job> check(Map<String, JobSpec> specs) {
        var jobs = new ArrayList<Job>();
        specs.forEach((key, spec) -> jobs.add(spec.job(key, this::calendar)));
        var all = new HashMap<String, Job>();
        now().byKey().forEach((key, standing) -> all.put(key, standing.job()));
        jobs.forEach(job -> all.put(job.key(), job));
        for (var job : jobs)
            for (var wait : job.waits())
                if (!all.containsKey(wait))
                    throw new IllegalArgumentException("there is no job \"" + wait + "\" to wait for");
        JobGraph.of(all.values());
        return jobs;
    }

    /** Keeps several agreements, all or none. */
    @Transactional
    public void agree(Collection<Agreement> agreements, Person by) {
        // Two who agree at once, each on its own, might have jobs wait for each other.
        store.oneAfterTheOther();
        snapshot.forget();
        check(agreements.stream().collect(Collectors.toMap(Agreement::key, Agreement::spec)));
        for (var one : agreements) {
            var before = byKey(one.key());
            var known = estate.byKey(one.key()).map(Estate.Component::id);
            long component =
                    known.isPresent() ? known.get() : estate.add(one.key(), one.name(), Estate.JOB, one.application());
            var now = clock.instant();
            if (!store.keep(component, one.spec(), one.fixNote(), one.version(), now, now, by.id()))
                throw new Overtaken();
            audit.record(
                    by,
                    before.isEmpty() ? "job agreed" : "job changed",
                    "job " + one.key(),
                    before.map(it -> words(it.job(), it.spec())).orElse(null),
                    words(one.spec().job(one.key(), this::calendar), one.spec()));
        }
        changed();
    }

    /**
     * Takes back what is agreed about a job: nothing is expected of it any more. Its runs stay.
     *
     * @throws IllegalArgumentException where other jobs wait for it, naming them
     */
    @Transactional
    public void forget(String key, int version, Person by) {
        store.oneAfterTheOther();
        snapshot.forget();
        var job = byKey(key).orElseThrow(() -> new IllegalArgumentException("there is no job " + key));
        var waiting = graph().waitingFor(key);
        if (!waiting.isEmpty())
            throw new IllegalArgumentException("these jobs wait for it: "
                    + waiting.stream().map(this::nameOf).collect(Collectors.joining(", ")));
        if (!store.forget(job.component().id(), JobSpec.unknown(settings.zone()), version, clock.instant()))
            throw new Overtaken();
        audit.record(by, "job taken back", "job " + key, words(job.job(), job.spec()), null);
        changed();
    }

    /** For what is set up by the application itself. */
    public void set(String key, JobSpec spec, String fixNote) {
        var component = estate.byKey(key).orElseThrow();
        store.keep(component.id(), spec, fixNote, 0, Instant.EPOCH, clock.instant(), null);
        changed();
    }

    /** What is agreed, in one line. */
    public String words(Job job, JobSpec spec) {
        var words = new StringBuilder("runs ").append(scheduleWords(job));
        words.append(", by ").append(job.latestStart().toMinutes()).append(" min at the latest");
        if (job.longest() != null)
            words.append(", for ").append(spec.longestMinutes()).append(" min at most");
        if (job.deadline() != null) words.append(", done by ").append(job.deadline());
        if (!job.chain().isEmpty()) words.append(", in the chain ").append(job.chain());
        return words.toString();
    }

    /** Notes that the scheduler holds a job, or no longer. */
    public void held(long component, @Nullable Instant since) {
        store.hold(component, since);
        changed();
    }

    @Transactional
    public void keep(HolidayCalendar calendar, @Nullable Person by) {
        var before = store.calendar(calendar.name());
        store.keep(calendar);
        if (by != null)
            audit.record(
                    by,
                    "calendar changed",
                    "calendar " + calendar.name(),
                    before.map(it -> it.holidays().holidays().size() + " holidays")
                            .orElse(null),
                    calendar.holidays().size() + " holidays");
        changed();
    }

    /**
     * Takes a calendar away.
     *
     * @throws IllegalArgumentException where jobs go by it, naming them
     */
    @Transactional
    public void deleteCalendar(String name, Person by) {
        var users = all().stream()
                .filter(job -> job.spec().calendar().equals(name))
                .map(StoredJob::name)
                .toList();
        if (!users.isEmpty()) throw new IllegalArgumentException("these jobs go by it: " + String.join(", ", users));
        store.deleteCalendar(name);
        audit.record(by, "calendar deleted", "calendar " + name, name, null);
        changed();
    }

    /** Jobs that were first heard of by a run of theirs. */
    void meet(Collection<Long> components, long feed) {
        var known = now().byKey().values().stream()
                .filter(job -> job.feed() != null)
                .map(job -> job.component().id())
                .collect(Collectors.toSet());
        var fresh = components.stream()
                .filter(one -> !known.contains(one))
                .distinct()
                .toList();
        if (fresh.isEmpty()) return;
        store.addUnknown(fresh, feed, JobSpec.unknown(settings.zone()), clock.instant());
        changed();
    }

    @EventListener
    void on(JobsChanged changed) {
        snapshot.forget();
        notices.tell(CHANGED);
    }

    void changed() {
        snapshot.forget();
        events.publishEvent(new JobsChanged());
    }

    /** By key, for whoever needs many of them. */
    public Map<String, StoredJob> byKeys() {
        return now().byKey();
    }
}
