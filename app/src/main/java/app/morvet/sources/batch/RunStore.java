package app.morvet.sources.batch;

import app.morvet.core.batch.Night;
import app.morvet.core.batch.Run;
import app.morvet.core.batch.UsualDuration;
import app.morvet.ground.base.CopyRows;
import app.morvet.ground.base.Stamp;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Repository;

/** All SQL of runs and files. */
@Repository
class RunStore {
    private final JdbcClient jdbc;
    private final DataSource dataSource;

    RunStore(JdbcClient jdbc, DataSource dataSource) {
        this.jdbc = jdbc;
        this.dataSource = dataSource;
    }

    /** What a batch of events says of one run, taken together. */
    static final class Facts {
        final long component;
        final String run;

        @Nullable
        Instant started;

        @Nullable
        Instant ended;

        Run.@Nullable End end;

        @Nullable
        Instant meant;

        Run.@Nullable Trigger trigger;

        @Nullable
        Integer exitCode;

        @Nullable
        Long records;

        @Nullable
        Double percent;

        @Nullable
        Instant percentAt;

        String node = "";
        String reason = "";

        @Nullable
        String output;

        boolean cut;

        Facts(long component, String run) {
            this.component = component;
            this.run = run;
        }
    }

    private static final String COLUMNS =
            "component_id, run_ref, started_at, ended_at, ended_as, meant_at, started_by, exit_code, records, percent, percent_at, node, reason";

    /**
     * Takes in what was told. Of a run that is known, the earliest start stands, the latest end with all that it says, and
     * the latest progress. What has neither start nor end is progress of a run nobody knows: it began when it was first told.
     */
    void take(long feed, Collection<Facts> facts) {
        var connection = DataSourceUtils.getConnection(dataSource);
        try {
            try (var statement = connection.createStatement()) {
                statement.execute(
                        """
                        create temporary table if not exists arriving_run (component_id bigint, run_ref text, started_at timestamptz,
                               ended_at timestamptz, ended_as text, meant_at timestamptz, started_by text, exit_code int,
                               records bigint, percent double precision, percent_at timestamptz, node text, reason text) on commit delete rows""");
                copy(connection, facts);
                statement.execute(
                        """
                        insert into job_run as r (component_id, feed_id, run_ref, at, started_at, ended_at, ended_as, meant_at,
                                                  started_by, exit_code, records, percent, percent_at, node, reason)
                        select component_id, %d, run_ref, coalesce(started_at, ended_at, percent_at),
                               case when ended_at is null then coalesce(started_at, percent_at) else started_at end,
                               ended_at, ended_as, meant_at, coalesce(started_by, 'SCHEDULE'), exit_code, records, percent,
                               percent_at, node, reason
                          from arriving_run
                            on conflict (component_id, run_ref) do update
                           set started_at = least(r.started_at, excluded.started_at),
                               at = coalesce(least(r.started_at, excluded.started_at), excluded.ended_at, r.ended_at),
                               ended_at = case when excluded.ended_at >= coalesce(r.ended_at, '-infinity') then excluded.ended_at else r.ended_at end,
                               ended_as = case when excluded.ended_at >= coalesce(r.ended_at, '-infinity') then excluded.ended_as else r.ended_as end,
                               exit_code = case when excluded.ended_at >= coalesce(r.ended_at, '-infinity') then excluded.exit_code else r.exit_code end,
                               meant_at = coalesce(r.meant_at, excluded.meant_at),
                               started_by = case when r.started_by = 'SCHEDULE' then excluded.started_by else r.started_by end,
                               records = greatest(r.records, excluded.records),
                               percent = case when excluded.percent_at >= coalesce(r.percent_at, '-infinity') then excluded.percent else r.percent end,
                               percent_at = greatest(r.percent_at, excluded.percent_at),
                               node = case when r.node = '' then excluded.node else r.node end,
                               reason = case when excluded.reason = '' then r.reason else excluded.reason end"""
                                .formatted(feed));
            }
            addOutputs(facts);
        } catch (SQLException failed) {
            throw new IllegalStateException("runs could not be stored", failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    private static void copy(Connection connection, Collection<Facts> facts) throws SQLException {
        var rows = new CopyRows(13);
        for (var one : facts) {
            rows.row().number(one.component).text(one.run);
            time(rows, one.started);
            time(rows, one.ended);
            text(rows, one.end == null ? null : one.end.name());
            time(rows, one.meant);
            text(rows, one.trigger == null ? null : one.trigger.name());
            if (one.exitCode == null) rows.nothing();
            else rows.small(one.exitCode);
            rows.number(one.records);
            if (one.percent == null) rows.nothing();
            else rows.real(one.percent);
            time(rows, one.percentAt);
            rows.text(one.node).text(one.reason);
        }
        rows.into(connection, "copy arriving_run (" + COLUMNS + ") from stdin (format binary)");
    }

    private static void time(CopyRows rows, @Nullable Instant at) {
        if (at == null) rows.nothing();
        else rows.time(at);
    }

    private static void text(CopyRows rows, @Nullable String text) {
        if (text == null) rows.nothing();
        else rows.text(text);
    }

    private void addOutputs(Collection<Facts> facts) {
        var with = facts.stream().filter(one -> one.output != null).toList();
        if (with.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into run_output as o (run_id, output, cut)
                        select r.id, t.output, t.cut
                          from unnest(:components::bigint[], :runs::text[], :outputs::text[], :cuts::boolean[]) as t(component, run, output, cut)
                          join job_run r on r.component_id = t.component and r.run_ref = t.run
                            on conflict (run_id) do update set output = excluded.output, cut = excluded.cut
                         where length(excluded.output) >= length(o.output)""")
                .param("components", with.stream().map(one -> one.component).toArray(Long[]::new))
                .param("runs", with.stream().map(one -> one.run).toArray(String[]::new))
                .param("outputs", with.stream().map(one -> one.output).toArray(String[]::new))
                .param("cuts", with.stream().map(one -> one.cut).toArray(Boolean[]::new))
                .update();
    }

    void addFiles(List<RunsArrived.File> files) {
        for (var file : files)
            jdbc.sql("insert into file_arrival (name, at) values (:name, :at) on conflict do nothing")
                    .param("name", file.name())
                    .param("at", Stamp.of(file.at()))
                    .update();
    }

    private static Run run(ResultSet row) throws SQLException {
        var end = row.getString("ended_as");
        return new Run(
                row.getLong("id"),
                Stamp.orNull(row, "started_at"),
                Stamp.orNull(row, "ended_at"),
                end == null ? null : Run.End.valueOf(end),
                Stamp.orNull(row, "meant_at"),
                Run.Trigger.valueOf(row.getString("started_by")),
                row.getObject("exit_code", Integer.class),
                row.getObject("records", Long.class),
                row.getObject("percent", Double.class),
                Stamp.orNull(row, "percent_at"));
    }

    /** Runs that began in a half-open span, by job. */
    Map<Long, List<Run>> between(Instant from, Instant to) {
        var found = new HashMap<Long, List<Run>>();
        jdbc.sql("select * from job_run where at >= :from and at < :to")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(row -> {
                    found.computeIfAbsent(row.getLong("component_id"), none -> new ArrayList<>())
                            .add(run(row));
                });
        return found;
    }

    List<Night.Arrival> files(Instant from, Instant to) {
        return jdbc.sql("select name, at from file_arrival where at >= :from and at < :to order by at")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> new Night.Arrival(row.getString("name"), Stamp.in(row, "at")))
                .list();
    }

    /** How long runs that were done took, by job, of a span. */
    Map<Long, List<UsualDuration.Seen>> lengths(Instant from, Instant to) {
        var found = new HashMap<Long, List<UsualDuration.Seen>>();
        jdbc.sql(
                        """
                        select component_id, started_at, extract(epoch from ended_at - started_at)::float8 as seconds from job_run
                         where at >= :from and at < :to and ended_as in ('FINE', 'WARNED') and ended_at >= started_at""")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(row -> {
                    found.computeIfAbsent(row.getLong("component_id"), none -> new ArrayList<>())
                            .add(new UsualDuration.Seen(Stamp.in(row, "started_at"), row.getDouble("seconds")));
                });
        return found;
    }

    /** A run with what is shown of it. */
    record Shown(long component, Run run, String reference, String node, String reason) {}

    private static Shown shown(ResultSet row, int number) throws SQLException {
        return new Shown(
                row.getLong("component_id"),
                run(row),
                row.getString("run_ref"),
                row.getString("node"),
                row.getString("reason"));
    }

    Optional<Shown> byId(long id) {
        return jdbc.sql("select * from job_run where id = :id")
                .param("id", id)
                .query(RunStore::shown)
                .optional();
    }

    /** Runs of a job, the latest first, before an instant. */
    List<Shown> latest(long component, Instant before, int most) {
        return jdbc.sql(
                        """
                        select * from job_run where component_id = :component and at < :before
                         order by at desc, id desc limit :most""")
                .param("component", component)
                .param("before", Stamp.of(before))
                .param("most", most)
                .query(RunStore::shown)
                .list();
    }

    /** The last run of a job that ended so, with an output, at or before an instant. */
    Optional<Shown> lastWithOutput(long component, boolean failed, Instant before) {
        return jdbc.sql(
                        """
                        select r.* from job_run r join run_output o on o.run_id = r.id
                         where component_id = :component and at <= :before
                           and ended_as = any(case when :failed then array['FAILED'] else array['FINE', 'WARNED'] end)
                         order by at desc, id desc limit 1""")
                .param("component", component)
                .param("failed", failed)
                .param("before", Stamp.of(before))
                .query(RunStore::shown)
                .optional();
    }

    /** @param cut whether its beginning is missing */
    record Output(String text, boolean cut) {}

    Optional<Output> output(long run) {
        return jdbc.sql("select output, cut from run_output where run_id = :run")
                .param("run", run)
                .query((row, number) -> new Output(row.getString("output"), row.getBoolean("cut")))
                .optional();
    }

    /** Runs of one job in a span. */
    List<Run> of(long component, Instant from, Instant to) {
        return jdbc.sql(
                        "select * from job_run where component_id = :component and at >= :from and at < :to order by at")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) -> run(row))
                .list();
    }

    /** What became of an expected start, as it was last stored. */
    record Kept(Instant cycle, String outcome, @Nullable Long run) {}

    /** By component. */
    Map<Long, Map<Instant, Kept>> outcomes(Instant from, Instant to) {
        var found = new HashMap<Long, Map<Instant, Kept>>();
        jdbc.sql("select component_id, cycle, outcome, run_id from expected_start where cycle >= :from and cycle < :to")
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query(row -> {
                    var cycle = Stamp.in(row, "cycle");
                    found.computeIfAbsent(row.getLong("component_id"), none -> new HashMap<>())
                            .put(cycle, new Kept(cycle, row.getString("outcome"), row.getObject("run_id", Long.class)));
                });
        return found;
    }

    /** Of one job, in order of time. */
    List<Kept> outcomesOf(long component, Instant from, Instant to) {
        return jdbc.sql(
                        """
                        select cycle, outcome, run_id from expected_start
                         where component_id = :component and cycle >= :from and cycle < :to order by cycle""")
                .param("component", component)
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .query((row, number) ->
                        new Kept(Stamp.in(row, "cycle"), row.getString("outcome"), row.getObject("run_id", Long.class)))
                .list();
    }

    record Expected(
            long component,
            Instant cycle,
            Instant planned,
            @Nullable Instant deadline,
            String outcome,
            @Nullable Long run) {}

    void keepOutcomes(List<Expected> some) {
        if (some.isEmpty()) return;
        jdbc.sql(
                        """
                        insert into expected_start (component_id, cycle, planned, deadline, outcome, run_id)
                        select * from unnest(:components::bigint[], :cycles::timestamptz[], :planned::timestamptz[],
                                             :deadlines::timestamptz[], :outcomes::text[], :runs::bigint[])
                            on conflict (component_id, cycle) do update set outcome = excluded.outcome, run_id = excluded.run_id""")
                .param("components", some.stream().map(Expected::component).toArray(Long[]::new))
                .param(
                        "cycles",
                        some.stream().map(one -> Timestamp.from(one.cycle())).toArray(Timestamp[]::new))
                .param(
                        "planned",
                        some.stream().map(one -> Timestamp.from(one.planned())).toArray(Timestamp[]::new))
                .param(
                        "deadlines",
                        some.stream()
                                .map(one -> one.deadline() == null ? null : Timestamp.from(one.deadline()))
                                .toArray(Timestamp[]::new))
                .param("outcomes", some.stream().map(Expected::outcome).toArray(String[]::new))
                .param("runs", some.stream().map(Expected::run).toArray(Long[]::new))
                .update();
    }

    /** When the first run began that was ever told of. */
    Optional<Instant> first() {
        return jdbc.sql("select min(at) as at from job_run")
                .query((row, number) -> Optional.ofNullable(Stamp.orNull(row, "at")))
                .single();
    }
}
