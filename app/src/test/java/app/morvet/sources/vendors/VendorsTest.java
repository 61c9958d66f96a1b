package app.morvet.sources.vendors;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import app.morvet.work.channels.Channels;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What vendors say, looked at over HTTP, kept, shown, judged, and made into windows. */
class VendorsTest extends MorvetTest {
    @Autowired
    private Channels channels;

    @Autowired
    private Vendors vendors;

    @Autowired
    private VendorFeeds feeds;

    @Autowired
    private Connections connections;

    @Autowired
    private SeriesBook series;

    @Autowired
    private States states;

    @Autowired
    private Windows windows;

    private final String mark = "vd" + UUID.randomUUID().toString().substring(0, 8);
    private final Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    private Connection feed;

    @BeforeEach
    void anInstanceWithAFeed() {
        setUpOnce();
        estate.add(mark, "Instance " + mark, Vendors.KIND, null);
        vendors.keep(new VendorInstance(id(), "Ostrevia", 99.5, "support@ostrevia.example", false, null, 0), null);
        var settings = new HashMap<>(Map.of(
                "shape", "json",
                "state", "$.mood",
                "words", "fine = serves\nlimping = serves in part\ndown = does not serve",
                "bulletins", "$.notes",
                "bulletin-id", "$.ref",
                "bulletin-title", "$.head",
                "bulletin-kind", "$.sort",
                "bulletin-from", "$.begin",
                "bulletin-to", "$.end"));
        settings.put("planned", "works");
        settings.put(VendorFeeds.COMPONENT, mark);
        settings.put(VendorFeeds.EVERY, "86400");
        connections.keep(new Connection(
                0,
                VendorFeeds.SORT,
                mark,
                null,
                "state " + mark,
                "http://127.0.0.1:" + DESK.port() + "/vendors/" + mark,
                "",
                "",
                settings,
                0));
        feed = connections.byKey(VendorFeeds.SORT, mark).orElseThrow();
    }

    private long id() {
        return estate.byKey(mark).orElseThrow().id();
    }

    private void says(int status, String body) {
        DESK.answer("/vendors/" + mark, status, body.replace('\'', '"'));
        feeds.run("" + feed.id());
    }

    private void says(String mood, String... notes) {
        says(200, "{'mood': '%s', 'notes': [%s]}".formatted(mood, String.join(", ", notes)));
    }

    private String works(String ref, int from, int to) {
        return "{'ref': '%s', 'head': 'New disks', 'sort': 'works', 'begin': '%s', 'end': '%s'}"
                .formatted(ref, at(from), at(to));
    }

    private Instant at(int minutes) {
        return now.plus(Duration.ofMinutes(minutes));
    }

    private String word(String measure, Map<String, String> labels) {
        var one = series.find(id(), measure, labels).orElseThrow();
        return one.measure()
                .stateWords()
                .word(states.of(List.of(one.id())).get(one.id()).place());
    }

    private String page() throws Exception {
        return loggedIn("analyst").page("/vendors/" + mark).text();
    }

    private List<String> mine() {
        return windows.all().stream()
                .filter(one -> one.window().scope().name().equals(mark))
                .map(one ->
                        one.window().plan().first() + " " + one.window().plan().length())
                .toList();
    }

    @Test
    void whatTheVendorSaysIsAStateThatGuardsCallOn() throws Exception {
        long guard = guards.set(
                "Vendor " + mark,
                true,
                Watch.of("vendor").named(mark),
                new StateGuard(
                        null,
                        StateGuard.Condition.in(Duration.ZERO, "does not serve"),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        says("fine");
        assertThat(word("vendor", Map.of())).isEqualTo("serves");
        assertThat(word("vendor_feed", Map.of("feed", feed.name()))).isEqualTo("read");
        says("down", "{'ref': 'n1', 'head': 'No answers', 'sort': 'trouble'}");
        assertThat(word("vendor", Map.of())).isEqualTo("does not serve");
        assertThat(page()).contains("does not serve", "No answers");
        eventually(
                () -> assertThat(jdbc.sql("select count(*) from alert where origin_kind = 'guard' and origin_id = :id")
                                .param("id", guard)
                                .query(Integer.class)
                                .single())
                        .isEqualTo(1));
    }

    @Test
    void eachVersionOfABulletinIsKeptAndWhatVanishesIsOver() throws Exception {
        says("limping", "{'ref': 'n1', 'head': 'Slow', 'sort': 'trouble'}");
        says("limping", "{'ref': 'n1', 'head': 'Slow', 'sort': 'trouble'}");
        says("limping", "{'ref': 'n1', 'head': 'Slow, we look', 'sort': 'trouble'}");
        var bulletin = vendors.bulletins(id(), 5).getFirst();
        assertThat(vendors.versions(bulletin.id()))
                .extracting(Vendors.Version::title)
                .containsExactly("Slow, we look", "Slow");
        assertThat(loggedIn("analyst")
                        .page("/vendors/" + mark + "/bulletins/" + bulletin.id())
                        .text())
                .contains("Slow, we look");
        says("fine");
        assertThat(vendors.bulletins(id(), 5).getFirst().isOpen(Instant.now())).isFalse();
        says("limping", "{'ref': 'n1', 'head': 'Slow, we look', 'sort': 'trouble'}");
        assertThat(vendors.bulletins(id(), 5)).singleElement().satisfies(one -> assertThat(one.isOpen(Instant.now()))
                .isTrue());
    }

    @Test
    void aFeedThatFailsIsTroubleOfItsOwnAndOneMissIsNoChange() throws Exception {
        says("fine");
        says(502, "<html>502</html>");
        assertThat(word("vendor_feed", Map.of("feed", feed.name()))).isEqualTo("not read");
        assertThat(word("vendor", Map.of()))
                .as("one look that failed says nothing")
                .isEqualTo("serves");
        says(200, "<html>an error page</html>");
        assertThat(word("vendor", Map.of())).isEqualTo("not known");
        assertThat(page()).contains("The answer is no JSON.");
        says("wobbling");
        assertThat(word("vendor_feed", Map.of("feed", feed.name()))).isEqualTo("in doubt");
        assertThat(page()).contains("\"wobbling\" is no word that is known; say what it means.");
        says("fine");
        assertThat(word("vendor", Map.of())).isEqualTo("serves");
        assertThat(vendors.polls(feed.id(), 9)).hasSize(5);
        // What was known of a bulletin is not taken for gone by a look that failed.
        says("limping", "{'ref': 'n9', 'head': 'Slow', 'sort': 'trouble'}");
        says(503, "");
        assertThat(vendors.bulletins(id(), 5).getFirst().isOpen(Instant.now())).isTrue();
    }

    @Test
    void plannedWorkIsProposedAcceptedMovedAndWithdrawn() throws Exception {
        says("fine", works("w1", 60, 120));
        assertThat(mine()).isEmpty();
        assertThat(page()).contains("New disks", "planned work", "proposed", "Make it a window");
        assertThat(loggedIn("analyst")
                        .page("/windows")
                        .select("tr:contains(Instance " + mark + ")")
                        .text())
                .contains("New disks", "proposed");
        var bulletin = vendors.bulletins(id(), 5).getFirst();
        var analyst = loggedIn("analyst");
        assertThat(analyst.post("/vendors/" + mark + "/work/" + bulletin.id(), "accept=true")
                        .statusCode())
                .isEqualTo(302);
        assertThat(mine()).containsExactly(at(60) + " PT1H");
        assertThat(analyst.post("/vendors/" + mark + "/work/" + bulletin.id(), "accept=true")
                        .body())
                .contains("This work is accepted already.");
        says("fine", works("w1", 90, 180));
        assertThat(mine()).containsExactly(at(90) + " PT1H30M");
        says("fine");
        assertThat(mine()).isEmpty();
        assertThat(page()).contains("withdrawn");
        // Planned anew it is proposed anew.
        says("fine", works("w1", 200, 260));
        assertThat(page()).contains("proposed");
    }

    @Test
    void whereItIsAgreedItBecomesAWindowByItselfAndEndsWhenItIsCalledOff() {
        vendors.keep(new VendorInstance(id(), "Ostrevia", 99.5, "", true, Duration.ofDays(1), 1), null);
        says("fine", works("w1", -10, 120));
        assertThat(windows.all())
                .filteredOn(one -> one.window().scope().name().equals(mark))
                .extracting(one -> one.told())
                .containsExactly(Duration.ofDays(1));
        assertThat(mine()).containsExactly(at(-10) + " PT2H10M");
        // What needs the instance is covered by its work.
        estate.add(mark + "-needs", "Needs " + mark, "interface", null);
        estate.needs(mark + "-needs", mark);
        assertThat(windows.covering(id(), Instant.now())).isPresent();
        says("fine");
        assertThat(windows.covering(id(), Instant.now().plusSeconds(61))).isEmpty();
        assertThat(mine()).hasSize(1);
    }

    @Test
    void whatWeSeeStandsBesideWhatItSays() throws Exception {
        says("fine");
        var event = event(
                "state.changed",
                mark,
                Instant.now().minusSeconds(5),
                Map.of("measure", "check", "state", "no answer", "words", List.of("passed", "failed", "no answer")));
        assertThat(send(List.of(event)).body()).contains("\"accepted\":1");
        assertThat(page()).contains("The vendor says that it serves; we see: a check no answer since");
        assertThat(loggedIn("analyst")
                        .page("/vendors")
                        .select("tr:contains(" + mark + ")")
                        .text())
                .contains("we see: a check");
        says("down");
        assertThat(page()).doesNotContain("The vendor says that it serves");
    }

    @Test
    void anAdminSaysHowAFeedIsReadAndWhatIsSecretIsNotShownAgain() throws Exception {
        var admin = loggedIn("admin");
        var path = "/vendors/" + mark + "/feeds/" + feed.id();
        var form = "name=state&shape=json&everySeconds=60&state=" + Browser.encoded("$.mood") + "&words="
                + Browser.encoded("fine = serves") + "&url="
                + Browser.encoded("http://127.0.0.1:" + DESK.port() + "/vendors/" + mark) + "&headers="
                + Browser.encoded("X-Key: harbour-secret");
        assertThat(admin.post(path, form + "&version=0").body()).contains("Somebody else changed");
        assertThat(admin.post(path, form + "&version=1").statusCode()).isEqualTo(302);
        assertThat(admin.page(path).html()).doesNotContain("harbour-secret");
        assertThat(admin.post(path, form.replace("fine", "") + "&version=2").body())
                .contains("is no line such as degraded = serves in part");
        assertThat(admin.post(path, form.replace("127.0.0.1", "192.0.2.9") + "&version=2")
                        .body())
                .contains("Add it to morvet.outgoing");
        for (var seconds : List.of("9", "86401", "99999", "often"))
            assertThat(admin.post(path, form.replace("=60&", "=" + seconds + "&") + "&version=2")
                            .body())
                    .contains("It is looked at every 10 to 86400 seconds.");
        assertThat(loggedIn("lead").post(path, form + "&version=2").statusCode())
                .isEqualTo(403);
        assertThat(admin.post("/vendors/" + mark + "/agreed", "vendor=Ostrevia&agreed=viel&version=1")
                        .body())
                .contains("What is agreed is a share such as 99.5, was &quot;viel&quot;.");
        assertThat(admin.post("/vendors/" + mark + "/agreed", "vendor=Ostrevia&agreed=99,9&version=1")
                        .statusCode())
                .isEqualTo(302);
        assertThat(vendors.instance(id()).orElseThrow().agreed()).isEqualTo(99.9);
    }

    @Test
    void whatWeSeeIsWrittenToTheVendorByMail() throws Exception {
        says("fine");
        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/vendors/" + mark)
                        .select("textarea[name=text]")
                        .text())
                .contains("Instance: Instance " + mark, "others Europe/Helsinki")
                .containsPattern("What you say: serves since \\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\dZ");
        var refused = analyst.post("/vendors/" + mark + "/ticket", "subject=&text=it+does+not+serve");
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(analyst.post("/vendors/" + mark + "/ticket", "subject=" + mark + "+is+away&text=Since+noon.")
                        .statusCode())
                .isEqualTo(302);
        eventually(() -> assertThat(page()).contains(mark + " is away · sent"));
        var mails = new java.util.ArrayList<String>();
        for (var one : MAIL.getReceivedMessages())
            if (one.getSubject().equals(mark + " is away")) mails.add(one.getAllRecipients()[0].toString());
        assertThat(mails).containsExactly("support@ostrevia.example");
        vendors.keep(new VendorInstance(id(), "Ostrevia", 99.5, "", false, null, 1), null);
        assertThat(analyst.post("/vendors/" + mark + "/ticket", "subject=a&text=b")
                        .body())
                .contains("No mail address of this vendor is known");
    }

    /** Where a vendor takes tickets by web calls, it goes so. */
    @Test
    void aTicketToAVendorMayGoByAWebCall() throws Exception {
        says("fine");
        var path = "/desk-of-" + mark;
        DESK.answer(path, 201, "{\"id\": \"V-1\"}");
        channels.web(
                "desk-" + mark,
                "Desk of " + mark,
                DESK.url(),
                "",
                Map.of(
                        "path",
                        path,
                        "template",
                        "{\"title\": \"{{title}}\", \"text\": \"{{text}}\", \"on\": \"{{component}}\"}"));
        var analyst = loggedIn("analyst");
        var through = analyst.page("/vendors/" + mark)
                .select("select[name=through] option:contains(Desk of " + mark + ")")
                .val();
        analyst.post(
                "/vendors/" + mark + "/ticket",
                Map.of("subject", "It is away", "text", "Since noon.", "through", through));
        eventually(() -> assertThat(page()).contains("It is away · sent"));
        assertThat(json.readTree(DESK.heard(path).getFirst().body()))
                .isEqualTo(json.readTree(
                        "{\"title\": \"It is away\", \"text\": \"Since noon.\", \"on\": \"Instance " + mark + "\"}"));
        assertThat(analyst.post(
                                "/vendors/" + mark + "/ticket",
                                Map.of("subject", "a", "text", "b", "through", "999999"))
                        .body())
                .contains("Choose by what it goes");
        jdbc.sql("update delivery set connection_id = null").update();
        jdbc.sql("delete from outside_call").update();
        jdbc.sql("delete from outside_connection where sort = 'web'").update();
    }

    @Test
    void thatItDoesNotServeExplainsFailuresOfWhoNeedsIt() throws Exception {
        guards.set(
                "Vendor " + mark,
                true,
                Watch.of("vendor").named(mark),
                new StateGuard(
                        null,
                        StateGuard.Condition.in(Duration.ZERO, "does not serve"),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        var needing = subject();
        estate.needs(needing.key(), mark);
        says("down");
        eventually(() -> assertThat(casesOnTheInstance()).hasSize(1));
        guard(needing, Duration.ofMinutes(10));
        fail(needing, 3);
        eventually(
                () -> assertThat(jdbc.sql("select count(*) from case_entry where case_id = :id and kind = 'explained'")
                                .param("id", casesOnTheInstance().getFirst())
                                .query(Integer.class)
                                .single())
                        .isPositive());
        assertThat(casesOf(needing)).isEmpty();
    }

    private List<Long> casesOnTheInstance() {
        return jdbc.sql("select id from work_case where component_id = :id")
                .param("id", id())
                .query(Long.class)
                .list();
    }
}
