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
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who is in which team, and who of it is on duty when. */
@Service
public class Rotas {
    /** The topic of {@link Live} on which rotas change. */
    public static final String TOPIC = "duty";

    private static final List<String> LINES = List.of("first line", "second line", "third line");
    private static final Instant FAR = Instant.parse("9999-01-01T00:00:00Z");
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
        return LINES.get(number);
    }

    /** The rota of a team; one that nobody has made has no lines. */
    public Standing of(long team) {
        return store.find(team, clock.instant().minus(KEPT_FOR))
                .map(this::withoutThoseSwitchedOff)
                .orElseGet(
                        () -> new Standing(new Rota(settings.zone(), List.of(), List.of()), List.of(), List.of(), 0));
    }

    /** Whoever is switched off is on duty no more: their turns are gaps until somebody covers, or the rota is set without them. */
    private Standing withoutThoseSwitchedOff(Standing kept) {
        var off = people.cards().stream()
                .filter(one -> !one.active())
                .map(one -> one.person().id())
                .collect(java.util.stream.Collectors.toSet());
        if (off.isEmpty()) return kept;
        var changes = new java.util.ArrayList<Rota.Change>();
        for (var one : kept.rota().changes())
            if (!(one instanceof Rota.Change.Covers covers && off.contains(covers.person()))) changes.add(one);
        for (long one : off) changes.add(new Rota.Change.Away(one, Instant.EPOCH, FAR));
        return new Standing(
                new Rota(kept.rota().zone(), kept.rota().lines(), changes),
                kept.turns(),
                kept.changes(),
                kept.version());
    }

    /** Who of a team is on duty at an instant, in the order in which they are called; without those who are on duty twice. */
    public List<Person> onDuty(long team, Instant at) {
        var rota = of(team).rota();
        return java.util.stream.IntStream.range(0, rota.lines().size())
                .mapToObj(line -> Optional.ofNullable(rota.on(line, at)))
                .flatMap(Optional::stream)
                .distinct()
                .map(people::byId)
                .flatMap(Optional::stream)
                .toList();
    }

    public List<Person> members(long team) {
        return store.members(team).stream()
                .map(people::byId)
                .flatMap(Optional::stream)
                .sorted(java.util.Comparator.comparing(Person::name))
                .toList();
    }

    private String name(long team) {
        return estate.team(team).map(Estate.Team::name).orElseThrow();
    }

    private String names(List<Long> ids) {
        return String.join(
                ", ",
                ids.stream()
                        .map(id -> people.byId(id).map(Person::name).orElse("somebody"))
                        .toList());
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
