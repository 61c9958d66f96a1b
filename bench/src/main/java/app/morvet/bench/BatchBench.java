package app.morvet.bench;

import app.morvet.core.batch.Projection;
import app.morvet.core.batch.Spread;
import app.morvet.ground.base.CopyRows;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import javax.sql.DataSource;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Batch: runs taken in a second beside a raw COPY of the same rows; the page of the night with 5,000 jobs and 60 days of runs
 * beside a bare page; a chain of 400 jobs played through 2,000 times beside a plain pass over as many draws.
 */
final class BatchBench {
    private static final int JOBS = 5000;
    private static final int CHAIN = 400;
    private static final int DAYS = 60;
    private static final int NIGHTS = 2000;
    private static final int ASKED = 60;
    private static final int RUNS = 40_000;
    private static final int BATCH = 1000;
    private static final int SENDERS = 2;

    private final JdbcClient jdbc;
    private final DataSource dataSource;
    private final String address;
    private final Visitor visitor;

    BatchBench(ConfigurableApplicationContext morvet, int port) {
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.dataSource = morvet.getBean(DataSource.class);
        this.address = "http://127.0.0.1:" + port;
        this.visitor = new Visitor(port, ASKED);
    }

    void run() throws Exception {
        project();
        takeIn();
        night();
    }

    /** Ten lanes of forty jobs, each after the one before and now and then after one of another lane. */
    private static List<Projection.Task> chain() {
        var random = new SplittableRandom(11);
        var tasks = new ArrayList<Projection.Task>();
        for (int i = 0; i < CHAIN; i++) {
            var values = new double[90];
            var weights = new double[90];
            double middle = 60 + random.nextInt(1200);
            for (int j = 0; j < values.length; j++) {
                values[j] = middle * (0.8 + 0.5 * random.nextDouble());
                weights[j] = 1;
            }
            var waits = new ArrayList<Integer>();
            if (i >= 10) waits.add(i - 10);
            if (i >= 10 && random.nextInt(4) == 0) waits.add(random.nextInt(i - 9));
            tasks.add(new Projection.Task(
                    "job-" + i,
                    0,
                    waits.stream().distinct().toList(),
                    Spread.of(values, weights, ""),
                    -1,
                    -1,
                    i % 40 == 39 ? 36_000 : Double.NaN,
                    0));
        }
        return tasks;
    }

    private static void project() throws Exception {
        var tasks = chain();
        double[] kept = {0};
        long[] seed = {0};
        InTurn.Measure plain = InTurn.millis(() -> kept[0] += plainPass(tasks, seed[0]));
        for (var slots : List.of(List.<Integer>of(), List.of(20))) {
            var found = InTurn.of(
                    5,
                    InTurn.millis(() -> kept[0] += Projection.of(tasks, slots, NIGHTS, seed[0]++)
                            .outlook(CHAIN - 1)
                            .end()
                            .likely()),
                    plain);
            System.out.printf(
                    "projection: %d jobs, %,d nights, %s: %.0f ms (aim 200), a plain pass over the same draws %.0f ms, %s [%.0f]%n",
                    CHAIN,
                    NIGHTS,
                    slots.isEmpty() ? "no slots" : "20 slots",
                    found.measured(),
                    found.limit(),
                    found.words(),
                    kept[0] % 10);
        }
    }

    /** As many draws, each added to the one before. */
    private static double plainPass(List<Projection.Task> tasks, long seed) {
        var random = new SplittableRandom(seed);
        var spreads = tasks.stream().map(Projection.Task::usual).toArray(Spread[]::new);
        double sum = 0;
        for (int night = 0; night < NIGHTS; night++)
            for (var spread : spreads) sum += spread.quantile(random.nextDouble());
        return sum;
    }

    private void takeIn() throws Exception {
        System.out.printf(
                "%nruns: %,d runs of 500 jobs, begun and ended, batches of %,d events, %d senders%n",
                RUNS, BATCH, SENDERS);
        jdbc.sql("create table copied_run (like job_run including all)").update();
        int[] round = {0};
        var found = InTurn.of(
                2,
                () -> RUNS / (http(round[0]++).toNanos() / 1e9),
                () -> RUNS / (copy(round[0]).toNanos() / 1e9));
        System.out.printf(
                "runs: %,.0f runs a second over HTTP (two events each), %,.0f rows a second by raw COPY, %s%n",
                found.measured(), found.limit(), found.words());
    }

    private static Instant begin(int round, int i) {
        return Instant.now()
                .truncatedTo(ChronoUnit.DAYS)
                .minus(Duration.ofDays(2 + round))
                .plusMillis(i * 1500L);
    }

    private Duration copy(int round) throws Exception {
        try (var connection = dataSource.getConnection()) {
            connection.setAutoCommit(false);
            long start = System.nanoTime();
            for (int from = 0; from < RUNS; from += BATCH / 2) {
                var rows = new CopyRows(11);
                for (int i = from; i < from + BATCH / 2; i++) {
                    var at = begin(round, i);
                    rows.row()
                            .number((long) round * RUNS + i)
                            .number((long) i % 500)
                            .number(1L)
                            .text("r" + round + "-" + i);
                    rows.time(at)
                            .time(at)
                            .time(at.plusSeconds(60))
                            .text("FINE")
                            .text("SCHEDULE")
                            .text("batch-1")
                            .text("");
                }
                rows.into(
                        connection,
                        "copy copied_run (id, component_id, feed_id, run_ref, at, started_at, ended_at, ended_as, started_by, node, reason) from stdin (format binary)");
                connection.commit();
            }
            return Duration.ofNanos(System.nanoTime() - start);
        }
    }

    private Duration http(int round) throws Exception {
        var bodies = new ArrayList<byte[]>();
        for (int from = 0; from < RUNS; from += BATCH / 2) {
            var body = new StringBuilder("[");
            for (int i = from; i < from + BATCH / 2; i++) {
                var at = begin(round, i);
                var run = "r" + round + "-" + i;
                if (i > from) body.append(',');
                body.append(event(
                                run + "s",
                                "started",
                                "taken-" + i % 500,
                                at,
                                "\"run\":\"" + run + "\",\"node\":\"batch-1\""))
                        .append(',')
                        .append(event(
                                run + "e",
                                "finished",
                                "taken-" + i % 500,
                                at.plusSeconds(60),
                                "\"run\":\"" + run + "\",\"exitCode\":0,\"records\":12"));
            }
            bodies.add(body.append(']').toString().getBytes(StandardCharsets.UTF_8));
        }
        var client =
                HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
        long start = System.nanoTime();
        try (var senders = Executors.newFixedThreadPool(SENDERS)) {
            var sent = senders.invokeAll(bodies.stream()
                    .map(body -> (Callable<Integer>) () -> client.send(
                                    HttpRequest.newBuilder(URI.create(address + "/api/v1/events"))
                                            .header("Authorization", "Bearer " + Bench.KEY)
                                            .header("Content-Type", "application/cloudevents-batch+json")
                                            .POST(HttpRequest.BodyPublishers.ofByteArray(body))
                                            .build(),
                                    HttpResponse.BodyHandlers.ofString())
                            .statusCode())
                    .toList());
            for (var one : sent) if (one.get() != 202) throw new IllegalStateException("answered " + one.get());
        }
        return Duration.ofNanos(System.nanoTime() - start);
    }

    private static String event(String id, String what, String job, Instant at, String data) {
        return "{\"specversion\":\"1.0\",\"id\":\"%s\",\"source\":\"/bench\",\"type\":\"app.morvet.run.%s\",\"subject\":\"%s\",\"time\":\"%s\",\"data\":{%s}}"
                .formatted(id, what, job, at, data);
    }

    private void night() throws Exception {
        fill();
        visitor.logIn();
        // The round comes by itself; the first learns what is usual.
        Thread.sleep(30_000);
        System.out.printf(
                "%nnight: %,d jobs, a chain of %d among them, %,d runs of %d days; median of %d each%n",
                JOBS,
                CHAIN,
                jdbc.sql("select count(*) from job_run").query(Long.class).single(),
                DAYS,
                ASKED);
        for (var path : new String[] {
            "/batch", "/batch?zoom=day", "/batch?zoom=hour", "/batch/jobs", "/batch/jobs/many-7", "/batch/month"
        }) {
            var found = visitor.besideABarePage(path);
            System.out.printf(
                    "  %-24s %6.1f ms, a bare page %.2f ms, %s%n",
                    path, found.measured(), found.limit(), found.words());
        }
    }

    private void fill() {
        jdbc.sql(
                        "insert into component (key, name, kind, application_id, first_seen) select 'many-' || n, 'Job ' || n, 'job', (select min(id) from application), now() from generate_series(0, :jobs - 1) as n")
                .param("jobs", JOBS)
                .update();
        jdbc.sql(
                        """
                        insert into job (component_id, feed_id, definition, agreed, known_since, changed_at)
                        select c.id, (select min(id) from feed),
                               jsonb_build_object('chain', case when n < 400 then 'Long chain' else '' end,
                                   'schedules', case when n = 0 or n >= 400
                                        then jsonb_build_array(jsonb_build_object('kind', 'cron', 'cron', (n * 7 % 60) || ' ' || (n % 24) || ' * * *',
                                             'onHoliday', 'STARTS', 'minutes', 0, 'from', '', 'to', '', 'nth', 0, 'at', ''))
                                        else '[]'::jsonb end,
                                   'zone', 'Europe/Helsinki', 'calendar', '', 'clockChange', 'ONCE',
                                   'waits', case when n > 0 and n < 400 then jsonb_build_array('many-' || (n - 1) / 2) else '[]'::jsonb end,
                                   'files', '[]'::jsonb, 'notBefore', '', 'latestMinutes', 10, 'longestMinutes', 120,
                                   'deadline', case when n % 100 = 99 then '06:30' else '' end, 'retries', 0, 'exitCodes', '',
                                   'leastSeconds', 0, 'leastRecords', 0, 'command', ''),
                               true, now() - interval '90 days', now()
                          from component c, lateral (select substr(c.key, 6)::int as n) as numbered where c.key like 'many-%'""")
                .update();
        jdbc.sql(
                        """
                        insert into job_run (component_id, feed_id, run_ref, at, started_at, ended_at, ended_as, started_by, exit_code, node, reason)
                        select component_id, feed_id, 'd' || d, starts, starts, starts + (300 + (component_id * 13 + d * 7) % 240) * interval '1 second',
                               'FINE', 'SCHEDULE', 0, 'batch-1', ''
                          from (select j.component_id, j.feed_id, d,
                                       date_trunc('day', now() at time zone 'Europe/Helsinki') at time zone 'Europe/Helsinki' - d * interval '1 day'
                                       + (n % 24) * interval '1 hour' + (n * 7 % 60) * interval '1 minute' as starts
                                  from job j join component c on c.id = j.component_id, lateral (select substr(c.key, 6)::int as n) as numbered,
                                       generate_series(0, :days - 1) as d
                                 where c.key like 'many-%') as meant
                         where starts < now() - interval '10 minutes'""")
                .param("days", DAYS)
                .update();
        jdbc.sql("analyze").update();
    }
}
