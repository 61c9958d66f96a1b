package app.morvet.rules.failures;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.sources.messages.MessagesDealt;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.support.TransactionTemplate;

/** Sorting rules as people make them, and what becomes of failed messages by them. */
class RulesTest extends MorvetTest {
    @Autowired
    private TransactionTemplate transaction;

    @Autowired
    private ApplicationEventPublisher events;

    private long took(Subject subject, long rule) {
        return jdbc.sql("select count(*) from failed_message where component_id = :id and rule_id = :rule")
                .param("id", subject.id())
                .param("rule", rule)
                .query(Long.class)
                .single();
    }

    private long catchAll() {
        return rules.fresh().catchAll().id();
    }

    private String form(Subject subject, String name, String more) {
        return "version=" + rules.fresh().version() + "&name=" + Browser.encoded(name)
                + "&kind0=interface&value0=" + subject.key() + more
                + "&severity=WARNING&fold=FAMILY&foldFor=4&foldUnit=h&place=0";
    }

    @Test
    void aNewRuleTakesWhatIsOpenFromTheOthersAndLeavesWhatWasDealtWith() throws Exception {
        var subject = subject();
        var first = sorting(subject, "winch", false);
        var events = new ArrayList<Map<String, Object>>();
        for (int i = 0; i < 5; i++) events.add(failed(subject, Map.of("error", "winch " + i + " jammed on deck")));
        assertThat(send(events).statusCode()).isEqualTo(202);
        assertThat(took(subject, first.id())).isEqualTo(5);
        var lead = loggedIn("lead");
        var one = messageOf(subject).substring("/messages/".length());
        assertThat(lead.post("/messages/deal", "ids=" + one + "&reason=MENDED").body())
                .contains("One failed message is dealt with as mended.");

        lead.get("/messages/rules/new");
        var typed = form(subject, "Jams " + subject.key(), "&kind1=contains&value1=WINCH");
        assertThat(lead.post("/messages/rules/preview", typed).body())
                .contains("It takes 5")
                .contains("4 from “" + first.name() + "” to “Jams " + subject.key() + "”");
        lead.post("/messages/rules", typed);
        var made = rules.fresh().rules().getFirst();
        assertThat(made.name()).isEqualTo("Jams " + subject.key());
        eventually(() -> assertThat(took(subject, made.id())).isEqualTo(4));
        assertThat(took(subject, first.id())).isEqualTo(1);
        assertThat(lead.get("/messages/rules/" + first.id()).body()).contains("It is never reached");
    }

    @Test
    void whatAnotherRuleTakesIsToldAnewAndCountsInItsCaseOnce() throws Exception {
        var subject = subject();
        sorting(subject, "winch", false);
        for (long nth = 1; nth <= 3; nth++) oneMoreCounts(subject, nth);
        loggedIn("lead")
                .post("/messages/rules", form(subject, "Jams " + subject.key(), "&kind1=contains&value1=winch"));
        var made = rules.fresh().rules().getFirst();
        eventually(() -> assertThat(took(subject, made.id())).isEqualTo(3));
        eventually(() -> assertThat(jdbc.sql("select count(*) from failure_fold where rule_id = :rule and failures = 3")
                        .param("rule", made.id())
                        .query(Long.class)
                        .single())
                .isEqualTo(1));
        for (long nth = 4; nth <= 5; nth++) oneMoreCounts(subject, nth);
    }

    private void oneMoreCounts(Subject subject, long nth) throws Exception {
        var event = failed(subject, Map.of("error", "winch jammed on deck"));
        assertThat(send(List.of(event)).statusCode()).isEqualTo(202);
        eventually(() -> assertThat(caseOf(subject)).containsEntry("failures", nth));
    }

    @Test
    void whatCannotBeReadIsRefusedAtItsFieldAndNothingIsLost() throws Exception {
        var subject = subject();
        var lead = loggedIn("lead");
        int version = rules.fresh().version();
        var refused = lead.post(
                "/messages/rules",
                form(
                        subject,
                        "Broken " + subject.key(),
                        "&kind1=xpath&value1=" + Browser.encoded("//call[[1]") + "&kind2=matches&value2="
                                + Browser.encoded("(a")));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body())
                .contains("The XPath cannot be read at character 8", "The pattern cannot be read at character 2")
                .contains("Broken " + subject.key(), "//call[[1]");
        assertThat(rules.fresh().version()).isEqualTo(version);
        assertThat(loggedIn("analyst")
                        .post("/messages/rules", form(subject, "x", ""))
                        .statusCode())
                .isEqualTo(403);
        var late = form(subject, "Late " + subject.key(), "&kind1=contains&value1=a");
        sorting(subject, "meanwhile", false);
        assertThat(lead.post("/messages/rules", late).body()).contains("Somebody changed the sorting rules");
    }

    @Test
    void aRuleIsProposedFromAFailure() throws Exception {
        var subject = subject();
        send(List.of(
                failed(subject, Map.of("error", "Rudder angle 12 out of range on 'Aurelia'")),
                failed(subject, Map.of("error", "Rudder angle 71 out of range on 'Isolde Bay'"))));
        var id = messageOf(subject).substring("/messages/".length());
        var form = loggedIn("lead").get("/messages/rules/new?message=" + id).body();
        assertThat(form).contains("value=\"out of range on\"", "It takes 2");
    }

    @Test
    void theFileComesOutAndGoesInWithoutAChange() throws Exception {
        sorting(subject(), "for the file", true, "endpoint");
        var lead = loggedIn("lead");
        var file = lead.get("/messages/rules/file/sorting-rules.yaml").body();
        assertThat(lead.post("/messages/rules/file", "text=" + Browser.encoded(file))
                        .body())
                .contains("Nothing would change");
        var fewer = file.replaceFirst("severity: warning", "severity: critical");
        assertThat(lead.post("/messages/rules/file", "text=" + Browser.encoded(fewer))
                        .body())
                .doesNotContain("Nothing would change");
        assertThat(lead.post(
                                "/messages/rules/file",
                                "text=" + Browser.encoded("sortingRules:\n  - name: a\n    whree: []\n"))
                        .body())
                .contains("&quot;whree&quot; is not known here", ">3<");
    }

    /** Where the rule says that one error is one trouble wherever it shows. */
    @Test
    void oneErrorOnSeveralInterfacesIsOneCaseUntilAllOfItIsDealtWith() throws Exception {
        var one = subject();
        var other = subject();
        var lead = loggedIn("lead");
        var word = "kedge" + one.key().replaceAll("\\D", "");
        var form = "version=" + rules.fresh().version() + "&name=Shared+" + one.key() + "&kind0=contains&value0=" + word
                + "&severity=WARNING&fold=SHARED_FAMILY&foldFor=4&foldUnit=h&place=0";
        assertThat(lead.post("/messages/rules/preview", form).body()).contains("for each family, over all interfaces");
        assertThat(lead.post("/messages/rules", form).statusCode()).isEqualTo(302);
        send(List.of(failed(one, Map.of("error", "the " + word + " is lost"))));
        eventually(() -> assertThat(casesOf(one)).hasSize(1));
        send(List.of(failed(other, Map.of("error", "the " + word + " is lost"))));
        send(List.of(failed(other, Map.of("error", "the " + word + " drags, and the chain is foul"))));
        eventually(() -> assertThat(casesOf(other))
                .as("another error is another trouble")
                .hasSize(1));
        eventually(() -> assertThat(casesOf(one).getFirst().get("headline"))
                .isEqualTo("2 failed over all interfaces: Shared " + one.key()));
        var id = casesOf(one).getFirst().get("id");
        var dossier = lead.page("/cases/" + id);
        assertThat(dossier.text()).contains("2 failed over all interfaces");
        assertThat(lead.page("/messages/mend?state=open&family=" + familyOf(one))
                        .text())
                .contains(one.key(), other.key());

        deal(lead, messageOf(one));
        assertThat(lead.page("/cases/" + id).text()).contains("dealt with 1 of its messages as mended");
        deal(lead, messageOfFamily(other, familyOf(one)));
        // As if nobody could take it back any more.
        transaction.executeWithoutResult(status -> events.publishEvent(new MessagesDealt()));
        eventually(() -> assertThat(jdbc.sql("select over_since is not null from work_case where id = :id")
                        .param("id", id)
                        .query(Boolean.class)
                        .single())
                .isTrue());
    }

    /** Where no rule says so it is said beside each of them, however long it was between them. */
    @Test
    void oneErrorOnTwoInterfacesMayBelongTogether() throws Exception {
        var one = subject();
        var other = subject();
        var word = "hawser" + one.key().replaceAll("\\D", "");
        var lead = loggedIn("lead");
        lead.post(
                "/messages/rules",
                "version=" + rules.fresh().version() + "&name=Each+" + one.key() + "&kind0=contains&value0=" + word
                        + "&severity=WARNING&fold=FAMILY&foldFor=4&foldUnit=h&place=0");
        for (var each : List.of(one, other)) {
            send(List.of(failed(each, Map.of("error", "the " + word + " is lost"))));
            eventually(() -> assertThat(casesOf(each)).hasSize(1));
        }
        var id = casesOf(one).getFirst().get("id");
        jdbc.sql("update work_case set opened_at = opened_at - interval '1 hour' where id = :id")
                .param("id", id)
                .update();
        var together = lead.page("/cases/" + id).select("h2:contains(May belong together) + ul li");
        assertThat(together.select("li:contains(" + other.key() + ")").text()).contains("fails with the same error");
    }

    private static void deal(Browser by, String message) throws Exception {
        assertThat(by.post("/messages/deal", "reason=MENDED&ids=" + message.substring("/messages/".length()))
                        .body())
                .contains("One failed message is dealt with as mended.");
    }

    private long familyOf(Subject subject) {
        return jdbc.sql("select family_id from failed_message where component_id = :id order by at limit 1")
                .param("id", subject.id())
                .query(Long.class)
                .single();
    }

    private String messageOfFamily(Subject subject, long family) {
        return jdbc.sql(
                        """
                        select '/messages/' || (extract(epoch from at) * 1000000)::bigint || '-' || id from failed_message
                         where component_id = :id and family_id = :family""")
                .param("id", subject.id())
                .param("family", family)
                .query(String.class)
                .single();
    }

    @Test
    void manyFailuresOfOneFamilyAreOneCaseForEachInterface() throws Exception {
        var one = subject();
        var other = subject();
        sorting(one, "refused", false);
        sorting(other, "refused", false);
        var events = new ArrayList<Map<String, Object>>();
        for (int i = 0; i < 40; i++)
            events.add(failed(i % 4 == 0 ? other : one, Map.of("error", "gangway " + i + " refused the pass")));
        assertThat(send(events).statusCode()).isEqualTo(202);
        eventually(() -> {
            assertThat(caseOf(one).get("failures")).isEqualTo(30L);
            assertThat(caseOf(other).get("failures")).isEqualTo(10L);
        });
        send(List.of(failed(one, Map.of("error", "gangway 7 refused the pass"))));
        eventually(() -> assertThat(caseOf(one).get("failures")).isEqualTo(31L));
        assertThat(caseOf(one).get("headline").toString()).startsWith("31 failed on Interface " + one.key());
    }

    @Test
    void aPatternThatOthersTakeForeverOverTakesNothingFromTheRest() throws Exception {
        var subject = subject();
        var lead = loggedIn("lead");
        lead.post(
                "/messages/rules",
                form(subject, "Slow " + subject.key(), "&kind1=matches&value1=" + Browser.encoded("(.|\\n)*timeout")));
        assertThat(send(List.of(failed(subject, Map.of("error", "a\n".repeat(4000) + "!"))))
                        .statusCode())
                .isEqualTo(202);
        assertThat(took(subject, catchAll())).isEqualTo(1);
    }

    @Test
    void aRuleThatFailedSaysSoOnItsPage() throws Exception {
        var subject = subject();
        var rule = sorting(subject, "refused", false);
        rules.stopped(rule.id(), 3L);
        assertThat(loggedIn("lead").get("/messages/rules/" + rule.id()).body())
                .containsPattern(Pattern.compile("had to be stopped", Pattern.CASE_INSENSITIVE));
    }

    @Test
    void whatNoPatternMayDoIsRefusedAtItsFieldWithThePlace() throws Exception {
        var subject = subject();
        var answer = loggedIn("lead")
                .post(
                        "/messages/rules",
                        form(subject, "Ahead " + subject.key(), "&kind1=matches&value1=" + Browser.encoded("a(?=b)")));
        assertThat(Browser.shown(answer, 422).text())
                .containsIgnoringCase("the pattern cannot be read at character 2")
                .contains("looking ahead or behind");
    }
}
