package app.morvet.sources.checks;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.OutpostDouble;
import app.morvet.sources.outposts.Outposts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** Checks that outposts make: what is sent to them, what is taken of what they tell, and what several make of it together. */
class ChecksFromOutpostsTest extends MorvetTest {
    @Autowired
    Outposts outposts;

    private String mark;
    private Browser lead;
    private final List<Long> ids = new ArrayList<>();
    private final List<OutpostDouble> some = new ArrayList<>();

    @BeforeEach
    void setUp() throws Exception {
        setUpOnce();
        mark = "cf" + UUID.randomUUID().toString().substring(0, 8);
        lead = loggedIn("lead");
        for (int i = 0; i < 3; i++) {
            var name = mark + "-" + i;
            ids.add(outposts.add(name, name, "key-" + name));
            some.add(new OutpostDouble(port, name, "key-" + name));
        }
    }

    private JsonNode brief(int outpost) throws Exception {
        return json.readTree(some.get(outpost).fetches("").body()).path("checks");
    }

    private String form(String more) {
        return "kind=port&host=quay-03&port=22&every=10+s&tries=1&patience=5+s&component=" + mark + "+gate&name=" + mark
                + more;
    }

    private String told(JsonNode check, String state, String more) {
        return "{\"checks\":{\"id\":%d,\"version\":%d,\"at\":\"%s\",\"state\":\"%s\",\"tookMillis\":12%s}}"
                .formatted(check.path("id").asLong(), check.path("version").asInt(), Instant.now(), state, more);
    }

    private String row() throws Exception {
        return lead.page("/services/checks?q=" + mark)
                .select("tr:contains(" + mark + ")")
                .text();
    }

    @Test
    void oneAsksAloneAndWhatItTellsCounts() throws Exception {
        lead.post("/services/checks/0", form("&from-" + ids.get(0) + "=yes"));
        assertThat(brief(1)).isEmpty();
        var check = brief(0).get(0);
        assertThat(check.path("kind").asString()).isEqualTo("port");
        assertThat(check.path("fields").path("host").asString()).isEqualTo("quay-03");
        some.get(0)
                .saw(
                        told(
                                check,
                                "failed",
                                ",\"verdicts\":[{\"expected\":\"text\",\"met\":false,\"found\":\"it is not\"}],\"said\":\"SSH\",\"figures\":[{\"measure\":\"depth\",\"sort\":\"GAUGE\",\"value\":4}],\"facts\":{\"mode\":\"auto\"}"))
                .tells();
        assertThat(row()).contains("failed", "expected text, it is not", "from " + mark + "-0", "12 ms");
        assertThat(lead.page("/services/" + mark + "-gate").text())
                .contains("failed", "expected text, it is not", "mode auto");
        assertThat(lead.page("/estate/components/" + mark + "-gate").text()).contains("depth " + mark + " 4");
        // Another may not tell of it, and what it was before it was changed is another check.
        assertThat(some.get(1)
                        .saw(told(check, "passed", ""))
                        .tells()
                        .path("refused")
                        .toString())
                .contains("is not made from here");
        var id = check.path("id").asLong();
        lead.post("/services/checks/" + id, form("&active=yes&version=1&from-" + ids.get(0) + "=yes"));
        some.get(0).saw(told(check, "passed", "")).tells();
        assertThat(row()).contains("failed");
        some.get(0).saw(told(brief(0).get(0), "passed", "")).tells();
        assertThat(row()).contains("passed");
        lead.post("/services/checks/" + id + "/all", "active=");
        assertThat(row()).contains("off");
        assertThat(brief(0)).isEmpty();
        lead.post("/services/checks/" + id + "/all", "active=yes");
        assertThat(brief(0)).hasSize(1);
    }

    @Test
    void ofThreeTwoMustNotPass() throws Exception {
        var from = "&from-%d=yes&from-%d=yes&from-%d=yes".formatted(ids.get(0), ids.get(1), ids.get(2));
        lead.post("/services/checks/0", form(from + "&agree=2"));
        some.get(0)
                .saw(told(brief(0).get(0), "no answer", ",\"said\":\"nobody listens\""))
                .tells();
        // Alone it says all that is known.
        assertThat(row()).contains("no answer");
        some.get(1).saw(told(brief(1).get(0), "passed", "")).tells();
        some.get(2).saw(told(brief(2).get(0), "passed", "")).tells();
        assertThat(row()).contains("passed", "it counts when 2 of them do not pass");
        some.get(1)
                .saw(told(brief(1).get(0), "no answer", ",\"said\":\"nobody listens\""))
                .tells();
        assertThat(row()).contains("no answer", "it to pass from " + mark + "-0");
        var page = lead.page("/services/checks/" + brief(0).get(0).path("id").asLong() + "/edit");
        assertThat(page.select("table").text()).contains(mark + "-0 no answer", mark + "-2 passed");
        assertThat(lead.page("/services/" + mark + "-gate").text()).contains("from " + mark + "-1");
    }

    @Test
    void whatIsOnAHostIsAskedByAnOutpostOnly() throws Exception {
        var command = "kind=command&command=folder+size&every=10+s&tries=1&component=" + mark + "+gate&name=" + mark;
        var refused = lead.post("/services/checks/0", command);
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("A check of a command is made by an outpost; choose from which.");
        assertThat(lead.post("/services/checks/0", command + "&agree=2&from-" + ids.get(0) + "=yes")
                        .body())
                .contains("Of 1 that ask, 1 to 1 can agree.");
        lead.post("/services/checks/0", command + "&arguments=" + encoded("of=data") + "&from-" + ids.get(0) + "=yes");
        assertThat(brief(0).get(0).path("fields").path("arguments").asString()).isEqualTo("of=data");
        assertThat(lead.page("/services/outposts/" + ids.get(0)).text())
                .contains("Its checks", mark, "not run yet, run folder size");
    }

    @Test
    void aStateThatItSawIsOneOfTheComponent() throws Exception {
        lead.post("/services/checks/0", form("&from-" + ids.get(0) + "=yes"));
        var figures =
                ",\"figures\":[{\"measure\":\"service\",\"sort\":\"STATE\",\"value\":2,\"words\":[\"running\",\"starting\",\"stopped\",\"failed\"]}]";
        some.get(0).saw(told(brief(0).get(0), "failed", figures)).tells();
        assertThat(lead.page("/services/" + mark + "-gate").text()).contains("stopped");
        assertThat(some.get(0)
                        .saw(told(brief(0).get(0), "failed", figures.replace(":2,", ":9,")))
                        .saw(told(brief(0).get(0), "lost", ""))
                        .tells()
                        .path("refused")
                        .toString())
                .contains("the value of service is none", "a result is one of passed, failed");
    }

    @Test
    void severalStepsOfAWebCallAreKeptAndShown() throws Exception {
        var url = encoded("http://127.0.0.1:" + DESK.port() + "/nothing/here");
        var form = "kind=http&every=10+s&tries=1&patience=5+s&component=" + mark + "+api&name=" + mark
                + "&steps=2&method=GET&url=" + url + "&codes=404&takes=" + encoded("token from $.token") + "&url2="
                + url + encoded("/{token}") + "&codes2=404";
        assertThat(org.jsoup.Jsoup.parse(
                                lead.post("/services/checks/0/try", form).body())
                        .text())
                .contains("step 1: a value to carry as token", "there is nothing at $.token");
        lead.post("/services/checks/0", form + "&user=annika&password=harbour");
        eventually(() -> assertThat(row()).contains("failed", ", then call http://127.0.0.1"));
        var id = jdbc.sql("select id from outside_check where name = :name")
                .param("name", mark)
                .query(Long.class)
                .single();
        var edit = lead.page("/services/checks/" + id + "/edit");
        assertThat(edit.select("input[name=url2]").attr("value")).endsWith("/nothing/here/{token}");
        assertThat(edit.select("textarea[name=headers]").text()).isEqualTo("Authorization: (kept)");
        assertThat(edit.html()).doesNotContain("harbour");
        assertThat(org.jsoup.Jsoup.parse(lead.post("/services/checks/sentence", form.replace("steps=2", "steps=3"))
                                .body())
                        .select("input[name=url3]"))
                .hasSize(1);
    }

    @Test
    void itIsTriedOnItsHostByWhoWillMakeIt() throws Exception {
        var form = "kind=command&command=folder+size&every=10+s&tries=1&name=" + mark + "&from-" + ids.get(0) + "=yes";
        assertThat(lead.post("/services/checks/0/try", form).body()).contains("The outpost is silent");
        some.get(0).tells();
        var waiting =
                org.jsoup.Jsoup.parse(lead.post("/services/checks/0/try", form).body());
        assertThat(waiting.text()).contains(mark + "-0 tries it");
        var again = waiting.select("[hx-post]").attr("hx-post");
        assertThat(lead.post(again, "").body()).contains(" tries it");
        assertThat(some.get(1).tells().has("tries")).isFalse();
        var asked = some.get(0).tells().path("tries").get(0);
        assertThat(asked.path("kind").asString()).isEqualTo("command");
        assertThat(asked.path("fields").path("command").asString()).isEqualTo("folder size");
        some.get(0)
                .says(
                        "told",
                        json.readTree(
                                "{\"tries\":[{\"id\":%d,\"state\":\"failed\",\"tookMillis\":31,\"said\":\"4 kB\",\"verdicts\":[{\"expected\":\"exit code 0\",\"met\":false,\"found\":\"it ended with 3\"}]}]}"
                                        .formatted(asked.path("id").asLong())))
                .tells();
        assertThat(org.jsoup.Jsoup.parse(lead.post(again, "").body()).text())
                .contains("failed after 31 ms", "exit code 0 it ended with 3", "4 kB", "from " + mark + "-0");
        assertThat(lead.post("/services/checks/tries/999999", "").statusCode()).isEqualTo(404);
        // A try that no outpost was chosen for is made by Morvet, which does not look at hosts.
        assertThat(lead.post("/services/checks/0/try", form.replace("&from-" + ids.get(0) + "=yes", ""))
                        .body())
                .contains("A check of a command is made by an outpost");
    }

    /** A clock that stands far off makes no days of its own. */
    @Test
    void whatWasLongAgoOrIsYetToComeIsRefused() throws Exception {
        lead.post("/services/checks/0", form("&from-" + ids.get(0) + "=yes"));
        var check = brief(0).get(0);
        for (var at : new String[] {
            "1970-01-01T00:00:00Z",
            "-999999999-01-01T00:00:00Z",
            "2999-01-01T00:00:00Z",
            "+999999999-12-31T23:59:59Z",
            "soon"
        }) {
            var told = told(check, "failed", "").replaceFirst("\"at\":\"[^\"]*\"", "\"at\":\"" + at + "\"");
            assertThat(some.get(0).saw(told).tells().path("refused").toString())
                    .as(at)
                    .contains("checks: a result ");
        }
        assertThat(row()).contains("not run yet");
        assertThat(jdbc.sql("select count(*) from outpost where name = :name and abs(skew_ms) < 60000")
                        .param("name", mark + "-0")
                        .query(Integer.class)
                        .single())
                .isEqualTo(1);
    }

    /** Somebody else's state of the same name takes nothing of a check with it. */
    @Test
    void aFigureThatIsAStateElsewhereIsLeftOut() throws Exception {
        var measure = "files_" + mark.replaceAll("[^a-z]", "x");
        tell(
                "application/json",
                "[{\"component\":\"%s\",\"measure\":\"%s\",\"state\":\"open\",\"words\":[\"open\",\"shut\"]}]"
                        .formatted(mark, measure));
        lead.post("/services/checks/0", form("&from-" + ids.get(0) + "=yes"));
        var figure =
                ",\"figures\":[{\"measure\":\"%s\",\"sort\":\"GAUGE\",\"value\":4},{\"measure\":\"depth\",\"sort\":\"GAUGE\",\"value\":7}]"
                        .formatted(measure);
        assertThat(some.get(0)
                        .saw(told(brief(0).get(0), "passed", figure))
                        .tells()
                        .path("refused"))
                .isEmpty();
        assertThat(row()).contains("passed");
        assertThat(lead.page("/estate/components/" + mark + "-gate").text())
                .contains("depth " + mark + " 7")
                .doesNotContain(measure.replace('_', ' '));
    }
}
