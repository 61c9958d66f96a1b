package app.morvet.views.shift;

import app.morvet.core.shift.Mentions;
import app.morvet.ground.access.People;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.page.Logged;
import app.morvet.ground.page.NewSince;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What people write into the log of the shift; what is to be looked at later comes back to the now line at its time. */
@Service
class ShiftNotes implements Logged, NowSource {
    static final String TOPIC = "shift";
    private static final int LONGEST = 2000;
    private static final int MOST_TO_COME = 100;

    /**
     * @param handover whether the next shift is told
     * @param remind   when it comes back; null where it does not
     */
    record Note(long id, Instant at, String who, String words, boolean handover, @Nullable Instant remind) {}

    private final JdbcClient jdbc;
    private final People people;
    private final Times times;

    ShiftNotes(JdbcClient jdbc, People people, Times times) {
        this.jdbc = jdbc;
        this.people = people;
        this.times = times;
    }

    /** @throws IllegalArgumentException saying what cannot be */
    @Transactional
    public void write(long person, String words, boolean handover, @Nullable Instant remind, Instant now) {
        if (words.isBlank()) throw new IllegalArgumentException("say what is to be noted");
        if (words.length() > LONGEST)
            throw new IllegalArgumentException("a note has %d letters at most".formatted(LONGEST));
        if (remind != null && !remind.isAfter(now))
            throw new IllegalArgumentException("the time to look again lies ahead");
        jdbc.sql(
                        """
                        insert into shift_note (at, person_id, words, handover, remind_at)
                        values (:at, :person, :words, :handover, :remind)""")
                .param("at", Stamp.of(now))
                .param("person", person)
                .param("words", words.strip())
                .param("handover", handover)
                .param("remind", Stamp.of(remind))
                .update();
    }

    /** Somebody has looked at it. */
    @Transactional
    public void done(long note, long person, Instant now) {
        jdbc.sql("update shift_note set done_at = :at, done_by = :person where id = :id and done_at is null")
                .param("at", Stamp.of(now))
                .param("person", person)
                .param("id", note)
                .update();
    }

    /** Those for the next shift that were written since an instant, in order of time. */
    List<Note> forHandover(Instant since) {
        return jdbc.sql("select * from shift_note where handover and at >= :since order by at")
                .param("since", Stamp.of(since))
                .query((row, number) -> note(row))
                .list();
    }

    /** What nobody is done with yet, by the time at which it comes back. */
    List<Note> toLookAt() {
        return jdbc.sql(
                        "select * from shift_note where remind_at is not null and done_at is null order by remind_at limit :most")
                .param("most", MOST_TO_COME)
                .query((row, number) -> note(row))
                .list();
    }

    /** How many notes since an instant name a person. */
    long naming(String login, Instant since) {
        return jdbc
                .sql("select words from shift_note where at >= :since and words like :login")
                .param("since", Stamp.of(since))
                .param(
                        "login",
                        "%@" + login.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%")
                .query(String.class)
                .list()
                .stream()
                .filter(words -> Mentions.names(words, login))
                .count();
    }

    private Note note(ResultSet row) throws SQLException {
        return new Note(
                row.getLong("id"),
                Stamp.in(row, "at"),
                people.names().getOrDefault(row.getLong("person_id"), "somebody"),
                row.getString("words"),
                row.getBoolean("handover"),
                Stamp.orNull(row, "remind_at"));
    }

    @Override
    public List<Line> logged(Instant from, Instant to, String words, int most) {
        return jdbc
                .sql(
                        """
                        select * from shift_note where at >= :from and at < :to and words ilike :words order by at desc limit :most""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("words", Logged.anywhere(words))
                .param("most", most)
                .query((row, number) -> note(row))
                .list()
                .stream()
                .map(one -> new Line(one.at(), one.who(), "note", one.words(), ""))
                .toList();
    }

    @Override
    public List<NowItem> now() {
        long due = jdbc.sql("select count(*) from shift_note where remind_at <= :now and done_at is null")
                .param("now", Stamp.of(times.now()))
                .query(Long.class)
                .single();
        return due == 0
                ? List.of()
                : List.of(new NowItem(
                        "notice", NewSince.words(due, "note to look at", "notes to look at"), "/shift/log"));
    }

    @Override
    public List<String> topics() {
        return List.of("now", TOPIC);
    }
}
