package app.morvet.views.shift;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.ground.duty.Rotas;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Whoever comes in sees what is wrong, who has it, what is coming and what is new. */
class ShiftPagesTest extends AtAShift {
    @Autowired
    private ShiftNotes notes;

    @Autowired
    private Handovers handovers;

    @Autowired
    private Rotas rotas;

    private static Element row(Document page, Subject of) {
        var found = page.select(".shift-row").stream()
                .filter(one -> one.select(".shift-name").text().equals("Application of " + of.key()))
                .toList();
        assertThat(found).as(page.select(".shift-name").text()).hasSize(1);
        return found.getFirst();
    }

    /** Whether it is one of those that are shown only to who asks for them. */
    private boolean isQuiet() throws Exception {
        return analyst.page("/shift/quiet?team=team-" + host.key())
                .select(".shift-name")
                .eachText()
                .contains("Application of " + host.key());
    }

    /** Of its team alone, since of many applications in trouble the first are shown. */
    private Element row() throws Exception {
        return row(analyst.page("/shift?team=team-" + host.key()), host);
    }

    private List<String> phrases() throws Exception {
        return row().select(".shift-phrase").eachText();
    }

    @Test
    void theRestOfManyInTroubleIsFetchedByItself() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var rest = analyst.page("/shift/rest?team=team-" + host.key()).select("#shift-rest-now");
        assertThat(rest.attr("data-live-src")).isEqualTo("/shift/rest?only=&team=team-" + host.key());
        assertThat(rest.select(".shift-row")).as("it is among the first").isEmpty();
        assertThat(analyst.page("/shift?team=team-" + host.key()).select("#shift-rest"))
                .isEmpty();
    }

    @Test
    void whatIsWrongIsALinkToItsCaseAndSaysWhoHasIt() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var one = theCase(host);
        var phrase = row().select(".shift-phrase").first();
        assertThat(phrase.select("a").attr("href")).isEqualTo("/cases/" + one.id());
        assertThat(phrase.text()).startsWith(name + " on The " + host.key() + " since ");
        assertThat(phrase.text()).doesNotContain("Pia Lumme");
        cases.take(one.id(), one.version(), person("other"), Instant.now());
        assertThat(phrases().getFirst()).endsWith(", Pia Lumme");
    }

    @Test
    void eachCaseIsSaidOnceAndManyOfOneGuardTogether() throws Exception {
        var other = beside(host);
        var second = guard("also hot");
        raised(guard, host, minute, WARNING, 3);
        raised(second, host, minute, CRITICAL, 9);
        assertThat(phrases()).as("two alerts, one case: the worse of them").hasSize(1);
        raised(second, other, minute, CRITICAL, 9);
        var phrase = row().select(".shift-phrase");
        assertThat(phrase).hasSize(1);
        assertThat(phrase.text()).contains(" on 2 since ");
        var all = analyst.page(phrase.select("a").attr("href"));
        assertThat(all.select("#case-rows .row-link")).hasSize(2);
        assertThat(all.text()).contains("only of Application of " + host.key());
    }

    /** As the production and the rehearsal of one are. */
    @Test
    void applicationsOfOneNameAreToldApart() throws Exception {
        var twin = estate.addApplication(
                "twin-" + host.key(), "Application of " + host.key(), 1, "rehearsal", host.team());
        raised(guard, host, minute, CRITICAL, 9);
        var rows = analyst.page("/shift?team=team-" + host.key()).select(".shift-row:has(.shift-phrase)");
        assertThat(rows).as("only the one that it is, and not %d", twin).hasSize(1);
    }

    /** Though what has been is read once for all who look in a minute. */
    @Test
    void whatMovesStandsOnTheTrackAtOnce() throws Exception {
        raised(guard, host, minute - 60, WARNING, 3);
        assertThat(row().select(".piece-warning title").text()).startsWith("warning since ");
        rose(guard, host, minute - 30, 9);
        assertThat(row().select(".piece-critical title").text()).startsWith("critical since ");
        cleared(guard, host, minute, 9);
        var over = row(analyst.page("/shift/quiet?team=team-" + host.key()), host);
        assertThat(over.select(".piece-critical title").text()).startsWith("critical, ");
    }

    @Test
    void theTrackStandsUpWhereTroubleWasAndIsHatchedWhereWorkIsPlanned() throws Exception {
        raised(guard, host, minute - 60, CRITICAL, 9);
        cleared(guard, host, minute - 30, 9);
        window(30, 90);
        var row = row(analyst.page("/shift/quiet"), host);
        assertThat(row.select(".shift-phrase")).as("it is over").isEmpty();
        assertThat(row.select(".piece-critical title").text()).startsWith("critical, ");
        assertThat(row.select(".bar-hold title").text()).startsWith("Work on " + host.key());
        double now = Double.parseDouble(row.select(".ahead").attr("x"));
        assertThat(Double.parseDouble(row.select(".bar-hold rect").attr("x"))).isGreaterThan(now);
        assertThat(Double.parseDouble(row.select(".piece-critical rect").attr("x")))
                .isBetween(now - 30, now);
        assertThat(analyst.page("/shift").select(".shift-coming").text())
                .contains("window begins: Work on " + host.key());
    }

    @Test
    void theHoursOverTheTracksStandWhole() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var hours = analyst.page("/shift?team=team-" + host.key()).select(".shift-axis text");
        assertThat(hours).hasSizeBetween(7, 8);
        assertThat(hours.eachAttr("x").stream().map(Double::parseDouble))
                .allSatisfy(x -> assertThat(x).isBetween(7.0, EstateLook.WIDTH - 7.0));
    }

    @Test
    void whatIsQuietIsFoldedAway() throws Exception {
        var page = analyst.page("/shift");
        assertThat(page.select("#shift-quiet summary").text()).contains(" steady: ");
        assertThat(page.select("#shift-quiet").attr("hx-get")).isEqualTo("/shift/quiet?team=");
        assertThat(analyst.page("/shift/quiet?team=team-" + host.key())
                        .select("#shift-quiet-now")
                        .attr("data-live-src"))
                .as("what somebody has opened stays as it is now")
                .isEqualTo("/shift/quiet?team=team-" + host.key());
        assertThat(isQuiet()).isTrue();
        raised(guard, host, minute, WARNING, 3);
        assertThat(isQuiet()).isFalse();
        assertThat(row().classNames()).contains("shift-row");
    }

    @Test
    void thePartsOfTheSentenceAndTheTeamsAreFilters() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var page = analyst.page("/shift");
        assertThat(page.select(".shift-sentence a").eachAttr("href")).contains("/shift?only=limit&team=");
        assertThat(row(analyst.page("/shift?only=limit&team=team-" + host.key()), host)
                        .select(".shift-phrase"))
                .hasSize(1);
        assertThat(analyst.page("/shift?only=silent").text()).doesNotContain("Application of " + host.key());
        assertThat(analyst.page("/shift?team=team-" + host.key())
                        .select(".shift-row .shift-name")
                        .eachText())
                .containsExactly("Application of " + host.key());
        assertThat(analyst.page("/shift?team=team-" + host.key())
                        .select(".shift-sentence a")
                        .eachText())
                .containsExactly("1 over a limit");
    }

    @Test
    void theTeamThatWasChosenStaysChosenUntilAllAre() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var team = "team-" + host.key();
        analyst.page("/shift?team=" + team);
        var again = analyst.page("/shift");
        assertThat(again.select("#shift-team option[selected]").eachAttr("value"))
                .containsExactly(team);
        assertThat(again.select(".shift-row .shift-name").eachText()).containsExactly("Application of " + host.key());
        assertThat(freshlyLoggedIn("analyst").page("/shift").select("#shift-team option[selected]"))
                .as("elsewhere")
                .isEmpty();
        analyst.page("/shift?team=", "HX-Request", "true", "HX-Target", "shift-estate");
        assertThat(analyst.page("/shift").select("#shift-team option[selected]"))
                .as("another tab that fetches itself anew chooses nothing")
                .hasSize(1);
        analyst.page("/shift?team=", "HX-Request", "true", "HX-Target", "shift-estate", "HX-Trigger", "shift-team");
        assertThat(analyst.page("/shift").select("#shift-team option[selected]"))
                .isEmpty();
        analyst.page("/shift?team=nobody%0D%0Aknows");
        assertThat(analyst.page("/shift").select("#shift-team option[selected]"))
                .as("what is none is forgotten")
                .isEmpty();
        analyst.page("/shift?team=" + team);
        analyst.page("/shift?team=");
        assertThat(analyst.page("/shift").select("#shift-team option[selected]"))
                .isEmpty();
    }

    /** What somebody has decided on is not told again while it stays up. */
    @Test
    void whatWasSettledWhileItWasUpIsNotWrongAnyMore() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var one = theCase(host);
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.FALSE_CALL, "", Instant.now());
        assertThat(isQuiet()).isTrue();
    }

    @Test
    void whoeverTakesOverHasTheShift() throws Exception {
        var other = loggedIn("other");
        other.post("/shift/taken", "");
        assertThat(other.page("/shift").select(".shift-turn").text()).startsWith("You have the shift since ");
        var turn = analyst.page("/shift").select(".shift-turn");
        assertThat(turn.text()).startsWith("Pia Lumme has the shift since ");
        assertThat(turn.select("button").text()).isEqualTo("Take over");
        analyst.post("/shift/taken", "");
        assertThat(analyst.page("/shift").select(".shift-turn button")).isEmpty();
        // A minute from now at least: another may have begun since the test did.
        raised(guard, host, minute + 7, CRITICAL, 9);
        assertThat(other.page("/shift").select("#shift-side section").last().text())
                .as("new to who was relieved")
                .contains("case opened");
    }

    @Test
    void openWorkSaysWhoseItIs() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), Instant.now());
        assertThat(analyst.page("/shift")
                        .select(".shift-counts a[href=/cases?show=mine]")
                        .text())
                .endsWith(" yours");
    }

    /** It stands above what is worse, though all may be over there. */
    @Test
    void openWorkThatATeamReturnedSaysWhy() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var one = theCase(host);
        var mine = "/shift?team=team-" + host.key();
        assertThat(analyst.page(mine).select(".shift-work .reason")).isEmpty();
        cases.returned(one.id(), "Platform", "not ours", Instant.now());
        assertThat(analyst.page(mine)
                        .select(".shift-work li:has(a[href=/cases/%d]) .reason".formatted(one.id()))
                        .text())
                .isEqualTo("Returned: not ours");
    }

    @Test
    void theDayIsDividedIntoShiftsAndTheOneThatIsOnIsSaid() throws Exception {
        var lead = loggedIn("lead");
        assertThat(analyst.post("/shift/plan", Map.of("plan", "06:00 early")).statusCode())
                .isEqualTo(403);
        var wrong = Browser.shown(lead.post("/shift/plan", Map.of("plan", "six: early")), 422);
        assertThat(wrong.select(".refusal").text()).contains("is no shift");
        assertThat(wrong.select("textarea").text()).isEqualTo("six: early");
        lead.post("/shift/plan", Map.of("plan", "00:00 whole day"));
        try {
            assertThat(analyst.page("/shift/log").select("#nowline").text()).contains("whole day until ");
            assertThat(analyst.page("/shift").select(".shift-turn").text()).contains("whole day, ");
            assertThat(lead.page("/shift/plan").text()).contains("On now: whole day, ");
        } finally {
            lead.post("/shift/plan", Map.of("plan", ""));
        }
        assertThat(analyst.page("/shift/log").select("#nowline").text()).doesNotContain("whole day");
    }

    @Test
    void theRotaOfATeamSaysWhoHasTheShift() throws Exception {
        var lead = loggedIn("lead");
        var team = estate.team(host.team()).orElseThrow();
        var member = person("other");
        var turns = new Turns(
                LocalDate.now().minusDays(3), LocalTime.of(0, 0), Turns.Every.DAYS, 7, List.of(member.id()), null);
        rotas.join(team.id(), member.id(), null);
        rotas.set(team.id(), rotas.of(team.id()).version(), ZoneId.of("Europe/Helsinki"), 0, turns, null);
        assertThat(Browser.shown(lead.post("/shift/plan", Map.of("plan", "", "team", "none")), 422)
                        .select(".refusal")
                        .text())
                .isEqualTo("There is no team \"none\".");
        try {
            lead.post("/shift/plan", Map.of("plan", "", "team", team.key()));
            assertThat(lead.page("/shift/plan").select("option[selected]").text())
                    .isEqualTo(team.name());
            assertThat(analyst.page("/shift/log").select("#nowline").text()).contains(member.name() + " until ");
            lead.post("/shift/plan", Map.of("plan", "00:00 whole day", "team", team.key()));
            assertThat(analyst.page("/shift").select(".shift-turn").text())
                    .containsPattern("whole day, .*, " + member.name());
            // Who is away has no shift, and nobody is said to.
            rotas.say(
                    team.id(),
                    new Rota.Change.Away(
                            member.id(),
                            Instant.now().minusSeconds(60),
                            Instant.now().plusSeconds(3600)),
                    null);
            assertThat(analyst.page("/shift")
                            .select(".shift-turn .soft:contains(whole day)")
                            .text())
                    .contains("whole day, ")
                    .doesNotContain(member.name());
        } finally {
            lead.post("/shift/plan", Map.of("plan", "", "team", ""));
        }
    }

    /** A forecast says in how many hours it crosses; what tells how many days it has left runs out then. */
    @Test
    void whatIsForetoldAndWhatRunsOutIsAmongWhatIsComing() throws Exception {
        var foretold = trendGuard("Fills");
        raised(foretold, host, minute, WARNING, 3);
        tell("# TYPE certificate_days_left gauge\ncertificate_days_left{component=\"%s\"} 0.2 %d\n"
                .formatted(host.key(), Instant.now().toEpochMilli()));
        var coming = analyst.page("/shift").select("h2:contains(Coming) + *").text()
                + analyst.page("/shift").text();
        assertThat(coming)
                .contains("heat is 3.0 on " + host.key())
                .contains("the certificate of The " + host.key() + " runs out");
    }
}
