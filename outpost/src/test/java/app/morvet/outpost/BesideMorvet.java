package app.morvet.outpost;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** An outpost with a Morvet that can be away, lose answers and give orders, and a clock that goes on when it is told to. */
abstract class BesideMorvet {
    /** Stands still until it is set. */
    static final class SetClock extends Clock {
        private final AtomicReference<Instant> now = new AtomicReference<>(Instant.parse("2027-03-18T02:38:00Z"));

        void ahead(Duration by) {
            now.updateAndGet(it -> it.plus(by));
        }

        @Override
        public Instant instant() {
            return now.get();
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }
    }

    @TempDir
    Path folder;

    final SetClock clock = new SetClock();
    final List<JsonNode> taken = new CopyOnWriteArrayList<>();
    final List<String> alarms = new CopyOnWriteArrayList<>();
    final List<JsonNode> words = new CopyOnWriteArrayList<>();
    final List<ObjectNode> tries = new CopyOnWriteArrayList<>();
    final List<ObjectNode> orders = new CopyOnWriteArrayList<>();
    HttpServer morvet;
    volatile String brief = "{\"version\":\"a\",\"measures\":[]}";
    volatile boolean away;
    volatile boolean losesAnswers;
    long takenTo;
    Outpost outpost;

    @BeforeEach
    void open() throws IOException {
        morvet = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
        morvet.createContext("/api/v1/outposts/word", this::word);
        morvet.createContext("/api/v1/outposts/brief", exchange -> {
            var tag = "\"" + Wire.JSON.readTree(brief).path("version").asString() + "\"";
            exchange.getResponseHeaders().add("ETag", tag);
            boolean same = tag.equals(exchange.getRequestHeaders().getFirst("If-None-Match"));
            answer(exchange, same ? 304 : 200, same ? "" : brief);
        });
        morvet.createContext("/told", exchange -> {
            alarms.add(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
            answer(exchange, 200, "");
        });
        morvet.createContext("/metrics", exchange -> answer(exchange, 200, "gate_depth 17\n"));
        morvet.start();
        outpost = begun();
    }

    @AfterEach
    void close() {
        morvet.stop(0);
    }

    String address() {
        return "127.0.0.1:" + morvet.getAddress().getPort();
    }

    Outpost begun() throws IOException {
        var file = folder.resolve("outpost.yaml");
        Files.createDirectories(folder.resolve("logs"));
        Files.writeString(
                file,
                """
                morvet: http://%s
                name: quay-03
                key: mo_key
                spool: %s/spool
                reach: [%s]
                read: [%s/logs]
                commands:
                  hello: {run: [echo, hello]}
                actions:
                  touch: {run: [touch, "%s/{what}"], arguments: {what: [a]}}
                  say: {run: [echo, "{what}"], arguments: {what: [a, b]}, atMost: 2 in 1 h}
                  fail: {run: ["false"]}
                  wait: {run: [sleep, 30]}
                  admins only: {run: [echo, x], right: admin}
                watcher: {after: 2 min, call: "http://%s/told"}
                """
                        .formatted(address(), folder, address(), folder, folder, address()));
        return new Outpost(OwnFile.read(file, Map.of()), clock);
    }

    synchronized void word(HttpExchange exchange) throws IOException {
        JsonNode word;
        try (var in = new GZIPInputStream(exchange.getRequestBody())) {
            word = Wire.JSON.readTree(in.readAllBytes());
        }
        if (away) {
            answer(exchange, 503, "away");
            return;
        }
        words.add(word);
        for (var item : word.path("items"))
            if (item.path("n").asLong() > takenTo) {
                takenTo = item.path("n").asLong();
                taken.add(item);
            }
        if (losesAnswers) {
            exchange.close();
            return;
        }
        var told = Wire.JSON
                .createObjectNode()
                .put("takenTo", takenTo)
                .put("brief", Wire.JSON.readTree(brief).path("version").asString());
        if (!orders.isEmpty()) told.putArray("orders").addAll(orders);
        if (!tries.isEmpty()) told.putArray("tries").addAll(tries);
        answer(exchange, 200, told.toString());
    }

    static void answer(HttpExchange exchange, int code, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(code, bytes.length == 0 ? -1 : bytes.length);
        if (bytes.length > 0) exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    interface Holds {
        boolean now() throws Exception;
    }

    void until(Holds holds) throws Exception {
        for (int i = 0; i < 200; i++) {
            outpost.word();
            if (holds.now()) return;
            Thread.sleep(50);
        }
        throw new AssertionError("not within its time; told was " + taken + " in " + words.size() + " words, the last "
                + words.getLast());
    }

    static String check(int id, int version, String kind, String fields) {
        return "{\"id\":%d,\"version\":%d,\"name\":\"c%d\",\"everySeconds\":60,\"tries\":1,\"kind\":\"%s\",\"fields\":{%s}}"
                .formatted(id, version, id, kind, fields);
    }

    List<String> results() {
        return taken.stream()
                .filter(one -> one.has("checks"))
                .map(one -> one.path("checks"))
                .map(one -> "%d.%d %s"
                        .formatted(
                                one.path("id").asInt(),
                                one.path("version").asInt(),
                                one.path("state").asString()))
                .toList();
    }

    void order(int id, String action, String right, int secondsLeft, String arguments) {
        orders.add((ObjectNode) Wire.JSON.readTree(
                "{\"id\":%d,\"action\":\"%s\",\"right\":\"%s\",\"secondsLeft\":%d,\"arguments\":{%s}}"
                        .formatted(id, action, right, secondsLeft, arguments)));
    }

    List<String> outcomes() {
        return taken.stream()
                .filter(one -> one.has("orders"))
                .map(one -> one.path("orders"))
                .map(one -> one.path("id").asInt() + " " + one.path("state").asString() + " "
                        + one.path("words").asString())
                .map(String::strip)
                .toList();
    }
}
