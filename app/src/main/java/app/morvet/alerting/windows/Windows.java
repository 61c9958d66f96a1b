package app.morvet.alerting.windows;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.Cover;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.page.Live;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobFacts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * All maintenance windows, in memory, since whatever is raised asks for them; as people make, change and end them. Who may do what
 * is asked here, whichever way it came: a page, a file, a call.
 */
@Service
public class Windows {
    /** The topic of {@link Live} on which windows begin, end and change. */
    public static final String TOPIC = "windows";

    private static final String CHANGED = "windows";
    /** So far around an instant it is reckoned at once what is on. */
    private static final Duration AROUND = Duration.ofHours(2);

    /** One as it was agreed. */
    public record Version(int version, Instant at, @Nullable Long by, String sentence) {}

    /**
     * A time that has begun.
     *
     * @param ended when it was over, sooner or later than meant; null while it is on
     */
    public record Time(long window, LocalDateTime meant, Instant from, Instant to, @Nullable Instant ended) {}

    /** Somebody else was faster. */
    public static final class Overtaken extends RuntimeException {
        private static final long serialVersionUID = 1;

        public Overtaken() {
            super("Somebody else changed this window meanwhile. Nothing was saved; look at it as it is now.");
        }
    }

    /** Windows are others than before; told within the transaction. */
    public record WindowsChanged() {}

    private record Book(List<StoredWindow> all, List<Cover.Known> known) {}

    private record Around(Book book, Instant from, Instant to, Cover cover) {}

    private final WindowStore store;
    private final HeldStore times;
    private final JobBook jobs;
    private final JobFacts jobFacts;
    private final Estate estate;
    private final Audit audit;
    private final Notices notices;
    private final Live live;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final Remembered<Book> book = new Remembered<>(this::read, it -> true);
    private volatile @Nullable Around around;

    Windows(
            WindowStore store,
            HeldStore times,
            JobBook jobs,
            JobFacts jobFacts,
            Estate estate,
            Audit audit,
            Notices notices,
            Live live,
            ApplicationEventPublisher events,
            Clock clock) {
        this.store = store;
        this.times = times;
        this.jobs = jobs;
        this.jobFacts = jobFacts;
        this.estate = estate;
        this.audit = audit;
        this.notices = notices;
        this.live = live;
        this.events = events;
        this.clock = clock;
        notices.hearOthers(CHANGED, book::forget);
        notices.hearOthers(JobBook.CHANGED, book::forget);
    }

    /** Holidays are theirs. */
    @EventListener
    void on(JobBook.JobsChanged changed) {
        book.forget();
    }

    private Book read() {
        var all = store.all(this::calendar);
        return new Book(
                all,
                all.stream().map(one -> new Cover.Known(one.id(), one.window())).toList());
    }

    private HolidayCalendar calendar(String name) {
        var found = name.isEmpty() ? null : jobs.calendar(name);
        return found == null ? HolidayCalendar.NONE : found;
    }

    /** @throws IllegalArgumentException where there is none of that name */
    public HolidayCalendar calendarOf(String name) {
        if (!name.isEmpty() && jobs.calendar(name) == null)
            throw new IllegalArgumentException("there is no calendar \"" + name + "\"");
        return calendar(name);
    }

    public List<StoredWindow> all() {
        return book.get().all();
    }

    /** One, though it be deleted by now. */
    public Optional<StoredWindow> find(long id) {
        return all().stream().filter(one -> one.id() == id).findFirst().or(() -> store.find(id, this::calendar));
    }

    /** As it is in the store, within the transaction that changed it. */
    StoredWindow stored(long id) {
        return store.find(id, this::calendar).orElseThrow();
    }

    public List<Version> versions(long id) {
        return store.versions(id);
    }

    /** Those about an instant. */
    public Cover cover(Instant at) {
        var standing = book.get();
        var kept = around;
        if (kept != null && kept.book() == standing && !at.isBefore(kept.from()) && at.isBefore(kept.to()))
            return kept.cover();
        var from = at.minus(AROUND);
        var to = at.plus(AROUND);
        var fresh = new Around(standing, from, to, Cover.within(standing.known(), from, to));
        around = fresh;
        return fresh.cover();
    }

    /** Those that have to do with a half-open span, however long. */
    public Cover within(Instant from, Instant to) {
        return Cover.within(book.get().known(), from, to);
    }

    /** What windows ask of a component: of a job, its chain too. */
    public Scope.Facts factsOf(Estate.Component one) {
        var facts = estate.factsOf(one);
        return one.kind().equals(Estate.JOB)
                ? jobs.byComponent(one.id()).map(it -> jobFacts.of(it.job())).orElse(facts)
                : facts;
    }

    public Optional<Cover.On> covering(long component, Instant at) {
        var cover = cover(at);
        return cover.on().isEmpty() ? Optional.empty() : cover.of(factsOf(estate.component(component)), at);
    }

    /** What is on at an instant, those over jobs alone too. */
    public List<Cover.On> on(Instant at) {
        return cover(at).at(at);
    }

    /** The latest times of a window that have begun, the newest first; also those that held something while no node ran. */
    public List<Time> times(long window, int most) {
        var all = new ArrayList<>(times.times(window, most));
        var zone = find(window).orElseThrow().window().plan().zone();
        times.unseen(window).forEach((meant, until) -> {
            var from = meant.atZone(zone).toInstant();
            all.add(new Time(window, meant, from.isBefore(until) ? from : until, until, until));
        });
        all.sort(Comparator.comparing(Time::from).reversed());
        return all.size() <= most ? all : all.subList(0, most);
    }

    /** Those of all windows that have begun and have to do with a span. */
    public List<Time> times(Instant from, Instant to) {
        return times.times(from, to);
    }

    /** With whether its teams are told. */
    public String sentence(StoredWindow one) {
        var before = one.told();
        if (before == null) return sentence(one.window());
        var when = before.isZero()
                ? "when it begins and ends"
                : Spans.words(before) + " before, and when it begins and ends";
        return sentence(one.window()) + " Its teams are told " + when + ".";
    }

    public String sentence(MaintenanceWindow one) {
        return one.sentence(estate::nameOf);
    }

    /**
     * Adds or changes one.
     *
     * @return its id
     * @throws IllegalArgumentException saying what cannot be, and what takes a lead
     * @throws Overtaken                where somebody else was faster
     */
    @Transactional
    public long keep(StoredWindow one, Person by) {
        var before = one.id() == 0 ? null : find(one.id()).orElse(null);
        allowed(one.window(), by);
        if (before != null) allowed(before.window(), by);
        long id = store(one, by.id());
        audit.record(
                by,
                before == null ? "window made" : "window changed",
                "window " + one.window().name(),
                before == null ? null : sentence(before),
                sentence(one));
        return id;
    }

    /** Sets one up, or changes it, by the application itself or by who has a key for it. */
    @Transactional
    public long set(StoredWindow one) {
        return store(one, null);
    }

    private long store(StoredWindow one, @Nullable Long by) {
        calendarOf(one.calendar());
        boolean overJobs = isOverJobs(one)
                || one.id() != 0 && find(one.id()).filter(Windows::isOverJobs).isPresent();
        long id = store.keep(one.id() == 0 && by != null ? one.madeBy(by) : one);
        if (id == 0) throw new Overtaken();
        store.addVersion(id, clock.instant(), by, sentence(one));
        changed(overJobs);
        return id;
    }

    private static void allowed(MaintenanceWindow window, Person by) {
        if (window.isLeads() && !by.may("TUNE"))
            throw new IllegalArgumentException(
                    "windows that recur, and those of more than 8 hours, are made and changed by a lead");
    }

    /** Ends the time that is on, now. */
    @Transactional
    public void end(long id, int version, Person by) {
        var one = find(id).orElseThrow();
        var now = clock.instant();
        var on = one.window().plan().occurrences(now, now.plusNanos(1000)).stream()
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("it is not on now"));
        during(one, version, on, on.span().endedAt(now), by);
    }

    /** Has the time that is on, or comes next, end later. */
    @Transactional
    public void lengthen(long id, int version, Duration by, Person who) {
        var one = find(id).orElseThrow();
        var next = next(one);
        during(
                one,
                version,
                next,
                new Plan.Span(next.span().from(), next.span().to().plus(by)),
                who);
    }

    private Plan.Occurrence next(StoredWindow one) {
        return one.window().plan().next(clock.instant(), 1).stream()
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("it is over"));
    }

    /** Has one time be at another. */
    @Transactional
    public void move(long id, int version, LocalDateTime meant, Plan.Span to, Person by) {
        var one = find(id).orElseThrow();
        during(one, version, new Plan.Occurrence(meant, to), to, by);
    }

    private void during(StoredWindow one, int version, Plan.Occurrence which, Plan.Span span, Person by) {
        var plan = one.window().plan().with(which.meant(), span);
        var longest = Duration.between(span.from(), span.to());
        // Ending or moving one time of what recurs is the analyst's work, as long as that time is short.
        if (longest.compareTo(MaintenanceWindow.ANALYSTS) > 0 && !by.may("TUNE"))
            throw new IllegalArgumentException("windows of more than 8 hours are made and changed by a lead");
        altered(one, version, plan, by);
    }

    /** Leaves one time out. */
    @Transactional
    public void skip(long id, int version, LocalDateTime meant, Person by) {
        var one = find(id).orElseThrow();
        if (!one.window().plan().recurs()) throw new IllegalArgumentException("it is once; delete it");
        altered(one, version, one.window().plan().without(meant), by);
    }

    private void altered(StoredWindow one, int version, Plan plan, Person by) {
        var after = one.with(one.window().during(plan));
        store(after.version(version), by.id());
        audit.record(
                by,
                "window changed",
                "window " + one.window().name(),
                times(one.window().plan()),
                times(plan));
    }

    private String times(Plan plan) {
        var now = clock.instant();
        return plan.next(now.minus(Duration.ofDays(1)), 3).stream()
                .map(it -> it.span().from() + " to " + it.span().to())
                .toList()
                .toString();
    }

    /** Takes a window away; what it held is let go as if it had ended. */
    @Transactional
    public void delete(long id, Person by) {
        var before = all().stream().filter(one -> one.id() == id).findFirst().orElse(null);
        if (before == null) return;
        allowed(before.window(), by);
        if (store.delete(id, clock.instant()) == 0) return;
        audit.record(by, "window deleted", "window " + before.window().name(), sentence(before.window()), null);
        changed(isOverJobs(before));
    }

    /** Takes one away by the application itself: what is on ends now, what is still to come is deleted. */
    @Transactional
    public void takeBack(StoredWindow one) {
        var now = clock.instant();
        var on = one.window().plan().occurrences(now, now.plusNanos(1000));
        if (on.isEmpty()) {
            store.delete(one.id(), now);
            changed(isOverJobs(one));
            return;
        }
        var ended = on.getFirst().span().endedAt(now);
        store(
                one.with(one.window()
                        .during(one.window().plan().with(on.getFirst().meant(), ended))),
                null);
    }

    private static boolean isOverJobs(StoredWindow one) {
        return one.window().jobs() == MaintenanceWindow.Jobs.NOT_EXPECTED;
    }

    /** @param overJobs whether starts of jobs inside are to be reckoned anew */
    private void changed(boolean overJobs) {
        book.forget();
        notices.tell(CHANGED);
        live.changed(TOPIC);
        events.publishEvent(new WindowsChanged());
        if (overJobs) events.publishEvent(new JobBook.JobsChanged());
    }

    static Instant later(Instant one, Instant other) {
        return one.isAfter(Objects.requireNonNull(other)) ? one : other;
    }
}
