package app.morvet.work.cases;

import static app.morvet.Browser.encoded;
import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.Origin;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.guard.Watch;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The whole story of a case: what was when, what was there before, what began with it, and what has been done of what is to be done. */
class DossierTest extends ToldAlerts {
    @Autowired
    private Alerts alerts;

    @Autowired
    private CaseViews views;

    private Document dossier(Subject of) throws Exception {
        return loggedIn("analyst").page("/cases/" + latest(of).id());
    }

    /** A component may have had some before. */
    private WorkCase latest(Subject of) {
        return cases.find((Long) casesOf(of).getLast().get("id")).orElseThrow();
    }

    private void settled(Subject of, long guard, int from, String note) {
        raised(guard, of, from, CRITICAL, 9);
        var one = latest(of);
        var by = person("analyst");
        if (!note.isEmpty()) cases.note(one.id(), by, note, at(from + 5));
        cleared(guard, of, from + 20, 9);
        one = latest(of);
        cases.settle(one.id(), one.version(), by, SettleReason.MENDED, "", at(from + 30));
    }

    @Test
    void whoSawInTheLogWhatWasDoneActsOnTheCaseAsItIsSince() {
        var host = component(host());
        raised(guard("Hot"), host, 0, CRITICAL, 9);
        var before = latest(host);
        var by = person("analyst");
        cases.take(before.id(), before.version(), by, at(1));
        // As when it is taken while its page is being drawn.
        var drawn = views.dossier(before);
        assertThat(drawn.log().getFirst().words()).isEqualTo("took the case");
        cases.settle(before.id(), drawn.row().version(), by, SettleReason.MENDED, "", at(2));
        assertThat(views.dossier(before).settled()).isTrue();
    }

    @Test
    void theCauseStandsOnTopAndWhatItExplainsIsIndented() throws Exception {
        var host = component(host());
        var service = component("service");
        estate.standsOn(service.key(), host.key());
        long stopped = stateGuard("Not running");
        raised(stopped, host, 0, CRITICAL, 9);
        raised(stopped, service, 1, WARNING, 9);
        raised(guard("Hot"), host, 2, WARNING, 3);
        var lanes = dossier(host).select(".time-name");
        assertThat(lanes.eachText().getFirst()).startsWith("Not running");
        assertThat(lanes.first().className()).contains("indent-0");
        assertThat(lanes.get(1).text()).startsWith("Hot");
        assertThat(lanes.get(2).text()).startsWith("Not running").endsWith("on The " + service.key());
        assertThat(lanes.get(2).className()).contains("indent-1");
        assertThat(dossier(host).select("#time-table tr").eachText())
                .anyMatch(row -> row.contains("heat is 9.0 on " + service.key()));
    }

    @Test
    void thePictureIsMovedAndZoomedByItsAddress() throws Exception {
        var host = component(host());
        raised(guard("Hot"), host, 0, CRITICAL, 9);
        var analyst = loggedIn("analyst");
        var path = "/cases/" + theCase(host).id() + "/time";
        var ends = "?from=" + encoded(at(-10).toString()) + "&to=" + encoded(at(10).toString());
        var picture = analyst.page(path + ends);
        var time = picture.select("#time-picture").first();
        assertThat(time.attr("data-from")).isEqualTo("" + at(-10).toEpochMilli());
        assertThat(time.attr("data-live-src")).as("it stays where it was put").contains("from=");
        assertThat(picture.select("[data-lane] .piece-critical").attr("data-x")).isEqualTo("50.0");
        var earlier = analyst.page(picture.select("[data-time-move=earlier]").attr("href"));
        assertThat(earlier.select("#time-picture").attr("data-to")).isEqualTo("" + at(0).toEpochMilli());
        assertThat(earlier.select("[data-lane] .piece-critical")).isEmpty();
        assertThat(earlier.select("#dossier"))
                .as("opened beside, as a link may be, it is the whole page")
                .isNotEmpty();
        assertThat(earlier.select("[data-time-move=whole]").attr("href"))
                .isEqualTo("/cases/" + theCase(host).id());
        assertThat(analyst.get(path + "?from=yesterday&to=today").statusCode()).isEqualTo(400);
        assertThat(analyst.get(path
                                + ends.replace("from", "x")
                                        .replace("to", "from")
                                        .replace("x", "to"))
                        .body())
                .contains("from lies before to");
    }

    @Test
    void whatWasSettledBeforeIsToldTheSameFirst() throws Exception {
        long hot = guard("Hot");
        var host = component(host());
        var other = component(host());
        settled(other, hot, -9000, "blew on it");
        settled(host, guard("Full"), -8000, "moved some of it");
        settled(host, hot, -6000, "opened the valve");
        settled(host, hot, -3000, "opened it wider");
        raised(hot, host, 100, CRITICAL, 9);
        var seen = dossier(host).select("h2:contains(Seen before) + ul li").eachText();
        assertThat(seen).hasSize(4);
        assertThat(seen.get(0)).contains("mended by").contains("after 30 min: opened it wider");
        assertThat(seen.get(1)).endsWith("opened the valve");
        assertThat(seen.get(2)).contains("(alike)").endsWith("blew on it");
        assertThat(seen.get(3)).as("another guard on the same").endsWith("moved some of it");
        // However much a guard raises elsewhere, what it raised here is found.
        var origin = List.of(new Origin("guard", hot));
        assertThat(alerts.idsOn(host.id(), origin, at(-20_000), 500)).hasSize(3);
        assertThat(alerts.idsOn(host.id(), origin, at(-20_000), 1))
                .as("the latest of them")
                .containsExactly(alerts.idsOf(origin, at(-20_000), 500).getFirst());
        assertThat(alerts.idsOf(origin, at(-20_000), 500)).hasSize(4);
        assertThat(alerts.idsOn(host.id(), origin, at(101), 500)).isEmpty();
    }

    @Test
    void whatBeganWithItIsSuggestedWithHowOftenItDidBefore() throws Exception {
        long hot = guard("Hot");
        long slow = guard("Slow");
        var host = component(host());
        var fares = component("endpoint");
        for (int i = 1; i <= 4; i++) {
            settled(host, hot, -1500 * i, "");
            settled(fares, slow, -1500 * i + 2, "");
        }
        raised(hot, host, 3777, CRITICAL, 9);
        raised(slow, fares, 3779, CRITICAL, 9);
        var together = dossier(fares)
                .select("h2:contains(May belong together) + ul li")
                .select("li:contains(on " + host.key() + ")");
        assertThat(together.text())
                .contains("began 2 min before")
                .contains("went together 4 of 4 times in 90 days")
                .contains("times as often as by chance");
        var analyst = loggedIn("analyst");
        var form = together.select("form").first();
        analyst.post(
                form.attr("hx-post"),
                "version=%s&into=%s"
                        .formatted(
                                form.select("[name=version]").val(),
                                form.select("[name=into]").val()));
        assertThat(latest(fares).progress().settleReason()).isEqualTo(SettleReason.JOINED);
    }

    @Test
    void theStepsOfAFixNoteAreTickedWithWhoAndWhenAndTakenBack() throws Exception {
        long leaking = guards.set(
                "Leaking " + host() + System.nanoTime(),
                false,
                Watch.of("heat"),
                guards.byId(guard("Like")).rule(),
                "First of all:\n\n1. Close the **sea valve**\n2. Call the bridge\n\nThen breathe.");
        var host = component(host());
        raised(leaking, host, 0, CRITICAL, 9);
        var analyst = loggedIn("analyst");
        var path = "/cases/" + theCase(host).id();
        var steps = analyst.page(path).select(".fixnote .step");
        assertThat(steps.eachText()).containsExactly("Close the sea valve", "Call the bridge");
        var step = steps.getFirst().select("[name=step]").val();
        var ticked = Browser.shown(analyst.post(path + "/steps", "step=" + step + "&done=true"));
        assertThat(ticked.select(".fixnote .step").getFirst().text())
                .startsWith("Close the sea valve " + person("analyst").name() + ", ");
        analyst.post(path + "/steps", "step=" + step + "&done=true");
        assertThat(logOf(theCase(host)))
                .filteredOn(words -> words.equals("did: Close the sea valve"))
                .as("once, however often it was sent")
                .hasSize(1);
        analyst.post(path + "/steps", "step=" + step + "&done=false");
        assertThat(logOf(theCase(host))).contains("did not do after all: Close the sea valve");
        assertThat(analyst.post(path + "/steps", "step=0011223344556677&done=true")
                        .body())
                .contains("it has no such step any more");
    }
}
