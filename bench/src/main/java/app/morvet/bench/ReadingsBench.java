package app.morvet.bench;

import app.morvet.ground.base.Errands;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Sealing;
import app.morvet.sources.readings.SeriesBook;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
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
import org.postgresql.PGConnection;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Readings over HTTP beside a raw COPY of the same rows; sealed days beside the rows they were made of. */
final class ReadingsBench {
    private static final int SERIES = 500;
    private static final int TICKS_A_POST = 10;
    private static final int POSTS = 40;
    private static final long POSTGRES_EPOCH_MICROS = 946_684_800_000_000L;

    private final DataSource dataSource;
    private final JdbcClient jdbc;
    private final ReadingHistory history;
    private final Sealing sealing;
    private final Errands errands;
    private final SeriesBook book;
    private final app.morvet.ground.estate.Estate estate;
    private final URI address;

    ReadingsBench(ConfigurableApplicationContext morvet, int port) {
        this.dataSource = morvet.getBean(DataSource.class);
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.history = morvet.getBean(ReadingHistory.class);
        this.sealing = morvet.getBean(Sealing.class);
        this.errands = morvet.getBean(Errands.class);
        this.book = morvet.getBean(SeriesBook.class);
        this.estate = morvet.getBean(app.morvet.ground.estate.Estate.class);
        this.address = URI.create("http://127.0.0.1:" + port + "/api/v1/readings");
    }

    void run() throws Exception {
        // Else the days would be sealed in the middle of it, and what is read as rows would be none.
        errands.at(Instant.now().plus(Duration.ofDays(1)), sealing.name(), "days");
        intake();
        sealed();
    }

    private void intake() throws Exception {
        int size = SERIES * TICKS_A_POST * POSTS;
        System.out.printf(
                "%nreadings: %,d over %d series, %,d in a post, 2 senders%n", size, SERIES, SERIES * TICKS_A_POST);
        try (var connection = dataSource.getConnection();
                var statement = connection.createStatement()) {
            statement.execute(
                    "create table copied_reading (series_id bigint, at timestamptz, value float8, primary key (series_id, at))");
        }
        int[] round = {0};
        var found = InTurn.of(2, () -> size / seconds(http(round[0]++)), () -> size / seconds(copy(round[0])));
        System.out.printf(
                "readings: %,.0f a second over HTTP, %,.0f rows a second by raw COPY, %s%n",
                found.measured(), found.limit(), found.words());
    }

    private static double seconds(Duration took) {
        return took.toNanos() / 1e9;
    }

    private static Instant start(int round) {
        return Instant.now()
                .truncatedTo(ChronoUnit.DAYS)
                .minus(Duration.ofHours(12))
                .plus(Duration.ofHours(round * 2L));
    }

    private static double value(int series, int tick) {
        return Math.rint((40 + series % 20 + 20 * Math.sin(tick / 60.0) + (series * 7 + tick * 13) % 10) * 10) / 10;
    }

    private Duration http(int round) throws Exception {
        var bodies = new ArrayList<String>();
        long from = start(round).getEpochSecond();
        for (int post = 0; post < POSTS; post++) {
            var page = new StringBuilder("# TYPE load gauge\n");
            for (int tick = post * TICKS_A_POST; tick < (post + 1) * TICKS_A_POST; tick++)
                for (int series = 0; series < SERIES; series++)
                    page.append("load{component=\"h")
                            .append(series)
                            .append("\",kind=\"host\"} ")
                            .append(value(series, tick))
                            .append(' ')
                            .append(from + tick * 10L)
                            .append('\n');
            bodies.add(page.toString());
        }
        try (var client = HttpClient.newBuilder()
                        .version(HttpClient.Version.HTTP_1_1)
                        .build();
                var senders = Executors.newFixedThreadPool(2)) {
            if (round == 0) post(client, bodies.removeFirst());
            var work = new ArrayList<Callable<Integer>>();
            for (var body : bodies) work.add(() -> post(client, body));
            long begin = System.nanoTime();
            for (var done : senders.invokeAll(work))
                if (done.get() != 202) throw new IllegalStateException("answered " + done.get());
            return Duration.ofNanos(System.nanoTime() - begin);
        }
    }

    private int post(HttpClient client, String body) throws IOException, InterruptedException {
        var request = HttpRequest.newBuilder(address)
                .header("Authorization", "Bearer " + Bench.KEY)
                .header("Content-Type", "text/plain")
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
        return client.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
    }

    private Duration copy(int round) throws Exception {
        try (var connection = dataSource.getConnection()) {
            var bytes = new ByteArrayOutputStream();
            var out = new DataOutputStream(bytes);
            head(out);
            long from = start(round).getEpochSecond();
            for (int tick = 0; tick < TICKS_A_POST * POSTS; tick++)
                for (int series = 0; series < SERIES; series++)
                    row(out, series, (from + tick * 10L) * 1_000_000, value(series, tick));
            out.writeShort(-1);
            long begin = System.nanoTime();
            copyInto(connection.unwrap(PGConnection.class), "copied_reading", bytes.toByteArray());
            return Duration.ofNanos(System.nanoTime() - begin);
        }
    }

    private static void copyInto(PGConnection connection, String table, byte[] bytes) throws Exception {
        var into =
                connection.getCopyAPI().copyIn("copy " + table + " (series_id, at, value) from stdin (format binary)");
        into.writeToCopy(bytes, 0, bytes.length);
        into.endCopy();
    }

    private static void head(DataOutputStream out) throws IOException {
        out.write("PGCOPY\n\377\r\n\0".getBytes(StandardCharsets.ISO_8859_1));
        out.writeInt(0);
        out.writeInt(0);
    }

    private static void row(DataOutputStream out, long series, long micros, double value) throws IOException {
        out.writeShort(3);
        out.writeInt(8);
        out.writeLong(series);
        out.writeInt(8);
        out.writeLong(micros - POSTGRES_EPOCH_MICROS);
        out.writeInt(8);
        out.writeDouble(value);
    }

    /** 21 days of 40 series at a reading a minute, told by HTTP, read as rows and read sealed. */
    private void sealed() throws Exception {
        int series = 40;
        var today = Instant.now().truncatedTo(ChronoUnit.DAYS);
        try (var client =
                HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build()) {
            for (int day = 21; day >= 1; day--) {
                for (int part = 0; part < 4; part++) {
                    var page = new StringBuilder("# TYPE heat gauge\n");
                    for (int one = 0; one < series; one++) {
                        var random = new SplittableRandom(one * 1000L + day * 4L + part);
                        for (int minute = part * 360; minute < (part + 1) * 360; minute++) {
                            double value = Math.rint((45
                                                    + 25 * Math.sin((day * 1440 - minute) / 229.0)
                                                    + 4 * random.nextDouble())
                                            * 10)
                                    / 10;
                            page.append("heat{component=\"s")
                                    .append(one)
                                    .append("\"} ")
                                    .append(value)
                                    .append(' ')
                                    .append(today.getEpochSecond() - day * 86_400L + minute * 60L)
                                    .append('\n');
                        }
                    }
                    if (post(client, page.toString()) != 202) throw new IllegalStateException("not taken");
                }
            }
        }
        jdbc.sql("analyze reading").update();
        var ids = new ArrayList<Long>();
        for (int one = 0; one < series; one++)
            ids.add(book.find(estate.byKey("s" + one).orElseThrow().id(), "heat", java.util.Map.of())
                    .orElseThrow()
                    .id());
        double rows = median(ids, today);
        long begin = System.nanoTime();
        sealing.sealUpTo(today.plusSeconds(1));
        double took = (System.nanoTime() - begin) / 1e9;
        double packed = median(ids, today);
        var bytes = jdbc.sql(
                        "select sum(length(packed))::float8 / sum(readings) from sealed_day where series_id = any(:ids)")
                .param("ids", ids.toArray(Long[]::new))
                .query(Double.class)
                .single();
        System.out.printf(
                "21 days of one series, 30,240 readings: %.1f ms as rows, %.2f ms sealed, %.1f times faster (aim 10); sealing all of them took %.1f s%n",
                rows, packed, rows / packed, took);
        System.out.printf(
                "a sealed reading takes %.2f bytes (aim under 3; the method's paper reports 1.37 on its own data)%n",
                bytes);
    }

    private double median(List<Long> ids, Instant today) {
        var times = new ArrayList<Double>();
        for (int round = 0; round < 4; round++)
            for (long id : ids) {
                long begin = System.nanoTime();
                int size = history.between(id, today.minus(Duration.ofDays(21)), today)
                        .size();
                if (size != 30_240) throw new IllegalStateException(size + " readings");
                if (round > 0) times.add((System.nanoTime() - begin) / 1e6);
            }
        return InTurn.quantile(times, 0.5);
    }
}
