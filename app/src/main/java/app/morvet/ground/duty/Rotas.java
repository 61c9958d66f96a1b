package app.morvet.ground.duty;

import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who is in which team, and who of it is on duty when. */
@Service
public class Rotas {
    /** The topic of {@link Live} on which rotas change. */
    public static final String TOPIC = "duty";

    private static final Instant FAR = Instant.parse("9999-01-01T00:00:00Z");
    /** So far it is looked until when somebody is on duty. */
    public static final Duration AHEAD = Duration.ofDays(62);

    private static final Duration KEPT_FOR = Duration.ofDays(400);
    private static final String OVERTAKEN =
            "Somebody else changed this rota meanwhile. Nothing was saved; look at it as it is now.";

    /** How turns are taken in a line. */
    public record LineTurns(long id, int line, Turns turns) {}

    /** What is otherwise for a while. */
    public record Said(long id, Rota.Change change) {}

    /** @param version counts its changes */
    public record Standing(Rota rota, List<LineTurns> turns, List<Said> changes, int version) {}

    private final RotaStore store;
    private final People people;
    private final Estate estate;
    private final Audit audit;
    private final Live live;
    private final MorvetSettings settings;
    private final Clock clock;

    Rotas(RotaStore store, People people, Estate estate, Audit audit, Live live, MorvetSettings settings, Clock clock) {
        this.store = store;
        this.people = people;
        this.estate = estate;
        this.audit = audit;
        this.live = live;
        this.settings = settings;
        this.clock = clock;
    }

    /** How a line is called, from 0. */
    public static String line(int number) {
        return Rota.LINES.get(number);
    }

    /** The rota of a team; one that nobody has made has no lines. */
    public Standing of(long team) {
        return of(List.of(team)).get(team);
    }

    /** The rotas of some teams, by team. */
    public Map<Long, Standing> of(Collection<Long> teams) {
        var kept = store.find(teams, clock.instant().minus(KEPT_FOR));
        var off = kept.isEmpty()
                ? Set.<Long>of()
                : people.cards().stream()
                        .filter(one -> !one.active())
                        .map(one -> one.person().id())
                        .collect(Collectors.toSet());
        var none = new Standing(new Rota(settings.zone(), List.of(), List.of()), List.of(), List.of(), 0);
        var found = new HashMap<Long, Standing>();
        for (long team : teams) found.put(team, without(off, kept.getOrDefault(team, none)));
        return found;
    }

    /** Whoever is switched off is on duty no more: their turns are gaps until somebody covers, or the rota is set without them. */
    private static Standing without(Set<Long> off, Standing kept) {
        if (off.isEmpty()) return kept;
        var changes = new ArrayList<Rota.Change>();
        for (var one : kept.rota().changes())
            if (!(one instanceof Rota.Change.Covers covers && off.contains(covers.person()))) changes.add(one);
        for (long one : off) changes.add(new Rota.Change.Away(one, Instant.EPOCH, FAR));
        return new Standing(
                new Rota(kept.rota().zone(), kept.rota().lines(), changes),
                kept.turns(),
                kept.changes(),
                kept.version());
    }

    /**
     * A line as it is at an instant.
     *
     * @param card who is on duty; null where nobody is
     * @param duty until when that is so, as far as two months ahead
     */
    public record OnLine(String line, People.@Nullable Card card, Rota.Duty duty) {
        public String name() {
            if (card != null) return card.person().name();
            return duty.closed() ? "nobody at this hour" : "nobody";
        }

        public String phone() {
            return card == null ? "" : card.phone();
        }

        public String mail() {
            return card == null ? "" : card.mail();
        }
    }

    /** The lines of a rota that anybody takes turns in, in the order in which they are called. */
    public List<OnLine> lines(Rota rota, Instant at) {
        var found = new ArrayList<OnLine>();
        for (int line = 0; line < rota.lines().size(); line++) {
            if (rota.lines().get(line).isEmpty()) continue;
            var duty = rota.duties(line, at, at.plus(AHEAD)).getFirst();
            var card = Optional.ofNullable(duty.person()).flatMap(people::card).orElse(null);
            found.add(new OnLine(line(line), card, duty));
        }
        return found;
    }

    /** Who of a team is on duty at an instant, in the order in which they are called; without those who are on duty twice. */
    public List<People.Card> onDuty(long team, Instant at) {
        return lines(of(team).rota(), at).stream()
                .map(OnLine::card)
                .filter(Objects::nonNull)
                .distinct()
                .toList();
    }

    /** The teams that somebody is in. */
    public List<Long> teamsOf(long person) {
        return store.teamsOf(person);
    }

    /** By name. */
    public List<People.Card> members(long team) {
        var ids = store.members(team);
        return people.cards().stream()
                .filter(one -> ids.contains(one.person().id()))
                .sorted(Comparator.comparing(one -> one.person().name()))
                .toList();
    }

    private String name(long team) {
        return estate.team(team).map(Estate.Team::name).orElseThrow();
    }

    private String names(List<Long> ids) {
        var names = people.names();
        return String.join(
                ", ", ids.stream().map(id -> names.getOrDefault(id, "somebody")).toList());
    }

    private void count(long team, int version, ZoneId zone) {
        if (!store.changed(team, version, zone)) throw new IllegalArgumentException(OVERTAKEN);
        live.changed(TOPIC);
    }

    /**
     * Sets how turns are taken in a line from a day on; what was agreed for before that day stays.
     *
     * @throws IllegalArgumentException where somebody else was faster, or one of them is not of the team
     */
    @Transactional
    public void set(long team, int version, ZoneId zone, int line, Turns turns, @Nullable Person by) {
        if (line < 0 || line >= Rota.MOST_LINES) throw new IllegalArgumentException("a rota has at most 3 lines");
        var members = store.members(team);
        for (long one : turns.people())
            if (!members.contains(one))
                throw new IllegalArgumentException(names(List.of(one)) + " is not of this team");
        count(team, version, zone);
        store.set(team, line, turns);
        if (by != null)
            audit.record(
                    by,
                    "rota changed",
                    "rota of " + name(team),
                    null,
                    "%s: %s %s".formatted(line(line), names(turns.people()), turns.words()));
    }

    /** Takes away how turns are taken from a day on; then what was before goes on. */
    @Transactional
    public void drop(long team, int version, long turns, Person by) {
        var before = of(team);
        var gone = before.turns().stream().filter(one -> one.id() == turns).findFirst();
        count(team, version, before.rota().zone());
        if (store.drop(team, turns) > 0)
            audit.record(
                    by,
                    "rota changed",
                    "rota of " + name(team),
                    gone.map(one -> line(one.line()) + ": " + names(one.turns().people()) + " "
                                    + one.turns().words())
                            .orElse(null),
                    null);
    }

    /**
     * Somebody is away, or covers.
     *
     * @throws IllegalArgumentException where they are not of the team, or it is long over
     */
    @Transactional
    public void say(long team, Rota.Change change, @Nullable Person by) {
        var before = of(team);
        if (before.rota().isEmpty()) throw new IllegalArgumentException("this team has no rota yet");
        long person =
                switch (change) {
                    case Rota.Change.Away one -> one.person();
                    case Rota.Change.Covers one -> one.person();
                };
        if (!store.members(team).contains(person))
            throw new IllegalArgumentException("whoever is away or covers is of this team");
        if (!change.from().isBefore(change.to()))
            throw new IllegalArgumentException("somebody is away, or covers, from a time to a later one");
        if (Duration.between(change.from(), change.to()).compareTo(Duration.ofDays(366)) > 0)
            throw new IllegalArgumentException("somebody is away, or covers, for a year at most");
        count(team, before.version(), before.rota().zone());
        store.add(team, change, by == null ? null : by.id());
        if (by != null) audit.record(by, "rota changed", "rota of " + name(team), null, words(change));
    }

    /** The same of several, all or none; what is said already is not said again. */
    @Transactional
    public void say(long team, List<Rota.Change> changes, Person by) {
        var known = new ArrayList<>(of(team).rota().changes());
        for (var one : changes)
            if (!known.contains(one)) {
                say(team, one, by);
                known.add(one);
            }
    }

    /** {@code Annika Ruuth covers the first line, 2027-03-18T18:00 to 2027-03-18T23:00} */
    private String words(Rota.Change change) {
        return switch (change) {
            case Rota.Change.Away one ->
                "%s is away, %s to %s".formatted(names(List.of(one.person())), one.from(), one.to());
            case Rota.Change.Covers one ->
                "%s covers the %s, %s to %s"
                        .formatted(names(List.of(one.person())), line(one.line()), one.from(), one.to());
        };
    }

    @Transactional
    public void takeBack(long team, long change, Person by) {
        var before = of(team);
        var gone = before.changes().stream()
                .filter(one -> one.id() == change)
                .findFirst()
                .orElse(null);
        if (gone == null || store.takeBack(team, change) == 0) return;
        count(team, before.version(), before.rota().zone());
        audit.record(by, "rota changed", "rota of " + name(team), words(gone.change()), null);
    }

    /** Whoever is said elsewhere to be of a team is; who is not any more leaves by hand, since their turns are somebody's. */
    @EventListener
    @Transactional
    public void on(People.OfTeams said) {
        for (var key : said.teams())
            estate.team(key)
                    .filter(team ->
                            !store.members(team.id()).contains(said.person().id()))
                    .ifPresent(team -> join(team.id(), said.person().id(), said.person()));
    }

    @Transactional
    public void join(long team, long person, @Nullable Person by) {
        if (people.byId(person).isEmpty()) throw new IllegalArgumentException("choose a person");
        store.join(team, person);
        if (by != null) audit.record(by, "joined a team", "team " + name(team), null, names(List.of(person)));
        live.changed(TOPIC);
    }

    /** @throws IllegalArgumentException where they still have turns to come */
    @Transactional
    public void leave(long team, long person, Person by) {
        var now = clock.instant();
        var rota = of(team).rota();
        for (int line = 0; line < rota.lines().size(); line++)
            if (rota.duties(line, now, now.plus(Duration.ofDays(370))).stream()
                    .anyMatch(one -> Long.valueOf(person).equals(one.person())))
                throw new IllegalArgumentException(
                        names(List.of(person)) + " has turns to come; set the rota without them first");
        if (store.leave(team, person) > 0)
            audit.record(by, "left a team", "team " + name(team), names(List.of(person)), null);
        live.changed(TOPIC);
    }
}
