package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;

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
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** A whole outpost beside something that speaks as Morvet does, with a clock that is set. */
class OutpostTest {
    /** Stands still until it is set. */
    private static final class SetClock extends Clock {
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

    private final SetClock clock = new SetClock();
    private final List<JsonNode> taken = new CopyOnWriteArrayList<>();
    private final List<String> alarms = new CopyOnWriteArrayList<>();
    private final List<JsonNode> words = new CopyOnWriteArrayList<>();
    private final List<ObjectNode> tries = new CopyOnWriteArrayList<>();
    private final List<ObjectNode> orders = new CopyOnWriteArrayList<>();
    private HttpServer morvet;
    private volatile String brief = "{\"version\":\"a\",\"measures\":[]}";
    private volatile boolean away;
    private volatile boolean losesAnswers;
    private long takenTo;
    private Outpost outpost;

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

    private String address() {
        return "127.0.0.1:" + morvet.getAddress().getPort();
    }

    private Outpost begun() throws IOException {
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

    private synchronized void word(HttpExchange exchange) throws IOException {
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

    private static void answer(HttpExchange exchange, int code, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(code, bytes.length == 0 ? -1 : bytes.length);
        if (bytes.length > 0) exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    private interface Holds {
        boolean now() throws Exception;
    }

    private void until(Holds holds) throws Exception {
        for (int i = 0; i < 200; i++) {
            outpost.word();
            if (holds.now()) return;
            Thread.sleep(50);
        }
        throw new AssertionError("not within its time; told was " + taken + " in " + words.size() + " words, the last "
                + words.getLast());
    }

    private static String check(int id, int version, String kind, String fields) {
        return "{\"id\":%d,\"version\":%d,\"name\":\"c%d\",\"everySeconds\":60,\"tries\":1,\"kind\":\"%s\",\"fields\":{%s}}"
                .formatted(id, version, id, kind, fields);
    }

    private List<String> results() {
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

    @Test
    void aBriefIsFetchedAndInForceAndWhatCannotBeDoneIsSaid() throws Exception {
        brief =
                "{\"version\":\"b\",\"measures\":[{\"what\":\"memory\",\"everySeconds\":30},{\"what\":\"page http://%s/metrics\",\"everySeconds\":30},{\"what\":\"bean 127.0.0.1:1 a:type=b C\",\"everySeconds\":30}],\"checks\":[%s,%s,%s,%s]}"
                        .formatted(
                                address(),
                                check(1, 1, "command", "\"command\":\"hello\",\"expected\":\"text \\\"hello\\\"\""),
                                check(
                                        2,
                                        1,
                                        "port",
                                        "\"host\":\"127.0.0.1\",\"port\":\""
                                                + morvet.getAddress().getPort() + "\""),
                                check(3, 1, "port", "\"host\":\"192.0.2.1\",\"port\":\"22\""),
                                check(4, 1, "of tomorrow", ""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 3
                && taken.stream().anyMatch(one -> one.has("page"))
                && taken.stream().anyMatch(one -> one.has("readings")));
        assertThat(results()).containsExactlyInAnyOrder("1.1 passed", "2.1 passed", "3.1 no answer");
        assertThat(taken.toString()).contains("memory_used", "gate_depth 17", "does not let checks reach 192.0.2.1:22");
        outpost.word();
        var last = words.getLast();
        assertThat(last.path("brief").asString()).isEqualTo("b");
        assertThat(last.path("faults").toString())
                .contains(
                        "the check c4: \\\"of tomorrow\\\" is no kind of check",
                        "bean 127.0.0.1:1 a:type=b C: the file of the outpost");
        assertThat(last.path("may").path("actions").toString()).contains("admins only");
        assertThat(last.path("offers").toString()).contains("processor", "memory");
        // Nothing is due again, until time has passed.
        outpost.lookOnce();
        Thread.sleep(300);
        outpost.word();
        assertThat(results()).hasSize(3);
        clock.ahead(Duration.ofSeconds(61));
        outpost.lookOnce();
        until(() -> results().size() == 6);
        // One that was changed is looked at at once; one that is gone no more.
        brief = "{\"version\":\"c\",\"checks\":[%s]}".formatted(check(1, 2, "command", "\"command\":\"hello\""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 7);
        assertThat(results().getLast()).isEqualTo("1.2 passed");
    }

    @Test
    void whileMorvetIsAwayNothingIsLostAndNothingDoubled() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 1);
        away = true;
        var expected = 1;
        for (int minute = 0; minute < 10; minute++) {
            clock.ahead(Duration.ofSeconds(61));
            outpost.lookOnce();
            expected++;
            long wanted = expected - 1;
            for (int i = 0; i < 100 && outpost.waiting() < wanted; i++) Thread.sleep(50);
            outpost.word();
            // In the middle of it the program is killed and begun anew; it knows its brief when Morvet is back.
            if (minute == 4) {
                outpost = begun();
                away = false;
                losesAnswers = true;
                outpost.word();
                losesAnswers = false;
                outpost.word();
                outpost.lookOnce();
                expected++;
                int count = expected;
                until(() -> results().size() == count);
                away = true;
                expected = 1;
                taken.clear();
            }
        }
        assertThat(results()).isEmpty();
        assertThat(alarms).hasSize(3);
        assertThat(alarms.get(0)).contains("\"event\":\"away\"", "has not answered the outpost quay-03 for 2 min");
        assertThat(alarms.get(1)).as("told by the one that began anew").contains("\"event\":\"back\"");
        assertThat(alarms.get(2)).contains("\"event\":\"away\"");
        away = false;
        losesAnswers = true;
        outpost.word();
        losesAnswers = false;
        until(() -> outpost.waiting() == 0);
        var times = taken.stream()
                .map(one -> one.path("checks").path("at").asString())
                .toList();
        assertThat(times).hasSize(5).isSorted();
        assertThat(new LinkedHashSet<>(times)).hasSize(5);
        assertThat(alarms).hasSize(4).last().asString().contains("\"event\":\"back\"", "Morvet answers again");
    }

    private void order(int id, String action, String right, int secondsLeft, String arguments) {
        orders.add((ObjectNode) Wire.JSON.readTree(
                "{\"id\":%d,\"action\":\"%s\",\"right\":\"%s\",\"secondsLeft\":%d,\"arguments\":{%s}}"
                        .formatted(id, action, right, secondsLeft, arguments)));
    }

    private List<String> outcomes() {
        return taken.stream()
                .filter(one -> one.has("orders"))
                .map(one -> one.path("orders"))
                .map(one -> one.path("id").asInt() + " " + one.path("state").asString() + " "
                        + one.path("words").asString())
                .map(String::strip)
                .toList();
    }

    @Test
    void anOrderIsCarriedOutOnceAndOnlyAsTheFileAllows() throws Exception {
        order(1, "say", "analyst", 100, "\"what\":\"a\"");
        order(2, "say", "analyst", 100, "\"what\":\"a; rm -rf /\"");
        order(3, "reboot", "admin", 100, "");
        order(4, "admins only", "lead", 100, "");
        order(5, "fail", "analyst", 100, "");
        order(6, "say", "analyst", 0, "\"what\":\"a\"");
        until(() -> outcomes().stream().anyMatch(one -> one.startsWith("5 FAILED"))
                && outcomes().contains("1 DONE a"));
        assertThat(outcomes())
                .contains(
                        "1 FETCHED",
                        "2 REFUSED what=a; rm -rf / is not one of a, b",
                        "3 REFUSED the file of the outpost quay-03 names no action \"reboot\"",
                        "4 REFUSED who asks for \"admins only\" must be admin at least",
                        "5 FAILED It ended with 1.")
                .noneMatch(one -> one.startsWith("6 "));
        // Given again, since an answer may be lost, it is not done again; nor after the program began anew.
        outpost.word();
        outpost = begun();
        outpost.word();
        Thread.sleep(200);
        outpost.word();
        assertThat(outcomes().stream().filter(one -> one.startsWith("1 DONE"))).hasSize(1);
        orders.clear();
        order(7, "say", "analyst", 100, "\"what\":\"b\"");
        order(8, "say", "analyst", 100, "\"what\":\"b\"");
        order(9, "say", "analyst", 100, "\"what\":\"b\"");
        until(() -> outcomes().stream()
                        .filter(one -> one.matches("[789] (DONE|REFUSED).*"))
                        .count()
                == 3);
        assertThat(outcomes()).contains("9 REFUSED \"say\" is done 2 times in 1 h at most");
    }

    @Test
    void whatSomebodyTriesIsToldAtOnceAndTriedOnce() throws Exception {
        tries.add(
                (ObjectNode) Wire.JSON.readTree("{\"id\":1,\"kind\":\"command\",\"fields\":{\"command\":\"hello\"}}"));
        tries.add((ObjectNode) Wire.JSON.readTree("{\"id\":2,\"kind\":\"command\",\"fields\":{\"command\":\"rm\"}}"));
        tries.add((ObjectNode) Wire.JSON.readTree("{\"id\":3,\"kind\":\"of tomorrow\",\"fields\":{}}"));
        until(() -> words.stream()
                        .mapToInt(one -> one.path("told").path("tries").size())
                        .sum()
                == 3);
        outpost.word();
        Thread.sleep(200);
        outpost.word();
        var told = words.stream()
                .map(one -> one.path("told").path("tries"))
                .toList()
                .toString();
        assertThat(told)
                .contains("\"state\":\"passed\"", "names no command \\\"rm\\\"", "is no kind of check")
                .containsOnlyOnce("\"id\":1,");
        assertThat(taken).as("nothing of it is kept").isEmpty();
    }

    @Test
    void oneWhoseEndIsNotKnownIsToldAndNotTriedAgain() throws Exception {
        order(1, "wait", "analyst", 100, "");
        until(() -> outcomes().contains("1 FETCHED"));
        // Killed while it was carried out.
        outpost = begun();
        until(() -> outcomes().stream()
                .anyMatch(one -> one.startsWith("1 UNKNOWN The outpost ended while it was carried out")));
        outpost = begun();
        outpost.word();
        outpost.word();
        assertThat(outcomes().stream().filter(one -> one.startsWith("1 UNKNOWN")))
                .hasSize(1);
    }

    /** Its host was started anew while Morvet is away: it looks at what it was to look at, and tells it later. */
    @Test
    void aBriefHoldsAlsoWhereItBeginsWithoutMorvet() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        away = true;
        outpost = begun();
        outpost.lookOnce();
        for (int i = 0; i < 100 && outpost.waiting() == 0; i++) Thread.sleep(50);
        outpost.word();
        away = false;
        until(() -> results().size() == 1);
        assertThat(words.getLast().path("brief").asString()).isEqualTo("b");
    }

    /** A line that cannot be read any more, since the disk was full, keeps none behind it. */
    @Test
    void aBrokenLineIsLeftOut() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        Files.writeString(folder.resolve("spool/000000000000000001.lines"), "{\"checks\":{\"id\":\n[1]\n\n");
        outpost = begun();
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 1);
        until(() -> outpost.waiting() == 0);
        assertThat(results()).hasSize(1);
    }
}
