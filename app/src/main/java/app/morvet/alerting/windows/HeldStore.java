package app.morvet.alerting.windows;

import app.morvet.core.windows.Plan;
import app.morvet.core.windows.Telling;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of when windows were on, and of what they held. */
@Repository
class HeldStore {
    /**
     * What a window held.
     *
     * @param until    the end of the window as it was last seen
     * @param restsAt  its value when that was over, where it stands on what happened inside alone; or null
     * @param released since when it is work; or null
     */
    record Row(
            long alert,
            long window,
            LocalDateTime meant,
            Instant until,
            boolean paused,
            @Nullable Double restsAt,
            @Nullable Instant released) {}

    private final JdbcClient jdbc;

    HeldStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Row row(ResultSet row, int number) throws SQLException {
        return new Row(
                row.getLong("alert_id"),
                row.getLong("window_id"),
                row.getObject("meant", LocalDateTime.class),
                Stamp.in(row, "until"),
                row.getBoolean("paused"),
                row.getObject("rests_at", Double.class),
                Stamp.orNull(row, "released_at"));
    }

    private static Windows.Time time(ResultSet row, int number) throws SQLException {
        return new Windows.Time(
                row.getLong("window_id"),
                row.getObject("meant", LocalDateTime.class),
                Stamp.in(row, "from_at"),
                Stamp.in(row, "to_at"),
                Stamp.orNull(row, "ended_at"));
    }

    /** An alert is held, or held by another window, or until another time. */
    void hold(long alert, long window, LocalDateTime meant, Instant until, boolean paused) {
        jdbc.sql(
                        """
                        insert into held_alert (alert_id, window_id, meant, until, paused) values (:alert, :window, :meant, :until, :paused)
                            on conflict (alert_id) do update
                           set window_id = excluded.window_id, meant = excluded.meant, until = excluded.until,
                               paused = held_alert.paused or excluded.paused, rests_at = null""")
                .param("alert", alert)
                .param("window", window)
                .param("meant", meant)
                .param("until", Stamp.of(until))
                .param("paused", paused)
                .update();
    }

    /** It ended before it was meant to. */
    void over(long alert, Instant until) {
        jdbc.sql("update held_alert set until = :until where alert_id = :alert and until > :until")
                .param("alert", alert)
                .param("until", Stamp.of(until))
                .update();
    }

    void rests(long alert, double at) {
        jdbc.sql("update held_alert set rests_at = :at where alert_id = :alert")
                .param("alert", alert)
                .param("at", at)
                .update();
    }

    void released(long alert, Instant at) {
        jdbc.sql("update held_alert set released_at = :at where alert_id = :alert")
                .param("alert", alert)
                .param("at", Stamp.of(at))
                .update();
    }

    Map<Long, Row> of(Collection<Long> alerts) {
        var found = new HashMap<Long, Row>();
        if (alerts.isEmpty()) return found;
        jdbc.sql("select * from held_alert where alert_id = any(:alerts::bigint[])")
                .param("alerts", alerts.toArray(Long[]::new))
                .query(HeldStore::row)
                .list()
                .forEach(one -> found.put(one.alert(), one));
        return found;
    }

    /** What a window held in one of its times. */
    List<Row> in(long window, LocalDateTime meant, int most) {
        return jdbc.sql(
                        "select * from held_alert where window_id = :window and meant = :meant order by alert_id limit :most")
                .param("window", window)
                .param("meant", meant)
                .param("most", most)
                .query(HeldStore::row)
                .list();
    }

    /** How many a window held, by its times. */
    Map<LocalDateTime, Long> counts(long window) {
        var found = new HashMap<LocalDateTime, Long>();
        jdbc.sql("select meant, count(*) as held from held_alert where window_id = :window group by meant")
                .param("window", window)
                .query(row -> {
                    found.put(row.getObject("meant", LocalDateTime.class), row.getLong("held"));
                });
        return found;
    }

    List<Windows.Time> open() {
        return jdbc.sql("select * from window_time where ended_at is null order by to_at")
                .query(HeldStore::time)
                .list();
    }

    /** The latest times of a window that have begun. */
    List<Windows.Time> times(long window, int most) {
        return jdbc.sql("select * from window_time where window_id = :window order by from_at desc limit :most")
                .param("window", window)
                .param("most", most)
                .query(HeldStore::time)
                .list();
    }

    /** Those that have begun, of all windows, that have to do with a span. */
    List<Windows.Time> times(Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select * from window_time where from_at < :to and coalesce(ended_at, to_at) > :from
                           and from_at > cast(:from as timestamptz) - interval '15 days' order by from_at""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(HeldStore::time)
                .list();
    }

    Optional<Windows.Time> time(long window, LocalDateTime meant) {
        return jdbc.sql("select * from window_time where window_id = :window and meant = :meant")
                .param("window", window)
                .param("meant", meant)
                .query(HeldStore::time)
                .optional();
    }

    /** One has begun, or begins or ends at another time than before; whether that is new. */
    boolean begun(Windows.Time one) {
        return jdbc.sql(
                                """
                        insert into window_time (window_id, meant, from_at, to_at) values (:window, :meant, :from, :to)
                            on conflict (window_id, meant) do update
                           set from_at = excluded.from_at, to_at = excluded.to_at, ended_at = null
                         where window_time.to_at <> excluded.to_at or window_time.from_at <> excluded.from_at or window_time.ended_at is not null""")
                        .param("window", one.window())
                        .param("meant", one.meant())
                        .param("from", Stamp.of(one.from()))
                        .param("to", Stamp.of(one.to()))
                        .update()
                > 0;
    }

    /** What was told last of the times of windows, by their ids, until the last of it was told. */
    Map<Long, List<Telling.Told>> told() {
        var found = new HashMap<Long, List<Telling.Told>>();
        jdbc.sql("select * from window_told order by window_id, meant").query(row -> {
            found.computeIfAbsent(row.getLong("window_id"), it -> new ArrayList<>())
                    .add(new Telling.Told(
                            row.getObject("meant", LocalDateTime.class),
                            Telling.Said.valueOf(row.getString("said")),
                            new Plan.Span(Stamp.in(row, "from_at"), Stamp.in(row, "to_at"))));
        });
        return found;
    }

    void told(long window, Telling.Told one) {
        if (one.said().last()) {
            forgetTold(window, one.meant());
            return;
        }
        jdbc.sql(
                        """
                        insert into window_told (window_id, meant, said, from_at, to_at) values (:window, :meant, :said, :from, :to)
                            on conflict (window_id, meant) do update
                           set said = excluded.said, from_at = excluded.from_at, to_at = excluded.to_at""")
                .param("window", window)
                .param("meant", one.meant())
                .param("said", one.said().name())
                .param("from", Stamp.of(one.span().from()))
                .param("to", Stamp.of(one.span().to()))
                .update();
    }

    void forgetTold(long window, LocalDateTime meant) {
        jdbc.sql("delete from window_told where window_id = :window and meant = :meant")
                .param("window", window)
                .param("meant", meant)
                .update();
    }

    /** Times of a window that held something though no round saw them on, as when no node ran: until when, by when they were meant. */
    Map<LocalDateTime, Instant> unseen(long window) {
        var found = new HashMap<LocalDateTime, Instant>();
        jdbc.sql(
                        """
                        select meant, max(until) as until from held_alert h
                         where window_id = :window
                           and not exists (select 1 from window_time t where t.window_id = h.window_id and t.meant = h.meant)
                         group by meant""")
                .param("window", window)
                .query(row -> {
                    found.put(row.getObject("meant", LocalDateTime.class), Stamp.in(row, "until"));
                });
        return found;
    }

    void ended(Windows.Time one, Instant at) {
        jdbc.sql(
                        "update window_time set ended_at = :at where window_id = :window and meant = :meant and ended_at is null")
                .param("window", one.window())
                .param("meant", one.meant())
                .param("at", Stamp.of(at))
                .update();
    }
}
