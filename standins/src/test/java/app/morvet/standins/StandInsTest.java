package app.morvet.standins;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashSet;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The stand-ins over HTTP, before a Morvet that only listens, and refuses its first batches. */
class StandInsTest extends AllStandIns {
    /** Name and labels, value, and when in milliseconds. */
    private static final Pattern READING = Pattern.compile("(\\w+(?:\\{.*})?) (\\S+) (\\d{13})");

    private static final long TWO_MINUTES = 120_000;

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

    /** What was refused is offered again as it was; so what has counted on has done so once, and no reading is missed. */
    @Test
    void machinesTellTheirPastWithoutAGapAndCountItOnce() throws Exception {
        until(() -> get("/machines/status").body().contains("\"caughtUp\":true"));
        assertThat(REFUSED_PAGES.get()).as("some were refused").isNotPositive();
        var told = new TreeMap<String, TreeMap<Long, String>>();
        for (var page : READ)
            for (var line : page.split("\n")) {
                var reading = READING.matcher(line);
                if (!reading.matches()) continue;
                var before = told.computeIfAbsent(reading.group(1), none -> new TreeMap<>())
                        .put(Long.parseLong(reading.group(3)), reading.group(2));
                if (before != null) assertThat(reading.group(2)).as(line).isEqualTo(before);
            }
        assertThat(told).hasSizeGreaterThan(50);
        // What is silent for a while is among the past's trouble.
        assertThat(told.values().stream()
                        .filter(readings ->
                                readings.lastKey() - readings.firstKey() == (readings.size() - 1L) * TWO_MINUTES)
                        .filter(readings -> readings.size() == 180))
                .hasSizeGreaterThan(told.size() * 9 / 10);
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
