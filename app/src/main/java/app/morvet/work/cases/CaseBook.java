package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.ResponseTime;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageScope;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What people do to cases. Every act names the version of the case that its actor saw; where the case has moved on since,
 * nothing is done and {@link Overtaken} says who was first.
 */
@Service
@Transactional
public class CaseBook {
    /** For how long an act can be undone: ten seconds on the page, and a little for the way. */
    static final Duration UNDO = Duration.ofSeconds(15);

    private static final Duration LONGEST_QUIET = Duration.ofDays(14);

    private final CaseStore store;
    private final JoinedCases joined;
    private final CasePast past;
    private final CaseAlerts alerts;
    private final Estate estate;
    private final People people;
    private final Live live;
    private final Times times;
    private final ApplicationEventPublisher events;

    CaseBook(
            CaseStore store,
            JoinedCases joined,
            CasePast past,
            CaseAlerts alerts,
            Estate estate,
            People people,
            Live live,
            Times times,
            ApplicationEventPublisher events) {
        this.store = store;
        this.joined = joined;
        this.past = past;
        this.alerts = alerts;
        this.estate = estate;
        this.people = people;
        this.live = live;
        this.times = times;
        this.events = events;
    }

    @Transactional(readOnly = true)
    public Optional<WorkCase> find(long id) {
        return store.byId(id);
    }

    /**
     * The same, and nobody changes it until the running transaction is over. Whoever locks what belongs to a case locks the case first, so
     * that no two wait for each other.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Optional<WorkCase> lock(long id) {
        return store.byId(id).map(one -> store.lock(one.id()));
    }

    /** All open cases with what is up, as pages show them. */
    @Transactional(propagation = Propagation.SUPPORTS, readOnly = true)
    public OpenTrouble openTrouble() {
        return alerts.openTrouble();
    }

    /** All open cases; as many as there is open work. */
    @Transactional(readOnly = true)
    public List<WorkCase> open() {
        return store.open();
    }

    /** The latest, open or settled, the latest first. */
    @Transactional(readOnly = true)
    public List<WorkCase> latest(int most) {
        return store.latest(most);
    }

    /** The open cases on a component. */
    @Transactional(readOnly = true)
    public List<WorkCase> openOn(long component) {
        return store.open().stream().filter(one -> one.component() == component).toList();
    }

    /** @param to when it was over; null while it is not */
    public record Lived(long id, String headline, Severity severity, Instant from, @Nullable Instant to) {}

    /** Cases on some components that were not over in a span, the latest first; at most 500. */
    @Transactional(readOnly = true)
    public List<Lived> during(Collection<Long> components, Instant from, Instant to) {
        return past.during(components, from, to);
    }

    /** @param kind as it stands in the log of the case: {@code taken}, {@code handed off} and so on */
    public record Worked(long id, Instant at, String kind, String words) {}

    /** What people did to some cases since an instant, as far as it says who has them, in order of time. */
    @Transactional(readOnly = true)
    public List<Worked> workOn(Collection<Long> cases, Instant since) {
        return past.workOn(cases, since);
    }

    /** Some cases by id; those that are gone are left out. */
    @Transactional(readOnly = true)
    public Map<Long, WorkCase> find(Collection<Long> ids) {
        return store.byIds(ids).stream().collect(Collectors.toMap(WorkCase::id, one -> one));
    }

    /** What a case is about: the component that causes it, then those of its alerts that are up. */
    @Transactional(readOnly = true)
    public Set<Long> about(WorkCase one) {
        var about = new LinkedHashSet<Long>();
        about.add(one.component());
        alerts.upOf(one.id()).forEach(alert -> about.add(alert.about().component()));
        return about;
    }

    /** Gives back the id of the log entry, by which the act can be undone; the same for the other acts. */
    public long take(long id, int version, Person by, Instant at) {
        var now = stillOpen(id, version, "to work on it");
        return act(now, WorkCase.Progress.takenBy(by.id()), by, at, "taken", "took the case");
    }

    public long give(long id, int version, Person by, long to, Instant at) {
        var now = stillOpen(id, version, "to give it to someone");
        var receiver =
                people.byId(to).orElseThrow(() -> new IllegalArgumentException("Choose a person to give the case to."));
        return act(now, WorkCase.Progress.takenBy(to), by, at, "given", "gave the case to " + receiver.name());
    }

    public long quiet(long id, int version, Person by, Instant until, String why, Instant at) {
        if (!until.isAfter(at)) throw new IllegalArgumentException("The time to keep quiet until must lie ahead.");
        if (until.isAfter(at.plus(LONGEST_QUIET))) {
            throw new IllegalArgumentException("A case can be quiet for " + LONGEST_QUIET.toDays() + " days at most.");
        }
        var now = stillOpen(id, version, "to make it quiet");
        var words = "made the case quiet until " + times.of(until) + because(why);
        return act(now, now.progress().quietUntil(until), by, at, "quiet", words);
    }

    public long settle(long id, int version, Person by, SettleReason reason, String why, Instant at) {
        var now = stillOpen(id, version, "to settle it again");
        var words = "settled the case as " + reason.words() + because(why);
        long entry = act(now, now.progress().settled(reason, at), by, at, "settled", words);
        store.markSettling(alerts.upOf(id));
        events.publishEvent(new CaseOver(id, at));
        events.publishEvent(
                new CaseSettled(now, alerts.scopes(now, alerts.of(id)), by.id(), reason.words(), why.strip(), at));
        return entry;
    }

    public long reopen(long id, int version, Person by, Instant at) {
        var now = current(id, version);
        if (!now.settled()) throw new Overtaken("This case is open already.");
        joined.whole(id).ifPresent(into -> {
            throw new IllegalArgumentException("It is a part of case %d, and goes on there.".formatted(into));
        });
        long entry = act(now, WorkCase.Progress.takenBy(by.id()), by, at, "reopened", "reopened the case");
        store.forgetSettling(id);
        events.publishEvent(new CaseOpenAgain(id, at));
        return entry;
    }

    /** A note changes nothing that another could have changed, so it needs no version. */
    public void note(long id, Person by, String words, Instant at) {
        if (words.isBlank()) throw new IllegalArgumentException("Write something to note.");
        if (words.length() > 4000)
            throw new IllegalArgumentException(
                    "A note is at most 4,000 characters long, this has " + words.length() + ".");
        var now = store.lock(id);
        store.addEntry(now.id(), at, by.id(), "note", words.strip(), null);
        tellPages();
    }

    /** Puts back how the case was before an act of the same person, while nothing has been done to it since. */
    public long undo(long entryId, Person by, Instant at) {
        var entry = store.entry(entryId).orElseThrow(() -> new Overtaken("There is nothing to undo."));
        var before = entry.before();
        if (before == null
                || !Long.valueOf(by.id()).equals(entry.person())
                || entry.at().plus(UNDO).isBefore(at)) {
            throw new Overtaken("This can no longer be undone.");
        }
        var now = current(entry.caseId(), before.versionAfter());
        if (!store.change(now, before.standing())) throw overtaken(now.id());
        if (now.settled()) {
            store.forgetSettling(now.id());
            events.publishEvent(new CaseOpenAgain(now.id(), at));
        }
        store.forgetUndo(entryId);
        store.addEntry(now.id(), at, by.id(), "undone", "took that back: " + entry.words(), null);
        tellPages();
        return now.id();
    }

    /**
     * The case goes to its owning team.
     *
     * @param by null where a rule hands it off
     */
    public void handOff(long id, int version, @Nullable Person by, String team, Instant at) {
        var now = stillOpen(id, version, "to hand it off");
        if (!store.change(now, now.progress().handedOffBy(by == null ? null : by.id()))) throw overtaken(id);
        if (by == null) store.addEntry(id, at, null, "handed off", "A rule handed the case off to " + team, null);
        else store.addEntry(id, at, by.id(), "handed off", "handed the case off to " + team, null);
        tellPages();
    }

    /** The owning team gave it back: it stands at the top of Cases until somebody deals with it. */
    public void returned(long id, String team, String reason, Instant at) {
        var now = store.lock(id);
        var words = team + " returned the ticket" + (reason.isBlank() ? " without a reason" : ": " + reason);
        if (!now.settled()) {
            store.change(now, now.progress().returnedFor(reason));
            store.respondBy(id, respondBy(at, now.severity(), now.component()));
        }
        store.addEntry(id, at, null, "returned", words, null);
        events.publishEvent(new CaseReturned(id, at));
        tellPages();
    }

    /** Something that Morvet saw and that belongs into the log. */
    public void log(long id, String kind, String words, Instant at) {
        store.addEntry(id, at, null, kind, words, null);
        tellPages();
    }

    /** Something that somebody said elsewhere and that belongs into the log. */
    public void log(long id, Person by, String kind, String words, Instant at) {
        store.addEntry(id, at, by.id(), kind, words, null);
        tellPages();
    }

    /** @param who null where Morvet saw it */
    public record Logged(Instant at, @Nullable Long who, String words) {}

    /** What the log of a case says, the latest first. */
    @Transactional(readOnly = true)
    public List<Logged> logged(long id) {
        return store.entries(id).stream()
                .map(one -> new Logged(one.at(), one.person(), one.words()))
                .toList();
    }

    /** The oldest open case of each component that has one. */
    @Transactional(readOnly = true)
    public Map<Long, Long> openByComponent() {
        return store.open().stream().collect(Collectors.toMap(WorkCase::component, WorkCase::id, Math::min));
    }

    /** The open cases that are about failure families. */
    @Transactional(readOnly = true)
    public OfFamilies openByFamily() {
        return new OfFamilies(store.open().stream()
                .filter(one -> one.scope().family() != null)
                .collect(Collectors.toMap(WorkCase::scope, one -> one, (first, again) -> first)));
    }

    /** The open cases about failure families, each on an interface or wherever it shows. */
    public record OfFamilies(Map<MessageScope, WorkCase> open) {
        public Optional<WorkCase> of(long component, @Nullable Long family) {
            if (family == null) return Optional.empty();
            return Optional.ofNullable(open.get(new MessageScope(component, family, null)))
                    .or(() -> Optional.ofNullable(open.get(new MessageScope(null, family, null))));
        }
    }

    /**
     * Opens a case about a failure family on an interface, for what no alert has opened one; it is taken by who opens it.
     *
     * @param failures how many failed
     */
    public long open(
            long component,
            long family,
            Severity severity,
            String headline,
            Instant first,
            Instant last,
            long failures,
            Person by,
            Instant at) {
        var topic = new MessageScope(component, family, null).topic();
        var open = store.openAbout(component, topic);
        if (open.isPresent()) return open.get().id();
        var respondBy = respondBy(at, severity, component);
        long id = store.add(component, topic, severity, headline, at, respondBy, first);
        store.measure(id, severity, headline, respondBy, first, last, failures, null);
        act(store.lock(id), WorkCase.Progress.takenBy(by.id()), by, at, "opened", "opened the case");
        return id;
    }

    private Instant respondBy(Instant at, Severity severity, long component) {
        return ResponseTime.by(null, at, severity, estate.tierOf(estate.component(component)));
    }

    private WorkCase current(long id, int version) {
        var now = store.lock(id);
        if (now.version() != version) throw overtaken(id);
        return now;
    }

    private Overtaken overtaken(long id) {
        var last = store.entries(id).stream()
                .filter(entry -> !entry.kind().equals("note"))
                .findFirst();
        return new Overtaken(last.map(entry -> {
                    var person = entry.person();
                    var who = person == null
                            ? ""
                            : people.byId(person).map(Person::name).orElse("Somebody") + " ";
                    return "Somebody was faster: " + who + entry.words() + " (" + times.of(entry.at())
                            + "). Nothing of yours was done.";
                })
                .orElse("The case has changed since you opened it. Nothing of yours was done."));
    }

    private WorkCase stillOpen(long id, int version, String to) {
        var now = current(id, version);
        if (now.settled()) throw new Overtaken("This case is settled. Reopen it " + to + ".");
        return now;
    }

    private static String because(String why) {
        return why.isBlank() ? "" : ": " + why.strip();
    }

    private long act(WorkCase before, WorkCase.Progress next, Person by, Instant at, String kind, String words) {
        if (!store.change(before, next)) throw overtaken(before.id());
        var undo = new CaseStore.Before(before.progress(), before.version() + 1);
        long entry = store.addEntry(before.id(), at, by.id(), kind, words, undo);
        tellPages();
        return entry;
    }

    private void tellPages() {
        live.changed("cases");
        live.changed("now");
    }
}
