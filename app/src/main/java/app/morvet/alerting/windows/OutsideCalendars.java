package app.morvet.alerting.windows;

import app.morvet.alerting.windows.CalendarRules.Meaning;
import app.morvet.alerting.windows.CalendarRules.Rule;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WorkCalendar;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.page.Live;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Calendars of others, fetched every so often or given as a file. An event becomes a window by the first rule that its words fit; what
 * fits none waits for somebody to say what it is over. A window moves when its event is moved, and is taken back when that is
 * cancelled or gone from the calendar.
 */
@Service
public class OutsideCalendars implements ConnectionSort, Errand {
    public static final String SORT = "calendar";
    /** The setting that says how often it is fetched, in seconds. */
    public static final String EVERY = "everySeconds";

    private static final String RULES = "rules";
    private static final String NAME = "calendar-read";
    private static final int MOST_RULES = 100;
    private static final int LONGEST_NAME = 100;
    private static final int LONGEST_REASON = 1000;

    /** What became of an event. */
    public enum State {
        WAITS("waits"),
        WINDOW("a window"),
        LEFT_OUT("left out"),
        GONE("cancelled");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * An event as its calendar has it.
     *
     * @param window the one that it became, or null
     */
    public record Event(
            long calendar, String uid, String title, String text, Plan plan, State state, @Nullable Long window) {}

    /** What came of the latest look. */
    public record Look(Instant at, int events, List<String> faults) {}

    private final Connections connections;
    private final Calls calls;
    private final OutsideEvents store;
    private final Windows windows;
    private final Errands errands;
    private final Audit audit;
    private final Live live;
    private final MorvetSettings settings;
    private final TransactionTemplate transaction;
    private final Clock clock;

    OutsideCalendars(
            Connections connections,
            Calls calls,
            OutsideEvents store,
            Windows windows,
            Errands errands,
            Audit audit,
            Live live,
            MorvetSettings settings,
            TransactionTemplate transaction,
            Clock clock) {
        this.connections = connections;
        this.calls = calls;
        this.store = store;
        this.windows = windows;
        this.errands = errands;
        this.audit = audit;
        this.live = live;
        this.settings = settings;
        this.transaction = transaction;
        this.clock = clock;
    }

    @Override
    public String sort() {
        return SORT;
    }

    @Override
    public String name() {
        return NAME;
    }

    public List<Connection> all() {
        return connections.of(SORT);
    }

    public Optional<Connection> find(long id) {
        return connections.byId(id).filter(one -> one.sort().equals(SORT));
    }

    public List<Event> events(long calendar) {
        return List.copyOf(store.of(calendar).values());
    }

    public Optional<Look> look(long calendar) {
        return store.look(calendar);
    }

    /** How many events of each calendar are in which state. */
    public Map<Long, Map<State, Long>> counts() {
        return store.counts();
    }

    /** Those that wait to be assigned, of all calendars. */
    public List<Event> waiting(int most) {
        return store.waiting(most);
    }

    /** How many events wait to be assigned, of all calendars. */
    public long waiting() {
        return store.waiting();
    }

    public static Duration every(Connection one) {
        var seconds = one.get(EVERY);
        return Duration.ofSeconds(seconds.matches("\\d{1,6}") ? Math.clamp(Long.parseLong(seconds), 60, 86_400) : 900);
    }

    public List<Rule> rules(Connection one) {
        return CalendarRules.read(one.get(RULES));
    }

    /**
     * Adds a calendar, or changes it; its rules stay.
     *
     * @return its id
     * @throws IllegalArgumentException where somebody else was faster
     */
    @Transactional
    public long keep(Connection one, Person by) {
        var before = one.id() == 0 ? null : find(one.id()).orElseThrow();
        var whole = before == null ? one : one.keeping(before).with(RULES, before.get(RULES));
        if (!connections.keep(whole)) throw new IllegalArgumentException(Connections.OVERTAKEN);
        audit.record(
                by,
                before == null ? "calendar made" : "calendar changed",
                "calendar " + one.name(),
                before == null ? null : before.url(),
                one.url());
        live.changed(Windows.TOPIC);
        lookAgain();
        return connections.byKey(SORT, one.key()).orElseThrow().id();
    }

    /** Sets one up by the application itself. */
    public void set(Connection one, List<Rule> rules) {
        connections.keep(one.with(RULES, CalendarRules.write(rules)));
        lookAgain();
    }

    /**
     * Sets the rules of a calendar; what waits is looked at anew by them, what is a window stays as it is.
     *
     * @throws IllegalArgumentException where somebody else was faster, or there are too many
     */
    @Transactional
    public void rules(long id, int version, List<Rule> rules, Person by) {
        if (rules.size() > MOST_RULES) throw new IllegalArgumentException("a calendar has at most 100 rules");
        store.lock(id);
        var before = find(id).orElseThrow();
        var all = CalendarRules.write(rules);
        if (before.version() != version || !connections.keep(before.with(RULES, all)))
            throw new IllegalArgumentException(Connections.OVERTAKEN);
        audit.record(by, "calendar rules changed", "calendar " + before.name(), before.get(RULES), all);
        for (var event : store.of(id).values())
            if (event.state() == State.WAITS) byRule(before, rules, work(event), clock.instant());
        live.changed(Windows.TOPIC);
    }

    private static WorkCalendar.Work work(Event event) {
        return new WorkCalendar.Work(event.uid(), event.title(), event.text(), event.plan());
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        lookAgain();
    }

    private void lookAgain() {
        for (var one : all()) if (!one.url().isEmpty()) errands.unlessWaiting(clock.instant(), NAME, "" + one.id());
    }

    @Override
    public Optional<Instant> run(String id) {
        var one = find(Long.parseLong(id)).filter(it -> !it.url().isEmpty()).orElse(null);
        if (one == null) return Optional.empty();
        try {
            take(one, calls.ask(one, trial(one)));
        } catch (Unanswered none) {
            notRead(one, none.words());
        } catch (IllegalArgumentException wrong) {
            notRead(one, String.valueOf(wrong.getMessage()));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
        return Optional.of(clock.instant().plus(every(one)));
    }

    private void notRead(Connection one, String why) {
        store.looked(one.id(), clock.instant(), 0, List.of(why));
        live.changed(Windows.TOPIC);
    }

    /**
     * Takes what a calendar says now.
     *
     * @throws IllegalArgumentException where it is no iCalendar
     */
    public WorkCalendar.Read take(Connection one, String text) {
        var read = WorkCalendar.read(text, settings.zone());
        transaction.executeWithoutResult(status -> {
            store.lock(one.id());
            took(one, read, clock.instant());
            store.looked(one.id(), clock.instant(), read.work().size(), read.faults());
            live.changed(Windows.TOPIC);
        });
        return read;
    }

    private void took(Connection calendar, WorkCalendar.Read read, Instant now) {
        var rules = rules(calendar);
        var known = store.of(calendar.id());
        for (var work : read.work()) {
            var event = known.remove(work.uid());
            boolean stands = work.plan() != null && !work.plan().isOver(now);
            if (event == null || event.state() == State.GONE) {
                if (stands) byRule(calendar, rules, work, now);
                continue;
            }
            if (work.plan() == null) {
                withdrawn(event, now);
                continue;
            }
            // Nothing new: then nothing is stored, and what somebody changed of its window by hand stays.
            if (saysAs(event, work)) continue;
            if (event.state() == State.WAITS) {
                byRule(calendar, rules, work, now);
                continue;
            }
            if (event.state() == State.WINDOW && !work.plan().equals(event.plan())) moved(event, work.plan());
            store.keep(
                    event.calendar(),
                    event.uid(),
                    work.title(),
                    work.text(),
                    work.plan(),
                    event.state(),
                    null,
                    null,
                    now);
        }
        // An event that could not be read today is not gone.
        if (!read.faults().isEmpty()) return;
        for (var event : known.values())
            if (event.state() != State.GONE && !event.plan().isOver(now)) withdrawn(event, now);
    }

    private static boolean saysAs(Event event, WorkCalendar.Work work) {
        return event.plan().equals(work.plan())
                && event.title().equals(work.title())
                && event.text().equals(work.text());
    }

    private void byRule(Connection calendar, List<Rule> rules, WorkCalendar.Work work, Instant now) {
        var plan = java.util.Objects.requireNonNull(work.plan());
        var rule = rules.stream().filter(it -> it.fits(work)).findFirst();
        var window = rule.map(it -> windows.set(window(calendar, work.title(), work.text(), plan, it.meaning())));
        store.keep(
                calendar.id(),
                work.uid(),
                work.title(),
                work.text(),
                plan,
                window.isPresent() ? State.WINDOW : State.WAITS,
                window.orElse(null),
                null,
                now);
    }

    private static StoredWindow window(Connection calendar, String title, String text, Plan plan, Meaning meaning) {
        var reason = ("in the calendar " + calendar.name() + (text.isBlank() ? "" : ": " + text)).strip();
        return StoredWindow.fresh(new MaintenanceWindow(
                        title.length() > LONGEST_NAME ? title.substring(0, LONGEST_NAME) : title,
                        meaning.scope(),
                        plan,
                        meaning.effect(),
                        MaintenanceWindow.Jobs.AS_EVER,
                        reason.length() > LONGEST_REASON ? reason.substring(0, LONGEST_REASON) : reason))
                .toldBefore(meaning.told());
    }

    private Optional<StoredWindow> standing(Event event) {
        var id = event.window();
        if (id == null || windows.all().stream().noneMatch(one -> one.id() == id)) return Optional.empty();
        return Optional.of(windows.stored(id));
    }

    private void moved(Event event, Plan plan) {
        standing(event).ifPresent(one -> windows.set(one.with(one.window().during(plan))));
    }

    private void withdrawn(Event event, Instant now) {
        if (event.state() == State.WINDOW) standing(event).ifPresent(windows::takeBack);
        became(event, State.GONE, null, null, now);
    }

    private void became(Event event, State state, @Nullable Long window, @Nullable Long by, Instant now) {
        store.keep(event.calendar(), event.uid(), event.title(), event.text(), event.plan(), state, window, by, now);
    }

    /**
     * Says what an event that waits, or was left out, is over: it becomes a window.
     *
     * @throws IllegalArgumentException where it cannot be
     */
    @Transactional
    public long assign(long calendar, String uid, Meaning meaning, Person by) {
        var event = undecided(calendar, uid);
        var from = find(calendar).orElseThrow();
        long id = windows.keep(window(from, event.title(), event.text(), event.plan(), meaning), by);
        became(event, State.WINDOW, id, by.id(), clock.instant());
        return id;
    }

    /** Says that an event that waits is to be no window. */
    @Transactional
    public void leaveOut(long calendar, String uid, Person by) {
        var event = undecided(calendar, uid);
        became(event, State.LEFT_OUT, null, by.id(), clock.instant());
        audit.record(by, "event left out", "event " + event.title(), null, null);
        live.changed(Windows.TOPIC);
    }

    private Event undecided(long calendar, String uid) {
        store.lock(calendar);
        var event = store.find(calendar, uid)
                .orElseThrow(() -> new IllegalArgumentException("there is no such event in this calendar any more"));
        if (event.state() != State.WAITS && event.state() != State.LEFT_OUT)
            throw new IllegalArgumentException(
                    event.state() == State.WINDOW ? "it is a window already" : "it is cancelled");
        return event;
    }

    @Override
    public Ask trial(Connection connection) {
        return Ask.read("calendar read", "");
    }

    @Override
    public String reads(Connection connection, String answer) {
        var read = WorkCalendar.read(answer, settings.zone());
        var events = read.work().size() == 1 ? "1 event" : read.work().size() + " events";
        return read.faults().isEmpty() ? events : events + ". " + String.join(" ", read.faults());
    }
}
