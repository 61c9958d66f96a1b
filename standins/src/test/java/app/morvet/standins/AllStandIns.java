package app.morvet.standins;

import static org.assertj.core.api.Assertions.assertThat;

import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import com.sun.net.httpserver.HttpServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The stand-ins over HTTP, before a Morvet that only listens, and refuses its first batches. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
abstract class AllStandIns {
    static final List<String> HEARD = new CopyOnWriteArrayList<>();
    /** Pages of readings that were taken, each after the key with which it came. */
    static final List<String> READ = new CopyOnWriteArrayList<>();

    static volatile int refusals = 2;
    static final AtomicInteger REFUSED_PAGES = new AtomicInteger(6);

    @LocalServerPort
    int port;

    @org.springframework.beans.factory.annotation.Autowired
    org.springframework.core.env.Environment environment;

    final JsonMapper json = new JsonMapper();
    final HttpClient http = HttpClient.newHttpClient();

    @DynamicPropertySource
    static void settings(DynamicPropertyRegistry registry) throws Exception {
        var listener = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        listener.createContext("/api/v1/events", exchange -> {
            var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            boolean refuse = refusals-- > 0;
            if (!refuse) HEARD.add(body);
            exchange.sendResponseHeaders(refuse ? 503 : 202, -1);
            exchange.close();
        });
        // Of the collectors, which tell all at once, the first have theirs taken and the others not, and the other way
        // round.
        listener.createContext("/api/v1/readings", exchange -> {
            var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            int left = REFUSED_PAGES.getAndDecrement();
            boolean refuse = left > 0 && left % 2 == 0;
            if (!refuse) READ.add(exchange.getRequestHeaders().getFirst("Authorization") + "\n" + body);
            exchange.sendResponseHeaders(refuse ? 503 : 202, -1);
            exchange.close();
        });
        listener.start();
        int smtp = FreePort.get();
        registry.add(
                "standins.morvet",
                () -> "http://127.0.0.1:" + listener.getAddress().getPort());
        registry.add("standins.data", () -> {
            try {
                return Files.createTempDirectory("standins").toString();
            } catch (java.io.IOException failed) {
                throw new java.io.UncheckedIOException(failed);
            }
        });
        registry.add("standins.smtp-port", () -> smtp);
        // At an hour of the day at which no job is about to run by itself.
        var noon = Instant.parse("2027-03-18T10:00:00Z");
        registry.add(
                "standins.clock-offset",
                () -> Duration.between(Instant.now(), noon).toSeconds() + "s");
        registry.add("standins.past", () -> "PT6H");
        registry.add("standins.batch-past", () -> "P3D");
        registry.add("standins.desk-token", () -> "token");
    }

    HttpResponse<String> get(String path) throws Exception {
        return http.send(request(path).build(), HttpResponse.BodyHandlers.ofString());
    }

    HttpResponse<String> post(String path, String type, String body, String... headers) throws Exception {
        var request = request(path).header("Content-Type", type).POST(HttpRequest.BodyPublishers.ofString(body));
        if (headers.length > 0) request.headers(headers);
        return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path));
    }

    interface Check {
        boolean holds() throws Exception;
    }

    static void until(Check check) throws Exception {
        var end = Instant.now().plusSeconds(20);
        while (!check.holds()) {
            assertThat(Instant.now()).as("it does not come to hold").isBefore(end);
            Thread.sleep(50);
        }
    }

    /** What was heard of runs, by the name of the run: begun and ended. */
    List<JsonNode> heardOf(String type) {
        var found = new java.util.ArrayList<JsonNode>();
        for (var batch : HEARD)
            for (JsonNode event : json.readTree(batch))
                if (event.get("type").asString().equals("app.morvet.run." + type)) found.add(event);
        return found;
    }

    static void mail(int port, String subject) {
        GreenMailUtil.sendTextEmail(
                "team@sundrava.example",
                "morvet@sundrava.example",
                subject,
                "text",
                new ServerSetup(port, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
    }

    String event(String id) throws Exception {
        return get("/works/harbour.ics").body().replaceAll("(?s).*UID:" + id + "@harbour(.*?)END:VEVENT.*", "$1");
    }

    java.time.LocalDateTime begin(String id) throws Exception {
        return java.time.LocalDateTime.parse(
                event(id).replaceAll("(?s).*DTSTART;TZID=Europe/Helsinki:(\\d{8}T\\d{6}).*", "$1"),
                java.time.format.DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss"));
    }
}
