package app.morvet.work.callouts;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.Watch;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Rules as leads make them, with what each would have told; and who would be told of anything. */
class CallOutRulePagesTest extends ToldPeople {
    @Autowired
    private RuleRehearsal rehearsal;

    /** As the form of a new rule has them; it is the same each time. */
    private static final Map<String, String> OFFERED = new HashMap<>();

    private Browser lead;
    private long first;

    @BeforeEach
    void somebodyOnDuty() throws Exception {
        host = component("host");
        first = onDuty(0, "Otso", "");
        lead = loggedIn("lead");
    }

    /** The form of a new rule for the host. */
    private Map<String, String> form(String name) throws Exception {
        if (OFFERED.isEmpty()) OFFERED.putAll(offered());
        var fields = new HashMap<>(OFFERED);
        fields.put("name", name);
        fields.put("pattern", host.key());
        return fields;
    }

    private Map<String, String> offered() throws Exception {
        var page = lead.page("/callouts/rules/new");
        var fields = new HashMap<String, String>();
        page.select("main form").first().select("input[name], select[name]").forEach(one -> {
            if (one.attr("type").equals("checkbox") && !one.hasAttr("checked")) return;
            var chosen = one.select("option[selected]").first();
            fields.put(
                    one.attr("name"),
                    one.tagName().equals("select")
                            ? chosen == null ? one.select("option").first().val() : chosen.val()
                            : one.val());
        });
        fields.remove("_csrf");
        return fields;
    }

    @Test
    void aRuleIsMadeAsASentenceAndStandsInItsPlace() throws Exception {
        var fields = form("Night of " + host.key());
        fields.put("whom2", "address");
        fields.put("address2", "night@sundrava.example");
        fields.put("after2", "20 min");
        fields.put("ways2", "MAIL");
        fields.put("again", "30 min");
        assertThat(Browser.to(lead.post("/callouts/rules/save", fields))).isEqualTo("/callouts/rules");
        var shown = lead.page("/callouts/rules");
        var rows = shown.select(".rules-in-order li");
        assertThat(rows.last().select("h2").text()).isEqualTo("Any other critical case");
        assertThat(rows.get(rows.size() - 2).text())
                .contains("Night of " + host.key())
                .contains(
                        "When a critical case of The " + host.key()
                                + " opens, tell the first line of its team by text message, else by mail;"
                                + " if nobody has it after 15 min, the second line of its team by text message, else by mail;"
                                + " if nobody has it after 20 min, night@sundrava.example by mail. Tell them all again every 30 min");
    }

    /** A script gives the other steps their choices; eight times hundreds would be a page that is waited for. */
    @Test
    void whoCanBeToldIsOnThePageOnceAndWhoIsChosenAtEachStep() throws Exception {
        var page = lead.page("/callouts/rules/new");
        assertThat(page.select("main option").eachText())
                .contains("the first line of its team")
                .containsOnlyOnce("all of Team of " + host.key());
        assertThat(page.select("[data-choices-of=whom0]")).hasSize(7);
        assertThat(page.select("#whom1 option").eachText())
                .containsExactly("nobody further", "the second line of its team");
        assertThat(page.select("#whom1 option[selected]").eachText()).containsExactly("the second line of its team");
        assertThat(page.select("#whom2 option").eachText()).containsExactly("nobody further");
    }

    @Test
    void whatCannotBeIsSaidWithItsStepAndNothingTypedIsLost() throws Exception {
        var fields = form("Wrong");
        fields.put("after1", "soon");
        var answer = lead.post("/callouts/rules/save", fields);
        assertThat(answer.statusCode()).isEqualTo(422);
        var page = Browser.shown(answer, 422);
        assertThat(page.select(".refusal").first().text())
                .isEqualTo("Step 2: \"soon\" is not a duration; write it such as 15 min, 3 h or 2 days.");
        assertThat(page.select("[name=after1]").val()).isEqualTo("soon");
        assertThat(page.select("[name=name]").val()).isEqualTo("Wrong");
        fields.put("after1", "");
        assertThat(lead.post("/callouts/rules/preview", fields).body())
                .contains("Say how long whoever is told before has to take it.");
    }

    @Test
    void aPreviewSaysWhomItWouldHaveToldAndOfWhatNobodyWouldHaveHeard() throws Exception {
        int minute = (int) Duration.between(T, Instant.now()).toMinutes();
        raised(guard("Hot"), host, minute - 60, CRITICAL, 9);
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), at(minute - 55));
        var fields = form("Preview");
        var text =
                Browser.shown(lead.post("/callouts/rules/preview", fields), 200).text();
        assertThat(text).contains("1 message by this rule", "Otso of " + host.key());
        // Told by text message alone, and whoever is on duty has no telephone.
        fields.put("ways0", "TEXT");
        fields.put("whom1", "");
        text = Browser.shown(lead.post("/callouts/rules/preview", fields), 200).text();
        assertThat(text).contains("Nobody would have heard of:").contains("0 messages by this rule");
        var rules = new ArrayList<>(List.of(CallOutRuleForm.read(fields, ZONE)));
        rules.add(rulesOfCallOuts.all().getLast().rule());
        assertThat(rehearsal.of(rules).untold())
                .extracting(RuleRehearsal.Untold::id)
                .contains(one.id());
    }

    /** Times that stand in the fields of steps are of no use to a digest, and in nobody's way. */
    @Test
    void aDigestIsMadeWithoutClearingTheTimesOfTheSteps() throws Exception {
        var fields = form("Morning of " + host.key());
        fields.put("digest", "DAY");
        assertThat(lead.post("/callouts/rules/preview", fields).body())
                .contains(
                        "tell every day at 07:00 in one message, the first line of its team by text message, else by mail, and the"
                                + " second line of its team");
        fields.put("whom0", "address");
        fields.put("address0", "");
        assertThat(lead.post("/callouts/rules/preview", fields).body()).contains("Step 1: type the mail address.");
    }

    @Test
    void analystsSeeRulesAndLeadsMakeThem() throws Exception {
        var analyst = loggedIn("analyst");
        assertThat(analyst.page("/callouts/rules").select("a.btn")).isEmpty();
        assertThat(analyst.post("/callouts/rules/save", form("Mine")).statusCode())
                .isEqualTo(403);
        assertThat(analyst.post("/callouts/rules/preview", form("Mine")).statusCode())
                .isEqualTo(200);
    }

    @Test
    void theOrderIsChangedAndTheLastStaysTheLast() throws Exception {
        lead.post("/callouts/rules/save", form("One of " + host.key()));
        lead.post("/callouts/rules/save", form("Two of " + host.key()));
        var ours = rulesOfCallOuts.all().stream()
                .filter(one -> one.rule().name().endsWith(" of " + host.key()))
                .toList();
        lead.post("/callouts/rules/" + ours.getLast().id() + "/move", Map.of("to", "up"));
        assertThat(rulesOfCallOuts.all().stream()
                        .map(one -> one.rule().name())
                        .filter(name -> name.endsWith(" of " + host.key())))
                .containsExactly("Two of " + host.key(), "One of " + host.key());
        lead.post("/callouts/rules/" + ours.getFirst().id() + "/move", Map.of("to", "down"));
        assertThat(rulesOfCallOuts.all().getLast().catches()).isTrue();
        lead.post("/callouts/rules/" + ours.getLast().id() + "/delete", Map.of("version", "1"));
        assertThat(rulesOfCallOuts.all())
                .noneMatch(one -> one.id() == ours.getLast().id());
        assertThat(lead.get("/callouts/rules/" + ours.getLast().id()).statusCode())
                .isEqualTo(404);
    }

    @Test
    void whoWouldBeToldIsSaidWithTheReason() throws Exception {
        var page = lead.page("/callouts/who?pattern=" + host.key());
        assertThat(page.text())
                .contains("a host of Team of " + host.key())
                .contains("Any other critical case")
                .contains("Otso of " + host.key() + " by mail to " + mail(first))
                .contains("nobody: nobody is on duty in the second line of Team of " + host.key());
        assertThat(lead.page("/callouts/who?pattern=" + host.key() + "&severity=WARNING")
                        .text())
                .contains("Nobody: no rule takes it.");
        assertThat(lead.page("/callouts/who?pattern=nothing-like-it")
                        .select("[role=alert]")
                        .text())
                .contains("There is no component \"nothing-like-it\".");
    }

    @Test
    void whomAnApplicationReachesIsSaid() throws Exception {
        beside(host);
        var page = lead.page("/callouts/reach?application=app-" + host.key());
        assertThat(page.select("section h2"))
                .as("the same people would be told of both")
                .hasSize(1);
        assertThat(page.text())
                .contains("2 components of Team of " + host.key())
                .contains("Otso of " + host.key() + " by mail to " + mail(first));
        assertThat(lead.page("/callouts/reach?severity=NOTICE&application=app-" + host.key())
                        .text())
                .contains("Nobody: no rule takes it.");
        assertThat(lead.get("/callouts/reach?application=nowhere").statusCode()).isEqualTo(404);
    }

    @Test
    void whomAGuardReachesIsSaidOfTwentyTeamsAtATime() throws Exception {
        for (int i = 1; i <= 21; i++) subject(host.key() + "-ring-" + i, "Ring ", "host");
        long guard = guard("Ring", Watch.of("heat").named(host.key() + "-ring-*"), Amount.Fold.MEAN, "");
        var page = lead.page("/callouts/reach?severity=WARNING&guard=" + guard);
        assertThat(page.select("h1").first().text())
                .startsWith("Whom the guard Ring ")
                .endsWith(" reaches");
        assertThat(page.select("section h2")).hasSize(20);
        assertThat(page.select(".more a").eachText()).containsExactly("Later");
        var rest = lead.page(page.select(".more a").attr("href"));
        assertThat(rest.select("section h2").eachText())
                .singleElement()
                .asString()
                .startsWith("1 component of Team of");
        assertThat(rest.select("option[selected]").attr("value")).isEqualTo("WARNING");
        assertThat(rest.select(".more a").eachText()).containsExactly("Earlier");
    }

    @Test
    void whomASortingRuleReachesIsSaidOfWhatItMayTake() throws Exception {
        var subject = subject();
        var rule = sorting(subject, "refused", false);
        var page = lead.page("/callouts/reach?severity=CRITICAL&sorting=" + rule.id());
        assertThat(page.select("h1").first().text()).isEqualTo("Whom the sorting rule " + rule.name() + " reaches");
        assertThat(page.select("section h2").eachText())
                .singleElement()
                .asString()
                .startsWith("1 component of Team of " + subject.key());
        assertThat(lead.page("/callouts/reach?sorting=" + rule.id())
                        .select("option[selected]")
                        .attr("value"))
                .as("as bad as its alerts")
                .isEqualTo("WARNING");
        assertThat(lead.page("/messages/rules/" + rule.id())
                        .select("a[href=/callouts/reach?sorting=" + rule.id() + "]"))
                .hasSize(1);
        assertThat(lead.get("/callouts/reach?sorting=999999").statusCode()).isEqualTo(404);
    }

    @Test
    void aRuleIsTriedTheWholeWay() throws Exception {
        lead.post("/callouts/rules/save", form("Tried of " + host.key()));
        long id = rulesOfCallOuts.all().stream()
                .filter(one -> one.rule().name().equals("Tried of " + host.key()))
                .findFirst()
                .orElseThrow()
                .id();
        lead.post("/callouts/rules/" + id + "/test", Map.of("team", "" + host.team()));
        eventually(() -> {
            var mails = MAIL.getReceivedMessagesForDomain(mail(first));
            assertThat(mails).hasSize(1);
            assertThat(mails[0].getSubject()).startsWith("Test of the call-out rule");
            assertThat(Mailed.text(mails[0])).contains("There is nothing to do").doesNotContain("/take/");
        });
        eventually(() -> assertThat(
                        lead.page("/callouts/rules/" + id).select("#tests").text())
                .contains(mail(first) + " by mail", "sent"));
        var nobody = component("host");
        var answer = lead.post("/callouts/rules/" + id + "/test", Map.of("team", "" + nobody.team()));
        assertThat(answer.statusCode()).isEqualTo(422);
        assertThat(answer.body()).contains("Nobody would be told: nobody is on duty in the first line of");
    }
}
