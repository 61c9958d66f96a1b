package app.morvet.work.handoffs;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.CaseState;
import app.morvet.core.handoff.HandoffState;
import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.duty.Rotas;
import app.morvet.work.cases.WorkCase;
import java.time.Instant;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Whoever is of a team deals with what is handed to it, and sees nothing of others. */
class HandedTest extends ToldAlerts {
    @Autowired
    private HandoffDesk handoffs;

    @Autowired
    private HandoffStore store;

    @Autowired
    private Desks desks;

    @Autowired
    private Rotas rotas;

    @Autowired
    private People everybody;

    private Subject host;
    private UUID id;
    private Browser member;

    @BeforeEach
    void handedOff() throws Exception {
        setUpOnce();
        HandoffTest.connect(desks);
        host = component("host");
        raised(guard("Hot"), host, 0, Severity.WARNING, 3);
        var login = "m-" + host.key();
        long who = everybody.make(
                login,
                new People.Card(new Person(0, login, "Otso of " + host.key(), Role.MEMBER), "", "", true),
                "quay-side-lantern",
                person("admin"));
        rotas.join(host.team(), who, null);
        id = handoffs.recall(theCase(host), estate.team(host.team()).orElseThrow(), person("analyst"), Instant.now());
        desk(HandoffState.SENT);
        member = browser();
        member.logIn(login, "quay-side-lantern");
    }

    /** What the desk says of the ticket. */
    private void desk(HandoffState state) {
        handoffs.follow(id, new TicketReading.Ticket("T-" + host.key(), state, ""), Instant.now());
    }

    private void says(String act, String words) throws Exception {
        assertThat(member.post("/handed/" + id, Map.of("act", act, "words", words))
                        .statusCode())
                .isEqualTo(302);
    }

    private HandoffState state() {
        return store.byId(id).orElseThrow().state();
    }

    private WorkCase one() {
        return theCase(host);
    }

    @Test
    void theyAcceptNoteAndFinishIt() throws Exception {
        assertThat(member.page("/handed").text())
                .contains("Team of " + host.key(), "sent, not yet accepted", "heat is 3.0");
        var page = member.page("/handed/" + id);
        assertThat(page.text()).contains("heat is 3.0 on " + host.key(), "T-" + host.key(), "What was handed off");
        assertThat(page.select("nav")).as("there is nowhere else to go").isEmpty();
        says("accept", "");
        assertThat(state()).isEqualTo(HandoffState.ACCEPTED);
        says("note", "the valve sticks");
        says("finish", "");
        assertThat(state()).isEqualTo(HandoffState.DONE);
        assertThat(logOf(one())).contains("accepted it for Team of " + host.key(), "the valve sticks");
        assertThat(member.page("/handed/" + id).text())
                .contains("Otso of " + host.key() + " finished it for")
                .doesNotContain("Accept Finish");
    }

    @Test
    void theyReturnItWithAReasonAndItStandsOnCasesAgain() throws Exception {
        var refused = member.post("/handed/" + id, Map.of("act", "return", "words", " "));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body()).contains("Say why it is not yours");
        says("return", "the pier is Platform's");
        assertThat(state()).isEqualTo(HandoffState.RETURNED);
        assertThat(one().progress().returned()).isTrue();
        assertThat(one().progress().returnReason()).isEqualTo("the pier is Platform's");
        assertThat(one().state()).isEqualTo(CaseState.TAKEN);
        assertThat(logOf(one()))
                .anyMatch(words -> words.startsWith("Otso of " + host.key() + " of Team of")
                        && words.endsWith("returned the ticket: the pier is Platform's"));
    }

    /** What the desk said before is no news; what it says anew counts. */
    @Test
    void whatIsSaidHereIsNotTakenBackByWhatTheDeskSaidBefore() throws Exception {
        says("accept", "");
        desk(HandoffState.SENT);
        assertThat(state()).as("the desk has not moved").isEqualTo(HandoffState.ACCEPTED);
        int before = logOf(one()).size();
        desk(HandoffState.ACCEPTED);
        assertThat(logOf(one())).as("it says what is known").hasSize(before);
        desk(HandoffState.DONE);
        assertThat(state()).isEqualTo(HandoffState.DONE);
    }

    @Test
    void whatIsThroughCannotBeSaidAnyMore() throws Exception {
        desk(HandoffState.DONE);
        var late = member.post("/handed/" + id, Map.of("act", "accept"));
        assertThat(late.statusCode()).isEqualTo(422);
        assertThat(late.body()).contains("This cannot be said any more: it is done.");
        assertThat(member.post("/handed/" + id, Map.of("act", "sell")).statusCode())
                .isEqualTo(422);
    }

    @Test
    void whatIsOfAnotherTeamIsNotThere() throws Exception {
        rotas.leave(
                host.team(),
                everybody.cards().stream()
                        .filter(card -> card.person().login().equals("m-" + host.key()))
                        .findFirst()
                        .orElseThrow()
                        .person()
                        .id(),
                person("lead"));
        assertThat(member.get("/handed/" + id).statusCode()).isEqualTo(404);
        assertThat(member.post("/handed/" + id, Map.of("act", "accept")).statusCode())
                .isEqualTo(404);
        assertThat(member.get("/handed/" + UUID.randomUUID()).statusCode()).isEqualTo(404);
        assertThat(member.page("/handed").text()).contains("You are in no team yet");
        assertThat(state()).isEqualTo(HandoffState.SENT);
    }

    @Test
    void aMemberWithoutAPasswordDoesNotLogIn() throws Exception {
        everybody.addMember("nolog-" + host.key(), "No log-in", "", "");
        var browser = browser();
        assertThat(browser.logIn("nolog-" + host.key(), "")).isEqualTo("");
    }
}
