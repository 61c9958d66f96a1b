package app.morvet.work.mending;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.connections.Connections;
import app.morvet.work.cases.CaseBook;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Failed messages are dealt with, and sent again at their middleware. */
class MendingTest extends MorvetTest {
    /** What the middleware answers, in order; when there is nothing left, that it was delivered. */
    private static final List<String> ANSWERS = new CopyOnWriteArrayList<>();

    private static volatile boolean away;

    static {
        DESK.page("/send-again", () -> {
            if (away) return "";
            return ANSWERS.isEmpty() ? "{\"outcome\":\"delivered\"}" : ANSWERS.removeFirst();
        });
    }

    @Autowired
    CaseBook cases;

    @Autowired
    MiddlewareSetup setup;

    @Autowired
    Connections connections;

    private void connect() {
        setUpOnce();
        long feed = jdbc.sql("select id from feed where key = 'test'")
                .query(Long.class)
                .single();
        setup.connect(feed, "The hub", DESK.url(), "/send-again", "");
    }

    private long open(Subject subject) {
        return jdbc.sql("select count(*) from failed_message where component_id = :id and open")
                .param("id", subject.id())
                .query(Long.class)
                .single();
    }

    private void failing(Subject subject, String... keys) throws Exception {
        var events = new ArrayList<Map<String, Object>>();
        for (int i = 0; i < keys.length; i++) {
            var event = failed(
                    subject,
                    Map.of("message", subject.key() + "-" + i, "businessKey", keys[i], "error", "partner refused"));
            event.put("time", Instant.now().minusSeconds(keys.length - i).toString());
            events.add(event);
        }
        assertThat(send(events).statusCode()).isEqualTo(202);
    }

    @Test
    void aWholeFamilyIsDealtWithAndThatCanBeUndone() throws Exception {
        var subject = subject();
        sorting(subject, "refused", false);
        failing(subject, "A", "B", "C");
        var analyst = loggedIn("analyst");
        eventually(() -> caseOf(subject));
        var page = analyst.get("/messages/mend?interface=" + subject.key() + "&state=open")
                .body();
        assertThat(page)
                .contains("3 failed messages on Interface " + subject.key(), "Look at <strong>the partner</strong>");
        assertThat(analyst.post("/messages/deal", "interface=" + subject.key() + "&reason=")
                        .statusCode())
                .isEqualTo(422);
        var done = analyst.post("/messages/deal", "interface=" + subject.key() + "&reason=MENDED&note=cable")
                .body();
        assertThat(done).contains("3 failed messages are dealt with as mended.").doesNotContain("Nothing needs eyes.");
        assertThat(open(subject)).isZero();
        assertThat(analyst.get(messageOf(subject)).body()).contains("Dealt with as mended by Annika Ruuth", "cable");
        assertThat(analyst.get("/cases/" + caseOf(subject).get("id")).body())
                .contains("dealt with 3 of its messages as mended: cable");
        var undo = Pattern.compile("/messages/dealings/(\\d+)/undo").matcher(done);
        assertThat(undo.find()).isTrue();
        assertThat(loggedIn("other").post(undo.group(), "x=1").statusCode()).isEqualTo(409);
        assertThat(analyst.post(undo.group(), "x=1").body()).contains("3 failed messages are open again.");
        assertThat(open(subject)).isEqualTo(3);
        assertThat(analyst.post("/messages/deal", "x=1").body()).contains("Pick failed messages");
    }

    @Test
    void whoSettlesACaseDealsWithItsMessagesAndWhoReopensItDoesNot() throws Exception {
        var subject = subject();
        sorting(subject, "refused", false);
        failing(subject, "A", "B");
        eventually(() -> caseOf(subject));
        var one = cases.find((Long) caseOf(subject).get("id")).orElseThrow();
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", Instant.now());
        assertThat(open(subject)).isZero();
        var settled = cases.find(one.id()).orElseThrow();
        cases.reopen(one.id(), settled.version(), person("analyst"), Instant.now());
        assertThat(open(subject)).isEqualTo(2);
    }

    @Test
    void aRunSendsTheOldestFirstAndHoldsBackWhatAnEarlierOneOfItsKeyWouldOvertake() throws Exception {
        connect();
        var subject = subject();
        sorting(subject, "refused", true);
        failing(subject, "A", "B", "A", "C");
        ANSWERS.add("{\"outcome\":\"failed\",\"step\":\"deliver\",\"error\":\"refused again\"}");
        var analyst = loggedIn("analyst");
        var to = Browser.to(analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=600"));
        eventually(() -> assertThat(analyst.get(to).body())
                .contains(
                        "<b>done</b>",
                        "2 delivered",
                        "1 failed again",
                        "1 held back",
                        "at step deliver: refused again"));
        assertThat(open(subject)).isEqualTo(2);

        // The middleware tells the failure itself as well: it is the same message, and no new one.
        var again = failed(
                subject, Map.of("message", subject.key() + "-0", "businessKey", "A", "error", "partner refused"));
        again.put("id", subject.key() + "-0#2");
        assertThat(send(List.of(again)).statusCode()).isEqualTo(202);
        assertThat(jdbc.sql("select count(*) from failed_message where component_id = :id")
                        .param("id", subject.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(4);
        assertThat(jdbc.sql("select repeats from failed_message where component_id = :id and message_ref = :ref")
                        .param("id", subject.id())
                        .param("ref", subject.key() + "-0")
                        .query(Integer.class)
                        .single())
                .isEqualTo(1);
        // What was delivered does not go twice.
        var rest = Browser.to(analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=600"));
        eventually(() -> assertThat(analyst.get(rest).body()).contains("<b>done</b>", "2 delivered"));
        assertThat(open(subject)).isZero();
        assertThat(analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=600")
                        .body())
                .contains("None of these may be sent again");
    }

    /** What somebody did by hand, in the application that waits for it, would be done twice. */
    @Test
    void whatSomebodyHasDealtWithGoesAlongOnlyWhereThatIsSaid() throws Exception {
        connect();
        var subject = subject();
        sorting(subject, "refused", true);
        failing(subject, "A", "B", "C");
        var analyst = loggedIn("analyst");
        analyst.post("/messages/deal", "interface=" + subject.key() + "&key=A&reason=MENDED");
        var chosen = "interface=" + subject.key();
        assertThat(analyst.page("/messages/mend?" + chosen)
                        .select("form.panel")
                        .first()
                        .text())
                .contains("the 2 that are open", "all 3 1 of them are dealt with or only counted");

        var open = Browser.to(analyst.post("/messages/sendings", chosen + "&rate=600"));
        eventually(() -> assertThat(analyst.get(open).body())
                .contains("<b>done</b>", "2 delivered", "2 of 3 failed messages on Interface " + subject.key()));
        assertThat(analyst.post("/messages/sendings", chosen + "&rate=600").body())
                .contains("None of these may be sent again", "It is dealt with or only counted");

        var dealt = Browser.to(analyst.post("/messages/sendings", chosen + "&rate=600&dealtToo=true"));
        eventually(() -> assertThat(analyst.get(dealt).body()).contains("<b>done</b>", "1 delivered"));
    }

    @Test
    void aRunIsPausedResumedAndStoppedAndWaitsWhileTheMiddlewareIsAway() throws Exception {
        connect();
        var subject = subject();
        sorting(subject, "refused", true);
        failing(subject, "A", "B", "C");
        var analyst = loggedIn("analyst");
        assertThat(analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=0")
                        .body())
                .contains("The rate is 1 to 6,000 a minute.");
        away = true;
        try {
            var run = Browser.to(analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=20"));
            eventually(() -> assertThat(analyst.get(run).body()).contains("The hub answered 500"));
            assertThat(analyst.post(run + "/pause", "x=1").body()).contains("<b>paused</b>", "Resume");
            away = false;
            assertThat(analyst.post(run + "/resume", "x=1").body()).contains("<b>on its way</b>");
            eventually(() -> assertThat(analyst.get(run).body()).contains("1 delivered"));
            assertThat(analyst.post(run + "/stop", "x=1").body()).contains("<b>stopped</b>", "not sent");
        } finally {
            away = false;
        }
        assertThat(open(subject)).isBetween(1L, 2L);
    }

    @Test
    void whatNoRuleAllowsIsNotSentAgain() throws Exception {
        connect();
        var subject = subject();
        sorting(subject, "refused", false);
        failing(subject, "A");
        var analyst = loggedIn("analyst");
        assertThat(analyst.get("/messages/mend?interface=" + subject.key()).body())
                .contains("None of these may be sent again");
        var refused = analyst.post("/messages/sendings", "interface=" + subject.key() + "&rate=60");
        assertThat(refused.statusCode()).isEqualTo(422);
    }

    @Test
    void evidenceGoesAlongAsTableAndBundle() throws Exception {
        var subject = subject();
        send(List.of(
                failed(subject, Map.of("businessKey", "MF-1", "error", "Unknown harbour code 'FIXQV' on pier 7")),
                failed(subject, Map.of("businessKey", "=MF-2", "error", "Unknown harbour code 'TORVE' on pier 9"))));
        var analyst = loggedIn("analyst");
        var table = analyst.get("/messages/mend/values.csv?interface=" + subject.key())
                .body();
        assertThat(table)
                .startsWith("failed at,interface,business key,step,value 1,value 2")
                .contains("MF-1,deliver,'FIXQV',7", "'=MF-2");
        var zip = analyst.get("/messages/mend/payloads.zip?interface=" + subject.key());
        assertThat(zip.body()).startsWith("PK").contains("contents.csv", "MF-1.json");
        assertThat(analyst.get("/messages/mend/values.csv").statusCode()).isEqualTo(400);
    }

    @Test
    void whatNoAlertOpenedACaseForCanBeHandedOffAllTheSame() throws Exception {
        var subject = subject();
        send(List.of(failed(subject, Map.of("error", "only counted " + UUID.randomUUID()))));
        var analyst = loggedIn("analyst");
        var to = Browser.to(analyst.post("/messages/mend/case", "interface=" + subject.key()));
        assertThat(analyst.get(to).body()).contains("opened the case", "Annika Ruuth");
        assertThat(caseOf(subject).get("failures")).isEqualTo(1L);
    }

    @Test
    void theMiddlewareIsConnectedInSetupAndItsSecretIsNotToldAgain() throws Exception {
        connect();
        long feed = estate.addFeed("second-" + UUID.randomUUID(), "Second feed", java.time.Duration.ofMinutes(1));
        var admin = loggedIn("admin");
        assertThat(admin.post(
                                "/setup/middleware",
                                "feed=" + feed + "&url=http://elsewhere.example:1&sendPath=x&headers=nonsense")
                        .body())
                .contains("Morvet may not call elsewhere.example:1", "A path begins with /.", "Each line must read");
        admin.post(
                "/setup/middleware",
                "feed=" + feed + "&url=" + DESK.url() + "&sendPath=/x&headers=Authorization:+Bearer+s3cret");
        assertThat(admin.get("/setup/middleware?feed=" + feed).body())
                .contains("(kept)")
                .doesNotContain("s3cret");
        admin.post(
                "/setup/middleware",
                "feed=" + feed + "&version=1&url=" + DESK.url() + "&sendPath=/y&headers=Authorization:+(kept)");
        assertThat(connections.ofFeed("middleware", feed).orElseThrow().headers())
                .isEqualTo("Authorization: Bearer s3cret");
        assertThat(loggedIn("lead").get("/setup/middleware").statusCode()).isEqualTo(403);
    }
}
