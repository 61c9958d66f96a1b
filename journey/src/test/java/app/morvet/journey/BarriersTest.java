package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ViewportSize;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** Every sort of page is open to people who cannot see or point, on both papers. */
@ResourceLock(Lane.SHARED)
class BarriersTest extends InAHouse {
    private static final List<ViewportSize> SIZES =
            List.of(new ViewportSize(1280, 800), new ViewportSize(1920, 1080), new ViewportSize(390, 844));

    /** So often a page is looked at until it has the width of its screen, ten times a second. */
    private static final int FOLLOWS = 100;

    private final List<String> wrong = new ArrayList<>();
    private int looked;

    @BeforeEach
    void nothingIsWrongYet() {
        wrong.clear();
    }

    private void look(Page page, String path) {
        page.navigate(path);
        look(page);
    }

    /**
     * As wide as a desk's screen, one on a wall, and a telephone: no page is wider. All else in turn, for on all it would take long; and
     * whether all can be read on those of a desk.
     */
    private void look(Page page) {
        looked++;
        look(page, size -> size == looked % SIZES.size());
    }

    private void lookOnAll(Page page, String path) {
        page.navigate(path);
        look(page, size -> true);
    }

    /** The other paper has other colours, and nothing else has another place. */
    private void lookInTheDark(Page page, String path) {
        page.navigate(path);
        Pages.faint(page).forEach(one -> wrong.add(page.url() + " in the dark: " + one));
    }

    /** @param closely on which sizes at all that may stand in the way, not at the width alone */
    private void look(Page page, IntPredicate closely) {
        for (int which = 0; which < SIZES.size(); which++) {
            var size = SIZES.get(which);
            page.setViewportSize(size.width, size.height);
            // What follows a new width, such as what can be reached by keys where it scrolls, does so before the next
            // frame.
            page.evaluate("() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)))");
            var where = page.url() + " " + size.width + " wide: ";
            if (closely.test(which))
                (which == 0 ? Pages.barriers(page) : Pages.barriersButFaint(page))
                        .forEach(one -> wrong.add(where + one));
            int wider = wider(page);
            if (wider != 0) wrong.add(where + "it is wider than the screen by " + wider);
        }
        page.setViewportSize(SIZES.getFirst().width, SIZES.getFirst().height);
    }

    /** By how much a page is wider than its screen. What a script draws follows a new width after a moment. */
    private static int wider(Page page) {
        int wider = 0;
        for (int looks = 0; looks < FOLLOWS; looks++) {
            wider = (int)
                    page.evaluate("() => document.documentElement.scrollWidth - document.documentElement.clientWidth");
            if (wider == 0) break;
            page.waitForTimeout(100);
        }
        return wider;
    }

    /** Where a link of a list leads, by words that stand in it. */
    private static String linkTo(Page page, String list, String words) {
        page.navigate(list);
        return page.locator("main a")
                .filter(new Locator.FilterOptions().setHasText(words))
                .first()
                .getAttribute("href")
                .replaceAll("\\?.*", "");
    }

    /** Where the first case about failed messages is; it is open with a message and a form. */
    private static String caseWithItsForm(Page page) {
        var first = linkTo(page, "/cases", "failed");
        page.navigate(first);
        page.locator("details.failed summary").first().click();
        assertThat(page.locator(".message").first()).isVisible();
        page.getByRole(AriaRole.TOOLBAR, new Page.GetByRoleOptions().setName("Actions"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Settle"))
                .click();
        return first;
    }

    @Test
    void casesWithTheirMessagesAndForms() {
        var page = pages.logIn("admin");
        var first = caseWithItsForm(page);
        look(page);
        look(page, first + "/handoff");
        for (var path : List.of(first, "/shift", "/estate/components/quay-03")) lookOnAll(page, path);
        var dark = pages.logIn("admin", ColorScheme.DARK);
        caseWithItsForm(dark);
        Pages.faint(dark).forEach(one -> wrong.add(first + " in the dark: " + one));
        for (var path : List.of(first + "/handoff", "/shift", "/estate/components/quay-03")) lookInTheDark(dark, path);
        List.of(
                        "/login",
                        "/cases",
                        "/cases?show=settled",
                        "/handoffs",
                        "/callouts",
                        "/callouts/rules",
                        "/callouts/rules/new",
                        "/callouts/who?pattern=quay-04",
                        "/setup/channels",
                        "/setup/channels/one",
                        "/setup/channels/words",
                        "/search?q=failed",
                        "/shift",
                        "/shift/log",
                        "/shift/handover",
                        "/me",
                        "/me/told",
                        "/me/second",
                        "/nowhere")
                .forEach(path -> look(page, path));
        assertThat(wrong).isEmpty();
    }

    @Test
    void messagesAndTheirRules() {
        var page = pages.logIn("admin");
        page.navigate("/messages/search");
        look(page, page.locator("a.row-open").first().getAttribute("href"));
        page.navigate("/messages/families");
        look(page, page.locator("main a[href*='/families/']").first().getAttribute("href"));
        var rule = linkTo(page, "/messages/rules", "Harbour code unknown");
        List.of(
                        "/messages",
                        "/messages/map",
                        "/messages/interfaces/booking-settlement",
                        "/messages/families",
                        "/messages/search?days=1",
                        "/messages/rules",
                        rule + "/edit",
                        "/messages/rules/new",
                        "/messages/rules/file",
                        "/messages/mend?interface=booking-settlement",
                        "/messages/sendings",
                        "/messages/refused")
                .forEach(path -> look(page, path));
        page.navigate("/messages/masks");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Bank account"))
                .click();
        look(page);
        var dark = pages.logIn("admin", ColorScheme.DARK);
        List.of("/messages", "/messages/map", rule + "/edit").forEach(path -> lookInTheDark(dark, path));
        assertThat(wrong).isEmpty();
    }

    @Test
    void guardsOfEachKindAndTheEstate() {
        var page = pages.logIn("admin");
        look(page, "/guards");
        for (var name : List.of(
                "Failed since midnight",
                "Disk filling up",
                "Answers unusually slow",
                "Slow for want of workers",
                "Service not running")) look(page, linkTo(page, "/guards", name) + "/edit");
        look(page, linkTo(page, "/guards", "Memory nearly full") + "/versions");
        List.of(
                        "/guards/ready-made",
                        "/services",
                        "/services?q=running",
                        "/services/stores-meter",
                        "/services/heartbeats",
                        "/services/checks",
                        "/services/checks/new?kind=http&steps=2",
                        "/services/checks/new?kind=file",
                        "/services/checks/file",
                        "/services/outposts",
                        "/guards/1/action",
                        "/guards/file",
                        "/estate",
                        "/estate/components/quay-03",
                        "/estate/compare?find=disk",
                        "/estate/map?centre=quay-03",
                        "/estate/applications?change=integration-hub",
                        "/estate/standing",
                        "/estate/feeds",
                        "/estate/file",
                        "/estate/teams",
                        "/estate/teams/freight-systems",
                        "/estate/teams/freight-systems/duty/calendar",
                        "/setup/people",
                        "/setup/people/new",
                        "/me",
                        "/setup/desk",
                        "/setup/middleware",
                        "/setup/keys")
                .forEach(path -> look(page, path));
        var dark = pages.logIn("admin", ColorScheme.DARK);
        List.of(
                        "/login",
                        "/estate",
                        "/estate/components/gangway-2",
                        "/estate/map",
                        "/services/stores-meter",
                        "/setup/desk")
                .forEach(path -> lookInTheDark(dark, path));
        assertThat(wrong).isEmpty();
    }

    @Test
    void theNightAndItsJobs() {
        var page = pages.logIn("admin");
        look(page, linkTo(page, "/batch/guards", "Deadline at risk") + "/edit");
        List.of(
                        "/batch?path=bank-file",
                        "/batch/jobs/settle-bookings",
                        "/batch/jobs/settle-bookings/edit",
                        "/windows",
                        "/windows?zoom=month",
                        "/windows/8",
                        "/windows/new",
                        "/windows/8/edit",
                        "/windows/keys",
                        "/windows/calendars",
                        "/windows/calendars/new",
                        "/vendors",
                        "/vendors/ov-eu-7",
                        "/vendors/ov-eu-7/feeds/new",
                        "/batch/calendars",
                        "/batch/file")
                .forEach(path -> look(page, path));
        lookInTheDark(pages.logIn("admin", ColorScheme.DARK), "/batch/what-if");
        assertThat(wrong).isEmpty();
    }

    /** Keys reach it as before, since a page fetches its parts anew by itself, and nobody makes it wider or narrower for that. */
    @Test
    void whatIsMovedSidewaysIsReachedByKeysWhenItIsFetchedAnew() {
        var page = pages.logIn("analyst");
        var telephone = SIZES.getLast();
        page.setViewportSize(telephone.width, telephone.height);
        page.navigate("/vendors/ov-eu-7");
        var moved = page.locator("div:has(> .vendor-picture)");
        assertThat(moved).hasAttribute("tabindex", "0");
        page.evaluate(
                """
                () => new Promise((anew) => {
                  document.addEventListener("fresh", ({ detail }) => detail.querySelector(".vendor-picture") && anew());
                  new BroadcastChannel("morvet-live").postMessage({ topic: "*" });
                })""");
        assertThat(moved).hasAttribute("tabindex", "0");
    }
}
