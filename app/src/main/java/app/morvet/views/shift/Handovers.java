package app.morvet.views.shift;

import app.morvet.core.shift.HandoverDraft;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Logged;
import app.morvet.ground.page.Times;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.Mails;
import app.morvet.work.cases.CaseViews;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What a shift gives the next: drafted from what is known, kept in versions, and read by whoever takes over. */
@Service
class Handovers implements Logged {
    private static final Duration AHEAD = Duration.ofHours(10);
    private static final int LONGEST = 60_000;
    private static final String ADDRESS = "[^@\\s]{1,100}@[^@\\s]{1,150}";

    /**
     * One that was written, as it stands last.
     *
     * @param taken null while nobody has taken over with it
     */
    record Written(
            long id, int version, Instant at, String by, String words, @Nullable Instant taken, String takenBy) {}

    private final JdbcClient jdbc;
    private final ShiftTurns turns;
    private final ShiftNotes notes;
    private final CaseViews cases;
    private final List<Coming> coming;
    private final Mails mails;
    private final MorvetSettings settings;
    private final Estate estate;
    private final People people;
    private final Times times;

    Handovers(
            JdbcClient jdbc,
            ShiftTurns turns,
            ShiftNotes notes,
            CaseViews cases,
            List<Coming> coming,
            Mails mails,
            MorvetSettings settings,
            Estate estate,
            People people,
            Times times) {
        this.jdbc = jdbc;
        this.turns = turns;
        this.notes = notes;
        this.cases = cases;
        this.coming = coming;
        this.mails = mails;
        this.settings = settings;
        this.estate = estate;
        this.people = people;
        this.times = times;
    }

    /** As it would be written now. */
    String draft(Person reader) {
        var now = times.now();
        var taken = turns.latest(now);
        var began = taken.isEmpty()
                ? now.minus(Duration.ofHours(8))
                : taken.getLast().at();
        var watched = new ArrayList<HandoverDraft.Watched>();
        for (var one : cases.open(CaseViews.Show.QUIET, reader, null, ""))
            watched.add(new HandoverDraft.Watched(one.id(), one.headline(), "quiet until " + one.quiet()));
        return new HandoverDraft(
                        times.of(began),
                        times.of(now),
                        cases.open(CaseViews.Show.OPEN, reader, null, "").stream()
                                .map(one -> new HandoverDraft.Open(
                                        one.id(), one.over() ? "over" : one.severity(), one.headline(), next(one)))
                                .toList(),
                        watched,
                        coming.stream()
                                .flatMap(one -> one.coming(now, now.plus(AHEAD)).stream())
                                .sorted(Comparator.comparing(Coming.Item::at))
                                .map(one -> new HandoverDraft.Coming(times.of(one.at()), one.words()))
                                .toList(),
                        notes.forHandover(began).stream()
                                .map(one -> "%s, %s: %s".formatted(times.of(one.at()), one.who(), one.words()))
                                .toList())
                .markdown();
    }

    /** What is next of it. */
    private static String next(CaseViews.Row one) {
        if (!one.returnReason().isEmpty()) return "returned by its team: " + one.returnReason();
        if (one.over()) return "over, to be settled" + (one.who().isEmpty() ? "" : " by " + one.who());
        return one.who().isEmpty() ? one.state() + ", nobody has it" : one.state() + ", " + one.who() + " has it";
    }

    /** The one that nobody has taken over with; empty where none is written. */
    Optional<Written> waiting() {
        return latest("h.taken_at is null");
    }

    /** The one that was taken over with last. */
    Optional<Written> taken() {
        return latest("h.taken_at is not null");
    }

    private Optional<Written> latest(String which) {
        return jdbc.sql(written(which) + " order by h.id desc, v.version desc limit 1")
                .query((row, number) -> written(row))
                .optional();
    }

    private static String written(String which) {
        return """
                select h.id, h.taken_at, h.taken_by, v.version, v.at, v.person_id, v.words
                  from handover h join handover_version v on v.handover_id = h.id
                 where\s"""
                + which;
    }

    private Written written(ResultSet row) throws SQLException {
        var names = people.names();
        return new Written(
                row.getLong("id"),
                row.getInt("version"),
                Stamp.in(row, "at"),
                names.getOrDefault(row.getLong("person_id"), "somebody"),
                row.getString("words"),
                Stamp.orNull(row, "taken_at"),
                names.getOrDefault(row.getLong("taken_by"), ""));
    }

    /** One by its id, in each of its versions, the last first; none where there is no such. */
    List<Written> versions(long id) {
        return jdbc.sql(written("h.id = :id") + " order by v.version desc")
                .param("id", id)
                .query((row, number) -> written(row))
                .list();
    }

    /**
     * Writes a version of the one that waits, or begins one.
     *
     * @param seen the version that the writer saw; 0 where there was none
     * @throws IllegalArgumentException where it is empty, too long, or somebody else wrote meanwhile
     */
    @Transactional
    public void write(long person, String words, int seen, Instant now) {
        if (words.isBlank()) throw new IllegalArgumentException("a handover says something");
        if (words.length() > LONGEST)
            throw new IllegalArgumentException("a handover has %d letters at most".formatted(LONGEST));
        jdbc.sql("lock table handover in share row exclusive mode").update();
        var before = waiting().orElse(null);
        if ((before == null ? 0 : before.version()) != seen)
            throw new IllegalArgumentException(
                    before == null
                            ? "somebody has taken over meanwhile; what you typed is still here"
                            : before.by() + " has written at " + times.of(before.at())
                                    + " meanwhile; what you typed is still here");
        long id = before != null
                ? before.id()
                : jdbc.sql("insert into handover (begun_at) values (:at) returning id")
                        .param("at", Stamp.of(now))
                        .query(Long.class)
                        .single();
        jdbc.sql(
                        """
                        insert into handover_version (handover_id, version, at, person_id, words)
                        values (:id, :version, :at, :person, :words)""")
                .param("id", id)
                .param("version", seen + 1)
                .param("at", Stamp.of(now))
                .param("person", person)
                .param("words", words)
                .update();
    }

    /**
     * Sends the one that waits, as it stands, to a team or an address.
     *
     * @return to whom
     * @throws IllegalArgumentException where there is none, or nobody that a mail gets to
     */
    @Transactional
    public String send(String team, String address, Person by, Instant now) {
        var one = waiting().orElseThrow(() -> new IllegalArgumentException("write the handover before it is sent"));
        var to = estate.team(team);
        var mail = to.map(Estate.Team::mail).orElse(address.strip());
        if (!mail.matches(ADDRESS)) throw new IllegalArgumentException("choose a team, or type a mail address");
        mails.post(Delivery.mail(
                new Delivery.Of.Handover(one.id()),
                to.map(Estate.Team::id).orElse(null),
                by.id(),
                Delivery.About.NEWS,
                mail,
                "Handover by %s, %s".formatted(one.by(), times.of(one.at())),
                one.words() + "\n\n" + settings.link("/shift/handover/" + one.id()) + "\n",
                now,
                now));
        return mail;
    }

    /** Somebody takes over with what was written for them. */
    @Transactional
    public void take(long person, Instant now) {
        turns.take(person, now);
        jdbc.sql("update handover set taken_at = :at, taken_by = :person where taken_at is null")
                .param("at", Stamp.of(now))
                .param("person", person)
                .update();
    }

    @Override
    public List<Line> logged(Instant from, Instant to, String words, int most) {
        return jdbc
                .sql(written("v.at >= :from and v.at < :to and v.words ilike :words")
                        + " order by v.at desc limit :most")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", Logged.anywhere(words))
                .param("most", most)
                .query((row, number) -> written(row))
                .list()
                .stream()
                .map(one -> new Line(
                        one.at(),
                        one.by(),
                        "handover",
                        "Handover written, version %d%s"
                                .formatted(
                                        one.version(),
                                        one.taken() == null
                                                ? ""
                                                : "; taken over by %s at %s"
                                                        .formatted(one.takenBy(), times.of(one.taken()))),
                        "/shift/handover/" + one.id()))
                .toList();
    }
}
