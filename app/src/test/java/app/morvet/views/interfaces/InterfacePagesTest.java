package app.morvet.views.interfaces;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What each interface carries, how it stands, and where it is on the map. */
class InterfacePagesTest extends MorvetTest {
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
        eventually(() -> assertThat(loggedIn("analyst").get("/messages").body()).contains("1 open, the oldest from"));
        var page = loggedIn("analyst").get("/messages").body();
        assertThat(page).contains("Interface " + bad.key()).doesNotContain("Interface " + good.key());
        assertThat(page).containsPattern("\\d+ interfaces? carr(y|ies) as usual");
        assertThat(loggedIn("analyst").get("/messages/rest").body())
                .contains("Interface " + good.key())
                .doesNotContain("Interface " + bad.key());
    }

    @Test
    void whereOnlyAGuardAlertsItIsSaidSinceWhen() throws Exception {
        var subject = subject();
        guard(subject, java.time.Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> assertThat(loggedIn("analyst").get("/messages").body())
                .contains("Interface " + subject.key(), "an alert is up since"));
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
        assertThat(loggedIn("analyst").get("/messages").body()).contains("failed to deploy 1.2 since");
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
