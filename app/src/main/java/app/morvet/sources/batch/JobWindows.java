package app.morvet.sources.batch;

import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.CronExpression;
import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.Job;
import app.morvet.core.batch.JobWindow;
import app.morvet.core.batch.Schedule;
import app.morvet.core.batch.ScheduleWords;
import app.morvet.core.batch.Timetable;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeJson;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Maintenance windows over jobs. */
@Service
public class JobWindows {
    private static final DateTimeFormatter WHEN = DateTimeFormatter.ofPattern("EEE d MMM yyyy HH:mm", Locale.ENGLISH);

    /**
     * One as it is agreed.
     *
     * @param id     0 for one that is new
     * @param once   when it begins, or null where it recurs
     * @param cron   when it begins, again and again; empty where it is once
     * @param reason what is done in it, for people; may be empty
     */
    public record Stored(
            long id,
            String name,
            Scope scope,
            @Nullable Instant once,
            String cron,
            ZoneId zone,
            int minutes,
            String reason,
            int version) {
        /** @throws IllegalArgumentException saying what cannot be */
        public JobWindow window() {
            var again = cron.isEmpty()
                    ? null
                    : new Timetable(
                            List.of(new Schedule.Cron(CronExpression.of(cron), Schedule.OnHoliday.STARTS)),
                            zone,
                            HolidayCalendar.NONE,
                            ClockChange.ONCE);
            return new JobWindow(name, scope, once, again, Duration.ofMinutes(minutes));
        }
    }

    private final JdbcClient jdbc;
    private final Estate estate;
    private final JobFacts facts;
    private final Audit audit;
    private final ApplicationEventPublisher events;

    JobWindows(JdbcClient jdbc, Estate estate, JobFacts facts, Audit audit, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.estate = estate;
        this.facts = facts;
        this.audit = audit;
        this.events = events;
    }

    public List<Stored> all() {
        return jdbc.sql("select * from job_window order by name, id")
                .query(JobWindows::standing)
                .list();
    }

    public Optional<Stored> find(long id) {
        return jdbc.sql("select * from job_window where id = :id")
                .param("id", id)
                .query(JobWindows::standing)
                .optional();
    }

    private static Stored standing(ResultSet row, int number) throws SQLException {
        return new Stored(
                row.getLong("id"),
                row.getString("name"),
                ScopeJson.read(row.getString("over")),
                Stamp.orNull(row, "once_at"),
                row.getString("cron"),
                ZoneId.of(row.getString("zone")),
                row.getInt("minutes"),
                row.getString("reason"),
                row.getInt("version"));
    }

    /** Whether a window is over a job. */
    public boolean takes(Scope scope, Job job) {
        return scope.takes(facts.of(job));
    }

    /** A time in which a job is in a window. */
    public record Held(String window, JobWindow.Span span) {}

    /** The windows of a span, looked up once and asked for job by job. */
    public final class Within {
        private final Map<Stored, List<JobWindow.Span>> spans = new LinkedHashMap<>();
        private final Map<String, List<Held>> byJob = new HashMap<>();

        private Within(Instant from, Instant to) {
            for (var one : all()) {
                var some = one.window().spans(from, to);
                if (!some.isEmpty()) spans.put(one, some);
            }
        }

        /** When a job is in any window. */
        public List<Held> of(Job job) {
            if (spans.isEmpty()) return List.of();
            return byJob.computeIfAbsent(job.key(), key -> {
                var found = new ArrayList<Held>();
                spans.forEach((window, some) -> {
                    if (takes(window.scope(), job)) some.forEach(span -> found.add(new Held(window.name(), span)));
                });
                return found;
            });
        }

        public boolean has(Job job, Instant at) {
            return of(job).stream().anyMatch(held -> held.span().has(at));
        }
    }

    /** Those that have to do with a half-open span. */
    public Within within(Instant from, Instant to) {
        return new Within(from, to);
    }

    /** {@code No job of Sailing Archive is expected to start from Sat 20 Mar 2027 22:00 on, for 6 h.} */
    public String sentence(Stored one) {
        var scope = one.scope();
        boolean named = scope.isOne() && !scope.onIt();
        var who = scope.jobWords("No", estate::nameOf) + (named ? " is not" : " is");
        var lasting = Spans.words(Duration.ofMinutes(one.minutes()));
        var when = one.once() != null
                ? "from %s on, for %s".formatted(WHEN.format(one.once().atZone(one.zone())), lasting)
                : "for %s, beginning %s"
                        .formatted(
                                lasting,
                                ScheduleWords.of(
                                        new Schedule.Cron(CronExpression.of(one.cron()), Schedule.OnHoliday.STARTS)));
        return who + " expected to start " + when + ".";
    }

    /**
     * Adds or changes one.
     *
     * @throws IllegalArgumentException saying what cannot be
     * @throws JobBook.Overtaken        where somebody else was faster
     */
    @Transactional
    public long keep(Stored one, Person by) {
        one.window();
        var before = one.id() == 0 ? null : find(one.id()).orElse(null);
        long id = store(one);
        if (id == 0)
            throw new JobBook.Overtaken(
                    "Somebody else changed this window while you were editing it. Nothing was saved; what you typed stands below.");
        audit.record(
                by,
                before == null ? "window made" : "window changed",
                "window over jobs " + one.name(),
                before == null ? null : sentence(before),
                sentence(one));
        events.publishEvent(new JobBook.JobsChanged());
        return id;
    }

    /** For what is set up by the application itself. */
    public void set(Stored one) {
        store(one);
    }

    private long store(Stored one) {
        var sql = one.id() == 0
                ? """
                  insert into job_window (name, over, once_at, cron, zone, minutes, reason)
                  values (:name, :over::jsonb, :once, :cron, :zone, :minutes, :reason) returning id"""
                : """
                  update job_window
                     set name = :name, over = :over::jsonb, once_at = :once, cron = :cron, zone = :zone,
                         minutes = :minutes, reason = :reason, version = version + 1
                   where id = :id and version = :version returning id""";
        return jdbc.sql(sql)
                .param("id", one.id())
                .param("version", one.version())
                .param("name", one.name())
                .param("over", ScopeJson.write(one.scope()))
                .param("once", Stamp.of(one.once()))
                .param("cron", one.cron())
                .param("zone", one.zone().getId())
                .param("minutes", one.minutes())
                .param("reason", one.reason())
                .query(Long.class)
                .optional()
                .orElse(0L);
    }

    /** Takes a window away; what it has skipped stays skipped. */
    @Transactional
    public void delete(long id, Person by) {
        var before = find(id);
        if (before.isEmpty()) return;
        jdbc.sql("delete from job_window where id = :id").param("id", id).update();
        audit.record(by, "window deleted", "window over jobs " + before.get().name(), sentence(before.get()), null);
        events.publishEvent(new JobBook.JobsChanged());
    }
}
