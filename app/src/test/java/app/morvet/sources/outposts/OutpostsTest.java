package app.morvet.sources.outposts;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.OutpostDouble;
import app.morvet.core.readings.Micros;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** What an outpost is told to look at, and what is taken of what it tells. */
class OutpostsTest extends MorvetTest {
    @Autowired
    Outposts outposts;

    @Autowired
    app.morvet.ground.estate.Groups groups;

    @Autowired
    SeriesBook series;

    @Autowired
    ReadingHistory history;

    private String name;
    private long id;
    private OutpostDouble outpost;
    private Browser lead;
    private Browser admin;

    @BeforeEach
    void setUp() throws Exception {
        setUpOnce();
        name = "op" + UUID.randomUUID().toString().substring(0, 8);
        id = outposts.add(name, name, "key-" + name);
        outpost = new OutpostDouble(port, name, "key-" + name);
        lead = loggedIn("lead");
        admin = loggedIn("admin");
    }

    private List<Double> readings(String component, String measure, Map<String, String> labels) {
        return estate.byKey(component)
                .flatMap(one -> series.find(one.id(), measure, labels))
                .map(one -> {
                    var all = history.between(
                                    List.of(one.id()),
                                    Instant.now().minus(Duration.ofHours(2)),
                                    Instant.now().plusSeconds(60))
                            .get(one.id());
                    return all == null
                            ? List.<Double>of()
                            : IntStream.range(0, all.size())
                                    .mapToObj(i -> all.values()[i])
                                    .toList();
                })
                .orElse(List.of());
    }

    private static String reading(String component, double value, Instant at) {
        return "{\"readings\":[{%s\"measure\":\"op_load\",\"value\":%s,\"at\":\"%s\"}]}"
                .formatted(component.isEmpty() ? "" : "\"component\":\"" + component + "\",", value, at);
    }

    private static List<String> refused(JsonNode answer) {
        return OutpostStore.texts(answer.path("refused"));
    }

    @Test
    void whatItSawIsTakenOnceAndOnlyWhatIsItsOwn() throws Exception {
        var at = Instant.now().minusSeconds(600);
        outpost.saw(reading("", 1, at)).saw(reading("", 2, at.plusSeconds(60)));
        assertThat(outpost.send().statusCode()).isEqualTo(200);
        // The answer was lost, so it tells the same again, and something new.
        outpost.saw(reading("", 3, at.plusSeconds(120)));
        assertThat(outpost.tells().path("takenTo").asInt()).isEqualTo(3);
        assertThat(readings(name, "op_load", Map.of())).containsExactly(1.0, 2.0, 3.0);
        // Set up anew it counts from 1 again, and is heard.
        outpost.forgets();
        assertThat(outpost.saw(reading("", 4, at.plusSeconds(180)))
                        .tells()
                        .path("takenTo")
                        .asInt())
                .isEqualTo(1);
        assertThat(readings(name, "op_load", Map.of())).endsWith(4.0);

        var other = subject().key();
        estate.add(name + "-inst", name + "-inst", "instance", null);
        estate.standsOn(name + "-inst", name);
        assertThat(refused(outpost.saw(reading(other, 7, at))
                        .saw(reading(name + "-inst", 8, at))
                        .tells()))
                .containsExactly("readings: it may not tell of " + other + ", only of its host and what stands on it");
        assertThat(readings(other, "op_load", Map.of())).isEmpty();
        assertThat(readings(name + "-inst", "op_load", Map.of())).containsExactly(8.0);
    }

    @Test
    void aPageThatItFetchedIsReadAsOfItsHost() throws Exception {
        var at = Instant.now().minusSeconds(300);
        var page = json.writeValueAsString(
                "# TYPE op_depth gauge\nop_depth 17\nop_depth{component=\\\"elsewhere\\\"} 4\n".replace("\\\"", "\""));
        var refused = refused(
                outpost.saw("{\"at\":\"%s\",\"page\":%s}".formatted(at, page)).tells());
        assertThat(refused).singleElement().asString().contains("it may not tell of elsewhere");
        assertThat(readings(name, "op_depth", Map.of())).containsExactly(17.0);
        var one = series.find(estate.byKey(name).orElseThrow().id(), "op_depth", Map.of())
                .orElseThrow();
        assertThat(history.newest(one.id(), at.minusSeconds(60)).orElseThrow().at())
                .isEqualTo(Micros.instant(Micros.of(at)));
    }

    @Test
    void aKeyOpensForItsOwnOutpostOnlyAndUntilItIsRevoked() throws Exception {
        var thief = new OutpostDouble(port, "somebody-else", "key-" + name);
        assertThat(thief.send().statusCode()).isEqualTo(403);
        assertThat(thief.send().body()).contains("This key is not that of \\\"somebody-else\\\"");
        assertThat(thief.fetches("").statusCode()).isEqualTo(403);
        assertThat(new OutpostDouble(port, name, "key-of-nobody").send().statusCode())
                .isEqualTo(401);
        // Nor does it open where feeds come in, which may tell of anything.
        assertThat(send("key-" + name, "application/json", "[]").statusCode()).isEqualTo(401);
        assertThat(outpost.send().statusCode()).isEqualTo(200);
        assertThat(lead.post("/services/outposts/" + id + "/revoke", "").statusCode())
                .isEqualTo(403);
        admin.post("/services/outposts/" + id + "/revoke", "");
        assertThat(outpost.send().statusCode()).isEqualTo(401);
        assertThat(admin.page("/services/outposts").text()).contains("its key is revoked");
        var made = admin.post("/services/outposts/" + id + "/rekey", "").body();
        var key = org.jsoup.Jsoup.parse(made).select("pre.payload").text();
        assertThat(new OutpostDouble(port, name, key).send().statusCode()).isEqualTo(200);
        assertThat(jdbc.sql("select string_agg(what, ', ' order by id) from audit_entry where subject = :subject")
                        .param("subject", "outpost " + name)
                        .query(String.class)
                        .single())
                .isEqualTo("outpost revoked, outpost given another key");
    }

    @Test
    void whatIsAskedOfItIsFetchedOnceAndSaidToBeInForce() throws Exception {
        lead.post("/services/outposts/asks", "whom=one-" + id + "&what=disks&of=" + encoded("/") + "&every=20+s");
        var wanted = outpost.tells().path("brief").asString();
        assertThat(lead.page("/services/outposts/" + id).text())
                .contains("not in force yet", "disks of / every 20 s this outpost");
        var answer = outpost.fetches("");
        assertThat(json.readTree(answer.body()).path("version").asString()).isEqualTo(wanted);
        assertThat(json.readTree(answer.body()).path("measures").toString())
                .contains("{\"what\":\"disks\",\"of\":\"/\",\"everySeconds\":20}");
        assertThat(outpost.fetches(answer.headers().firstValue("ETag").orElseThrow())
                        .statusCode())
                .isEqualTo(304);
        outpost.tells();
        assertThat(lead.page("/services/outposts/" + id).text()).contains(", in force since ");
        lead.post("/services/outposts/asks", "whom=one-" + id + "&what=disks&every=30+s&not=yes");
        assertThat(outpost.tells().path("brief").asString()).isNotEqualTo(wanted);
        assertThat(lead.page("/services/outposts/" + id).text()).contains("not in force yet", "not measured");
        var wrong = lead.post("/services/outposts/asks", "whom=all&what=everything&every=30+s");
        assertThat(wrong.statusCode()).isEqualTo(422);
        assertThat(org.jsoup.Jsoup.parse(wrong.body()).text())
                .contains("\"everything\" cannot be measured; write processor");
        assertThat(loggedIn("analyst")
                        .post("/services/outposts/asks", "whom=all&what=load&every=30+s")
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void whatIsAskedOfAGroupIsAskedOfItsHostsOnly() throws Exception {
        groups.set(
                "Gates " + name,
                "",
                null,
                java.util.Set.of(estate.byKey(name).orElseThrow().id()));
        long group = estate.groups().stream()
                .filter(one -> one.name().equals("Gates " + name))
                .findFirst()
                .orElseThrow()
                .id();
        outposts.add(name + "-other", name + "-other", "key-" + name + "-other");
        var other = new OutpostDouble(port, name + "-other", "key-" + name + "-other");
        var before = other.tells().path("brief").asString();
        lead.post(
                "/services/outposts/asks",
                "whom=group-" + group + "&what=" + encoded("disks of /data") + "&every=45+s");
        assertThat(outpost.fetches("").body()).contains("{\"what\":\"disks\",\"of\":\"/data\",\"everySeconds\":45}");
        assertThat(other.tells().path("brief").asString()).isEqualTo(before);
        assertThat(lead.page("/services/outposts/" + id).text())
                .contains("disks of /data every 45 s the group Gates " + name);
        lead.post("/services/outposts/asks", "whom=one-" + id + "&what=disks&every=15+s");
        assertThat(lead.page("/services/outposts/" + id).text())
                .contains("disks every 15 s this outpost over the group Gates " + name + ": every 45 s");
        var mine = jdbc.sql("select id from outpost_ask where group_id = :group")
                .param("group", group)
                .query(Long.class)
                .single();
        lead.post("/services/outposts/asks/" + mine + "/delete", "");
        assertThat(lead.page("/services/outposts/" + id).text()).doesNotContain("over the group");
    }

    @Test
    void itSaysHowItIsAndWhatItCannot() throws Exception {
        outpost.says("system", json.valueToTree("Harbour OS 4"))
                .says("waiting", json.valueToTree(12))
                .says("dropped", json.valueToTree(3))
                .says("offers", json.valueToTree(List.of("processor", "disks of /")))
                .says("faults", json.valueToTree(List.of("page http://127.0.0.1:9/: nobody listens <b>")))
                .tells();
        var page = lead.page("/services/outposts/" + id);
        assertThat(page.text())
                .contains(
                        "heard",
                        "Harbour OS 4",
                        "12 waiting",
                        "3 things that it saw were given up",
                        "disks of /",
                        "nobody listens <b>");
        assertThat(readings(name, "outpost_waiting", Map.of())).containsExactly(12.0);
        for (var off :
                new String[] {"+999999999-12-31T23:59:59Z", "-999999999-01-01T00:00:00Z", "2999-01-01T00:00:00Z", "none"
                }) assertThat(outpost.at(off).send().statusCode()).as(off).isEqualTo(200);
        assertThat(outpost.at(Instant.now().minusSeconds(90).toString()).send().statusCode())
                .isEqualTo(200);
        assertThat(lead.page("/services/outposts/" + id).text()).contains("Its clock is 1 min 30 s behind.");
        outpost.at("");
        assertThat(outpost.tells().path("lookAgain").asBoolean()).isFalse();
        lead.post("/services/outposts/" + id + "/again", "");
        assertThat(outpost.tells().path("lookAgain").asBoolean()).isTrue();
        assertThat(outpost.tells().path("lookAgain").asBoolean()).isFalse();
    }

    @Test
    void itsProcessesAreSentWhileSomebodyLooks() throws Exception {
        assertThat(outpost.tells().has("processes")).isFalse();
        assertThat(lead.page("/services/outposts/" + id + "/processes").text())
                .contains("Asked; it tells within seconds");
        assertThat(outpost.tells().has("processes")).isTrue();
        outpost.says(
                        "told",
                        json.readTree(
                                """
                                {"processes": [{"all": [{"id": 17, "name": "ledger-post", "line": "ledger-post --full", "processor": 12.34,
                                  "memory": 123456789, "since": "2026-11-27T05:00:00Z"}]}]}"""))
                .tells();
        assertThat(lead.page("/services/outposts/" + id + "/processes").text())
                .contains("17", "ledger-post --full", "12.3 %", "123 MB");
    }

    @Test
    void oneIsMadeWithItsKeyAndItsHost() throws Exception {
        var fresh = name + "-x";
        assertThat(lead.post("/services/outposts", "name=" + fresh).statusCode())
                .isEqualTo(403);
        var made = org.jsoup.Jsoup.parse(
                admin.post("/services/outposts", "name=" + fresh).body());
        assertThat(made.select("pre.payload").text()).startsWith("mo_");
        assertThat(estate.byKey(fresh).orElseThrow().kind()).isEqualTo("host");
        assertThat(admin.post("/services/outposts", "name=" + fresh).statusCode())
                .isEqualTo(422);
        assertThat(admin.post("/services/outposts", "name=" + encoded("no good"))
                        .statusCode())
                .isEqualTo(422);
        assertThat(admin.page("/services/outposts").text())
                .contains(fresh, "not heard yet")
                .doesNotContain("mo_");
    }

    @Test
    void nonsenseIsRefusedAndNothingBreaks() throws Exception {
        var answer = outpost.saw("{\"checks\":{\"id\":-1}}")
                .saw("{\"orders\":{\"id\":4}}")
                .saw("{\"readings\":[{\"measure\":\"op load\",\"value\":1}]}")
                .saw("{\"readings\":\"none\"}")
                .saw("{\"page\":17}")
                .saw("{}")
                .tells();
        assertThat(refused(answer))
                .anyMatch(one -> one.startsWith("orders: there is no such order"))
                .anyMatch(one -> one.contains("measure"));
        assertThat(answer.path("takenTo").asInt()).isEqualTo(6);
    }

    /** What one outpost says of itself is shown to everybody: nonsense in it breaks no page. */
    @Test
    void nonsenseAboutItselfIsLeftOut() throws Exception {
        outpost.may("{\"name\":{\"x\":1},\"right\":\"lead\"}")
                .may("{\"name\":\"wipe\",\"right\":\"root\"}")
                .may("[1]")
                .may(
                        "{\"name\":\"restart\",\"right\":\"analyst\",\"of\":[2],\"arguments\":{\"how\":{\"a\":1},\"far\":[{\"b\":2},\"c\"]}}")
                .says("offers", json.readTree("[{\"a\":1},\"load\"]"))
                .says("faults", json.readTree("{\"a\":1}"))
                .tells();
        assertThat(outposts.find(id).orElseThrow().said().actions())
                .extracting(Outpost.Action::name)
                .containsExactly("restart");
        assertThat(lead.get("/services/outposts/" + id).statusCode()).isEqualTo(200);
        assertThat(lead.page("/estate/components/" + name).text()).contains("restart");
        // Nor does one thing that is none keep the others from being taken.
        var answer = outpost.saw("{\"checks\":{\"id\":{\"a\":1},\"at\":[1]}}")
                .saw(reading("", 5, Instant.now()))
                .tells();
        assertThat(answer.path("takenTo").asInt()).isEqualTo(2);
        assertThat(readings(name, "op_load", Map.of())).containsExactly(5.0);
    }
}
