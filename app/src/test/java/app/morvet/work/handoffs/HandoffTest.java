package app.morvet.work.handoffs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.cases.CaseState;
import app.morvet.core.handoff.HandoffState;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.Overtaken;
import app.morvet.work.cases.WorkCase;
import com.jayway.jsonpath.JsonPath;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

public class HandoffTest extends MorvetTest {
    private static final String TEMPLATE =
            """
            {"head": "{{title}}", "text": "{{story}}", "count": "{{failures}}", "to": "{{teamKey}}", "samples": "{{samples}}", "back": "{{link}}"}""";

    @Autowired
    TicketWords words;

    @Autowired
    HandoffDesk desk;

    @Autowired
    HandoffStore store;

    @Autowired
    Desks desks;

    @Autowired
    CaseBook cases;

    /** One desk for all tests. */
    public static void connect(Desks desks) {
        if (!desks.all().isEmpty()) return;
        desks.connect(
                "desk",
                "Desk",
                DESK.url(),
                "/tickets",
                "/tickets/{{ticket}}",
                "",
                "X-Who: morvet",
                TEMPLATE,
                "$.id",
                "$.word",
                "$.why",
                "open = sent\nin work = accepted\nback = returned\nclosed = done",
                "callback-secret",
                1);
    }

    @BeforeEach
    void connectTheDesk() {
        setUpOnce();
        connect(desks);
        DESK.status = 201;
        DESK.swallowAnswer = false;
    }

    @AfterEach
    void deskIsBack() {
        DESK.status = 201;
        DESK.swallowAnswer = false;
    }

    private WorkCase handedOff(Subject subject) throws Exception {
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> caseOf(subject));
        var one = cases.find((Long) caseOf(subject).get("id")).orElseThrow();
        desk.handOff(
                one,
                one.version(),
                estate.team(subject.team()).orElseThrow(),
                "Please look",
                words.story(one),
                person("analyst"));
        return cases.find(one.id()).orElseThrow();
    }

    private Handoff of(WorkCase one) {
        return store.ofCase(one.id()).getFirst();
    }

    private void reaches(WorkCase one, HandoffState state) throws Exception {
        eventually(() -> assertThat(of(one).state()).isEqualTo(state));
    }

    @Test
    void theTicketBearsTheEvidenceAndIsFollowedToItsEnd() throws Exception {
        var subject = subject();
        var one = handedOff(subject);
        assertThat(one.state()).isEqualTo(CaseState.HANDED_OFF);
        reaches(one, HandoffState.SENT);
        var ticket = DESK.ticketOf(of(one).id().toString());
        assertThat(of(one).ticket()).isEqualTo(ticket);
        var body = DESK.bodies.stream()
                .filter(text -> text.contains("team-" + subject.key() + "\""))
                .findFirst()
                .orElseThrow();
        assertThat((String) JsonPath.read(body, "$.head")).isEqualTo("Please look");
        assertThat((String) JsonPath.read(body, "$.text"))
                .contains("Interface " + subject.key() + "\nFailed: 4 messages\nFirst: ", "\"deliver\": no answer");
        assertThat((Integer) JsonPath.read(body, "$.count")).isEqualTo(4);
        assertThat((Integer) JsonPath.read(body, "$.samples.length()")).isEqualTo(3);
        assertThat((String) JsonPath.read(body, "$.samples[0].error")).isEqualTo("no answer\n  from partner");
        assertThat((String) JsonPath.read(body, "$.back")).endsWith("/cases/" + one.id());

        DESK.say(ticket, "in work", "");
        reaches(one, HandoffState.ACCEPTED);
        DESK.say(ticket, "closed", "");
        reaches(one, HandoffState.DONE);
    }

    @Test
    void aReturnedTicketBringsTheCaseBackWithItsReason() throws Exception {
        var one = handedOff(subject());
        reaches(one, HandoffState.SENT);
        DESK.say(of(one).ticket(), "back", "belongs to Platform");
        reaches(one, HandoffState.RETURNED);
        var back = cases.find(one.id()).orElseThrow();
        assertThat(back.state()).isEqualTo(CaseState.TAKEN);
        assertThat(back.progress().returned()).isTrue();
        assertThat(back.progress().returnReason()).isEqualTo("belongs to Platform");
    }

    @Test
    void aDeskThatIsDownIsTriedAgainAndGetsTheTicketExactlyOnce() throws Exception {
        DESK.status = 503;
        var one = handedOff(subject());
        eventually(() -> assertThat(of(one).failures()).isEqualTo(1));
        assertThat(of(one).state()).isEqualTo(HandoffState.QUEUED);
        assertThat(of(one).lastError()).contains("Desk answered 503", "not today");
        assertThat(of(one).nextTry()).isNotNull();
        DESK.status = 201;
        // The connection breaks after the desk has made the ticket: the try counts as failed, and must not make
        // another.
        DESK.swallowAnswer = true;
        eventually(() -> assertThat(of(one).failures()).isEqualTo(2));
        DESK.swallowAnswer = false;
        desk.again(of(one).id(), java.time.Instant.now());
        reaches(one, HandoffState.SENT);
        var key = of(one).id().toString();
        assertThat(DESK.tries.stream().filter(key::equals).count()).isGreaterThanOrEqualTo(3);
        assertThat(DESK.bodies.stream()
                        .filter(body -> body.contains("/cases/" + one.id() + "\""))
                        .count())
                .isEqualTo(1);
    }

    @Test
    void whatTheDeskWillNeverTakeIsGivenUpLoudlyAndCanBeSentAgain() throws Exception {
        DESK.status = 400;
        var one = handedOff(subject());
        reaches(one, HandoffState.GIVEN_UP);
        assertThat(jdbc.sql("select words from case_entry where case_id = :id")
                        .param("id", one.id())
                        .query(String.class)
                        .list())
                .anyMatch(words -> words.startsWith("The ticket could not be delivered: Desk answered 400"));
        DESK.status = 201;
        desk.again(of(one).id(), java.time.Instant.now());
        reaches(one, HandoffState.SENT);
    }

    /** What is pressed while a try is under way is not lost, though that try then says to wait for minutes. */
    @Test
    void whatIsSentAgainWhileATryIsUnderWayIsTriedAtOnceAfterIt() throws Exception {
        DESK.status = 503;
        var one = handedOff(subject());
        var id = of(one).id();
        eventually(() -> assertThat(of(one).failures()).isEqualTo(1));
        jdbc.sql("update handoff set failures = 10 where id = :id")
                .param("id", id)
                .update();
        assertThat(HandoffSending.BACK_OFF.after(11)).isGreaterThanOrEqualTo(Duration.ofMinutes(1));
        DESK.meanwhile(() -> {
            desk.again(id, java.time.Instant.now());
            DESK.status = 201;
        });
        desk.again(id, java.time.Instant.now());
        reaches(one, HandoffState.SENT);
        assertThat(DESK.tries.stream().filter(id.toString()::equals).count()).isEqualTo(3);
    }

    @Test
    void aCallBackNeedsItsSecretAndOnlyMakesMorvetLook() throws Exception {
        var one = handedOff(subject());
        reaches(one, HandoffState.SENT);
        var ticket = of(one).ticket();
        var lie = "{\"id\": \"" + ticket + "\", \"word\": \"closed\"}";
        assertThat(callBack("wrong", lie)).isEqualTo(401);
        assertThat(callBack("callback-secret", "nonsense")).isEqualTo(400);
        var large = " ".repeat(64 * 1024) + lie;
        assertThat(callBack("wrong", large)).isEqualTo(401);
        assertThat(callBack("callback-secret", large)).isEqualTo(413);
        DESK.say(ticket, "in work", "");
        assertThat(callBack("callback-secret", lie)).isEqualTo(202);
        reaches(one, HandoffState.ACCEPTED);
    }

    @Test
    void theFormArrivesFilledInAndSaysWhatIsMissingAtItsField() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> caseOf(subject));
        var path = "/cases/" + caseOf(subject).get("id") + "/handoff";
        var analyst = loggedIn("analyst");
        var form = analyst.get(path).body();
        assertThat(form)
                .contains("value=\"" + subject.team() + "\" selected=\"selected\"")
                .contains("over the warning limit of 2")
                .contains("Interface " + subject.key() + "\nFailed: 4 messages\nFirst: ")
                .contains("no answer");
        var refused = analyst.post(path, "version=1&team=0&title=&story=" + Browser.encoded("what I <b>wrote</b>"));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body())
                .contains(
                        "Choose the team that owns this.",
                        "A ticket needs a title.",
                        "what I &lt;b&gt;wrote&lt;/b&gt;");
        var stale = analyst.post(path, "version=7&team=" + subject.team() + "&title=t&story=s");
        assertThat(stale.statusCode()).isEqualTo(422);
        assertThat(stale.body()).contains("Nothing of yours was done.");
        var sent = analyst.post(path, "version=1&team=" + subject.team() + "&title=t&story=s");
        assertThat(sent.statusCode()).isEqualTo(302);
        assertThat(analyst.get("/handoffs").body()).contains("Team of " + subject.key());
    }

    @Test
    void aDeskIsNotConnectedWithSettingsThatCannotWork() throws Exception {
        var admin = loggedIn("admin");
        var form =
                "id=1&key=other&version=0&name=Desk&createPath=tickets&readPath=/tickets&headers=nonsense&secret=&pollSeconds=0&pagePath="
                        + "&url=" + Browser.encoded("http://192.0.2.7:80") + "&template="
                        + Browser.encoded("{\"a\": \"{{titel}}\"}")
                        + "&numberPath=" + Browser.encoded("$.a[?(") + "&statePath=$.b&reasonPath=$.c&states="
                        + Browser.encoded("open = sent");
        var refused = admin.post("/setup/desk", form);
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body())
                .contains(
                        "Morvet may not call 192.0.2.7:80. Add it to morvet.outgoing and start again.",
                        "the template uses titel, which is not known",
                        "the JSONPath of the number ($.a[?() is faulty",
                        "A path begins with /.",
                        "has {{ticket}} in it",
                        "Each line must read Name: value.",
                        "1 to 3600 seconds.");
        assertThat(desks.byKey("other")).isEmpty();
    }

    @Test
    void whatIsSecretIsNotShownAgainAndKeptWhenTheRestIsSaved() {
        var desk = desks.all().getFirst().connection();
        var shown = desk.covered();
        assertThat(shown.headers()).isEqualTo("X-Who: (kept)");
        assertThat(shown.secret()).isEqualTo("(kept)");
        assertThat(shown.keeping(desk)).isEqualTo(desk);
    }

    private int callBack(String secret, String body) throws Exception {
        return HTTP.send(
                        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/tickets/desk"))
                                .header("Authorization", "Bearer " + secret)
                                .header("Content-Type", "application/json")
                                .POST(HttpRequest.BodyPublishers.ofString(body))
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .statusCode();
    }

    @Test
    void whoHandsOffACaseThatHasMovedOnIsToldAndNoTicketIsMade() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> caseOf(subject));
        var seen = cases.find((Long) caseOf(subject).get("id")).orElseThrow();
        cases.take(seen.id(), seen.version(), person("other"), java.time.Instant.now());
        var team = estate.team(subject.team()).orElseThrow();
        assertThatThrownBy(() -> desk.handOff(seen, seen.version(), team, "t", "s", person("analyst")))
                .isInstanceOf(Overtaken.class)
                .hasMessageContaining("Pia Lumme took the case");
        assertThat(store.ofCase(seen.id())).isEmpty();
    }
}
