package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.SelectOption;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** How it feels to work a case: with keys, beside others, while new ones come in, and when the session ends meanwhile. */
@ResourceLock(Lane.SHARED)
class WorkingTest extends InAHouse {
    @Test
    void ofTwoPeopleOnOneCaseTheSecondIsToldAndWhatTheyTypedIsKept() throws Exception {
        house.failing("sea-state-readings-in", "CONNECTION_REFUSED", 25);
        var first = new CasePage(pages.atCases("analyst"));
        first.open("Sea-state readings in");
        assertThat(first.heading()).containsText("Sea-state readings in");
        var page = pages.logIn("analyst2");
        var second = new CasePage(page);
        page.navigate(first.page().url());
        second.action("Settle").click();
        page.getByText("Nothing was wrong; the guard should not have called.").click();
        page.getByLabel("In your words").fill("I think it is nothing");

        first.action("Take").click();
        assertThat(first.log()).containsText("took the case");
        assertThat(second.tried("Settle").status()).isEqualTo(409);

        assertThat(page.getByRole(AriaRole.ALERT)
                        .filter(new Locator.FilterOptions()
                                .setHasText("Somebody was faster: Annika Ruuth took the case")))
                .isVisible();
        assertThat(page.getByLabel("In your words")).hasValue("I think it is nothing");
        assertThat(second.title()).containsText("taken, Annika Ruuth");
    }

    /** Scripts of before would go on with pages of now; what somebody is writing is theirs to finish. */
    @Test
    void aPageFromBeforeAnUpgradeSaysSoAndKeepsWhatIsTyped() {
        var page = pages.logIn("analyst");
        page.navigate("/shift/log");
        assertThat(page.locator("html")).hasAttribute("data-assets", Pattern.compile("/assets/[0-9a-f]{16}"));
        assertThat(page.locator("#upgraded")).isHidden();
        page.route(
                "**/live",
                route -> route.fulfill(new Route.FulfillOptions()
                        .setContentType("text/event-stream")
                        .setBody("event: hello\ndata: /assets/of-another\n\n")));
        page.reload();
        page.locator("textarea[name=note]").fill("The crane at quay 4");
        assertThat(page.locator("#upgraded")).isVisible();
        assertThat(page.locator("textarea[name=note]")).hasValue("The crane at quay 4");
    }

    @Test
    void aWholeCaseIsWorkedWithKeysAlone() throws Exception {
        house.failing("bunker-delivery-notes", "CERTIFICATE_EXPIRED", 25);
        var page = pages.atCases("analyst");
        var cases = new CasePage(page);
        assertThat(cases.row("Bunker delivery notes")).isVisible();
        var keyboard = page.keyboard();
        for (int i = 0; i < 20 && !chosen(page).contains("Bunker delivery notes"); i++) keyboard.press("j");
        keyboard.press("Enter");
        assertThat(cases.heading()).containsText("Bunker delivery notes");
        keyboard.press("t");
        assertThat(cases.log()).containsText("took the case");
        assertThat(page.locator("[data-undo]")).isVisible();
        keyboard.press("u");
        assertThat(cases.log()).containsText("took that back: took the case");
        keyboard.press("n");
        keyboard.type("partner renews at noon");
        keyboard.press("Tab");
        keyboard.press("Enter");
        assertThat(cases.log()).containsText("partner renews at noon");
        keyboard.press("q");
        keyboard.press("Enter");
        assertThat(cases.log()).containsText("made the case quiet until");
        keyboard.press("h");
        assertThat(page.getByLabel("To the team that owns it")).isFocused();
        for (int i = 0; i < 3; i++) keyboard.press("Tab");
        keyboard.press("Enter");
        assertThat(cases.log()).containsText("handed the case off to Platform");
        assertThat(cases.title()).containsText("handed off");
        keyboard.press("s");
        keyboard.press("Space");
        keyboard.press("Tab");
        keyboard.type("done with keys");
        keyboard.press("Enter");
        assertThat(cases.log()).containsText("settled the case as mended: done with keys");
        keyboard.press("7");
        assertThat(page).hasURL(Pattern.compile(".*/guards$"));
        // The address is there before the page hears keys.
        page.waitForLoadState();
        keyboard.press("?");
        assertThat(page.locator("#help")).isVisible();
    }

    /** What stands in the row that the keys have chosen. */
    private static String chosen(Page page) {
        return String.valueOf(
                page.evaluate("document.activeElement.matches('.row-link') ? document.activeElement.textContent : ''"));
    }

    @Test
    void newRowsWaitWhileSomebodyWorksInTheList() throws Exception {
        var page = pages.atCases("analyst");
        var cases = new CasePage(page);
        cases.firstRow().hover();
        page.mouse().move(200, 200);
        house.send(IntStream.range(0, 12)
                .mapToObj(i -> house.failed("late-comer", "late-" + i, "no", "text/plain", "x"))
                .collect(Collectors.joining(",", "[", "]")));
        // Whoever works in the list moves; something else may fall ill meanwhile, so there may be more than one.
        var newcomers = page.locator(".newcomers");
        page.waitForCondition(() -> {
            page.mouse().move(200, 200 + Math.random() * 20);
            return newcomers.isVisible();
        });
        assertThat(newcomers).containsText(Pattern.compile("^\\d+ new$"));
        assertThat(cases.row("late-comer")).hasCount(0);
        newcomers.click();
        assertThat(cases.row("late-comer")).containsText("not assigned");
        cases.open("late-comer");
        cases.action("Give").click();
        page.getByLabel("Give the case to").selectOption(new SelectOption().setLabel("Pia Lumme, analyst"));
        cases.send("Give");
        assertThat(cases.log()).containsText("gave the case to Pia Lumme");
    }

    @Test
    void manyCasesAreTakenAtOnceWithKeysAndGivenBackAtOnce() {
        var page = pages.atCases("analyst");
        var keyboard = page.keyboard();
        // The first row may be somebody's; each is chosen with x.
        for (int i = 0; i < 2; i++) {
            keyboard.press("j");
            keyboard.press("x");
        }
        assertThat(page.locator("#many")).containsText("2 chosen");
        page.locator("#many").getByText("Take").click();
        assertThat(page.locator("#many-said")).containsText("2 cases: taken.");
        assertThat(page.locator("#many")).isHidden();
        keyboard.press("u");
        assertThat(page.locator("#many-said")).containsText("2 cases are as before.");
    }

    private static void press(Page page, String button) {
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(button))
                .click();
    }

    /** Puts forty rows of four tiers in the place of those that are there, and gives how far down they reach, in pixels. */
    private static final String FORTY =
            """
            () => {
              const rows = document.querySelector(".shift-rows");
              const [axis, tier, row] = [".shift-axis", ".shift-tier", ".shift-row:not(.shift-axis)"].map((it) => rows.querySelector(it));
              const ofTier = () => [tier.cloneNode(true), ...Array.from({ length: 10 }, () => row.cloneNode(true))];
              rows.classList.add("packed");
              rows.replaceChildren(axis, ...ofTier(), ...ofTier(), ...ofTier(), ...ofTier());
              return Math.ceil(rows.getBoundingClientRect().bottom + scrollY);
            }""";

    /** From taking over, through trouble and its cause, to the handover that the next reads. */
    @Test
    void aShiftIsTakenOverNotedAndHandedToTheNext() throws Exception {
        var page = pages.logIn("analyst2");
        page.navigate("/shift");
        press(page, "Take over");
        assertThat(page.locator(".shift-turn")).containsText("You have the shift");
        house.failing("departures-to-displays", "CERTIFICATE_EXPIRED", 25);
        var phrase = page.locator(".shift-row")
                .filter(new Locator.FilterOptions().setHasText("Departure Displays"))
                .locator(".shift-phrase")
                .first();
        assertThat(phrase).containsText("on Departures to displays");
        assertThat((Integer) page.evaluate(FORTY)).isLessThan(800);
        // What fails besides is because of that, as somebody knows.
        house.failing("customer-updates", "CERTIFICATE_EXPIRED", 25);
        var cases = new CasePage(page);
        page.navigate("/cases");
        cases.open("Customer updates");
        cases.action("Part of").click();
        var whole = page.getByLabel("This is a part of");
        whole.selectOption(whole.locator("option")
                .filter(new Locator.FilterOptions().setHasText("Departures to displays"))
                .first()
                .getAttribute("value"));
        press(page, "Make it a part");
        assertThat(cases.log()).containsText("goes on in case");
        page.navigate("/cases");
        cases.open("Departures to displays");
        assertThat(cases.log()).containsText("is a part of this");
        // It and another are taken at once.
        page.navigate("/cases?order=newest");
        for (int i = 0; i < 2; i++) {
            page.keyboard().press("j");
            page.keyboard().press("x");
        }
        page.locator("#many").getByText("Take").click();
        assertThat(page.locator("#many-said")).containsText("2 cases: taken.");
        page.navigate("/shift/log");
        page.keyboard().press("n");
        page.keyboard().type("the partner renews at noon");
        page.getByLabel("for the handover").check();
        press(page, "Note it");
        assertThat(page.locator(".shift-log")).containsText("the partner renews at noon");
        page.navigate("/shift/handover");
        assertThat(page.locator(".handover-read")).containsText("Pia Lumme: the partner renews at noon");
        assertThat(page.locator(".handover-read")).containsText("Departures to displays");
        press(page, "Write it");
        assertThat(page.locator("main")).containsText("waits for whoever takes over");

        var next = pages.logIn("analyst");
        next.navigate("/shift");
        assertThat(next.locator(".shift-turn")).containsText("Pia Lumme has the shift");
        press(next, "Take over");
        next.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Handover").setExact(true))
                .click();
        assertThat(next.locator("main")).containsText("Annika Ruuth took over at");
        assertThat(next.locator(".handover-read").first()).containsText("the partner renews at noon");
        assertThat(page.locator("main")).isVisible();
    }

    @Test
    void whoeverLogsInElsewhereIsInAndWhoeverMayNothingHereIsNot() {
        var page = pages.anybody();
        page.navigate("/login");
        page.getByText("Log in with the log-in of Sundrava Ferries").click();
        press(page, "Aulis Kanto");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("in no group that does anything here");
        page.getByText("Log in with the log-in of Sundrava Ferries").click();
        press(page, "Sanni Kallio");
        page.waitForURL("**/shift");
        assertThat(page.locator(".topline .person")).containsText("Sanni Kallio");
    }

    @Test
    void aSessionThatEndsInTheMiddleOfTypingLosesNothing() {
        var page = pages.atCases("analyst2");
        var cases = new CasePage(page);
        cases.firstRow().click();
        cases.action("Note").click();
        cases.note().fill("half a thought");
        page.context().clearCookies(new BrowserContext.ClearCookiesOptions().setName("SESSION"));
        assertThat(cases.tried("Note").status()).isEqualTo(401);
        assertThat(page.locator("#logged-out")).isVisible();
        assertThat(cases.note()).hasValue("half a thought");
        var other = page.waitForPopup(
                () -> page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Log in in another tab"))
                        .click());
        Pages.logIn(other, "analyst2");
        cases.send("Note");
        assertThat(cases.log()).containsText("half a thought");
    }
}
