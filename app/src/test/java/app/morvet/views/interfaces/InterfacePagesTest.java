package app.morvet.views.interfaces;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What each interface carries, how it stands, and where it is on the map. */
class InterfacePagesTest extends MorvetTest {
    /** All that need eyes, the first and the others. */
    private String needEyes() throws Exception {
        var analyst = loggedIn("analyst");
        return analyst.get("/messages").body() + analyst.get("/messages/others").body();
    }

    private void state(Subject subject, String state, String reason, String version, Instant at) throws Exception {
        assertThat(send(List.of(event(
                                "interface.state",
                                subject.key(),
                                at,
                                Map.of("state", state, "reason", reason, "version", version, "node", "hub-1"))))
                        .statusCode())
                .isEqualTo(202);
    }

    @Test
    void whatHasFailedComesFirstAndTheRestIsOneQuietLine() throws Exception {
        var bad = subject();
        var good = subject();
        sorting(bad, "refused", false);
        var at = Instant.now().minusSeconds(5);
        send(List.of(
                event(
                        "messages.delivered",
                        bad.key(),
                        at,
                        Map.of(
                                "from",
                                at.minusSeconds(60).toString(),
                                "delivered",
                                3,
                                "delays",
                                List.of(1.0, 2.0, 3.0))),
                event(
                        "messages.delivered",
                        good.key(),
                        at,
                        Map.of("from", at.minusSeconds(60).toString(), "delivered", 7)),
                failed(bad, Map.of("error", "refused"))));
        eventually(() -> assertThat(needEyes()).contains("1 open, the oldest from"));
        var page = needEyes();
        assertThat(page).contains("Interface " + bad.key()).doesNotContain("Interface " + good.key());
        assertThat(page).containsPattern("\\d+ interfaces? carr(y|ies) as usual");
        assertThat(loggedIn("analyst").get("/messages/rest").body())
                .contains("Interface " + good.key())
                .doesNotContain("Interface " + bad.key());
        var own = loggedIn("analyst").page("/messages/interfaces/" + bad.key()).select("main");
        assertThat(own.select(".title-line").text()).contains("1 open, the oldest from");
        assertThat(own.text()).containsPattern("half delivered within [12]\\.\\d s, 95 % within [23]\\.\\d s");
    }

    @Test
    void whyItNeedsEyesStandsOnItsOwnPageOnce() throws Exception {
        var subject = subject();
        state(subject, "failed to deploy", "no such schema", "5.0", Instant.now());
        eventually(() -> {
            var title = loggedIn("analyst")
                    .page("/messages/interfaces/" + subject.key())
                    .select(".title-line");
            assertThat(title.text()).containsOnlyOnce("5.0 since").contains("no such schema");
        });
    }

    private void all(List<Subject> some, String state, Instant at) throws Exception {
        var told = new ArrayList<Map<String, Object>>();
        for (var one : some) told.add(event("interface.state", one.key(), at, Map.of("state", state)));
        assertThat(send(told).statusCode()).isEqualTo(202);
    }

    @Test
    void ofManyThatNeedEyesTheWorstAreShownAndTheOthersWhenAskedFor() throws Exception {
        var stopped = new ArrayList<Subject>();
        for (int i = 0; i < InterfaceRows.SHOWN + 3; i++) stopped.add(subject());
        var broken = subject();
        var at = Instant.now().minusSeconds(60);
        all(stopped, "stopped", at);
        all(List.of(broken), "failed to deploy", at);
        try {
            var analyst = loggedIn("analyst");
            var page = analyst.page("/messages");
            var others = analyst.page("/messages/others");
            var first = page.select("tbody a.name").eachText();
            var rest = others.select("tbody a.name").eachText();
            assertThat(first).hasSize(InterfaceRows.SHOWN).contains("Interface " + broken.key());
            assertThat(first).doesNotContainAnyElementsOf(rest);
            assertThat(first.size() + rest.size()).isGreaterThanOrEqualTo(stopped.size() + 1);
            assertThat(page.select("#other-rest summary").text()).isEqualTo(rest.size() + " more that need eyes");
            assertThat(Stream.concat(first.stream(), rest.stream()))
                    .containsAll(stopped.stream()
                            .map(one -> "Interface " + one.key())
                            .toList());
        } finally {
            all(stopped, "running", at.plusSeconds(1));
            all(List.of(broken), "running", at.plusSeconds(1));
        }
        var after = loggedIn("analyst").page("/messages/others").select("#other-interfaces");
        assertThat(after.text()).doesNotContain(broken.key());
        assertThat(after.select("tbody tr").isEmpty())
                .as("no table without a row")
                .isEqualTo(after.text().equals("No other interface needs eyes."));
    }

    @Test
    void whereOnlyAGuardAlertsItIsSaidSinceWhen() throws Exception {
        var subject = subject();
        guard(subject, java.time.Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> assertThat(needEyes()).contains("Interface " + subject.key(), "an alert is up since"));
        var cases = loggedIn("analyst")
                .page("/messages/interfaces/" + subject.key())
                .select("main a[href^=/cases/]");
        assertThat(cases.eachText()).singleElement().asString().contains("Interface " + subject.key());
    }

    @Test
    void anInterfaceTellsHowItStandsAndWhatChanged() throws Exception {
        var subject = subject();
        var now = Instant.now();
        state(subject, "running", "", "1.0", now.minus(2, ChronoUnit.DAYS));
        state(subject, "running", "", "1.1", now.minus(1, ChronoUnit.DAYS));
        // The same told again is no change.
        state(subject, "running", "", "1.1", now.minus(1, ChronoUnit.HOURS));
        state(subject, "failed to deploy", "class <Pier> is missing", "1.2", now.minusSeconds(60));
        var page =
                loggedIn("analyst").get("/messages/interfaces/" + subject.key()).body();
        assertThat(page)
                .contains(
                        "failed to deploy 1.2",
                        "class &lt;Pier&gt; is missing",
                        "1.0 → 1.1",
                        "failed to deploy, 1.1 → 1.2")
                .contains("Node hub-1, version 1.2");
        assertThat(jdbc.sql("select count(*) from interface_state where component_id = :id")
                        .param("id", subject.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(3);
        assertThat(needEyes()).contains("failed to deploy 1.2 since");
    }

    @Test
    void theCurvesTellWhatWasCarriedAndHowLongItTook() throws Exception {
        var subject = subject();
        var hour = Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.HOURS);
        send(List.of(event(
                "messages.delivered",
                subject.key(),
                hour.plusSeconds(60),
                Map.of("from", hour.toString(), "delivered", 5, "delays", List.of(2.0, 2.0, 2.0, 2.0, 8.0)))));
        var carried = json.readTree(loggedIn("analyst")
                .get("/messages/interfaces/" + subject.key() + "/carried")
                .body());
        assertThat(value(carried, hour)).isEqualTo(5);
        var delays = json.readTree(loggedIn("analyst")
                .get("/messages/interfaces/" + subject.key() + "/delays")
                .body());
        assertThat(value(delays, hour)).isBetween(6.4, 10.0);
    }

    /** Of each hour only as many counts are kept as it has delays; those of several senders are added up all the same. */
    @Test
    void delaysOfShortAndLongWaysAreAddedUp() throws Exception {
        var subject = subject();
        var hour = Instant.now().truncatedTo(ChronoUnit.HOURS).minus(5, ChronoUnit.HOURS);
        var none = failed(subject, Map.of());
        none.put("time", hour.plusSeconds(10).toString());
        assertThat(send(List.of(none)).statusCode()).isEqualTo(202);
        var told = List.of(List.of(0.001, 0.001), List.of(60.0), List.<Double>of(), List.of(0.5));
        for (int i = 0; i < told.size(); i++)
            assertThat(send(List.of(event(
                                    "messages.delivered",
                                    subject.key(),
                                    hour.plusSeconds(60 * i + 60),
                                    Map.of(
                                            "from",
                                            hour.plusSeconds(60 * i).toString(),
                                            "delivered",
                                            told.get(i).size(),
                                            "delays",
                                            told.get(i)))))
                            .statusCode())
                    .isEqualTo(202);
        var kept = jdbc.sql("select delays from interface_hour where component_id = :id and hour = :hour")
                .param("id", subject.id())
                .param("hour", java.sql.Timestamp.from(hour))
                .query((row, number) -> (Integer[]) row.getArray(1).getArray())
                .single();
        assertThat(Arrays.stream(kept).mapToInt(one -> one).sum()).isEqualTo(4);
        assertThat(kept[0]).isEqualTo(2);
        assertThat(kept[kept.length - 1]).isEqualTo(1);
        var delays = json.readTree(loggedIn("analyst")
                .get("/messages/interfaces/" + subject.key() + "/delays")
                .body());
        assertThat(value(delays, hour)).as("95 % of four").isBetween(48.0, 76.0);
    }

    private static double value(JsonNode curve, Instant at) {
        for (int i = 0; i < curve.get("times").size(); i++)
            if (curve.get("times").get(i).asDouble() == at.getEpochSecond())
                return curve.get("values").get(i).asDouble();
        throw new AssertionError("nothing at " + at + " in " + curve);
    }

    @Test
    void anInterfaceStandsOnTheMapOnceItIsSaidBetweenWhomItCarries() throws Exception {
        var subject = subject();
        assertThat(loggedIn("analyst").get("/messages/map").body()).doesNotContain("Port &lt;office&gt;");
        assertThat(loggedIn("analyst")
                        .post("/messages/interfaces/" + subject.key() + "/ends", "from=a&to=b")
                        .statusCode())
                .isEqualTo(403);
        loggedIn("lead")
                .post(
                        "/messages/interfaces/" + subject.key() + "/ends",
                        "from=" + Browser.encoded("Application of " + subject.key()) + "&to="
                                + Browser.encoded("Port <office>"));
        var map = loggedIn("analyst").get("/messages/map").body();
        assertThat(map).contains("Port &lt;office&gt;", "/messages/interfaces/" + subject.key());
        assertThat(loggedIn("analyst")
                        .get("/messages/interfaces/" + subject.key())
                        .body())
                .contains("from Application of " + subject.key() + " to Port &lt;office&gt;");
    }
}
