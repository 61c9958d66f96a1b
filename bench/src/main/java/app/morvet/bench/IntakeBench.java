package app.morvet.bench;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import javax.sql.DataSource;
import org.postgresql.PGConnection;
import org.springframework.context.ConfigurableApplicationContext;

/** Failed messages taken in over HTTP, a second, beside a raw binary COPY of the same rows into a table with the same keys. */
final class IntakeBench {
    private static final int EVENTS = 40_000;
    private static final int BATCH = 1000;
    private static final int SENDERS = 2;
    private static final long POSTGRES_EPOCH_MICROS = 946_684_800_000_000L;
    /** No two messages have the same text, so each is fingerprinted by itself. */
    private static final String ERROR =
            "Connect to partner-gw-%d.sundrava.example:8443 failed: connection refused\n  after %d ms, try 3 of 3, order %d\n  at hub.deliver.HttpSender.open(HttpSender:212)\n";

    private static final String PAYLOAD =
            "{\"departure\":\"DP-12345\",\"ship\":\"Aurelind\",\"from\":\"SNDRA\",\"to\":\"VELMO\",\"note\":\""
                    + "made up ".repeat(60) + "\"}";

    private final DataSource dataSource;
    private final URI address;

    IntakeBench(ConfigurableApplicationContext morvet, int port) {
        this.dataSource = morvet.getBean(DataSource.class);
        this.address = URI.create("http://127.0.0.1:" + port + "/api/v1/events");
    }

    void run() throws Exception {
        System.out.printf(
                "%nintake: %,d failed messages of about %d bytes, each with a text of its own, 13 sorting rules, batches of %,d, %d senders%n",
                EVENTS, ERROR.length() + PAYLOAD.length(), BATCH, SENDERS);
        try (var connection = dataSource.getConnection();
                var statement = connection.createStatement()) {
            statement.execute("create table copied (like failed_message including all)");
        }
        int[] round = {0};
        var found = InTurn.of(2, () -> perSecond(http(round[0]++)), () -> perSecond(copy(round[0])));
        System.out.printf(
                "intake: %,.0f events a second over HTTP, %,.0f rows a second by raw COPY, %s (aim 0.25)%n",
                found.measured(), found.limit(), found.words());
    }

    private static String error(int i) {
        return ERROR.formatted(i % 40, i % 977, i);
    }

    private static double perSecond(Duration took) {
        return EVENTS / (took.toNanos() / 1e9);
    }

    private Duration http(int round) throws Exception {
        var bodies = new ArrayList<String>();
        for (int from = 0; from < EVENTS; from += BATCH) bodies.add(batch(round, from));
        try (var client = HttpClient.newBuilder()
                        .version(HttpClient.Version.HTTP_1_1)
                        .build();
                var senders = Executors.newFixedThreadPool(SENDERS)) {
            var work = new ArrayList<Callable<Integer>>();
            for (var body : bodies) work.add(() -> post(client, body));
            long start = System.nanoTime();
            for (var done : senders.invokeAll(work)) {
                if (done.get() != 202) throw new IllegalStateException("answered " + done.get());
            }
            return Duration.ofNanos(System.nanoTime() - start);
        }
    }

    private int post(HttpClient client, String body) throws IOException, InterruptedException {
        var request = HttpRequest.newBuilder(address)
                .header("Authorization", "Bearer " + Bench.KEY)
                .header("Content-Type", "application/cloudevents-batch+json")
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
        return client.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
    }

    private static String batch(int round, int from) {
        var text = new StringBuilder("[");
        for (int i = from; i < from + BATCH; i++) {
            text.append(i == from ? "" : ",")
                    .append(
                            """
                    {"specversion":"1.0","id":"%s","source":"/bench","type":"app.morvet.message.failed","subject":"interface-%d","time":"%s","data":{"businessKey":"DP-%d","step":"deliver","error":"%s","attributes":{"node":"hub-1"},"payloadType":"application/json","payload":"%s"}}"""
                                    .formatted(
                                            id(round, i),
                                            i % 20,
                                            time(i),
                                            i,
                                            error(i).replace("\n", "\\n"),
                                            PAYLOAD.replace("\"", "\\\"")));
        }
        return text.append(']').toString();
    }

    private static String id(int round, int i) {
        return "m:" + round + ":" + i;
    }

    private static Instant time(int i) {
        return Instant.now().minusSeconds(3600).plusMillis(i);
    }

    private Duration copy(int round) throws Exception {
        try (Connection connection = dataSource.getConnection();
                var statement = connection.createStatement()) {
            long feed;
            try (var rows = statement.executeQuery("select min(id) from feed")) {
                rows.next();
                feed = rows.getLong(1);
            }
            var bytes = rows(round, feed);
            long start = System.nanoTime();
            var into = connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn(
                            "copy copied (id, at, component_id, feed_id, event_id, business_key, step, error, attributes, payload_type, payload) from stdin (format binary)");
            into.writeToCopy(bytes, 0, bytes.length);
            into.endCopy();
            return Duration.ofNanos(System.nanoTime() - start);
        }
    }

    private static byte[] rows(int round, long feed) throws IOException {
        var bytes = new ByteArrayOutputStream(EVENTS * 1024);
        var out = new DataOutputStream(bytes);
        out.write("PGCOPY\n\377\r\n\0".getBytes(StandardCharsets.ISO_8859_1));
        out.writeInt(0);
        out.writeInt(0);
        for (int i = 0; i < EVENTS; i++) {
            out.writeShort(11);
            number(out, (long) round * EVENTS + i);
            var at = time(i);
            number(out, at.getEpochSecond() * 1_000_000 + at.getNano() / 1000 - POSTGRES_EPOCH_MICROS);
            number(out, i % 20 + 1L);
            number(out, feed);
            text(out, id(round, i));
            text(out, "DP-" + i);
            text(out, "deliver");
            text(out, error(i));
            var attributes = "{\"node\":\"hub-1\"}".getBytes(StandardCharsets.UTF_8);
            out.writeInt(attributes.length + 1);
            out.writeByte(1); // version of the binary form of jsonb
            out.write(attributes);
            text(out, "application/json");
            text(out, PAYLOAD);
        }
        out.writeShort(-1);
        return bytes.toByteArray();
    }

    private static void number(DataOutputStream out, long value) throws IOException {
        out.writeInt(8);
        out.writeLong(value);
    }

    private static void text(DataOutputStream out, String value) throws IOException {
        var bytes = value.getBytes(StandardCharsets.UTF_8);
        out.writeInt(bytes.length);
        out.write(bytes);
    }
}
