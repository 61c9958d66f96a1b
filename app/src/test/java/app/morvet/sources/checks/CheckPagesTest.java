package app.morvet.sources.checks;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A check made as its sentence, tried, kept, run, failing, and taken away. */
class CheckPagesTest extends MorvetTest {
    private String mark;
    private Browser lead;

    @BeforeEach
    void setUp() throws Exception {
        setUpOnce();
        mark = "ck" + UUID.randomUUID().toString().substring(0, 8);
        lead = loggedIn("lead");
    }

    private String form(String name, String codes, String more) {
        return "kind=http&every=10+s&tries=1&patience=5+s&method=GET&name=" + encoded(name) + "&component=" + mark
                + "+API&codes=" + codes + "&url=" + encoded("http://127.0.0.1:" + DESK.port() + "/nothing/here") + more;
    }

    private String row() throws Exception {
        return lead.page("/services/checks").select("tr:contains(" + mark + ")").text();
    }

    private long id() {
        return jdbc.sql("select id from outside_check where name like :name")
                .param("name", mark + "%")
                .query(Long.class)
                .single();
    }

    @Test
    void itIsTriedBeforeItIsKeptAndRunsFromThenOn() throws Exception {
        assertThat(lead.post("/services/checks/0/try", form(mark, "200", "")).body())
                .contains("failed", "it answered 404", "Asked: call http://127.0.0.1:");
        assertThat(jdbc.sql("select count(*) from outside_check where name = :name")
                        .param("name", mark)
                        .query(Integer.class)
                        .single())
                .isZero();
        lead.post("/services/checks/0", form(mark, "404", "&within=4+s"));
        eventually(() -> assertThat(row()).contains("passed", mark + " API", "expect 404 within 4 s"));
        assertThat(lead.page("/services?q=" + mark).text()).contains("passed");
        var component = mark + "-api";
        assertThat(estate.byKey(component).orElseThrow().kind()).isEqualTo("endpoint");

        lead.post("/services/checks/" + id(), form(mark, "200", "&active=yes&version=1"));
        eventually(() -> assertThat(row()).contains("failed", "expected 200, it answered 404"));
        assertThat(lead.page("/services/" + component).text())
                .contains("failed", "passed", "expected 200, it answered 404");
        // What is changed by who saw it as it was before is told.
        var late = lead.post("/services/checks/" + id(), form(mark, "200", "&active=yes&version=1"));
        assertThat(late.statusCode()).isEqualTo(422);
        assertThat(late.body()).contains("Somebody else changed this check meanwhile");

        lead.post("/services/checks/" + id(), form(mark, "200", "&version=2"));
        assertThat(row()).contains("off");
        assertThat(lead.page("/services?q=" + mark).text())
                .as("nothing is asked, so nothing is missed")
                .contains("Nothing fits");
        lead.post("/services/checks/" + id() + "/delete", "");
        assertThat(row()).isEmpty();
        assertThat(jdbc.sql("select string_agg(what, ', ' order by id) from audit_entry where subject = :subject")
                        .param("subject", "check " + mark)
                        .query(String.class)
                        .single())
                .isEqualTo("check made, check changed, check changed, check deleted");
    }

    @Test
    void theAlertOfACheckThatIsTakenAwayIsOver() throws Exception {
        long guard = guards.set(
                "Fails " + mark,
                true,
                Watch.of("check").named(mark + "-api"),
                new StateGuard(
                        null,
                        new StateGuard.Condition(StateGuard.Manner.IN, List.of("failed"), Duration.ZERO),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        lead.post("/services/checks/0", form(mark, "200", ""));
        eventually(() -> assertThat(up(guard)).isEqualTo(1));
        lead.post("/services/checks/" + id() + "/delete", "");
        eventually(() -> assertThat(up(guard)).isZero());
    }

    private int up(long guard) {
        return jdbc.sql(
                        "select count(*) from alert where origin_kind = 'guard' and origin_id = :id and cleared_at is null")
                .param("id", guard)
                .query(Integer.class)
                .single();
    }

    @Test
    void whatIsSecretIsNotShownAgainAndGoesToNoOtherHost() throws Exception {
        lead.post("/services/checks/0", form(mark, "404", "&headers=" + encoded("X-Key: harbour-secret")));
        var edit = lead.page("/services/checks/" + id() + "/edit");
        assertThat(edit.html()).doesNotContain("harbour-secret");
        assertThat(edit.select("textarea[name=headers]").text()).isEqualTo("X-Key: (kept)");
        assertThat(jdbc.sql("select headers from outside_check where id = :id")
                        .param("id", id())
                        .query(String.class)
                        .single())
                .startsWith("sealed:");
        lead.post(
                "/services/checks/" + id(),
                form(mark, "404", "&active=yes&version=1&headers=" + encoded("X-Key: (kept)")));
        assertThat(lead.page("/services/checks/" + id() + "/edit")
                        .select("textarea[name=headers]")
                        .text())
                .isEqualTo("X-Key: (kept)");
        var elsewhere = form(mark, "404", "&active=yes&version=2&headers=" + encoded("X-Key: (kept)"))
                .replace(encoded("http://127.0.0.1:" + DESK.port()), encoded("http://127.0.0.9:80"));
        assertThat(lead.post("/services/checks/" + id(), elsewhere).body())
                .contains("There is no value of X-Key to be kept");
        assertThat(lead.page("/services/checks/" + id() + "/copy")
                        .select("textarea[name=headers]")
                        .text())
                .isEmpty();
    }

    @Test
    void whatCannotBeIsSaidAtOnceAndNothingIsKept() throws Exception {
        for (var wrong : new String[][] {
            {form("", "200", ""), "A check has a name"},
            {form(mark, "20", ""), "is no code of an answer"},
            {form(mark, "200", "&expected=" + encoded("status = 1")), "is no expectation"},
            {form(mark, "200", "&every=1+s").replace("every=10+s&", ""), "A check runs every 10 s to every day"},
            {form(mark, "200", "&tries=9").replace("tries=1&", ""), "A check is tried 1 to 5 times"},
            {
                form(mark, "200", "").replace(encoded("http://127.0.0.1:" + DESK.port()), encoded("http://192.0.2.7")),
                "Morvet may not call 192.0.2.7:80"
            },
            {form(mark, "200", "").replace("component=" + mark + "+API", "component="), "Say of what it is a check"},
        }) {
            var answer = lead.post("/services/checks/0", wrong[0]);
            assertThat(answer.statusCode()).as(wrong[1]).isEqualTo(422);
            assertThat(org.jsoup.Jsoup.parse(answer.body()).text()).contains(wrong[1]);
        }
        assertThat(jdbc.sql("select count(*) from outside_check where name = :name")
                        .param("name", mark)
                        .query(Integer.class)
                        .single())
                .isZero();
        // Nor does an endpoint stay behind that a refused check would have been of.
        lead.post("/services/checks/0", form(mark, "404", ""));
        lead.post("/services/checks/0", form(mark, "404", "").replace(mark + "+API", mark + "+other"));
        assertThat(estate.byKey(mark + "-api")).isPresent();
        assertThat(estate.byKey(mark + "-other")).isEmpty();
        var analyst = loggedIn("analyst");
        assertThat(analyst.post("/services/checks/0", form(mark, "200", "")).statusCode())
                .isEqualTo(403);
        assertThat(analyst.get("/services/checks").statusCode()).isEqualTo(200);
        assertThat(lead.page("/services/checks/new?kind=certificate").text()).contains("look at the certificate of");
        assertThat(lead.post("/services/checks/sentence", "kind=port").body()).contains("reach port");
    }

    @Test
    void aPageIsChangedUntilSomebodySaysThatItIsRight() throws Exception {
        var text = new java.util.concurrent.atomic.AtomicReference<>("Car 40");
        DESK.page("/prices-" + mark, () -> "<html><body><p>" + text.get() + "</p></body></html>");
        lead.post(
                "/services/checks/0",
                "kind=page&every=10+s&tries=1&name=" + mark + "&component=" + mark + "+site&url="
                        + encoded("http://127.0.0.1:" + DESK.port() + "/prices-" + mark));
        eventually(() -> assertThat(row()).contains("passed"));
        text.set("Car 45");
        due();
        eventually(() -> assertThat(row()).contains("changed", "expected the text as before, it differs"));
        assertThat(lead.page("/services/" + mark + "-site").text()).contains("gone: Car 40", "new: Car 45");
        assertThat(lead.page("/services/" + mark + "-site").text())
                .as("seen as a change, too")
                .contains(mark + " checksum");
        assertThat(lead.page("/services/checks/" + id() + "/edit").text()).contains("As it is now is as it should be");
        lead.post("/services/checks/" + id() + "/as-it-is", "");
        eventually(() -> assertThat(row()).contains("passed"));
        assertThat(lead.page("/services/checks/" + id() + "/edit").text()).doesNotContain("As it is now");
    }

    private void due() {
        jdbc.sql("update outside_check set next_at = now() where name like :name")
                .param("name", mark + "%")
                .update();
    }

    @Test
    void oneThatRunsAtTimesIsDueAtThem() throws Exception {
        lead.post("/services/checks/0", form(mark, "404", "").replace("every=10+s", "every=" + encoded("30 6 * * *")));
        assertThat(row()).contains("Every day at 06:30 (Europe/Helsinki), call http", "not run yet");
        var next = jdbc.sql(
                        "select to_char(next_at at time zone 'Europe/Helsinki', 'HH24:MI') from outside_check where id = :id")
                .param("id", id())
                .query(String.class)
                .single();
        assertThat(next).isEqualTo("06:30");
        due();
        eventually(() -> assertThat(row()).contains("passed"));
        assertThat(jdbc.sql(
                                "select next_at > now() + interval '1 minute' or extract(hour from next_at at time zone 'Europe/Helsinki') = 6 from outside_check where id = :id")
                        .param("id", id())
                        .query(Boolean.class)
                        .single())
                .isTrue();
        assertThat(lead.page("/services/checks/" + id() + "/edit")
                        .select("input[name=every]")
                        .attr("value"))
                .isEqualTo("30 6 * * *");
        assertThat(lead.post(
                                "/services/checks/0",
                                form(mark + "-x", "404", "").replace("every=10+s", "every=" + encoded("0 0 30 2 *")))
                        .body())
                .contains("never comes");
    }
}
