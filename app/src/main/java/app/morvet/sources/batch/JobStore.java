package app.morvet.sources.batch;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of what is agreed about jobs, and of calendars. */
@Repository
class JobStore {
    /** A row of the table. */
    record Row(
            long component,
            @Nullable Long feed,
            JobSpec spec,
            String fixNote,
            boolean agreed,
            @Nullable Instant heldSince,
            Instant knownSince,
            int version) {}

    record Version(int version, Instant at, @Nullable Long by, JobSpec spec, String fixNote) {}

    record Calendar(long id, int version, HolidayCalendar holidays) {}

    private static final int LOCK = 0x6d6f7262;

    private final JdbcClient jdbc;
    private final JsonMapper json;

    JobStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** Until the end of the transaction, nobody else agrees on anything. */
    void oneAfterTheOther() {
        jdbc.sql("select 1 from (select pg_advisory_xact_lock(:lock)) as locked")
                .param("lock", LOCK)
                .query(Integer.class)
                .single();
    }

    List<Row> all() {
        return jdbc.sql("select * from job")
                .query((row, number) -> new Row(
                        row.getLong("component_id"),
                        row.getObject("feed_id", Long.class),
                        spec(row.getString("definition")),
                        row.getString("fix_note"),
                        row.getBoolean("agreed"),
                        Stamp.orNull(row, "held_since"),
                        Stamp.in(row, "known_since"),
                        row.getInt("version")))
                .list();
    }

    private JobSpec spec(String text) {
        return json.readValue(text, JobSpec.class);
    }

    /** Jobs that were first heard of by a run; those that are known already stay as they are. */
    void addUnknown(Collection<Long> components, long feed, JobSpec spec, Instant at) {
        jdbc.sql(
                        """
                        insert into job (component_id, feed_id, definition, agreed, known_since, changed_at)
                        select id, :feed, :definition::jsonb, false, :at, :at from unnest(:components::bigint[]) as id
                            on conflict (component_id) do update set feed_id = coalesce(job.feed_id, :feed)""")
                .param("components", components.toArray(Long[]::new))
                .param("feed", feed)
                .param("definition", json.writeValueAsString(spec))
                .param("at", Stamp.of(at))
                .update();
    }

    /**
     * Writes what is agreed, where its version is still the one given; version 0 where the job is new.
     *
     * @param since before which nothing is expected of a new one
     */
    boolean keep(
            long component, JobSpec spec, String fixNote, int version, Instant since, Instant at, @Nullable Long by) {
        boolean kept = jdbc.sql(
                                """
                        insert into job (component_id, definition, fix_note, agreed, known_since, changed_at)
                        values (:component, :definition::jsonb, :note, true, :since, :at)
                            on conflict (component_id) do update
                           set definition = excluded.definition, fix_note = excluded.fix_note, agreed = true,
                               known_since = case when job.agreed then job.known_since else excluded.known_since end,
                               version = job.version + 1, changed_at = excluded.changed_at
                         where job.version = :version""")
                        .param("component", component)
                        .param("definition", json.writeValueAsString(spec))
                        .param("note", fixNote)
                        .param("version", version)
                        .param("since", Stamp.of(since))
                        .param("at", Stamp.of(at))
                        .update()
                == 1;
        if (kept)
            jdbc.sql(
                            """
                        insert into job_version (component_id, version, at, by_id, definition, fix_note)
                        select component_id, version, :at, :by, definition, fix_note from job where component_id = :component""")
                    .param("component", component)
                    .param("at", Stamp.of(at))
                    .param("by", by)
                    .update();
        return kept;
    }

    /** Takes back what is agreed, where its version is still the one given. */
    boolean forget(long component, JobSpec spec, int version, Instant at) {
        return jdbc.sql(
                                """
                        update job set definition = :definition::jsonb, agreed = false, version = version + 1, changed_at = :at
                         where component_id = :component and version = :version""")
                        .param("component", component)
                        .param("definition", json.writeValueAsString(spec))
                        .param("version", version)
                        .param("at", Stamp.of(at))
                        .update()
                == 1;
    }

    List<Version> versions(long component) {
        return jdbc.sql("select * from job_version where component_id = :component order by version desc limit 50")
                .param("component", component)
                .query((row, number) -> new Version(
                        row.getInt("version"),
                        Stamp.in(row, "at"),
                        row.getObject("by_id", Long.class),
                        spec(row.getString("definition")),
                        row.getString("fix_note")))
                .list();
    }

    void hold(long component, @Nullable Instant since) {
        jdbc.sql("update job set held_since = :since where component_id = :component")
                .param("component", component)
                .param("since", Stamp.of(since))
                .update();
    }

    List<Calendar> calendars() {
        return jdbc.sql("select * from holiday_calendar order by name")
                .query((row, number) -> {
                    var holidays = new TreeMap<LocalDate, String>();
                    json.readTree(row.getString("holidays"))
                            .properties()
                            .forEach(one -> holidays.put(
                                    LocalDate.parse(one.getKey()),
                                    one.getValue().asString()));
                    return new Calendar(
                            row.getLong("id"),
                            row.getInt("version"),
                            new HolidayCalendar(row.getString("name"), holidays));
                })
                .list();
    }

    /** Writes a calendar over one of the same name. */
    void keep(HolidayCalendar calendar) {
        var holidays = new TreeMap<String, String>();
        calendar.holidays().forEach((day, words) -> holidays.put(day.toString(), words));
        jdbc.sql(
                        """
                        insert into holiday_calendar (name, holidays) values (:name, :holidays::jsonb)
                            on conflict (name) do update set holidays = excluded.holidays, version = holiday_calendar.version + 1""")
                .param("name", calendar.name())
                .param("holidays", json.writeValueAsString(Map.copyOf(holidays)))
                .update();
    }

    Optional<Calendar> calendar(String name) {
        return calendars().stream()
                .filter(one -> one.holidays().name().equals(name))
                .findFirst();
    }

    void deleteCalendar(String name) {
        jdbc.sql("delete from holiday_calendar where name = :name")
                .param("name", name)
                .update();
    }
}
