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
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The stand-ins over HTTP, before a Morvet that only listens, and refuses its first batches. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
class StandInsTest {
    private static final List<String> HEARD = new CopyOnWriteArrayList<>();
    private static volatile int refusals = 2;

    @LocalServerPort
    int port;

    @org.springframework.beans.factory.annotation.Autowired
    org.springframework.core.env.Environment environment;

    private final JsonMapper json = new JsonMapper();
    private final HttpClient http = HttpClient.newHttpClient();

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

    private HttpResponse<String> get(String path) throws Exception {
        return http.send(request(path).build(), HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> post(String path, String type, String body, String... headers) throws Exception {
        var request = request(path).header("Content-Type", type).POST(HttpRequest.BodyPublishers.ofString(body));
        if (headers.length > 0) request.headers(headers);
        return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path));
    }

    private interface Check {
        boolean holds() throws Exception;
    }

    private static void until(Check check) throws Exception {
        var end = Instant.now().plusSeconds(20);
        while (!check.holds()) {
            assertThat(Instant.now()).as("it does not come to hold").isBefore(end);
            Thread.sleep(50);
        }
    }

    @Test
    void theHubTellsItsPastOnceAndWithoutAGapThoughItWasRefusedAtFirst() throws Exception {
        until(() -> get("/hub/status").body().contains("\"caughtUp\":true"));
        Set<String> ids = new HashSet<>();
        int events = 0;
        Instant reached = Instant.EPOCH;
        for (var batch : HEARD) {
            for (JsonNode event : json.readTree(batch)) {
                events++;
                ids.add(event.get("id").asString());
                assertThat(event.get("specversion").asString()).isEqualTo("1.0");
                if (!event.get("subject").asString().equals("sea-state-readings-in")
                        || !event.get("data").has("from")) continue;
                var from = Instant.parse(event.get("data").get("from").asString());
                if (!reached.equals(Instant.EPOCH)) assertThat(from).isEqualTo(reached);
                reached = Instant.parse(event.get("time").asString());
            }
        }
        assertThat(ids).hasSize(events).hasSizeGreaterThan(500);
    }

    @Test
    void aBrokenInterfaceFailsWhatItCarriesAndAMendedOneDelivers() throws Exception {
        until(() -> get("/hub/status").body().contains("\"caughtUp\":true"));
        post("/hub/customer-updates/break", "application/x-www-form-urlencoded", "fault=DUPLICATE_KEY");
        assertThat(get("/hub").body()).contains("Duplicate key");
        post("/hub/customer-updates/carry", "application/x-www-form-urlencoded", "count=5");
        until(() -> HEARD.stream()
                        .filter(batch -> batch.contains("\"b:customer-updates:"))
                        .count()
                == 1);
        var failed = json.readTree(HEARD.stream()
                .filter(batch -> batch.contains("\"b:customer-updates:"))
                .findFirst()
                .orElseThrow());
        assertThat(failed.size()).isEqualTo(5);
        assertThat(failed.get(0).get("data").get("error").asString()).contains("duplicate key value violates");
        post("/hub/customer-updates/mend", "application/x-www-form-urlencoded", "");
        var row = get("/hub").body().split("Customer updates")[1].split("</tr>")[0];
        assertThat(row).doesNotContain("class=\"broken\"");
    }

    @Test
    void aMessageIsSentAgainOnceForAKeyAndFailsAsOftenAsThePanelSays() throws Exception {
        until(() -> get("/hub/status").body().contains("\"caughtUp\":true"));
        post("/hub/bunker-delivery-notes/fail-next", "application/x-www-form-urlencoded", "count=1");
        var again = "{\"message\": \"m:bunker-delivery-notes:1:0\", \"carrier\": \"bunker-delivery-notes\"}";
        assertThat(post("/hub/api/send-again", "application/json", again).statusCode())
                .isEqualTo(401);
        var outcomes = new java.util.ArrayList<String>();
        for (var key : new String[] {"k-1", "k-1", "k-2"})
            outcomes.add(json.readTree(post(
                                    "/hub/api/send-again",
                                    "application/json",
                                    again,
                                    "Authorization",
                                    "Bearer token",
                                    "Idempotency-Key",
                                    key)
                            .body())
                    .get("outcome")
                    .asString());
        assertThat(outcomes).containsExactly("failed", "failed", "delivered");
        until(() -> HEARD.stream().anyMatch(batch -> batch.contains("\"m:bunker-delivery-notes:1:0#")));
    }

    /** What was heard of runs, by the name of the run: begun and ended. */
    private List<JsonNode> heardOf(String type) {
        var found = new java.util.ArrayList<JsonNode>();
        for (var batch : HEARD)
            for (JsonNode event : json.readTree(batch))
                if (event.get("type").asString().equals("app.morvet.run." + type)) found.add(event);
        return found;
    }

    @Test
    void theSchedulerRunsTheChainOneAfterTheOtherAndTellsEachRunOnce() throws Exception {
        until(() -> get("/scheduler/status").body().contains("\"caughtUp\":true"));
        until(() -> heardOf("finished").size() > 100);
        var ends = new java.util.HashMap<String, Instant>();
        for (var event : heardOf("finished"))
            assertThat(ends.put(
                            event.get("data").get("run").asString(),
                            Instant.parse(event.get("time").asString())))
                    .isNull();
        var lastOf = new java.util.HashMap<String, Instant>();
        var before = java.util.Map.of(
                "rate-fares", "collect-sailings", "settle-bookings", "rate-fares", "bank-file", "post-to-ledger");
        for (var event : heardOf("started")) {
            var job = event.get("subject").asString();
            var at = Instant.parse(event.get("time").asString());
            // Each begins the very moment that the one before it is done.
            if (before.containsKey(job))
                assertThat(lastOf.get(before.get(job))).as(job).isBeforeOrEqualTo(at);
            var end = ends.get(event.get("data").get("run").asString());
            if (end != null) lastOf.put(job, end);
        }
        assertThat(lastOf).containsKeys("collect-sailings", "morning-figures", "weigh-fuel-stores");
    }

    @Test
    void theSchedulerCarriesOutAnOrderOnceAndOnlyForWhoHasTheToken() throws Exception {
        until(() -> get("/scheduler/status").body().contains("\"caughtUp\":true"));
        var rerun = "{\"order\": \"rerun\", \"job\": \"rotate-gate-keys\", \"run\": \"\"}";
        assertThat(post("/scheduler/api/orders", "application/json", rerun).statusCode())
                .isEqualTo(401);
        var answers = new java.util.ArrayList<String>();
        for (var key : new String[] {"o-1", "o-1", "o-2"})
            answers.add(post(
                            "/scheduler/api/orders",
                            "application/json",
                            rerun,
                            "Authorization",
                            "Bearer token",
                            "Idempotency-Key",
                            key)
                    .body());
        assertThat(answers.get(0)).contains("done");
        assertThat(answers.get(1)).isEqualTo(answers.get(0));
        assertThat(answers.get(2)).contains("refused").contains("is running");
        post("/scheduler/rotate-gate-keys/break", "application/x-www-form-urlencoded", "trouble=FAIL&code=9");
        until(() -> heardOf("finished").stream()
                .anyMatch(event -> event.get("subject").asString().equals("rotate-gate-keys")
                        && event.get("data").get("exitCode").asInt() == 9));
    }

    @Test
    void theDeskMakesOneTicketOfAKeyAndAnswersNothingWhileItIsDown() throws Exception {
        var ticket = "{\"summary\": \"Please look\", \"group\": \"platform\"}";
        assertThat(post("/desk/api/tickets", "application/json", ticket).statusCode())
                .isEqualTo(401);
        var first = post(
                "/desk/api/tickets",
                "application/json",
                ticket,
                "Authorization",
                "Bearer token",
                "Idempotency-Key",
                "k1");
        var again = post(
                "/desk/api/tickets",
                "application/json",
                ticket,
                "Authorization",
                "Bearer token",
                "Idempotency-Key",
                "k1");
        assertThat(first.statusCode()).isEqualTo(201);
        assertThat(again.body()).isEqualTo(first.body());
        assertThat(post("/desk/api/tickets", "application/json", "{}", "Authorization", "Bearer token")
                        .statusCode())
                .isEqualTo(400);
        var number = json.readTree(first.body()).get("ticket").get("number").asString();
        post("/desk/tickets/" + number, "application/x-www-form-urlencoded", "state=returned&reason=not+ours");
        var read = request("/desk/api/tickets/" + number).header("Authorization", "Bearer token");
        assertThat(http.send(read.build(), HttpResponse.BodyHandlers.ofString()).body())
                .contains("\"returned\"", "not ours");
        post("/desk/down", "application/x-www-form-urlencoded", "down=true");
        assertThat(http.send(read.build(), HttpResponse.BodyHandlers.ofString()).statusCode())
                .isEqualTo(503);
        post("/desk/down", "application/x-www-form-urlencoded", "down=false");
    }

    @Test
    void aTicketBringsItsFilesAlongAndCallsBackWhenItIsChanged() throws Exception {
        var called = new CopyOnWriteArrayList<String>();
        var back = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        back.createContext("/back", exchange -> {
            called.add(exchange.getRequestHeaders().getFirst("Authorization") + " "
                    + new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
            exchange.sendResponseHeaders(204, -1);
            exchange.close();
        });
        back.start();
        try {
            var content = java.util.Base64.getEncoder().encodeToString("a;b".getBytes(StandardCharsets.UTF_8));
            var answer = post(
                    "/desk/api/tickets",
                    "application/json",
                    """
                    {"summary": "<b>Gangway</b>", "group": "platform", "callback": "http://127.0.0.1:%d/back",
                     "evidence": [{"businessKey": "BK-1"}, "no evidence"],
                     "attachments": [{"name": "rows.csv", "content": "%s"}]}"""
                            .formatted(back.getAddress().getPort(), content),
                    "Authorization",
                    "Bearer token");
            var number =
                    json.readTree(answer.body()).get("ticket").get("number").asString();
            assertThat(get("/desk").body()).contains(number, "&lt;b&gt;Gangway&lt;/b&gt;");
            assertThat(get("/desk/tickets/" + number).body()).contains("BK-1", "rows.csv");
            assertThat(get("/desk/tickets/" + number + "/attachments/rows.csv").body())
                    .isEqualTo("a;b");
            assertThat(get("/desk/tickets/" + number + "/attachments/other.csv").statusCode())
                    .isEqualTo(404);
            assertThat(get("/desk/tickets/SD-9/attachments/rows.csv").statusCode())
                    .isEqualTo(404);
            post("/desk/tickets/" + number, "application/x-www-form-urlencoded", "state=accepted");
            until(() -> !called.isEmpty());
            assertThat(called.getFirst())
                    .startsWith("Bearer ")
                    .endsWith("{\"ticket\":{\"number\":\"" + number + "\"}}");
        } finally {
            back.stop(0);
        }
    }

    @Test
    void ticketsOfAPastAreThereOnceAndNumbersGoOnAfterThem() throws Exception {
        var past =
                """
                [{"number": "SD-7001", "key": "p-1", "summary": "Long ago", "description": "", "group": "platform",
                  "caller": "", "link": "", "callback": "", "evidence": [], "attachments": [], "state": "done", "reason": "",
                  "openedAt": "2027-03-01T10:00:00Z"}]""";
        assertThat(post("/desk/past", "application/json", past).statusCode()).isEqualTo(401);
        for (int i = 0; i < 2; i++)
            assertThat(post("/desk/past", "application/json", past, "Authorization", "Bearer token")
                            .statusCode())
                    .isEqualTo(200);
        assertThat(get("/desk").body().split("SD-7001", -1)).hasSizeLessThan(5);
        var next = post(
                "/desk/api/tickets", "application/json", "{\"summary\": \"Next\"}", "Authorization", "Bearer token");
        assertThat(json.readTree(next.body()).get("ticket").get("number").asString())
                .isEqualTo("SD-7002");
    }

    private static void mail(int port, String subject) {
        GreenMailUtil.sendTextEmail(
                "team@sundrava.example",
                "morvet@sundrava.example",
                subject,
                "text",
                new ServerSetup(port, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
    }

    /** What the harbour plans is read as a calendar; it is moved, called off, and no text breaks a line. */
    @Test
    void worksInTheHarbourAreACalendar() throws Exception {
        var form = "application/x-www-form-urlencoded";
        assertThat(post("/works", form, "title=Diving%2C+deep%3B+slow&place=quay-05%0Aand+06&in=60&minutes=30")
                        .statusCode())
                .isEqualTo(302);
        var calendar = get("/works/harbour.ics");
        assertThat(calendar.headers().firstValue("content-type").orElse("")).startsWith("text/calendar");
        assertThat(calendar.body())
                .contains("SUMMARY:Power test\r\n", "RRULE:FREQ=WEEKLY;COUNT=8\r\n")
                .contains("SUMMARY:Diving\\, deep\\; slow\r\n", "LOCATION:quay-05\\nand 06\r\n", "DURATION:PT30M\r\n");
        var id = calendar.body().replaceAll("(?s).*UID:(h-\\d+)@harbour\r\n.*", "$1");
        var begins = begin(id);
        post("/works/" + id, form, "by=60");
        assertThat(begin(id)).isEqualTo(begins.plusHours(1));
        post("/works/" + id, form, "off=true");
        assertThat(event(id)).contains("STATUS:CANCELLED");
        assertThat(get("/works").body()).contains("called off");
    }

    private String event(String id) throws Exception {
        return get("/works/harbour.ics").body().replaceAll("(?s).*UID:" + id + "@harbour(.*?)END:VEVENT.*", "$1");
    }

    private java.time.LocalDateTime begin(String id) throws Exception {
        return java.time.LocalDateTime.parse(
                event(id).replaceAll("(?s).*DTSTART;TZID=Europe/Helsinki:(\\d{8}T\\d{6}).*", "$1"),
                java.time.format.DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss"));
    }

    @Test
    void theMailServerIsSwitchedOffAndOnAndKeepsWhatItHad() throws Exception {
        var port = Integer.parseInt(environment.getProperty("standins.smtp-port"));
        mail(port, "Before it went");
        until(() -> get("/mailbox").body().contains("Before it went"));
        post("/mailbox/on", "application/x-www-form-urlencoded", "on=false");
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> new java.net.Socket("127.0.0.1", port).close())
                .isInstanceOf(java.io.IOException.class);
        assertThat(get("/mailbox").body()).contains("Before it went");
        post("/mailbox/on", "application/x-www-form-urlencoded", "on=true");
        mail(port, "After it came back");
        until(() -> get("/mailbox").body().contains("After it came back"));
        assertThat(get("/mailbox").body()).contains("Before it went");
    }

    @Test
    void whoAsksForWhatThereIsNotIsTold() throws Exception {
        var form = "application/x-www-form-urlencoded";
        assertThat(post("/hub/nowhere/break", form, "fault=DUPLICATE_KEY").statusCode())
                .isEqualTo(404);
        assertThat(post("/hub/customer-updates/break", form, "fault=GREMLINS").statusCode())
                .isEqualTo(400);
        assertThat(get("/desk/tickets/SD-1").statusCode()).isEqualTo(404);
        assertThat(post("/machines/nobody/ail", form, "ailment=SLOW").body())
                .isEqualTo("There is no machine nobody.\n");
        assertThat(post("/machines/quay-01/ail", form, "ailment=SLOW").body()).isEqualTo("quay-01 cannot have that.\n");
        assertThat(get("/hub").body()).doesNotContain("nowhere");
    }

    @Test
    void anInterfaceThatIsStoppedTellsItAndRefusesWhatIsSentAgain() throws Exception {
        until(() -> get("/hub/status").body().contains("\"caughtUp\":true"));
        post("/hub/crew-hours-to-payroll/deploy", "application/x-www-form-urlencoded", "state=stopped&reason=new+year");
        until(() -> HEARD.stream()
                .anyMatch(batch -> batch.contains("app.morvet.interface.state")
                        && batch.contains("crew-hours-to-payroll")
                        && batch.contains("new year")));
        var again = post(
                "/hub/api/send-again",
                "application/json",
                "{\"message\": \"m:1\", \"carrier\": \"crew-hours-to-payroll\"}",
                "Authorization",
                "Bearer token",
                "Idempotency-Key",
                "stopped-1");
        assertThat(json.readTree(again.body()).get("outcome").asString()).isEqualTo("refused");
        assertThat(post(
                                "/hub/api/send-again",
                                "application/json",
                                "{\"message\": \"m:1\", \"carrier\": \"crew-hours-to-payroll\"}",
                                "Authorization",
                                "Bearer token")
                        .statusCode())
                .as("without a key it might be sent twice")
                .isEqualTo(400);
        post("/hub/crew-hours-to-payroll/deploy", "application/x-www-form-urlencoded", "state=running&version=9.9");
        assertThat(get("/hub").body()).contains("9.9");
    }
}
