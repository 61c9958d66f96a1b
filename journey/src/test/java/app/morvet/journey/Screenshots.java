package app.morvet.journey;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** Takes the pictures in docs/screenshots from a fresh demo that is running, with the clock at the night of {@link #night}; started by {@code ./morvet screenshots}. */
class Screenshots {
    private static final Path FOLDER = Path.of("..", "docs", "screenshots");

    private static void shoot(Page page, String name) {
        page.waitForTimeout(900);
        page.screenshot(new Page.ScreenshotOptions().setPath(FOLDER.resolve(name + ".png")));
    }

    private static void openFirst(Page page, String words) {
        page.navigate("/cases");
        page.locator(".row-link")
                .filter(new com.microsoft.playwright.Locator.FilterOptions().setHasText(words))
                .first()
                .click();
        // The case that was chosen before has a curve, too.
        page.waitForSelector("h1:has-text('" + words + "')");
        page.waitForSelector(".curve canvas");
    }

    private static void bench(Page page, int guard, String name) {
        page.navigate("/guards/" + guard + "/edit");
        page.waitForSelector("[data-bench-curve] canvas");
        page.waitForTimeout(1500);
        shoot(page, name);
    }

    /** Wants a demo that was started at twenty to five: {@code ./morvet demo --fresh --at 2027-03-18T04:38}. */
    private static void night(Page lead) {
        lead.navigate("/batch?path=bank-file");
        shoot(lead, "night");
        lead.navigate("/batch/what-if?do=skip:settle-bookings&job=settle-bookings");
        shoot(lead, "what-if");
        lead.navigate("/batch/jobs/settle-bookings");
        lead.waitForSelector(".curve canvas");
        shoot(lead, "job");
        lead.navigate("/windows");
        shoot(lead, "windows");
    }

    @Test
    void ofTheMainViews() {
        var address = System.getenv().getOrDefault("MORVET_ADDRESS", "http://localhost:7400");
        var standIns = System.getenv().getOrDefault("MORVET_STANDINS", "http://localhost:7401");
        var pages = new Pages(address);
        var page = pages.logIn("analyst");
        page.navigate("/shift");
        shoot(page, "shift");
        page.navigate("/messages");
        shoot(page, "messages");
        page.navigate("/messages/families?days=30");
        shoot(page, "families");
        page.navigate("/vendors/ov-eu-7");
        shoot(page, "vendor");
        page.navigate("/messages/search?interface=manifest-to-harbour-authority&state=open");
        page.locator("a.row-open").first().click();
        page.waitForSelector("mark.failing");
        shoot(page, "message");
        var lead = pages.logIn("lead");
        lead.navigate("/callouts/rules");
        lead.getByText("Tier 1, day and night").click();
        shoot(lead, "call-out-rule");
        lead.navigate("/services/outposts/1");
        shoot(lead, "outposts");
        lead.navigate("/estate/teams/freight-systems");
        lead.waitForSelector("#rota-preview .rota-track");
        shoot(lead, "rota");
        page.navigate("/cases");
        openFirst(page, "on Manifest to harbour");
        shoot(page, "dossier");
        page.keyboard().press("h");
        page.waitForSelector("#handoff-story");
        shoot(page, "handoff");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off through Service desk"))
                .click();
        page.waitForSelector("#dossier-facts a.mono");
        openFirst(page, "on Booking settlement");
        page.keyboard().press("h");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand off through Service desk"))
                .click();
        page.waitForSelector("#dossier-facts a.mono");
        page.navigate(standIns + "/desk");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Accept"))
                .last()
                .click();
        page.waitForTimeout(1500);
        page.navigate(address + "/services");
        shoot(page, "services");

        var dark = pages.logIn("analyst2", ColorScheme.DARK);
        openFirst(dark, "on Manifest to harbour");
        dark.locator("details.failed summary").first().click();
        dark.waitForSelector(".message");
        dark.locator("details.failed").first().scrollIntoViewIfNeeded();
        shoot(dark, "dossier-dark");

        var admin = pages.logIn("admin");
        bench(admin, 4, "guard");
        bench(admin, 8, "guard-band");
        page.navigate("/estate/components/manifold-1");
        shoot(page, "component");
        night(lead);
    }
}
