package app.morvet.work.actions;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.OutpostDouble;
import app.morvet.sources.outposts.Outposts;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** What people ask outposts to do: who may, once, and what becomes of it. */
class ActionsTest extends MorvetTest {
    @Autowired
    Outposts outposts;

    @Autowired
    Actions actions;

    private String name;
    private long id;
    private OutpostDouble outpost;
    private Browser analyst;

    @BeforeEach
    void setUp() throws Exception {
        setUpOnce();
        name = "ac" + UUID.randomUUID().toString().substring(0, 8);
        id = outposts.add(name, name, "key-" + name);
        outpost = new OutpostDouble(port, name, "key-" + name);
        outpost.may(
                        "{\"name\":\"restart\",\"of\":\"\",\"right\":\"analyst\",\"arguments\":{\"how\":[\"soft\",\"hard\"]}}")
                .may("{\"name\":\"wipe\",\"of\":\"\",\"right\":\"admin\",\"arguments\":{}}")
                .tells();
        analyst = loggedIn("analyst");
    }

    private String ask(String more) throws Exception {
        return org.jsoup.Jsoup.parse(
                        analyst.post("/actions/" + name, "outpost=" + id + more).body())
                .text();
    }

    private JsonNode orders() throws Exception {
        return outpost.tells().path("orders");
    }

    private void told(long order, String state, String words) throws Exception {
        outpost.saw("{\"orders\":{\"id\":%d,\"at\":\"%s\",\"state\":\"%s\",\"words\":\"%s\"}}"
                        .formatted(order, Instant.now(), state, words))
                .tells();
    }

    private String state(long order) {
        return jdbc.sql("select state || ' ' || words from host_order where id = :id")
                .param("id", order)
                .query(String.class)
                .single()
                .strip();
    }

    private void askedAgo(long order, int seconds) {
        jdbc.sql(
                        "update host_order set asked_at = asked_at - make_interval(secs => :s), fetched_at = fetched_at - make_interval(secs => :s) where id = :id")
                .param("id", order)
                .param("s", seconds)
                .update();
        actions.lapse();
    }

    @Test
    void itIsAskedOnceFollowedAndPutOnRecord() throws Exception {
        assertThat(analyst.page("/estate/components/" + name).text())
                .contains("What can be done here", "restart how softhard", "wipe by " + name + ", asked by admin only");
        assertThat(ask("&action=restart&with-how=hard")).contains("restart with how=hard", "asked by", "asked");
        var order = orders().get(0);
        assertThat(order.path("action").asString()).isEqualTo("restart");
        assertThat(order.path("right").asString()).isEqualTo("analyst");
        assertThat(order.path("arguments").path("how").asString()).isEqualTo("hard");
        assertThat(order.path("secondsLeft").asInt()).isBetween(100, 120);
        long number = order.path("id").asLong();
        // Until it says that it has it, it is given again: the answer may have been lost.
        assertThat(orders().get(0).path("id").asLong()).isEqualTo(number);
        told(number, "FETCHED", "");
        assertThat(orders()).isEmpty();
        told(number, "DONE", "running again");
        assertThat(state(number)).isEqualTo("DONE running again");
        assertThat(analyst.page("/actions/" + name).text()).contains("done after", "running again");
        assertThat(jdbc.sql(
                                "select string_agg(what || ': ' || after, '; ' order by id) from audit_entry where subject = :subject")
                        .param("subject", "component " + name)
                        .query(String.class)
                        .single())
                .isEqualTo(
                        "action asked: restart with how=hard, by %s; action done: restart with how=hard: done, running again"
                                .formatted(name));
        // What was told comes again, and changes nothing.
        told(number, "FAILED", "");
        assertThat(state(number)).isEqualTo("DONE running again");
    }

    @Test
    void whatIsNotInItsFileOrNotOnesOwnIsNotAsked() throws Exception {
        assertThat(ask("&action=rm")).contains("Nobody offers to \"rm\"");
        assertThat(ask("&action=wipe")).contains("To ask for \"wipe\" one must be admin.");
        assertThat(ask("&action=restart&with-how=" + encoded("hard; rm -rf /"))).contains("how is one of soft, hard.");
        assertThat(ask("&action=restart")).contains("how is one of soft, hard.");
        var other = subject().key();
        assertThat(org.jsoup.Jsoup.parse(
                                analyst.post("/actions/" + other, "outpost=" + id + "&action=restart&with-how=hard")
                                        .body())
                        .text())
                .contains("Nobody offers to \"restart\" to");
        assertThat(orders()).isEmpty();
    }

    @Test
    void anOrderThatIsNotFetchedLapsesAndOneOfWhichNothingIsHeardIsNotKnown() throws Exception {
        ask("&action=restart&with-how=soft");
        long lapsed = orders().get(0).path("id").asLong();
        askedAgo(lapsed, 121);
        assertThat(state(lapsed)).startsWith("LAPSED The outpost did not fetch it within 2 min");
        assertThat(orders()).isEmpty();
        ask("&action=restart&with-how=soft");
        long lost = orders().get(0).path("id").asLong();
        told(lost, "FETCHED", "");
        askedAgo(lost, 14 * 60);
        assertThat(state(lost)).isEqualTo("FETCHED");
        askedAgo(lost, 61);
        assertThat(state(lost)).startsWith("UNKNOWN It was begun, and nothing was said of what came of it");
        // It was away all the while, and tells now.
        told(lost, "DONE", "running again");
        assertThat(state(lost)).isEqualTo("DONE running again");
    }

    @Test
    void fromACaseItIsInItsLog() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 20);
        eventually(() -> assertThat(casesOf(subject)).isNotEmpty());
        long number = ((Number) casesOf(subject).getFirst().get("id")).longValue();
        outpost.may("{\"name\":\"mend\",\"of\":\"%s\",\"right\":\"analyst\",\"arguments\":{}}".formatted(subject.key()))
                .tells();
        assertThat(analyst.page("/cases/" + number).text()).contains("What can be done: ", "mend by " + name);
        analyst.post("/actions/" + subject.key(), "outpost=" + id + "&action=mend&case=" + number);
        long order = orders().get(0).path("id").asLong();
        told(order, "FETCHED", "");
        told(order, "DONE", "running again");
        assertThat(analyst.page("/cases/" + number).text())
                .contains("asked to mend, by " + name, "mend: done, running again after 1 s");
    }

    private String log(Object number) throws Exception {
        return analyst.page("/cases/" + number).text();
    }

    @Test
    void aGuardHasItDoneByItselfAtMostSoOften() throws Exception {
        var subject = subject();
        var other = subject();
        for (var one : new Subject[] {subject, other})
            outpost.may("{\"name\":\"mend %2$s\",\"of\":\"%2$s\",\"right\":\"lead\",\"arguments\":{\"how\":[\"soft\"]}}"
                    .formatted(name, one.key()));
        outpost.tells();
        guard(subject, Duration.ofMinutes(10));
        guard(other, Duration.ofMinutes(10));
        var lead = loggedIn("lead");
        var ids = jdbc.sql(
                        "select id from guard where name like 'Guard of ' || :one || ' %' or name like 'Guard of ' || :two || ' %' order by id")
                .param("one", subject.key())
                .param("two", other.key())
                .query(Long.class)
                .list();
        assertThat(ids).hasSize(2);
        // Another action has an argument of the same name.
        var how = "&" + encoded("mend * how") + "=";
        var form = "action=" + encoded("mend *") + "&" + encoded("restart how") + "=hard" + how
                + "soft&often=1&within=1+h";
        assertThat(analyst.post("/guards/" + ids.getFirst() + "/action", form).statusCode())
                .isEqualTo(403);
        assertThat(lead.post("/guards/" + ids.getFirst() + "/action", form.replace("often=1", "often=0"))
                        .body())
                .contains("It is done 1 to 100 times at most.");
        assertThat(lead.post("/guards/" + ids.getFirst() + "/action", form.replace(how + "soft", how + "hard"))
                        .body())
                .contains("How is one of soft.");
        lead.post("/guards/" + ids.getFirst() + "/action", form);
        assertThat(lead.page("/guards/" + ids.getFirst() + "/action").text())
                .contains("It does nothing by itself any more");

        fail(subject, 20);
        eventually(() -> assertThat(orders()).hasSize(1));
        var order = orders().get(0);
        assertThat(order.path("right").asString())
                .as("in the name of who has set it")
                .isEqualTo("lead");
        told(order.path("id").asLong(), "FETCHED", "");
        told(order.path("id").asLong(), "DONE", "running again");
        var number = casesOf(subject).getFirst().get("id");
        assertThat(log(number))
                .contains("by itself, as", "mend " + subject.key() + " with how=soft: done, running again after");
        jdbc.sql("update host_order set done_at = done_at - interval '11 minutes' where id = :id")
                .param("id", order.path("id").asLong())
                .update();
        eventually(() -> assertThat(log(number)).contains("did not help: the alert is still up 10 min after it"));

        // Of another alert of the same guard it would be too often; a guard that has nothing set does nothing.
        fail(other, 20);
        eventually(() -> assertThat(casesOf(other)).isNotEmpty());
        assertThat(orders()).isEmpty();
        lead.post("/guards/" + ids.getFirst() + "/action/none", "");
        assertThat(lead.page("/guards/" + ids.getFirst() + "/action").text())
                .doesNotContain("It does nothing by itself any more");
    }

    @Test
    void aWebCallIsMadeOnceAndItsFigureIsReadBeforeAndAfter() throws Exception {
        var subject = subject();
        var slots = new java.util.concurrent.atomic.AtomicInteger(4);
        DESK.page("/slots-" + name, () -> "{\"slots\": " + slots.getAndAdd(4) + "}");
        DESK.answer("/order-" + name, 200, "{}");
        var admin = loggedIn("admin");
        var url = "http://127.0.0.1:" + DESK.port();
        var form = "name=" + encoded("slots " + name) + "&component=" + subject.key() + "&lowest=lead&url="
                + encoded(url + "/order-" + name)
                + "&body=" + encoded("{\"slots\": {slots}}") + "&arguments=" + encoded("slots: 4, 8") + "&figureUrl="
                + encoded(url + "/slots-" + name) + "&figurePath=" + encoded("$.slots") + "&headers="
                + encoded("X-Key: harbour");
        for (var wrong : new String[][] {
            {form.replace("component=" + subject.key(), "component=none"), "There is no component"},
            {form.replace(encoded(url + "/order"), encoded("http://192.0.2.7/order")), "Morvet may not call"},
            {form.replace(encoded("slots: 4, 8"), encoded("slots 4")), "is no argument"},
            {form.replace(encoded("slots: 4, 8"), encoded("slots: 4\"}")), "is no value of slots"},
            {form.replace(encoded("slots: 4, 8"), encoded("other: 4")), "stands nowhere in the body"},
            {form.replace(encoded("$.slots"), encoded("$[")), "is no JSONPath"},
            {form.replace("figurePath=" + encoded("$.slots"), "figurePath="), "or neither"},
        })
            assertThat(org.jsoup.Jsoup.parse(
                                    admin.post("/setup/actions", wrong[0]).body())
                            .text())
                    .contains(wrong[1]);
        admin.post("/setup/actions", form);
        assertThat(admin.page("/setup/actions").text())
                .contains("slots " + name)
                .doesNotContain("harbour");
        assertThat(analyst.post("/setup/actions", form).statusCode()).isEqualTo(403);

        var web = jdbc.sql("select id from web_action where name = :name")
                .param("name", "slots " + name)
                .query(Long.class)
                .single();
        var ask = "web=" + web + "&action=" + encoded("slots " + name) + "&with-slots=8";
        assertThat(analyst.post("/actions/" + subject.key(), ask).body()).contains("one must be lead");
        var lead = loggedIn("lead");
        assertThat(lead.post("/actions/" + subject.key(), ask.replace("slots=8", "slots=9"))
                        .body())
                .contains("slots is one of 4, 8.");
        lead.post("/actions/" + subject.key(), ask);
        eventually(
                () -> assertThat(lead.page("/actions/" + subject.key()).text()).contains("done after", "from 4 to 8"));

        // One that is refused there has failed; one that was begun is not begun again.
        DESK.answer("/order-" + name, 409, "{}");
        lead.post("/actions/" + subject.key(), ask);
        eventually(
                () -> assertThat(lead.page("/actions/" + subject.key()).text()).contains("It was answered 409."));
        long last = jdbc.sql("select max(id) from host_order where web_action_id = :web")
                .param("web", web)
                .query(Long.class)
                .single();
        assertThat(actions.beginWeb(last)).isEmpty();
        admin.post("/setup/actions/" + web + "/delete", "");
        assertThat(lead.page("/actions/" + subject.key()).text())
                .doesNotContain("by a web call")
                .contains("from 4 to 8");
    }

    /** What cannot be done by itself takes nothing of the alert with it. */
    @Test
    void anAlertIsRaisedAlsoWhereItsGuardCanDoNothing() throws Exception {
        var subject = subject();
        outpost.may("{\"name\":\"heal %s\",\"of\":\"%1$s\",\"right\":\"lead\",\"arguments\":{}}"
                        .formatted(subject.key()))
                .tells();
        guard(subject, Duration.ofMinutes(10));
        long guard = jdbc.sql("select max(id) from guard").query(Long.class).single();
        loggedIn("lead").post("/guards/" + guard + "/action", "action=" + encoded("heal *") + "&often=1&within=1+h");
        // Meanwhile the file on the host asks for more than who has set it may.
        jdbc.sql("update outpost set may = replace(may::text, '\"lead\"', '\"admin\"')::jsonb where id = :id")
                .param("id", id)
                .update();
        assertThat(loggedIn("lead")
                        .post("/guards/" + guard + "/action", "action=" + encoded("heal *") + "&often=1&within=1+h")
                        .body())
                .contains("It is done with your rights, and for", "one must be admin.");
        fail(subject, 20);
        eventually(() -> assertThat(casesOf(subject)).isNotEmpty());
        eventually(() -> assertThat(log(casesOf(subject).getFirst().get("id")))
                .contains("was not done by itself: To ask for \"heal " + subject.key() + "\" one must be admin."));
        assertThat(jdbc.sql("select count(*) from alert where origin_kind = 'guard' and origin_id = :id")
                        .param("id", guard)
                        .query(Integer.class)
                        .single())
                .isEqualTo(1);
    }
}
