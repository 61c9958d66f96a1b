package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.LocalDateTime;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/**
 * A night of Sundrava Ferries in a browser, from twenty past three on: settling bookings goes slowly, archiving has failed; planned work
 * is done, and a sign of life fails to come.
 */
@ResourceLock(Lane.OWN)
class BatchTest extends InAHouse {
    @Override
    protected boolean isAlone() {
        return true;
    }

    /** After so long whatever is fetched has been fetched again. */
    private static final Duration POLLED = Duration.ofSeconds(11);

    private static final LocatorAssertions.ContainsTextOptions PATIENTLY =
            new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

    private static Locator main(Page page) {
        return page.locator("main");
    }

    private static Locator button(Page page, String name) {
        return main(page)
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name))
                .first();
    }

    private static Locator link(Page page, String name) {
        return main(page)
                .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(name))
                .first();
    }

    @Test
    void theSlowThirdJobPutsTheDeadlineAtRiskBeforeAnythingIsLateAndWhatIfShowsTheCure() throws Exception {
        var page = pages.atCases("analyst");
        page.keyboard().press("4");
        page.waitForURL("**/batch");
        var eyes = page.locator(".eyes");
        assertThat(eyes).containsText("Bank file likely", PATIENTLY);
        assertThat(eyes).containsText("deadline 06:30");
        assertThat(eyes).containsText("Settle bookings");
        // Nothing is late: it runs no longer than it may, and no longer than it has.
        assertThat(eyes).not().containsText("running long");
        assertThat(
                        house.one(
                                "select count(distinct case_id) from case_alert join alert a on a.id = alert_id join run_guard g on g.id = a.origin_id where a.origin_kind = 'run guard' and g.trouble = 'DEADLINE_AT_RISK' and cleared_at is null"))
                .isEqualTo("1");

        page.getByText("What decides it").first().click();
        assertThat(page.locator(".night-plan")).containsText("Decides: Settle bookings → Post to ledger → Bank file");

        page.navigate("/batch/what-if");
        page.getByLabel("Job").selectOption("settle-bookings");
        button(page, "Skip it").click();
        var bank = page.locator("table.evidence tr").filter(new Locator.FilterOptions().setHasText("Bank file"));
        assertThat(bank).containsText("100 %");
        assertThat(page.locator(".asked")).containsText("Settle bookings is skipped");
        link(page, "take back").click();
        assertThat(page.locator(".asked")).hasCount(0);
    }

    @Test
    void aJobThatDoesNotStartIsOneCaseAtItsLatestStart() throws Exception {
        var page = pages.logIn("lead");
        page.navigate("/batch/jobs/new/edit");
        page.getByLabel("Name of the job").fill("Light the beacons");
        var due = house.now().atZone(House.NIGHT.getZone()).plusSeconds(75);
        page.getByLabel("Cron expression 1").fill(due.getMinute() + " " + due.getHour() + " * * *");
        page.getByLabel("Latest start in minutes").fill("0");
        page.keyboard().press("Tab");
        assertThat(page.locator("#job-means"))
                .containsText("It runs every day at %02d:%02d".formatted(due.getHour(), due.getMinute()));
        button(page, "Agree on this").click();
        page.waitForURL("**/batch/jobs/light-the-beacons?saved");
        page.navigate("/batch");
        assertThat(page.locator(".eyes")).not().containsText("Light the beacons");
        house.later(Duration.ofSeconds(90));
        assertThat(page.locator(".eyes")).containsText("Light the beacons did not start by", PATIENTLY);
        page.locator(".eyes li")
                .filter(new Locator.FilterOptions().setHasText("beacons"))
                .getByText("Case")
                .click();
        assertThat(page.locator("#dossier-title")).containsText("Light the beacons did not start by");
        assertThat(
                        house.one(
                                "select count(*) from work_case w join component c on c.id = w.component_id where c.key = 'light-the-beacons'"))
                .isEqualTo("1");
    }

    @Test
    void aCrontabWithTwoBadLinesIsReadAndNothingIsHalfDone() {
        var page = pages.logIn("lead");
        page.navigate("/batch/file");
        page.getByLabel("or its text")
                .fill("10 4 * * * sound-the-horn\n99 4 * * * ring-the-bell\n0 5 * * xyz hoist-the-flag\n");
        button(page, "Read it").click();
        assertThat(main(page)).containsText("2 lines are wrong");
        assertThat(main(page)).containsText("The minute \"99\" is wrong");
        assertThat(main(page)).containsText("The day of week \"xyz\" is wrong");
        assertThat(button(page, "Make the jobs so")).hasCount(0);
        page.getByLabel("or its text").fill("10 4 * * * sound-the-horn\n");
        button(page, "Read it").click();
        button(page, "Make the jobs so").click();
        page.waitForURL("**/batch/jobs?q=");
        assertThat(main(page)).containsText("Sound the horn");
    }

    @Test
    void theLastFailureStandsBesideTheLastSuccessAndTheJobIsRunAgain() {
        var page = pages.logIn("analyst2");
        page.navigate("/batch/jobs/archive-manifests");
        assertThat(main(page)).containsText("28 (no space left)");
        link(page, "the last failure beside the last success").click();
        assertThat(page.locator(".output .only")
                        .filter(new Locator.FilterOptions().setHasText("no space left on /archive")))
                .hasCount(1);
        page.goBack();
        button(page, "Run again").click();
        assertThat(page.locator("#orders")).containsText("run again: done", PATIENTLY);
        assertThat(page.locator("#job-runs")).containsText("by hand", PATIENTLY);
        assertThat(page.locator("#job-title")).containsText("running", PATIENTLY);
    }

    @Test
    void allOfThePlanIsReachedWithoutAMouse() {
        var page = pages.logIn("analyst");
        page.navigate("/batch");
        page.locator(".plan a text").first().waitFor();
        page.locator(".night-bar .kinds a").first().focus();
        page.keyboard().press("Enter");
        page.waitForURL("**/batch?zoom=hour*");
        page.navigate("/batch?zoom=day");
        page.locator(".plan a")
                .filter(new Locator.FilterOptions().setHasText("Settle bookings"))
                .first()
                .focus();
        page.keyboard().press("Enter");
        page.waitForURL("**/batch/jobs/settle-bookings");
    }

    /** Planned work on a service, made as its sentence: what stops in it wakes nobody, and what outlives it is a case that says so. */
    @Test
    void plannedWorkWakesNobodyAndWhatOutlivesItIsACase() throws Exception {
        var lead = pages.logIn("lead");
        lead.navigate("/services");
        assertThat(main(lead)).containsText("seat-map", PATIENTLY);
        lead.navigate("/guards/new?kind=state&measure=service&component=service&pattern=seat-map"
                + "&stateCritical=stopped&stateCriticalFor=0&calm=0");
        lead.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Seats stopped");
        button(lead, "Save").click();
        assertThat(main(lead)).containsText("Seats stopped");
        var page = pages.atCases("analyst");
        page.onDialog(com.microsoft.playwright.Dialog::accept);
        page.keyboard().press("8");
        page.waitForURL("**/windows");
        link(page, "New window").click();
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Seats are moved");
        page.getByLabel("Name or pattern").fill("seat-map");
        assertThat(page.locator("#window-means")).containsText("It covers 1 component: seat-map.");
        // It is offered for the next hour, and is to be on now.
        var from = page.locator("input[name=from]");
        from.fill(LocalDateTime.parse(from.inputValue()).minusHours(1).toString());
        assertThat(page.locator("#window-means")).containsText("hold call-outs for seat-map");
        page.getByLabel("Because").fill("a new plan of the seats");
        button(page, "Save").click();
        assertThat(main(page)).containsText("because a new plan of the seats");
        assertThat(main(page)).containsText("on until");

        house.panel("/machines/seat-map/ail", "ailment", "STOPPED");
        house.later(POLLED);
        assertThat(main(page)).containsText("Service on seat-map is stopped", PATIENTLY);
        assertThat(main(page)).containsText("held until");
        assertThat(page.locator(".nowline")).containsText("held");
        assertThat(
                        house.one(
                                "select count(*) from work_case where headline like '%seat-map%' and opened_at > now() - interval '5 min'"))
                .isEqualTo("0");
        button(page, "End it now").click();
        assertThat(main(page)).containsText("became work", PATIENTLY);
        page.navigate("/cases");
        var dossier = new CasePage(page);
        dossier.open("Service on seat-map is stopped");
        assertThat(dossier.log()).containsText("It began in the window \"Seats are moved\"");
        house.panel("/machines/seat-map/heal");
        house.later(POLLED);
        assertThat(dossier.heading()).containsText("Over on seat-map", PATIENTLY);
    }

    /** What says that it is alive every ten seconds, and then says nothing. */
    @Test
    void aSignOfLifeThatIsMissingIsACase() throws Exception {
        var page = pages.logIn("admin");
        page.navigate("/services/heartbeats");
        page.getByLabel("What is to say that it is alive").fill("harbour-copy");
        page.getByLabel("Promised every").fill("10 s");
        button(page, "Make a key for it").click();
        var call = page.locator("pre.payload").textContent();
        var key = call.replaceAll("(?s).*Bearer (\\S+?)'.*", "$1");
        var alive = "{\"specversion\":\"1.0\",\"id\":\"1\",\"source\":\"/alive\",\"type\":\"app.morvet.alive\","
                + "\"subject\":\"harbour-copy\",\"data\":{\"every\":\"PT10S\"}}";
        var answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(house.address() + "/api/v1/events"))
                                .header("Authorization", "Bearer " + key)
                                .header("Content-Type", "application/cloudevents+json")
                                .POST(HttpRequest.BodyPublishers.ofString(alive))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(202);
        var row = page.locator("#heartbeat-rows tr").filter(new Locator.FilterOptions().setHasText("harbour-copy"));
        assertThat(row).isVisible();
        house.later(Duration.ofMinutes(1));
        page.navigate("/cases");
        assertThat(new CasePage(page).row("alive not heard on harbour-copy"))
                .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(90_000));
        page.navigate("/services/heartbeats");
        assertThat(row).containsText("late by");
    }

    /** A deployment tool opens a window by its key and ends it; whoever watches sees both as they happen. */
    @Test
    void aDeploymentToolOpensAWindowAndEndsIt() throws Exception {
        var lead = pages.logIn("lead");
        lead.navigate("/windows/keys");
        lead.getByLabel("Name of the new key").fill("Deployments");
        lead.getByLabel("opens windows").check();
        lead.getByLabel("Name or pattern").fill("quay-05");
        lead.getByText("more", new Page.GetByTextOptions().setExact(true)).click();
        lead.getByLabel("with all that stands on it").check();
        lead.getByLabel("The longest time").fill("1 h");
        button(lead, "Make key").click();
        var shown = Pattern.compile("Bearer (mw_\\S+?)'")
                .matcher(lead.locator("pre.payload").first().textContent());
        assertThat(shown.find()).isTrue();
        var key = shown.group(1);

        var page = pages.logIn("analyst");
        page.navigate("/estate/components/quay-05");
        assertThat(main(page)).containsText("Work on quay-05?");
        var body = "{\"id\":\"deploy-4711\",\"component\":\"quay-05\",\"minutes\":30,\"reason\":\"new version\"}";
        var opened = house.post("/api/v1/windows", key, body);
        assertThat(opened.statusCode()).as(opened.body()).isEqualTo(201);
        assertThat(house.post(
                                "/api/v1/windows",
                                key,
                                body.replace("4711", "4712").replace("30", "90"))
                        .statusCode())
                .as("longer than its key may")
                .isEqualTo(422);
        page.navigate("/windows");
        link(page, "deploy-4711").first().click();
        assertThat(main(page)).containsText("on until");
        assertThat(main(page)).containsText("because new version");
        // A window lasts a minute at least.
        house.later(Duration.ofMinutes(1));
        assertThat(house.post("/api/v1/windows/deploy-4711/end", key, "").statusCode())
                .isBetween(200, 204);
        assertThat(main(page)).not().containsText("on until", PATIENTLY);
    }

    /** A vendor breaks: it says so, ours joins its case; what it plans becomes a window, and moves with it. */
    @Test
    void aVendorThatDoesNotServeExplainsOursAndItsPlannedWorkIsAWindow() throws Exception {
        var page = pages.atCases("analyst");
        page.keyboard().press("6");
        page.waitForURL("**/vendors");
        var row = page.locator("#vendor-rows tr").filter(new Locator.FilterOptions().setHasText("plr-north-2"));
        // Its track has the words of the last week; this is the one of now.
        var said = row.locator("b");
        var patiently = new LocatorAssertions.HasTextOptions().setTimeout(60_000);
        assertThat(said).hasText("serves", patiently);
        house.panel("/vendors/pellaroo/level", "level", "2");
        house.later(POLLED);
        assertThat(said).hasText("does not serve", patiently);
        row.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("plr-north-2"))
                .click();
        assertThat(main(page)).containsText("It does not serve. We work on it.");
        page.navigate("/cases");
        var dossier = new CasePage(page);
        assertThat(dossier.row("plr-north-2")).isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(60_000));
        house.failing("crew-hours-to-payroll", "CONNECTION_REFUSED", 25);
        dossier.open("plr-north-2");
        assertThat(dossier.log())
                .containsText("This explains it: Crew hours to payroll needs the vendor instance", PATIENTLY);

        house.panel("/vendors/pellaroo/plan", "title", "New tax tables", "in", "600", "minutes", "30");
        house.later(POLLED);
        page.navigate("/vendors/plr-north-2");
        var bulletin = page.locator(".bulletin").filter(new Locator.FilterOptions().setHasText("New tax tables"));
        assertThat(bulletin).containsText("proposed", PATIENTLY);
        bulletin.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Make it a window"))
                .click();
        assertThat(bulletin).containsText("accepted");
        bulletin.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("the window"))
                .click();
        var sentence = page.locator("#window-one > p").first();
        assertThat(sentence).containsText("hold call-outs for plr-north-2");
        var before = sentence.textContent();
        var id = house.one("select key from vendor_bulletin where title = 'New tax tables'")
                .replace("urn:pellaroo:", "");
        house.panel("/vendors/pellaroo/notes/" + id, "by", "60");
        house.later(POLLED);
        assertThat(sentence).not().hasText(before, patiently);
        house.panel("/vendors/pellaroo/level", "level", "0");
        house.later(POLLED);
        page.navigate("/vendors");
        assertThat(said).hasText("serves", patiently);
    }
}
