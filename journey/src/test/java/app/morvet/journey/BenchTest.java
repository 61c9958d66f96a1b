package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** A lead at the bench: limits dragged and proposed, a guard made, a machine broken, and the alert where the replay says. */
@ResourceLock(Lane.SHARED)
class BenchTest extends InAHouse {
    private static Locator edited(Page page) {
        return page.locator("[data-tally=edited]");
    }

    private static void exactly(Page page, String label, String value) {
        page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).fill(value);
    }

    @Test
    void aLimitIsDraggedAndTheFiguresFollow() {
        var page = pages.logIn("lead");
        page.navigate(pages.bench(page, "Processor busy for long"));
        var warning = page.getByLabel("Warning limit", new Page.GetByLabelOptions().setExact(true));
        assertThat(edited(page)).containsText("none");
        assertThat(page.locator("[data-bench-curve] canvas")).isVisible();
        exactly(page, "Critical limit", "");
        warning.fill("60");
        var over = page.locator("[data-bench-curve] .u-over");
        // The line of the limit is found where the pointer turns into a handle. While a new picture comes it may not be
        // there, or move away from under the pointer; then it is taken once more, as a person would.
        page.waitForCondition(() -> {
            var box = over.boundingBox();
            if (box == null) return false;
            double x = box.x + box.width / 2;
            double y = box.y + 2;
            while (y < box.y + box.height - 2) {
                page.mouse().move(x, y);
                if ("ns-resize".equals(over.evaluate("it => it.style.cursor"))) break;
                y += 4;
            }
            if (y >= box.y + box.height - 2) return false;
            page.mouse().down();
            page.mouse().move(x, box.y + box.height - 12, new com.microsoft.playwright.Mouse.MoveOptions().setSteps(8));
            page.mouse().up();
            return !warning.inputValue().equals("60");
        });
        assertThat(warning).not().hasValue("60");
        assertThat(Double.parseDouble(warning.inputValue())).isLessThan(30);
        // Now it would have called; the version in force still would not.
        assertThat(edited(page)).not().containsText("none");
        assertThat(page.locator("[data-bench-alerts] tr").first()).containsText("quay-");
        assertThat(page.locator("[data-tally=inForce]")).containsText("none");
        assertThat(page.locator("#meaning")).containsText("Warn above " + warning.inputValue() + " %");
    }

    @Test
    void withTheKeyboardAloneALimitIsMovedProposedAndTaken() {
        var page = pages.logIn("lead");
        page.navigate(pages.bench(page, "Processor busy for long"));
        assertThat(page.locator("[data-bench-curve] canvas")).isVisible();
        page.locator("[data-bench-curve]").focus();
        for (int i = 0; i < 6; i++) page.keyboard().press("Shift+ArrowDown");
        var warning = page.getByLabel("Warning limit", new Page.GetByLabelOptions().setExact(true));
        assertThat(warning).not().hasValue("85");
        assertThat(edited(page)).not().containsText("none");
        var budget = page.getByLabel("Alerts a week, at most");
        budget.focus();
        budget.fill("500");
        page.keyboard().press("Enter");
        var take = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Take these limits"));
        assertThat(take).isVisible();
        var before = warning.inputValue();
        take.focus();
        page.keyboard().press("Enter");
        assertThat(warning).not().hasValue(before);
        page.getByLabel("Show one subject or all").selectOption("all");
        assertThat(page.locator(".multiple")).hasCount(6);
    }

    @Test
    void aMistypedNameSaysThatItMatchesNothingWhileItIsEditedAndInTheList() {
        var page = pages.logIn("lead");
        page.navigate("/guards/new?kind=limit&measure=sessions&component=instance&fold=mean&warning=400&critical=900");
        exactly(page, "Name", "Mistyped");
        page.getByLabel("Name or pattern").fill("gangwey-1");
        assertThat(page.locator("#meaning"))
                .containsText("It matches nothing, so it can never alert. Did you mean \"gangway-1\"?");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        page.navigate("/guards");
        assertThat(page.locator(".row-link").filter(new Locator.FilterOptions().setHasText("Mistyped")))
                .containsText("It matches nothing");
    }

    @Test
    void aMachineFallsIllAndTheAlertIsRaisedWhereTheReplaySays() throws Exception {
        var page = pages.logIn("lead");
        page.navigate(
                "/guards/new?kind=limit&measure=free_workers&component=instance&fold=last&length=5+min&side=below&warning=3&critical=2&calm=0");
        exactly(page, "Name", "No workers left");
        page.getByLabel("Name or pattern").fill("ledger-1");
        assertThat(page.locator("#meaning")).containsText("Now it matches 1 subject: ledger-1");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("No workers left")))
                .isVisible();
        var guard = page.url().replaceAll(".*/guards/(\\d+).*", "$1");
        house.panel("/machines/ledger-1/ail", "ailment", "WORKERS_TIED_UP");
        page.navigate("/cases");
        var row = page.locator(".row-link").filter(new Locator.FilterOptions().setHasText("Free workers on ledger-1"));
        assertThat(row)
                .isVisible(new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                        .setTimeout(30_000));
        row.click();
        assertThat(page.locator(".curve canvas").first()).isVisible();
        house.panel("/machines/ledger-1/heal");

        var raised = Instant.ofEpochMilli((long) (Double.parseDouble(house.one(
                        "select extract(epoch from raised_at) from alert where origin_kind = 'guard' and origin_id = "
                                + guard))
                * 1000));
        var replayed = page.waitForResponse("**/guards/picture", () -> page.navigate("/guards/" + guard + "/edit"))
                .text();
        double from = Double.parseDouble(replayed.replaceAll("(?s).*?\"alerts\":\\[.*?\"from\":([0-9.E]+).*", "$1"));
        assertThat(Duration.between(raised, Instant.ofEpochMilli((long) (from * 1000)))
                        .abs())
                .isLessThan(Duration.ofMillis(2));
        assertThat(page.locator("[data-bench-alerts]")).containsText("ledger-1");
    }

    /** A guard over words is made as its sentence; what it watches is seen as a service, then as a case, until it runs again. */
    @Test
    void aServiceThatIsStoppedIsACaseUntilItRunsAgain() throws Exception {
        var soon = new com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions().setTimeout(30_000);
        var lead = pages.logIn("lead");
        lead.navigate(
                "/guards/new?kind=state&measure=service&component=service&stateCritical=stoped&stateCriticalFor=0&calm=0");
        exactly(lead, "Name", "Fares stopped");
        lead.getByLabel("Name or pattern").fill("fare-engine");
        assertThat(lead.locator("#meaning"))
                .containsText("knows no word \"stoped\"; it knows running, starting, stopped");
        lead.getByLabel("Critical: words, with commas between").fill("stopped");
        assertThat(lead.locator("#meaning")).containsText("Critical when stopped.");
        assertThat(lead.locator("[data-bench-curve] canvas")).isVisible();
        lead.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save"))
                .click();
        assertThat(lead.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Fares stopped")))
                .isVisible();

        var admin = pages.logIn("admin");
        admin.navigate("/services/outposts");
        exactly(admin, "Name", "lookout-9");
        button(admin, "Make it, and its key").click();
        var key = admin.locator("pre.payload").textContent().strip();
        var outpost = house.outpost("lookout-9", key, "fare-engine");

        var page = pages.logIn("analyst");
        page.navigate("/services");
        var row = page.locator("#service-rows tr").filter(new Locator.FilterOptions().setHasText("fare-engine"));
        assertThat(row).containsText("running");
        house.panel("/machines/fare-engine/ail", "ailment", "STOPPED");
        assertThat(row).containsText("stopped", soon);
        row.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("fare-engine"))
                .click();
        assertThat(page.locator(".curve canvas").first()).isVisible();
        var toCase =
                page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Service on fare-engine is stopped"));
        assertThat(toCase)
                .isVisible(new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                        .setTimeout(30_000));
        toCase.click();
        var dossier = new CasePage(page);
        assertThat(dossier.heading()).containsText("Service on fare-engine is stopped");
        // Killed and begun anew it does what it may as before.
        outpost.destroyForcibly().waitFor();
        outpost = house.outpost("lookout-9", key, "fare-engine");
        var actions = page.locator("[data-live^=actions]");
        assertThat(button(page, "restart fare-engine")).isVisible();
        button(page, "restart fare-engine").click();
        assertThat(actions).containsText("done after", soon);
        assertThat(dossier.heading()).containsText("Over on fare-engine", soon);
        assertThat(dossier.log()).containsText("restart fare-engine: done");
        admin.navigate("/services/outposts");
        assertThat(admin.locator("#outpost-rows tr").filter(new Locator.FilterOptions().setHasText("lookout-9")))
                .containsText("heard");
        assertThat(Pages.barriers(admin)).isEmpty();
        admin.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("lookout-9").setExact(true))
                .first()
                .click();
        assertThat(admin.locator("#outpost-one")).containsText("restart fare-engine");
        assertThat(Pages.barriers(admin)).isEmpty();
        assertThat(Pages.barriers(page)).isEmpty();
        outpost.destroy();
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    /** A check in two steps is tried before it is kept, fails when what it asks does, and is tried again by hand. */
    @Test
    void aCheckInTwoStepsIsTriedKeptAndBroken() throws Exception {
        var soon = new com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions().setTimeout(30_000);
        var lead = pages.logIn("lead");
        lead.navigate("/services/checks/new");
        exactly(lead, "Name", "Fares, twice");
        exactly(lead, "Of what it is a check", "Fares API");
        exactly(lead, "Every", "10 s");
        button(lead, "Another step").click();
        assertThat(lead.getByLabel("Address", new Page.GetByLabelOptions().setExact(true)))
                .hasCount(2);
        for (int step = 0; step < 2; step++)
            lead.getByLabel("Address", new Page.GetByLabelOptions().setExact(true))
                    .nth(step)
                    .fill(house.standIn("/endpoints/fares-api"));
        lead.locator("#check-expected2").fill("$.status = \"shut\"");
        button(lead, "Try it now").click();
        assertThat(lead.locator("#tried")).containsText("step 2: $.status = \"shut\" it is \"open\"");
        lead.locator("#check-expected2").fill("$.status = \"open\"");
        button(lead, "Try it now").click();
        assertThat(lead.locator("#tried")).containsText("passed");
        button(lead, "Save").click();
        var row = lead.locator("#check-rows tr").filter(new Locator.FilterOptions().setHasText("Fares, twice"));
        assertThat(row).containsText("passed", soon);
        house.panel("/endpoints/fares-api/mood", "mood", "BROKEN");
        assertThat(row).containsText("step 1: 200, it answered 503", soon);
        house.panel("/endpoints/fares-api/mood", "mood", "WELL");
        assertThat(row.locator("b").nth(1))
                .hasText(
                        "passed",
                        new com.microsoft.playwright.assertions.LocatorAssertions.HasTextOptions().setTimeout(30_000));
    }
}
