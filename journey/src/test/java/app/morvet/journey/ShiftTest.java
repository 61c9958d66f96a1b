package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.parallel.ResourceLock;

/** A shift, in a browser, by what a person sees: failures that become cases, and what comes back of them. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@ResourceLock(Lane.SHARED)
class ShiftTest extends InAHouse {
    @Override
    protected boolean isAlone() {
        return true;
    }

    /** Of the latest; whether its case is critical still depends on how soon its guard sees that it is calm again. */
    private static final Pattern LINK =
            Pattern.compile("Sea-state readings in[^<]*</span>\\s*<a href=\"(http[^\"]*/take/[^\"]+)\"");

    /** A guard that raises at a handful of failures and clears within a minute, so that a test can see the end. */
    private static void quickGuard(Page lead, String interfaceName) {
        lead.navigate("/guards/new");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Quick one on " + interfaceName);
        lead.getByLabel("Name or pattern").fill(interfaceName);
        lead.getByLabel("Length of the window").fill("1 min");
        lead.getByLabel("Warning limit", new Page.GetByLabelOptions().setExact(true))
                .fill("3");
        lead.getByLabel("Critical limit", new Page.GetByLabelOptions().setExact(true))
                .fill("6");
        lead.getByLabel("Clear time").fill("0");
        assertThat(lead.locator("#meaning"))
                .containsText("Watch failed messages on " + interfaceName
                        + ": the sum over the last 1 min. Warn above 3, critical above 6.");
        assertThat(lead.locator("#meaning")).containsText("Now it matches 1 subject: " + interfaceName);
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.getByRole(
                        AriaRole.HEADING, new Page.GetByRoleOptions().setName("Quick one on " + interfaceName)))
                .isVisible();
    }

    /** The first of all: once somebody has leapt, what the stand-ins carry is older than the guard looks back. */
    @Test
    @Order(0)
    void aFailureIsFollowedFromTheBreakToItsEnd() throws Exception {
        quickGuard(pages.logIn("lead"), "Departures to displays");
        var page = pages.atCases("analyst");
        var cases = new CasePage(page);
        assertThat(cases.row("Departures to displays")).hasCount(0);

        house.panel("/hub/departures-to-displays/break", "fault", "DUPLICATE_KEY");
        house.panel("/hub/departures-to-displays/carry", "count", "8");

        // It appears by itself, worst first, with its mark.
        var row = cases.row("on Departures to displays, over the critical limit of 6");
        assertThat(row).isVisible();
        assertThat(row).containsText("critical +60 · tier 2 +12");
        row.click();
        assertThat(cases.heading()).containsText("over the critical limit of 6");
        assertThat(page.locator(".curve canvas").first()).isVisible();
        assertThat(page).hasURL(Pattern.compile(".*/cases/\\d+.*"));

        // The evidence: error, attributes, payload laid out.
        page.locator("details.failed").first().locator("summary").click();
        var message = page.locator(".message").first();
        assertThat(message).containsText("duplicate key value violates");
        assertThat(message).containsText("\"departure\": \"DP-");

        cases.action("Take").click();
        assertThat(cases.log()).containsText("took the case");
        assertThat(page.locator(".said")).containsText("Undo");

        cases.action("Hand off").click();
        assertThat(page.getByLabel("To the team that owns it").locator("option[selected]"))
                .hasText("Platform");
        assertThat(page.getByLabel("What happened"))
                .hasValue(Pattern.compile("Departures to displays\nFailed: \\d+ messages\nFirst: "));
        cases.handOff().click();
        assertThat(cases.log()).containsText("handed the case off to Platform");
        assertThat(cases.log()).containsText("The desk made ticket SD-");
        var ticket = cases.ticket();

        house.panel("/desk/tickets/" + ticket, "state", "accepted");
        assertThat(cases.log()).containsText("Platform accepted ticket " + ticket);
        house.panel("/hub/departures-to-displays/mend");
        house.panel("/desk/tickets/" + ticket, "state", "done");
        assertThat(cases.log()).containsText("Platform finished ticket " + ticket);

        // Whoever of the owning team is on duty was told by mail, with a link to take it, and is told that it is over.
        assertThat(house.get(house.standIn("/mailbox")).body())
                .contains("to arto.sarka@sundrava.example", "Critical: ", "Take it, or say that you cannot: ");
        house.later(Duration.ofMinutes(2));
        assertThat(cases.log()).containsText("\"Quick one on Departures to displays\" has cleared");
        assertThat(cases.heading()).containsText("Over on Departures to displays; at worst:");

        cases.action("Settle").click();
        page.getByText("The cause was found and put right.").click();
        page.getByLabel("In your words").fill("key range widened");
        cases.send("Settle");
        assertThat(cases.log()).containsText("settled the case as mended: key range widened");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Settled"))
                .click();
        assertThat(cases.row("Departures to displays").first()).isVisible();
    }

    @Test
    void aReturnedTicketComesBackToTheTopWithItsReason() throws Exception {
        var page = pages.atCases("analyst");
        var cases = new CasePage(page);
        house.failing("customer-updates", "MALFORMED_PAYLOAD", 25);
        cases.open("Customer updates");
        cases.action("Hand off").click();
        page.getByLabel("Title").fill("");
        cases.handOff().click();
        assertThat(page.locator("#handoff-panel")).containsText("A ticket needs a title.");
        page.getByLabel("Title").fill("Customer updates cannot be read");
        cases.handOff().click();
        assertThat(cases.log()).containsText("The desk made ticket SD-");
        house.panel("/desk/tickets/" + cases.ticket(), "state", "returned", "reason", "the sender is Vendor Liaison's");
        assertThat(cases.facts()).containsText("The team returned it: the sender is Vendor Liaison's");
        page.navigate("/cases");
        assertThat(cases.firstRow()).containsText("Returned: the sender is Vendor Liaison's");
        assertThat(cases.nowLine()).containsText("1 returned");
        page.navigate("/handoffs?show=returned");
        assertThat(page.locator("#handoff-rows")).containsText("Customer updates cannot be read");
    }

    /** Whoever is of the owning team has a log-in, and there what is handed to them. */
    @Test
    void whoeverIsOfTheTeamReturnsWhatIsNotTheirs() throws Exception {
        var cases = new CasePage(pages.atCases("analyst"));
        cases.open("Manifest to harbour authority");
        cases.action("Hand off").click();
        cases.handOff().click();
        assertThat(cases.log()).containsText("The desk made ticket SD-");
        var member = pages.anybody();
        member.navigate("/login");
        member.getByLabel("Login").fill("otso.haapala");
        member.getByLabel("Password").fill("ferry-member");
        member.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Log in"))
                .click();
        member.waitForURL("**/handed");
        member.locator("a[href*='/handed/']").first().click();
        assertThat(member.locator("main")).containsText("Manifest to harbour authority");
        assertThat(Pages.barriers(member)).isEmpty();
        member.getByLabel("Note, or why it is returned").fill("the harbour changed its codes");
        member.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Return"))
                .click();
        assertThat(member.locator("main")).containsText("Freight Systems, returned");
        assertThat(cases.facts()).containsText("The team returned it: the harbour changed its codes");
        cases.action("Take").click();
        assertThat(cases.log()).containsText("took the case");
    }

    @Test
    void ofManyTabsEachIsToldAndTheNextTakesOverWhenOneCloses() throws Exception {
        var first = pages.atCases("analyst");
        var tabs = new java.util.ArrayList<Page>();
        for (int i = 0; i < 8; i++) {
            var tab = first.context().newPage();
            tab.navigate("/messages/search?days=1");
            tabs.add(tab);
        }
        first.close();
        house.send("[" + house.failed("hostile", "to-all-tabs", "seen by all", "text/plain", "x") + "]");
        for (var tab : tabs) assertThat(tab.locator("#found")).containsText("to-all-tabs");
    }

    @Test
    void aFailingMailServerIsShownOnTheNowLine() throws Exception {
        var cases = new CasePage(pages.atCases("analyst"));
        house.panel("/mailbox/on", "on", "false");
        try {
            house.panel("/hub/bunker-delivery-notes/break", "fault", "DUPLICATE_KEY");
            house.panel("/hub/bunker-delivery-notes/carry", "count", "110");
            assertThat(cases.nowLine()).containsText("mail failing since");
        } finally {
            house.panel("/hub/bunker-delivery-notes/mend");
            house.panel("/mailbox/on", "on", "true");
        }
        assertThat(cases.nowLine())
                .not()
                .containsText("mail failing since", new LocatorAssertions.ContainsTextOptions().setTimeout(40_000));
    }

    private String phones() throws Exception {
        return house.get(house.standIn("/phones")).body();
    }

    /** The last of all: it leaps further than what others do to the stand-ins would bear. */
    @Test
    @Order(Integer.MAX_VALUE)
    void aCaseRingsOneTelephoneAfterTheOtherUntilSomebodyTakesIt() throws Exception {
        var lead = pages.logIn("lead");
        quickGuard(lead, "Sea-state readings in");
        lead.navigate("/callouts/rules");
        lead.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Make a rule"))
                .click();
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("The sea at night");
        lead.getByLabel("Name or pattern").fill("Sea-state readings in");
        lead.getByLabel("Step 1: who").selectOption("Ilona Suvi");
        lead.getByLabel("Step 2: after").fill("10 min");
        lead.getByLabel("Step 2: who").selectOption("Petri Harju");
        lead.getByLabel("Step 2: by").selectOption("by text message");
        assertThat(lead.locator("#rule-means"))
                .containsText(
                        "When a critical case of Sea-state readings in opens, tell Ilona Suvi by text message, else by mail;"
                                + " if nobody has it after 10 min, Petri Harju by text message.");
        assertThat(lead.locator("#rule-means")).containsText("by this rule");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        // It stands before the last; what is more special goes up.
        for (int above = 0; above < 4; above++)
            lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Move The sea at night up"))
                    .click();
        lead.navigate("/callouts/who?pattern=sea-state-readings-in");
        assertThat(lead.locator("main")).containsText("Ilona Suvi by text message to +358 00 555");

        var cases = new CasePage(pages.atCases("analyst"));
        // Told as of now: the clock of the stand-ins may be behind by what others have leapt.
        var failed = IntStream.range(0, 9)
                .mapToObj(one -> house.failed(
                        "sea-state-readings-in", "ring-" + one, "no answer from the buoy", "text/plain", ""))
                .collect(Collectors.joining(",", "[", "]"));
        assertThat(house.send(failed).statusCode()).isEqualTo(202);
        assertThat(cases.row("on Sea-state readings in, over the critical limit of 6"))
                .isVisible();
        cases.open("Sea-state readings in");
        assertThat(cases.log()).containsText(Pattern.compile("Told \\+358 00 555 \\d+ by text message"));
        var first = phones();
        assertThat(first).contains("Critical: ").containsPattern(LINK);

        // Nobody takes it: the second is told, and takes it by the link without logging in.
        house.later(Duration.ofMinutes(11));
        assertThat(cases.log().getByText(Pattern.compile("Told .* by text message")))
                .hasCount(2);
        var link = LINK.matcher(phones());
        assertThat(link.find()).isTrue();
        var anybody = pages.anybody();
        anybody.navigate(link.group(1));
        assertThat(anybody.locator("main")).containsText("for Petri Harju");
        anybody.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("I take it"))
                .click();
        assertThat(anybody.locator("main")).containsText("You have it.");
        assertThat(cases.log()).containsText(Pattern.compile("Petri Harju\\s*took the case"));

        // It is settled: both hear that it is over.
        cases.action("Settle").click();
        cases.page().getByText("The cause was found and put right.").click();
        cases.send("Settle");
        assertThat(cases.log()).containsText("settled the case as mended");
        house.later(Duration.ofMinutes(1));
        assertThat(cases.log().getByText(Pattern.compile("Told that it is over: .* by text message")))
                .hasCount(2);
    }

    private static void sendTest(Page page) {
        page.navigate("/callouts/rules");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Tier 1, day and night"))
                .click();
        page.getByLabel("as if it were about something of").selectOption("Freight Systems");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Send the test"))
                .click();
    }

    @Test
    void aGatewayThatTakesNothingIsPassedByAndTheNowLineSaysSo() throws Exception {
        var lead = pages.logIn("lead");
        house.panel("/phones/mood", "mood", "DOWN");
        try {
            sendTest(lead);
            assertThat(lead.locator("#nowline")).containsText("text message failing since");
            // The next try, and then the next way, come after a while.
            house.later(Duration.ofMinutes(2));
            // By mail it gets through.
            lead.navigate("/callouts?words=Test+of");
            lead.locator("#callout-rows summary")
                    .filter(new Locator.FilterOptions().setHasText("sent"))
                    .first()
                    .click();
            assertThat(lead.locator("details.tries[open]")).containsText("Text gateway answered 503");
            assertThat(lead.locator("details.tries[open]")).containsText("mail to ");
            // Another is told meanwhile: what is being read stays open, in its row.
            var told = lead.locator("#callout-rows tbody tr").count();
            sendTest(pages.logIn("lead"));
            assertThat(lead.locator("#callout-rows tbody tr")).hasCount(told + 1);
            assertThat(lead.locator("details.tries[open]")).containsText("mail to ");
        } finally {
            house.panel("/phones/mood", "mood", "WELL");
        }
    }
}
