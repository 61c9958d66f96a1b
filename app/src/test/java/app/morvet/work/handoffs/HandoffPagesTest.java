package app.morvet.work.handoffs;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.handoff.HandoffState;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Handoffs as the analyst sees them: which stand in which list, what holds one up, and what needs eyes. */
class HandoffPagesTest extends MorvetTest {
    @Autowired
    TicketWords words;

    @Autowired
    private HandoffDesk desk;

    @Autowired
    private HandoffStore store;

    @Autowired
    private HandoffController page;

    @Autowired
    private Desks desks;

    @Autowired
    private CaseBook cases;

    private Browser analyst;

    @BeforeEach
    void connectTheDesk() throws Exception {
        analyst = loggedIn("analyst");
        HandoffTest.connect(desks);
        DESK.status = 201;
    }

    @AfterEach
    void deskIsBack() {
        DESK.status = 201;
    }

    private WorkCase opened() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(10));
        fail(subject, 4);
        eventually(() -> caseOf(subject));
        return cases.find((Long) caseOf(subject).get("id")).orElseThrow();
    }

    /** Handed off with a title that stands on no other. */
    private WorkCase handedOff(String title) throws Exception {
        var one = opened();
        desk.handOff(one, one.version(), estate.teams().getFirst(), title, words.story(one), person("analyst"));
        return cases.find(one.id()).orElseThrow();
    }

    private Handoff of(WorkCase one) {
        return store.ofCase(one.id()).getFirst();
    }

    private void reaches(WorkCase one, HandoffState state) throws Exception {
        eventually(() -> assertThat(of(one).state()).isEqualTo(state));
    }

    private List<String> shown(String which, String title) throws Exception {
        return analyst.page("/handoffs?show=" + which).select("#handoff-rows tbody tr").stream()
                .map(row -> row.text())
                .filter(text -> text.contains(title))
                .toList();
    }

    @Test
    void eachStandsInTheListOfItsState() throws Exception {
        var title = "Mooring plan " + System.nanoTime();
        var one = handedOff(title);
        reaches(one, HandoffState.SENT);
        var ticket = of(one).ticket();
        assertThat(shown("", title)).singleElement().satisfies(row -> assertThat(row)
                .contains(ticket, "sent", "Annika Ruuth"));
        assertThat(shown("waiting", title)).isEmpty();
        DESK.say(ticket, "back", "not ours");
        reaches(one, HandoffState.RETURNED);
        assertThat(shown("", title)).isEmpty();
        assertThat(shown("returned", title)).singleElement().satisfies(row -> assertThat(row)
                .contains("Returned: not ours"));
        DESK.say(ticket, "closed", "");
        // What was returned is with the analysts again; the desk's word is asked for no more.
        assertThat(shown("done", title)).isEmpty();
    }

    @Test
    void whatIsHeldUpSaysByWhatAndIsSentAtOnceWhenSomebodyAsks() throws Exception {
        DESK.status = 503;
        var title = "Gangway list " + System.nanoTime();
        var one = handedOff(title);
        eventually(() -> assertThat(of(one).failures()).isGreaterThan(0));
        assertThat(shown("waiting", title)).singleElement().satisfies(row -> assertThat(row)
                .containsPattern("\\d+ tr(y|ies) failed: Desk answered 503")
                .contains("Next try")
                .endsWith("Send now"));
        assertThat(page.now()).anySatisfy(item -> {
            assertThat(item.words()).matches("\\d+ handoffs? waiting");
            assertThat(item.mark()).isEqualTo("warning");
        });
        DESK.status = 201;
        var answer = Browser.shown(analyst.post("/handoffs/" + of(one).id() + "/send", ""));
        assertThat(answer.select("#handoff-rows")).hasSize(1);
        reaches(one, HandoffState.SENT);
        assertThat(shown("waiting", title)).isEmpty();
        var tickets = analyst.page("/cases/" + one.id()).select("section:has(h2:contains(Tickets))");
        assertThat(tickets.text()).contains(of(one).ticket(), "tries");
    }

    @Test
    void whatIsGivenUpCallsUntilItsCaseIsSettled() throws Exception {
        DESK.status = 400;
        var title = "Fuel sheet " + System.nanoTime();
        var one = handedOff(title);
        reaches(one, HandoffState.GIVEN_UP);
        assertThat(shown("waiting", title))
                .singleElement()
                .satisfies(row -> assertThat(row).contains("Desk answered 400").endsWith("Send now"));
        long before = lost();
        assertThat(before).isPositive();
        var now = cases.find(one.id()).orElseThrow();
        cases.settle(one.id(), now.version(), person("analyst"), SettleReason.MENDED, "", Instant.now());
        assertThat(lost()).isEqualTo(before - 1);
    }

    private long lost() {
        return page.now().stream()
                .filter(item -> item.words().endsWith("not delivered"))
                .mapToLong(item -> Long.parseLong(item.words().split(" ")[0]))
                .sum();
    }

    @Test
    void aListThatRefreshesItselfGetsItsRowsAlone() throws Exception {
        var rows = Browser.shown(analyst.get("/handoffs", "HX-Request", "true", "HX-Target", "handoff-rows"));
        assertThat(rows.select("#handoff-rows")).hasSize(1);
        assertThat(rows.select("nav")).isEmpty();
        assertThat(analyst.page("/handoffs?show=done")
                        .select("nav.tabs a[aria-current]")
                        .eachText())
                .containsExactly("Done");
    }

    @Test
    void whatIsTypedIsKeptWhereSomethingIsMissing() throws Exception {
        var one = opened();
        var form = analyst.post(
                "/cases/" + one.id() + "/handoff",
                "version=" + one.version() + "&team=0&title=" + "x".repeat(251) + "&story=typed+by+hand");
        assertThat(form.statusCode()).isEqualTo(422);
        var shown = org.jsoup.Jsoup.parse(form.body());
        assertThat(shown.select(".wrong").eachText().stream().filter(words -> !words.isEmpty()))
                .containsExactly("Choose the team that owns this.", "At most 250 characters, these are 251.");
        assertThat(shown.select("#handoff-title").val()).hasSize(251);
        assertThat(shown.select("#handoff-story").text()).isEqualTo("typed by hand");
        var again = org.jsoup.Jsoup.parse(analyst.post(
                        "/cases/" + one.id() + "/handoff",
                        "version=" + one.version() + "&team="
                                + estate.teams().getFirst().id() + "&title=&story=" + "y".repeat(20_001))
                .body());
        assertThat(again.select(".wrong").eachText().stream().filter(words -> !words.isEmpty()))
                .containsExactly("A ticket needs a title.", "At most 20,000 characters, these are 20001.");
        assertThat(store.ofCase(one.id())).isEmpty();
    }

    @Test
    void withoutScriptsTheFormIsAPageAndLeadsBackToTheCase() throws Exception {
        var one = opened();
        var form = analyst.page("/cases/" + one.id() + "/handoff");
        assertThat(form.select("h1").text()).isNotEmpty();
        var answer = analyst.post(
                "/cases/" + one.id() + "/handoff",
                "version=" + one.version() + "&team="
                        + estate.teams().getFirst().id() + "&title=Plain&story=Told");
        assertThat(Browser.to(answer)).isEqualTo("/cases/" + one.id());
        assertThat(of(one).title()).isEqualTo("Plain");
    }
}
