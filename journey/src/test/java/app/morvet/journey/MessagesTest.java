package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.util.Base64;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** Failed messages in a browser: found, understood, sorted and mended. */
@ResourceLock(Lane.OWN)
class MessagesTest extends InAHouse {
    @Override
    protected boolean isAlone() {
        return true;
    }

    /** Tens of thousands of failures are sorted, on a machine that other tests share. */
    private static final double SORTED_WITHIN = 120_000;

    private static final LocatorAssertions.ContainsTextOptions PATIENTLY =
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

    private static Locator button(Page page, String name) {
        return page.locator("main").getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
    }

    private static Locator link(Page page, String name) {
        return page.locator("main")
                .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(name))
                .first();
    }

    private static Locator heading(Page page) {
        return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1))
                .last();
    }

    /** How many the rule of a name took today, as the list of rules shows it. */
    private static int taken(Page page, String rule) {
        var figure = page.locator(".ordered")
                .filter(new Locator.FilterOptions().setHasText(rule))
                .locator(".figure")
                .textContent()
                .strip();
        return figure.isEmpty() ? 0 : Integer.parseInt(figure.replace(",", ""));
    }

    @Test
    void aRuleMadeFromAFailureTakesItsFamilyFromTheCatchAll() throws Exception {
        var events = new StringBuilder("[");
        for (int i = 0; i < 30; i++)
            events.append(i == 0 ? "" : ",")
                    .append(house.failed(
                            "customer-updates", "CAP-" + i, "Capstan " + i + " stuck on deck", "text/plain", "x"));
        assertThat(house.send(events.append(']').toString()).statusCode()).isEqualTo(202);
        var lead = pages.logIn("lead");
        lead.navigate("/messages/rules");
        int before = taken(lead, "Everything else");
        assertThat(before).isGreaterThanOrEqualTo(30);

        // Found by its business key, opened, and made a rule of.
        lead.navigate("/messages/search");
        lead.getByLabel("Business key", new Page.GetByLabelOptions().setExact(true))
                .fill("CAP-7");
        button(lead, "Search").click();
        link(lead, "CAP-7").click();
        assertThat(heading(lead)).hasText("Capstan 7 stuck on deck");
        link(lead, "Make a rule from this failure").click();
        assertThat(lead.locator("#preview")).containsText("It takes 30 of the latest");
        lead.getByLabel("What the failure is").fill("Capstan stuck");
        button(lead, "Save").click();
        assertThat(heading(lead)).hasText("Capstan stuck");
        // What is open is sorted anew in the background.
        lead.waitForCondition(() -> {
            lead.navigate("/messages/rules");
            return taken(lead, "Capstan stuck") == 30;
        });
        assertThat(taken(lead, "Everything else")).isLessThanOrEqualTo(before - 30);
    }

    @Test
    void aFamilyIsSentAgainAndTwoFailAnew() throws Exception {
        house.failing("bunker-delivery-notes", "CONNECTION_REFUSED", 12);
        house.panel("/hub/bunker-delivery-notes/fail-next", "count", "2");
        var count =
                "select count(*) from failed_message m join component c on c.id = m.component_id where c.key = 'bunker-delivery-notes'";
        var before = house.one(count);
        var page = pages.logIn("analyst");
        page.navigate("/messages/families?interface=bunker-delivery-notes");
        var family =
                page.locator("#family-rows tr").filter(new Locator.FilterOptions().setHasText("connection refused"));
        assertThat(family).containsText("12");
        family.getByRole(
                        AriaRole.LINK,
                        new Locator.GetByRoleOptions().setName("12").setExact(true))
                .click();
        assertThat(heading(page)).hasText("12 failed messages on Bunker delivery notes");
        page.locator("#rate").fill("600");
        button(page, "Send again").click();
        assertThat(page.locator("#sending")).containsText("10 delivered, 2 failed again", PATIENTLY);
        assertThat(page.locator("#sending")).containsText("done");
        // The two are no new failures, but the same ones, open still.
        page.navigate("/messages/search?interface=bunker-delivery-notes&state=open");
        assertThat(page.locator("#found-rows tr")).hasCount(2);
        link(page, "BDN-").click();
        assertThat(page.locator("main")).containsText("failed again once it was sent again");
        assertThat(house.one(count)).isEqualTo(before);
    }

    @Test
    void aMaskedFieldIsShownOnlyToWhomItMayBeAndThatIsPutDown() throws Exception {
        house.failing("customer-updates", "DUPLICATE_KEY", 1);
        var analyst = pages.logIn("analyst");
        analyst.navigate("/messages/search?interface=customer-updates&q=duplicate");
        // It fails and is made findable in its own time; the page shows it by itself.
        assertThat(analyst.locator("a.row-open").first())
                .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(90_000));
        analyst.locator("a.row-open").first().click();
        var payload = analyst.locator(".payload-box .payload");
        assertThat(payload).containsText("\"contact\": \"▒▒▒▒\"");
        assertThat(analyst.locator("main")).containsText("a lead can show them");
        assertThat(button(analyst, "Show what is hidden")).hasCount(0);
        var path = analyst.url();

        var lead = pages.logIn("lead");
        lead.navigate(path);
        assertThat(lead.locator(".payload-box .payload")).containsText("▒▒▒▒");
        button(lead, "Show what is hidden").click();
        assertThat(lead.locator("#message-content")).containsText("That you looked is in the audit record.");
        assertThat(lead.locator(".payload-box .payload")).not().containsText("▒▒▒▒");
        assertThat(house.one("select p.login || ' ' || what from audit_entry a join person p on p.id = a.person_id"
                        + " where what = 'uncovered' order by a.id desc limit 1"))
                .isEqualTo("lead uncovered");
    }

    @Test
    void aPayloadIsSearchedAndFolded() throws Exception {
        house.send("["
                + house.failed(
                        "folding", "F-1", "bad", "application/json", "{\"a\":{\"b\":[1,2,3]},\"ship\":\"Aurelia\"}")
                + "]");
        var page = pages.logIn("analyst");
        page.navigate("/messages/search?interface=folding");
        page.locator("a.row-open").first().click();
        page.getByLabel("Find in the payload").fill("aurel");
        assertThat(page.locator("[data-found]")).hasText("1 of 1");
        assertThat(page.locator(".line").filter(new Locator.FilterOptions().setHasText("\"b\"")))
                .isVisible();
        page.locator("[data-fold-all]").click();
        assertThat(page.locator(".line").filter(new Locator.FilterOptions().setHasText("\"b\"")))
                .isHidden();
        assertThat(page.locator(".line").filter(new Locator.FilterOptions().setHasText("\"ship\"")))
                .isVisible();
    }

    private void opened(Page page, String key) {
        page.navigate("/messages/search?interface=hostile&key=" + key);
        page.locator("a.row-open").first().click();
        assertThat(heading(page)).isVisible();
    }

    @Test
    void hostilePayloadsAreShownAsTextOrNotAtAll() throws Exception {
        var script = "<script>document.title='owned'</script><img src=x onerror=\"document.title='owned'\">";
        var entity = "<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><a>&x;</a>";
        var bomb =
                "<!DOCTYPE a [<!ENTITY a 'haha'><!ENTITY b '&a;&a;&a;&a;&a;&a;'><!ENTITY c '&b;&b;&b;&b;&b;&b;'>]><a>&c;&c;&c;</a>";
        house.send("[" + house.failed("hostile", "H-1", script, "text/html", script) + "]");
        house.send("[" + house.failed("hostile", "H-2", "entity", "application/xml", entity) + "]");
        house.send("[" + house.failed("hostile", "H-3", "bomb", "application/xml", bomb) + "]");
        house.send("[" + house.failed("hostile", "H-4", "nested", "application/json", "[".repeat(1_000_000)) + "]");
        house.send("[" + house.failed("hostile", "H-5", "nested", "application/xml", "<a>".repeat(200_000)) + "]");
        assertThat(house.send("["
                                + house.failed(
                                        "hostile",
                                        "H-6",
                                        "large",
                                        "application/json",
                                        "[\"" + "x".repeat(20_000_000) + "\"]")
                                + "]")
                        .statusCode())
                .isEqualTo(202);
        // Neither UTF-8 nor anything else that can be read.
        var bytes = Base64.getEncoder().encodeToString(new byte[] {(byte) 0xc0, (byte) 0x80, (byte) 0xff, 0, 7});
        house.send("["
                + house.failed("hostile", "H-7", "broken", "text/plain; charset=utf-8", "")
                        .replace("\"payload\":\"\"", "\"payloadBase64\":\"" + bytes + "\"")
                + "]");
        assertThat(house.send("[" + house.failed("hostile", "H-8", "too long", "text/plain", "x".repeat(26_000_000))
                                + "]")
                        .body())
                .contains("payload is too long: at most 25,165,824 characters, were 26,000,000");

        var page = pages.logIn("analyst");
        opened(page, "H-1");
        assertThat(page.locator(".payload").last()).hasText(script);
        opened(page, "H-2");
        assertThat(page.locator("main")).containsText("Shown as it came");
        assertThat(page.locator("body")).not().containsText("root:x:");
        opened(page, "H-3");
        assertThat(page.locator("body")).not().containsText("hahahaha");
        opened(page, "H-4");
        assertThat(page.locator("main")).containsText("download it to read the rest");
        opened(page, "H-5");
        assertThat(page.locator("main")).containsText("download it to read the rest");
        opened(page, "H-6");
        assertThat(page.locator("main")).containsText("The first 262,144 of 20,000,004 characters");
        opened(page, "H-7");
        assertThat(page.locator("main")).containsText("no text");
        assertThat(page).not().hasTitle(Pattern.compile("owned"));
        page.navigate("/messages/refused");
        assertThat(page.locator("main")).containsText("payload is too long: at most 25,165,824 characters");
    }

    @Test
    void aStormOfSixCausesIsSixCasesAndAResponsivePage() throws Exception {
        var stored = "select count(*) from failed_message";
        long before = Long.parseLong(house.one(stored));
        var page = pages.logIn("analyst");
        var storm = Thread.ofVirtual().start(() -> {
            try {
                house.panel("/hub/storm", "count", "24000");
            } catch (Exception failed) {
                throw new IllegalStateException(failed);
            }
        });
        // While it goes on, pages answer.
        for (var path : new String[] {"/cases", "/messages", "/messages/families", "/messages/search"}) {
            page.navigate(path);
            assertThat(page.locator("main")).isVisible();
        }
        storm.join();
        page.navigate("/messages");
        assertThat(page.locator("#interface-rows")).containsText("Departures to displays");
        for (var told : new String[] {
            "Manifest to harbour authority|Partner refuses the connection",
            "Manifest to harbour authority|Harbour code unknown",
            "Booking settlement|Partner refuses the connection",
            "Departures to displays|Certificate ran out",
            "Customer updates|Payload cut short",
            "Crew hours to payroll|Payload cut short"
        }) {
            // One case for each cause on each interface, with all of it counted.
            var names = told.split("\\|");
            var sql =
                    """
                    select count(*) || ' with ' || coalesce(sum(w.failures), 0) from work_case w
                      join component c on c.id = w.component_id
                     where c.name = '%s' and w.state <> 'SETTLED' and w.failures > 2500
                       and exists (select 1 from case_alert c join alert a on a.id = c.alert_id join sorting_rule r on r.id = a.origin_id
                                    where c.case_id = w.id and a.origin_kind = 'sorting rule' and r.name = '%s')"""
                            .formatted(names[0], names[1]);
            page.waitForCondition(
                    () -> {
                        try {
                            return house.one(sql).matches("1 with 4[01]\\d\\d");
                        } catch (java.sql.SQLException broken) {
                            throw new IllegalStateException(broken);
                        }
                    },
                    new Page.WaitForConditionOptions().setTimeout(SORTED_WITHIN));
        }
        assertThat(Long.parseLong(house.one(stored)) - before).isGreaterThanOrEqualTo(24_000);
    }
}
