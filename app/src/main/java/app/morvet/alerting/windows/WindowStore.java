package app.morvet.alerting.windows;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.ScopeJson;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of windows as they are agreed. */
@Repository
class WindowStore {
    private static final Logger log = LoggerFactory.getLogger(WindowStore.class);

    private final JdbcClient jdbc;
    private final JsonMapper json;

    WindowStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** @param calendars gives the calendar of a name */
    List<StoredWindow> all(Function<String, HolidayCalendar> calendars) {
        return jdbc
                .sql("select * from maintenance_window where deleted_at is null order by lower(name), id")
                .query((row, number) -> readable(row, calendars))
                .list()
                .stream()
                .flatMap(Optional::stream)
                .toList();
    }

    /** One that cannot be read must not keep all others, and all that is raised, from their work. */
    private Optional<StoredWindow> readable(ResultSet row, Function<String, HolidayCalendar> calendars)
            throws SQLException {
        try {
            return Optional.of(window(row, calendars));
        } catch (IllegalArgumentException | DateTimeException bad) {
            log.error("the window {} cannot be read", row.getLong("id"), bad);
            return Optional.empty();
        }
    }

    /** One, though it be deleted by now. */
    Optional<StoredWindow> find(long id, Function<String, HolidayCalendar> calendars) {
        return jdbc.sql("select * from maintenance_window where id = :id")
                .param("id", id)
                .query((row, number) -> window(row, calendars))
                .optional();
    }

    private StoredWindow window(ResultSet row, Function<String, HolidayCalendar> calendars) throws SQLException {
        var again = row.getString("again");
        var calendar = row.getString("calendar");
        var until = row.getObject("until", LocalDate.class);
        var plan = new Plan(
                Stamp.orNull(row, "first_at"),
                again.isEmpty() ? null : RhythmText.read(again, calendars.apply(calendar)),
                ZoneId.of(row.getString("zone")),
                Duration.ofMinutes(row.getInt("minutes")),
                until,
                PlanJson.skipped(json.readTree(row.getString("skipped"))),
                PlanJson.altered(json.readTree(row.getString("altered"))));
        return new StoredWindow(
                row.getLong("id"),
                new MaintenanceWindow(
                        row.getString("name"),
                        ScopeJson.read(row.getString("over")),
                        plan,
                        MaintenanceWindow.Effect.valueOf(row.getString("effect")),
                        MaintenanceWindow.Jobs.valueOf(row.getString("jobs")),
                        row.getString("reason")),
                calendar,
                row.getBoolean("quiet"),
                Stamp.minutesOrNull(row, "told_minutes"),
                row.getObject("made_by", Long.class),
                row.getInt("version"));
    }

    /** Gives back its id, or 0 where it is another version by now. */
    long keep(StoredWindow one) {
        var window = one.window();
        var plan = window.plan();
        var sql = one.id() == 0
                ? """
                  insert into maintenance_window (name, over, effect, jobs, first_at, again, calendar, zone, minutes, until, skipped, altered, reason,
                                                  quiet, told_minutes, made_by)
                  values (:name, :over::jsonb, :effect, :jobs, :first, :again, :calendar, :zone, :minutes, :until, :skipped::jsonb, :altered::jsonb,
                          :reason, :quiet, :told, :by) returning id"""
                : """
                  update maintenance_window
                     set name = :name, over = :over::jsonb, effect = :effect, jobs = :jobs, first_at = :first, again = :again, calendar = :calendar,
                         zone = :zone, minutes = :minutes, until = :until, skipped = :skipped::jsonb, altered = :altered::jsonb, reason = :reason,
                         quiet = :quiet, told_minutes = :told, version = version + 1
                   where id = :id and version = :version and deleted_at is null returning id""";
        return jdbc.sql(sql)
                .param("id", one.id())
                .param("version", one.version())
                .param("name", window.name())
                .param("over", ScopeJson.write(window.scope()))
                .param("effect", window.effect().name())
                .param("jobs", window.jobs().name())
                .param("first", Stamp.of(plan.first()))
                .param("again", plan.again() == null ? "" : RhythmText.of(Objects.requireNonNull(plan.again())))
                .param("calendar", one.calendar())
                .param("zone", plan.zone().getId())
                .param("minutes", (int) plan.length().toMinutes())
                .param("until", plan.until())
                .param("skipped", PlanJson.skipped(plan).toString())
                .param("altered", PlanJson.altered(plan).toString())
                .param("reason", window.reason())
                .param("quiet", one.quiet())
                .param("told", Stamp.minutes(one.told()))
                .param("by", one.madeBy())
                .query(Long.class)
                .optional()
                .orElse(0L);
    }

    int delete(long id, Instant at) {
        return jdbc.sql("update maintenance_window set deleted_at = :at where id = :id and deleted_at is null")
                .param("id", id)
                .param("at", Stamp.of(at))
                .update();
    }

    void addVersion(long id, Instant at, @Nullable Long by, String sentence) {
        jdbc.sql(
                        """
                        insert into window_version (window_id, version, at, by_id, sentence)
                        select id, version, :at, :by, :sentence from maintenance_window where id = :id""")
                .param("id", id)
                .param("at", Stamp.of(at))
                .param("by", by)
                .param("sentence", sentence)
                .update();
    }

    List<Windows.Version> versions(long id) {
        return jdbc.sql("select * from window_version where window_id = :id order by version desc")
                .param("id", id)
                .query((row, number) -> new Windows.Version(
                        row.getInt("version"),
                        Stamp.in(row, "at"),
                        row.getObject("by_id", Long.class),
                        row.getString("sentence")))
                .list();
    }
}
