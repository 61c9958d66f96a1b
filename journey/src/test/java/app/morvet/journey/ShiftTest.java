package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.time.Instant;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** A shift, in a browser, by what a person sees. */
class ShiftTest extends InAHouse {
    @Override
    House build() throws Exception {
        return new House("PT4H");
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(AriaRole.TOOLBAR, new Page.GetByRoleOptions().setName("Actions"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
    }

    private static Locator row(Page page, String words) {
        return page.locator(".row-link").filter(new Locator.FilterOptions().setHasText(words));
    }

    private static Locator heading(Page page) {
        return page.getByLabel("Case", new Page.GetByLabelOptions().setExact(true))
                .getByRole(AriaRole.HEADING, new Locator.GetByRoleOptions().setLevel(1));
    }

    private static Locator log(Page page) {
        return page.locator(".log");
    }

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

    @Test
    void aFailureIsFollowedFromTheBreakToItsEnd() throws Exception {
        var lead = pages.logIn("lead");
        quickGuard(lead, "Departures to displays");
        var page = pages.logIn("analyst");
        assertThat(row(page, "Departures to displays")).hasCount(0);

        house.panel("/hub/departures-to-displays/break", "fault", "DUPLICATE_KEY");
        house.panel("/hub/departures-to-displays/carry", "count", "8");

        // It appears by itself, worst first, with its mark.
        var row = row(page, "on Departures to displays, over the critical limit of 6");
        assertThat(row).isVisible();
        assertThat(row).containsText("critical +60 · tier 2 +12");
        row.click();
        assertThat(heading(page)).containsText("over the critical limit of 6");
        assertThat(page.locator(".curve canvas").first()).isVisible();
        assertThat(page).hasURL(Pattern.compile(".*/cases/\\d+.*"));

        // The evidence: error, attributes, payload laid out.
        page.locator("details.failed").first().locator("summary").click();
        var message = page.locator(".message").first();
        assertThat(message).containsText("duplicate key value violates");
        assertThat(message).containsText("\"departure\": \"DP-");

        button(page, "Take").click();
        assertThat(log(page)).containsText("took the case");
        assertThat(page.locator(".said")).containsText("Undo");

        button(page, "Hand off").click();
        assertThat(page.getByLabel("To the team that owns it").locator("option[selected]"))
                .hasText("Platform");
        assertThat(page.getByLabel("What happened"))
                .hasValue(Pattern.compile("Departures to displays\nFailed: \\d+ messages\nFirst: "));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off through Service desk"))
                .click();
        assertThat(log(page)).containsText("handed the case off to Platform");
        assertThat(log(page)).containsText("The desk made ticket SD-");
        var ticket = page.locator("#dossier-facts a.mono").first().textContent();

        house.panel("/desk/tickets/" + ticket, "state", "accepted");
        assertThat(log(page)).containsText("Platform accepted ticket " + ticket);
        house.panel("/hub/departures-to-displays/mend");
        house.panel("/desk/tickets/" + ticket, "state", "done");
        assertThat(log(page)).containsText("Platform finished ticket " + ticket);

        // The owning team was told by mail, and is told that it is over.
        assertThat(house.get(house.standIn("/mailbox")).body()).contains("to platform@sundrava.example", "Critical: ");
        var slow = new LocatorAssertions.ContainsTextOptions().setTimeout(90_000);
        assertThat(log(page)).containsText("\"Quick one on Departures to displays\" has cleared", slow);
        assertThat(heading(page)).containsText("Over on Departures to displays; at worst:");

        button(page, "Settle").click();
        page.getByText("The cause was found and put right.").click();
        page.getByLabel("In your words").fill("key range widened");
        page.locator(".panel[data-panel=settle]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Settle"))
                .click();
        assertThat(log(page)).containsText("settled the case as mended: key range widened");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Settled"))
                .click();
        assertThat(row(page, "Departures to displays").first()).isVisible();
    }

    @Test
    void aReturnedTicketComesBackToTheTopWithItsReason() throws Exception {
        var page = pages.logIn("analyst");
        house.panel("/hub/customer-updates/break", "fault", "MALFORMED_PAYLOAD");
        house.panel("/hub/customer-updates/carry", "count", "25");
        house.panel("/hub/customer-updates/mend");
        row(page, "Customer updates").click();
        button(page, "Hand off").click();
        page.getByLabel("Title").fill("");
        var send =
                page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off through Service desk"));
        send.click();
        assertThat(page.locator("#handoff-panel")).containsText("A ticket needs a title.");
        page.getByLabel("Title").fill("Customer updates cannot be read");
        send.click();
        assertThat(log(page)).containsText("The desk made ticket SD-");
        var ticket = page.locator("#dossier-facts a.mono").first().textContent();
        house.panel("/desk/tickets/" + ticket, "state", "returned", "reason", "the sender is Vendor Liaison's");
        assertThat(page.locator("#dossier-facts")).containsText("The team returned it: the sender is Vendor Liaison's");
        page.navigate("/cases");
        assertThat(page.locator(".row-link").first()).containsText("Returned: the sender is Vendor Liaison's");
        assertThat(page.locator("#nowline")).containsText("1 returned");
        page.navigate("/handoffs?show=returned");
        assertThat(page.locator("#handoff-rows")).containsText("Customer updates cannot be read");
    }

    @Test
    void ofTwoPeopleOnOneCaseTheSecondIsToldAndWhatTheyTypedIsKept() throws Exception {
        house.panel("/hub/sea-state-readings-in/break", "fault", "CONNECTION_REFUSED");
        house.panel("/hub/sea-state-readings-in/carry", "count", "25");
        house.panel("/hub/sea-state-readings-in/mend");
        var first = pages.logIn("analyst");
        row(first, "Sea-state readings in").click();
        assertThat(heading(first)).containsText("Sea-state readings in");
        var second = pages.logIn("analyst2");
        second.navigate(first.url());
        button(second, "Settle").click();
        second.getByText("Nothing was wrong; the guard should not have called.").click();
        second.getByLabel("In your words").fill("I think it is nothing");

        button(first, "Take").click();
        assertThat(log(first)).containsText("took the case");
        second.locator(".panel[data-panel=settle]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Settle"))
                .click();

        assertThat(second.getByRole(AriaRole.ALERT)
                        .filter(new Locator.FilterOptions()
                                .setHasText("Somebody was faster: Annika Ruuth took the case")))
                .isVisible();
        assertThat(second.getByLabel("In your words")).hasValue("I think it is nothing");
        assertThat(second.locator(".title")).containsText("taken, Annika Ruuth");
    }

    @Test
    void aWholeCaseIsWorkedWithKeysAlone() throws Exception {
        house.panel("/hub/bunker-delivery-notes/break", "fault", "CERTIFICATE_EXPIRED");
        house.panel("/hub/bunker-delivery-notes/carry", "count", "25");
        house.panel("/hub/bunker-delivery-notes/mend");
        var page = pages.logIn("analyst");
        assertThat(row(page, "Bunker delivery notes")).isVisible();
        var keyboard = page.keyboard();
        for (int i = 0;
                i < 20
                        && !String.valueOf(
                                        page.evaluate(
                                                "document.activeElement.matches('.row-link') ? document.activeElement.textContent : ''"))
                                .contains("Bunker delivery notes");
                i++) keyboard.press("j");
        keyboard.press("Enter");
        assertThat(heading(page)).containsText("Bunker delivery notes");
        keyboard.press("t");
        assertThat(log(page)).containsText("took the case");
        assertThat(page.locator("[data-undo]")).isVisible();
        keyboard.press("u");
        assertThat(log(page)).containsText("took that back: took the case");
        keyboard.press("n");
        keyboard.type("partner renews at noon");
        keyboard.press("Tab");
        keyboard.press("Enter");
        assertThat(log(page)).containsText("partner renews at noon");
        keyboard.press("q");
        keyboard.press("Enter");
        assertThat(log(page)).containsText("made the case quiet until");
        keyboard.press("h");
        assertThat(page.getByLabel("To the team that owns it")).isFocused();
        for (int i = 0; i < 3; i++) keyboard.press("Tab");
        keyboard.press("Enter");
        assertThat(log(page)).containsText("handed the case off to Platform");
        assertThat(page.locator("#dossier-title")).containsText("handed off");
        keyboard.press("s");
        keyboard.press("Space");
        keyboard.press("Tab");
        keyboard.type("done with keys");
        keyboard.press("Enter");
        assertThat(log(page)).containsText("settled the case as mended: done with keys");
        keyboard.press("7");
        assertThat(page).hasURL(Pattern.compile(".*/guards$"));
        keyboard.press("?");
        assertThat(page.locator("#help")).isVisible();
    }

    @Test
    void newRowsWaitWhileSomebodyWorksInTheList() throws Exception {
        var page = pages.logIn("analyst");
        page.locator(".row-link").first().hover();
        page.mouse().move(200, 200);
        var events = new StringBuilder("[");
        for (int i = 0; i < 12; i++) {
            events.append(i == 0 ? "" : ",")
                    .append(
                            """
                    {"specversion":"1.0","id":"late-%d","source":"/t","type":"app.morvet.message.failed","subject":"late-comer","time":"%s","data":{"error":"no"}}"""
                                    .formatted(i, Instant.now()));
        }
        house.send(events.append(']').toString());
        // Whoever works in the list moves; something else may fall ill meanwhile, so there may be more than one.
        var newcomers = page.locator(".newcomers");
        page.waitForCondition(() -> {
            page.mouse().move(200, 200 + Math.random() * 20);
            return newcomers.isVisible();
        });
        assertThat(newcomers).containsText(Pattern.compile("^\\d+ new$"));
        assertThat(row(page, "late-comer")).hasCount(0);
        newcomers.click();
        assertThat(row(page, "late-comer")).containsText("not assigned");
        page.locator(".row-link")
                .filter(new Locator.FilterOptions().setHasText("late-comer"))
                .click();
        button(page, "Give").click();
        page.getByLabel("Give the case to")
                .selectOption(new com.microsoft.playwright.options.SelectOption().setLabel("Pia Lumme, analyst"));
        page.locator(".panel[data-panel=give]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Give"))
                .click();
        assertThat(log(page)).containsText("gave the case to Pia Lumme");
    }

    @Test
    void ofManyTabsEachIsToldAndTheNextTakesOverWhenOneCloses() throws Exception {
        var first = pages.logIn("analyst");
        var tabs = new java.util.ArrayList<Page>();
        for (int i = 0; i < 8; i++) {
            var tab = first.context().newPage();
            tab.navigate("/messages/search?days=1");
            tabs.add(tab);
        }
        first.close();
        house.send(event("to-all-tabs", "seen by all", "text/plain", "x"));
        for (var tab : tabs) assertThat(tab.locator("#found")).containsText("to-all-tabs");
    }

    private static String event(String id, String error, String type, String payload) {
        return """
                [{"specversion":"1.0","id":"%s","source":"/t","type":"app.morvet.message.failed","subject":"hostile","time":"%s",
                  "data":{"businessKey":"%s","step":"s","error":"%s","payloadType":"%s","payload":"%s"}}]"""
                .formatted(id, Instant.now(), id, error.replace("\"", "\\\""), type, payload.replace("\"", "\\\""));
    }

    @Test
    void aSessionThatEndsInTheMiddleOfTypingLosesNothing() throws Exception {
        var page = pages.logIn("analyst2");
        page.locator(".row-link").first().click();
        button(page, "Note").click();
        page.getByLabel("Note in the log of the case").fill("half a thought");
        page.context()
                .clearCookies(new com.microsoft.playwright.BrowserContext.ClearCookiesOptions().setName("SESSION"));
        page.locator(".panel[data-panel=note]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Note"))
                .click();
        assertThat(page.locator("#logged-out")).isVisible();
        assertThat(page.getByLabel("Note in the log of the case")).hasValue("half a thought");
        var other = page.waitForPopup(
                () -> page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Log in in another tab"))
                        .click());
        other.getByLabel("Login").fill("analyst2");
        other.getByLabel("Password").fill("ferry-analyst");
        other.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Log in"))
                .click();
        other.waitForURL("**/cases");
        page.locator(".panel[data-panel=note]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Note"))
                .click();
        assertThat(log(page)).containsText("half a thought");
    }

    @Test
    void aFailingMailServerIsShownOnTheNowLine() throws Exception {
        var page = pages.logIn("analyst");
        house.panel("/mailbox/on", "on", "false");
        try {
            house.panel("/hub/customer-updates/break", "fault", "DUPLICATE_KEY");
            house.panel("/hub/customer-updates/carry", "count", "110");
            assertThat(page.locator("#nowline")).containsText("mail failing since");
        } finally {
            house.panel("/hub/customer-updates/mend");
            house.panel("/mailbox/on", "on", "true");
        }
        assertThat(page.locator("#nowline"))
                .not()
                .containsText("mail failing since", new LocatorAssertions.ContainsTextOptions().setTimeout(40_000));
    }
}
