package app.morvet.views.services;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** From a state that is told to what a person sees: its guard, its case, the list of services and its own page. */
class ServicePagesTest extends MorvetTest {
    private String mark;
    private String measure;

    @BeforeEach
    void setUp() {
        setUpOnce();
        mark = "sv" + UUID.randomUUID().toString().substring(0, 8);
        measure = "is_" + mark;
        estate.add(mark + "-host", mark + " host", "host", null);
        estate.add(mark, mark + " gate", "service", null);
        estate.standsOn(mark, mark + "-host");
        guards.set(
                "State of " + mark,
                true,
                Watch.of(measure),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ZERO, "starting"),
                        StateGuard.Condition.in(Duration.ofMinutes(2), "stopped"),
                        Terms.clearing(1, Duration.ZERO)),
                "Start **it** again.");
    }

    private void is(String component, String state, Duration ago, String said) throws Exception {
        var told = event(
                "state.changed",
                component,
                Instant.now().minus(ago),
                Map.of(
                        "measure", measure,
                        "state", state,
                        "words", List.of("running", "starting", "stopped"),
                        "said", said));
        assertThat(tree(send(List.of(told))).path("rejected")).isEmpty();
    }

    private String headlines() {
        return String.join(
                "; ",
                jdbc.sql("select headline from work_case where component_id = :id order by id")
                        .param("id", estate.byKey(mark).orElseThrow().id())
                        .query(String.class)
                        .list());
    }

    @Test
    void aServiceThatStopsIsACaseUntilItRunsAgain() throws Exception {
        is(mark, "running", Duration.ofHours(3), "");
        is(mark, "stopped", Duration.ofMinutes(5), "exit code 3: cannot bind the port");
        eventually(() -> assertThat(headlines())
                .isEqualTo(measure.replace('_', ' ').replace("is", "Is") + " on " + mark + " gate is stopped"));
        var analyst = loggedIn("analyst");
        var row = analyst.page("/services").select("tr:contains(" + mark + ")");
        assertThat(row.text()).contains("stopped", mark + " host");
        assertThat(row.select("svg.relief").attr("aria-label")).isEqualTo("critical");
        assertThat(row.select("svg.state-track g.piece-critical")).isNotEmpty();
        var page = analyst.page("/services/" + mark);
        assertThat(page.text())
                .contains(
                        "exit code 3: cannot bind the port",
                        "State of " + mark,
                        "is stopped",
                        "for 5 min",
                        "on " + mark + " host");
        assertThat(page.select("[data-curve]").attr("data-curve")).startsWith("/services/" + mark + "/track/");

        var track = tree(analyst.get(page.select("[data-curve]").attr("data-curve")))
                .path("track");
        assertThat(track.findValuesAsString("word")).containsExactly("not known", "running", "stopped");
        assertThat(track.findValuesAsString("mark")).containsExactly("nodata", "steady", "critical");

        is(mark, "running", Duration.ZERO, "");
        eventually(() -> assertThat(headlines()).startsWith("Over on " + mark));
        assertThat(headlines()).contains("at worst").contains("is stopped");
        // What somebody reads of it stays open there, though a row came on top.
        var reads = page.select("tr:has(details)").attr("id");
        assertThat(reads).isNotEmpty();
        assertThat(analyst.page("/services/" + mark)
                        .select("tr[id=" + reads + "]")
                        .text())
                .contains("exit code 3");
        // What changed just now still needs eyes.
        assertThat(analyst.page("/services").select("tr:contains(" + mark + ")").text())
                .contains("running", "changed just now");
    }

    @Test
    void whatIsWellFoldsAwayAndIsFoundByItsWords() throws Exception {
        is(mark, "running", Duration.ofHours(3), "");
        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/services")
                        .select("#service-rows > .sheet table")
                        .text())
                .doesNotContain(mark);
        assertThat(analyst.page("/services/quiet")
                        .select("tr:contains(" + mark + ")")
                        .text())
                .contains("running");
        assertThat(analyst.page("/services?q=running+" + mark).select("tr:contains(" + mark + ")"))
                .hasSize(1);
        assertThat(analyst.page("/services?q=stopped+" + mark).text()).contains("Nothing fits");
        assertThat(analyst.get("/services.csv?q=" + mark).body())
                .contains("key,name,state of,kind")
                .contains(mark + "," + mark + " gate,,service,not assigned,," + mark + "-host,running,steady");
        assertThat(analyst.get("/services/no-such-" + mark).statusCode()).isEqualTo(404);
        assertThat(analyst.get("/services/" + mark + "/track/999999999?days=7").statusCode())
                .isEqualTo(404);
        assertThat(analyst.page("/search?q=" + mark + "+gate").select("a[href=/services/" + mark + "]"))
                .isNotEmpty();
    }

    @Test
    void aWordThatTheStateDoesNotKnowIsSaidWhileItIsEdited() throws Exception {
        is(mark, "running", Duration.ofHours(3), "");
        var form = "kind=state&name=x&component=service&pattern=" + mark + "&measure=" + measure
                + "&stateCritical=stoped&stateWarning=";
        var lead = loggedIn("lead");
        assertThat(lead.post("/guards/meaning", form).body())
                .contains("knows no word &quot;stoped&quot;; it knows running, starting, stopped.")
                .contains("Critical when stoped for 2 min.");
        assertThat(lead.post("/guards/meaning", form.replace("kind=state", "kind=limit&fold=last&warning=3"))
                        .body())
                .contains("is a state, one of running, starting, stopped; watch what it is in.");
        var picture = tree(lead.post("/guards/picture", form.replace("stoped", "stopped") + "&days=1"));
        assertThat(picture.path("drawn").get(0).path("curve").path("track").findValuesAsString("word"))
                .containsExactly("not known", "running");
        assertThat(picture.path("draggable").asBoolean()).isFalse();
        assertThat(lead.post("/guards/propose", form + "&budget=3").body()).contains("A state has words and no limits");
    }

    /** Where a whole collector is silent thousands need eyes at once; the page shows the worst and counts the others. */
    @Test
    void ofVeryManyThatNeedEyesTheWorstAreShownAndTheOthersCounted() throws Exception {
        // Their words are bad, and not for long enough to be cases.
        measure = "many_" + mark;
        guards.set(
                "Many of " + mark,
                true,
                Watch.of(measure),
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofDays(7), "starting"),
                        StateGuard.Condition.in(Duration.ofDays(7), "stopped"),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        var events = new ArrayList<Map<String, Object>>();
        for (int i = 0; i < 70; i++)
            events.add(event(
                    "state.changed",
                    mark + "-" + i,
                    Instant.now().minusSeconds(600),
                    Map.of(
                            "measure",
                            measure,
                            "state",
                            i % 2 == 0 ? "stopped" : "starting",
                            "words",
                            List.of("starting", "stopped"))));
        send(events);
        var page = loggedIn("analyst").page("/services?q=" + mark);
        assertThat(page.select("#service-rows tr:contains(" + mark + ")")).hasSize(60);
        assertThat(page.select("#service-rows tr:contains(" + mark + ")")
                        .first()
                        .text())
                .contains("stopped");
        assertThat(page.text()).contains("and 10 more that need eyes");
        assertThat(loggedIn("analyst").get("/services.csv?q=" + mark).body().lines())
                .hasSize(71);
    }

    /** What has a key of its own for its sign of life needs no other, and is listed with what it promised. */
    @Test
    void aSignOfLifeHasAKeyOfItsOwn() throws Exception {
        var of = "beat-" + java.util.UUID.randomUUID().toString().substring(0, 8);
        var admin = loggedIn("admin");
        assertThat(loggedIn("lead")
                        .post("/services/heartbeats", "component=" + of)
                        .statusCode())
                .isEqualTo(403);
        assertThat(admin.post("/services/heartbeats", "component=" + of + "&every=often")
                        .statusCode())
                .isEqualTo(422);
        assertThat(admin.post("/services/heartbeats", "component=&every=5+min").statusCode())
                .isEqualTo(422);
        var made = org.jsoup.Jsoup.parse(admin.post("/services/heartbeats", "component=" + of + "&every=5+min")
                .body());
        var line = made.select("pre.payload").text();
        assertThat(line).contains("app.morvet.alive", "\"subject\":\"" + of + "\"", "PT5M");
        var key = line.replaceAll("(?s).*Bearer ([^']+)'.*", "$1");
        var event =
                "{\"specversion\":\"1.0\",\"id\":\"1\",\"source\":\"/alive\",\"type\":\"app.morvet.alive\",\"subject\":\""
                        + of + "\",\"data\":{\"every\":\"PT5M\"}}";
        assertThat(send(key, "application/cloudevents+json", event).statusCode())
                .isEqualTo(202);
        assertThat(admin.page("/services/heartbeats")
                        .select("tr:contains(" + of + ")")
                        .text())
                .contains("7 min 30 s");
    }
}
