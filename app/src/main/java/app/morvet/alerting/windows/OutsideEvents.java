package app.morvet.alerting.windows;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.windows.Plan;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of events in calendars of others. */
@Repository
class OutsideEvents {
    private static final int MOST = 2000;

    private final JdbcClient jdbc;

    OutsideEvents(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static OutsideCalendars.Event event(ResultSet row, int number) throws SQLException {
        return new OutsideCalendars.Event(
                row.getLong("connection_id"),
                row.getString("uid"),
                row.getString("title"),
                row.getString("text"),
                PlanJson.read(row.getString("plan"), HolidayCalendar.NONE),
                OutsideCalendars.State.valueOf(row.getString("state")),
                row.getObject("window_id", Long.class));
    }

    /** Those of a calendar, by what tells them from one another there. */
    Map<String, OutsideCalendars.Event> of(long calendar) {
        var found = new LinkedHashMap<String, OutsideCalendars.Event>();
        jdbc.sql("select * from window_event where connection_id = :calendar order by seen_at desc, uid limit :most")
                .param("calendar", calendar)
                .param("most", MOST)
                .query(OutsideEvents::event)
                .list()
                .forEach(one -> found.put(one.uid(), one));
        return found;
    }

    /** Until the transaction ends nobody else takes in what this calendar says, nor changes what becomes of it. */
    void lock(long calendar) {
        jdbc.sql("select 1 from (select pg_advisory_xact_lock(hashtext('window_event'), :calendar)) as locked")
                .param("calendar", (int) calendar)
                .query(Integer.class)
                .single();
    }

    Optional<OutsideCalendars.Event> find(long calendar, String uid) {
        return jdbc.sql("select * from window_event where connection_id = :calendar and uid = :uid for update")
                .param("calendar", calendar)
                .param("uid", uid)
                .query(OutsideEvents::event)
                .optional();
    }

    void keep(
            long calendar,
            String uid,
            String title,
            String text,
            Plan plan,
            OutsideCalendars.State state,
            @Nullable Long window,
            @Nullable Long by,
            Instant at) {
        jdbc.sql(
                        """
                        insert into window_event (connection_id, uid, title, text, plan, state, window_id, decided_by, seen_at)
                        values (:calendar, :uid, :title, :text, :plan::jsonb, :state, :window, :by, :at)
                            on conflict (connection_id, uid) do update
                           set title = excluded.title, text = excluded.text, plan = excluded.plan, state = excluded.state,
                               window_id = coalesce(excluded.window_id, window_event.window_id),
                               decided_by = coalesce(excluded.decided_by, window_event.decided_by), seen_at = excluded.seen_at""")
                .param("calendar", calendar)
                .param("uid", uid)
                .param("title", title)
                .param("text", text)
                .param("plan", PlanJson.write(plan))
                .param("state", state.name())
                .param("window", window)
                .param("by", by)
                .param("at", Stamp.of(at))
                .update();
    }

    /** How many events of each calendar are in which state. */
    Map<Long, Map<OutsideCalendars.State, Long>> counts() {
        var found = new HashMap<Long, Map<OutsideCalendars.State, Long>>();
        jdbc.sql(
                        """
                        select connection_id, state, count(*) as events
                          from window_event
                         group by connection_id, state""")
                .query(row -> {
                    found.computeIfAbsent(
                                    row.getLong("connection_id"), it -> new EnumMap<>(OutsideCalendars.State.class))
                            .put(OutsideCalendars.State.valueOf(row.getString("state")), row.getLong("events"));
                });
        return found;
    }

    /** Those that wait to be assigned, of all calendars. */
    List<OutsideCalendars.Event> waiting(int most) {
        return jdbc.sql("select * from window_event where state = 'WAITS' order by connection_id, uid limit :most")
                .param("most", most)
                .query(OutsideEvents::event)
                .list();
    }

    long waiting() {
        return jdbc.sql("select count(*) from window_event where state = 'WAITS'")
                .query(Long.class)
                .single();
    }

    void looked(long calendar, Instant at, int events, List<String> faults) {
        jdbc.sql(
                        """
                        insert into window_calendar_look (connection_id, at, events, faults) values (:calendar, :at, :events, :faults)
                            on conflict (connection_id) do update set at = excluded.at, events = excluded.events, faults = excluded.faults""")
                .param("calendar", calendar)
                .param("at", Stamp.of(at))
                .param("events", events)
                .param("faults", String.join("\n", faults))
                .update();
    }

    Optional<OutsideCalendars.Look> look(long calendar) {
        return jdbc.sql("select * from window_calendar_look where connection_id = :calendar")
                .param("calendar", calendar)
                .query((row, number) -> new OutsideCalendars.Look(
                        Stamp.in(row, "at"),
                        row.getInt("events"),
                        row.getString("faults").lines().toList()))
                .optional();
    }
}
