package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Somebody is called out of bed: a rule, a telephone that rings, the next who is told, and the link by which it is taken. */
class CalledOutTest extends InAHouse {
    private static final Pattern LINK = Pattern.compile("href=\"(http[^\"]*/take/[^\"]+)\"");

    private String phones() throws Exception {
        return house.get(house.standIn("/phones")).body();
    }

    @Test
    void aCaseRingsOneTelephoneAfterTheOtherUntilSomebodyTakesIt() throws Exception {
        var lead = pages.logIn("lead");
        ShiftTest.quickGuard(lead, "Customer updates");
        lead.navigate("/callouts/rules");
        lead.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Make a rule"))
                .click();
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Customers at night");
        lead.getByLabel("Name or pattern").fill("Customer updates");
        lead.getByLabel("Step 1: who").selectOption("Ilona Suvi");
        lead.getByLabel("Step 2: after").fill("10 min");
        lead.getByLabel("Step 2: who").selectOption("Petri Harju");
        lead.getByLabel("Step 2: by").selectOption("by text message");
        assertThat(lead.locator("#rule-means"))
                .containsText(
                        "When a critical case of Customer updates opens, tell Ilona Suvi by text message, else by mail;"
                                + " if nobody has it after 10 min, Petri Harju by text message.");
        assertThat(lead.locator("#rule-means")).containsText("by this rule");
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        // It stands before the last; what is more special goes up.
        for (int above = 0; above < 2; above++)
            lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Move Customers at night up"))
                    .click();
        lead.navigate("/callouts/who?pattern=customer-updates");
        assertThat(lead.locator("main")).containsText("Ilona Suvi by text message to +358 00 555");

        var cases = new CasePage(pages.logIn("analyst"));
        house.failing("customer-updates", "MALFORMED_PAYLOAD", 9);
        assertThat(cases.row("on Customer updates, over the critical limit of 6"))
                .isVisible();
        cases.open("Customer updates");
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

    @Test
    void aGatewayThatTakesNothingIsPassedByAndTheNowLineSaysSo() throws Exception {
        var lead = pages.logIn("lead");
        house.panel("/phones/mood", "mood", "DOWN");
        try {
            lead.navigate("/callouts/rules");
            lead.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Tier 1, day and night"))
                    .click();
            lead.getByLabel("as if it were about something of").selectOption("Freight Systems");
            lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Send the test"))
                    .click();
            assertThat(lead.locator("#nowline")).containsText("text message failing since");
            // By mail it gets through.
            lead.navigate("/callouts?words=Test+of");
            lead.locator("#callout-rows summary")
                    .filter(new Locator.FilterOptions().setHasText("sent"))
                    .first()
                    .click();
            assertThat(lead.locator("details.tries[open]")).containsText("Text gateway answered 503");
            assertThat(lead.locator("details.tries[open]")).containsText("mail to ");
        } finally {
            house.panel("/phones/mood", "mood", "WELL");
        }
    }
}
