package app.morvet.views.shift;

import app.morvet.core.shift.Turns;
import app.morvet.ground.base.AgedData;
import app.morvet.ground.base.Stamp;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Who took over when. */
@Repository
class ShiftTurns implements AgedData {
    private static final Duration KEPT = Duration.ofDays(400);
    /** Whoever was away for longer is told of what is new since then. */
    private static final Duration LOOKED_AT = Duration.ofDays(14);

    private final JdbcClient jdbc;

    ShiftTurns(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void take(long person, Instant at) {
        jdbc.sql("insert into shift_taken (person_id, at) values (:person, :at)")
                .param("person", person)
                .param("at", Stamp.of(at))
                .update();
    }

    /** Of the last two weeks, in order of time. */
    List<Turns.Taken> latest(Instant now) {
        return jdbc.sql("select person_id, at from shift_taken where at > :since order by at, id")
                .param("since", Stamp.of(now.minus(LOOKED_AT)))
                .query((row, number) -> new Turns.Taken(row.getLong("person_id"), Stamp.in(row, "at")))
                .list();
    }

    @Override
    public void dropOld(Instant now) {
        jdbc.sql("delete from shift_taken where at < :before")
                .param("before", Stamp.of(now.minus(KEPT)))
                .update();
    }
}
