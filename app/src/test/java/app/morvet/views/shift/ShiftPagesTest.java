package app.morvet.views.shift;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import app.morvet.ToldAlerts;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.cases.SettleReason;
import app.morvet.core.duty.Rota;
import app.morvet.core.duty.Turns;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.duty.Rotas;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Whoever comes in sees what is wrong, who has it, what is coming and what is new. */
class ShiftPagesTest extends ToldAlerts {
    @Autowired
    private Windows windows;

    @Autowired
    private ShiftNotes notes;

    @Autowired
    private Handovers handovers;

    @Autowired
    private Rotas rotas;

    private Subject host;
    private long guard;
    private String name = "";
    private int minute;
    private Browser analyst;

    @BeforeEach
    void somethingToWatch() throws Exception {
        host = component("host");
        guard = guard("hot");
        name = guards.all().stream()
                .filter(one -> one.id() == guard)
                .findFirst()
                .orElseThrow()
                .name();
        minute = (int) Duration.between(T, Instant.now()).toMinutes() - 5;
        analyst = loggedIn("analyst");
    }

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

    private List<String> phrases(String path) throws Exception {
        return row(analyst.page(path), host).select(".shift-phrase").eachText();
    }

    @Test
    void whatIsWrongIsALinkToItsCaseAndSaysWhoHasIt() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var one = theCase(host);
        var phrase = row(analyst.page("/shift"), host).select(".shift-phrase").first();
        assertThat(phrase.select("a").attr("href")).isEqualTo("/cases/" + one.id());
        assertThat(phrase.text()).startsWith(name + " on The " + host.key() + " since ");
        assertThat(phrase.text()).doesNotContain("Pia Lumme");
        cases.take(one.id(), one.version(), person("other"), Instant.now());
        assertThat(phrases("/shift").getFirst()).endsWith(", Pia Lumme");
    }

    @Test
    void eachCaseIsSaidOnceAndManyOfOneGuardTogether() throws Exception {
        var other = beside(host);
        var second = guard("also hot");
        raised(guard, host, minute, WARNING, 3);
        raised(second, host, minute, CRITICAL, 9);
        assertThat(phrases("/shift"))
                .as("two alerts, one case: the worse of them")
                .hasSize(1);
        raised(second, other, minute, CRITICAL, 9);
        var phrase = row(analyst.page("/shift"), host).select(".shift-phrase");
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

    private void window(int from, int to) {
        var now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        windows.set(StoredWindow.fresh(new MaintenanceWindow(
                "Work on " + host.key(),
                Scope.ALL.named(host.key()),
                Plan.once(now.plusSeconds(60L * from), now.plusSeconds(60L * to), ZoneId.of("Europe/Helsinki")),
                MaintenanceWindow.Effect.HOLD,
                MaintenanceWindow.Jobs.AS_EVER,
                "new firmware")));
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
        assertThat(row(analyst.page("/shift"), host).classNames()).contains("shift-row");
    }

    @Test
    void thePartsOfTheSentenceAndTheTeamsAreFilters() throws Exception {
        raised(guard, host, minute, WARNING, 3);
        var page = analyst.page("/shift");
        assertThat(page.select(".shift-sentence a").eachAttr("href")).contains("/shift?only=limit&team=");
        assertThat(phrases("/shift?only=limit")).hasSize(1);
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
        raised(guard, host, minute + 6, CRITICAL, 9);
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

    @Test
    void aNoteComesBackToTheNowLineAtItsTime() throws Exception {
        var words = "Look at " + host.key();
        assertThat(analyst.post("/shift/notes", Map.of("note", " ", "remind", ""))
                        .body())
                .contains("Say what is to be noted.");
        var wrong = analyst.post("/shift/notes", Map.of("note", words, "remind", "25:99"));
        assertThat(Browser.shown(wrong, 422).select("textarea").text())
                .as("what was typed stays")
                .isEqualTo(words);
        notes.write(person("analyst").id(), words, false, Instant.now().plusSeconds(2), Instant.now());
        assertThat(analyst.page("/shift/log").select("tr:contains(" + words + ") form"))
                .hasSize(1);
        eventually(() -> assertThat(notes.now()).singleElement().satisfies(one -> assertThat(one.words())
                .contains("to look at")));
        var form = analyst.page("/shift/log")
                .select("tr:contains(" + words + ") form")
                .attr("action");
        analyst.post(form, "");
        assertThat(notes.now()).isEmpty();
        assertThat(analyst.page("/shift/log").select(".shift-log").text()).contains(words);
    }

    @Test
    void theLogWritesItselfAndIsFoundByWords() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("other"), Instant.now());
        var lines = analyst.page("/shift/log?words=" + host.key())
                .select(".shift-log tr")
                .eachText();
        assertThat(lines).anyMatch(line -> line.matches(".* case heat is 9.0 on " + host.key() + ": opened"));
        assertThat(lines)
                .anyMatch(line -> line.contains(" case Pia Lumme heat is 9.0") && line.endsWith(": took the case"));
        assertThat(lines)
                .anyMatch(line -> line.contains("call-out") && line.contains("was told: Critical: heat is 9.0"));
        window(60, 90);
        assertThat(analyst.page("/shift/log?words=Work+on+" + host.key()).text())
                .as("what is to come is no part of it")
                .contains("Nothing in the log has these words.");
        assertThat(analyst.page("/shift/log?words=100%25_").text()).contains("Nothing in the log has these words.");
    }

    @Test
    void theHandoverIsDraftedWrittenInVersionsAndReadByTheNext() throws Exception {
        analyst.post("/shift/taken", "");
        raised(guard, host, minute + 5, CRITICAL, 9);
        notes.write(person("analyst").id(), "The harbour calls back about " + host.key(), true, null, Instant.now());
        var draft = analyst.page("/shift/handover").select("textarea").text();
        assertThat(draft)
                .contains("heat is 9.0 on " + host.key() + " (case " + caseId() + "): new, nobody has it")
                .contains("Annika Ruuth: The harbour calls back about " + host.key());
        assertThat(analyst.post("/shift/handover", Map.of("words", draft, "version", "0"))
                        .statusCode())
                .isEqualTo(302);
        var late = analyst.post("/shift/handover", Map.of("words", "typed meanwhile", "version", "0"));
        assertThat(Browser.shown(late, 422).select(".refusal").text()).startsWith("Annika Ruuth has written at ");
        assertThat(Browser.shown(late, 422).select("textarea").text()).isEqualTo("typed meanwhile");
        analyst.post(
                "/shift/handover", Map.of("words", "**All** is well\n\n<script>alert(1)</script>", "version", "1"));
        var other = loggedIn("other");
        other.post("/shift/taken", "");
        var taken = handovers.taken().orElseThrow();
        assertThat(taken.takenBy()).isEqualTo("Pia Lumme");
        var read = other.page("/shift/handover/" + taken.id());
        assertThat(read.select(".handover-read")).hasSize(2);
        assertThat(read.select(".handover-read strong").first().text()).isEqualTo("All");
        assertThat(read.select(".handover-read script")).isEmpty();
        assertThat(read.text()).contains("Pia Lumme took over at ");
        assertThat(other.get("/shift/handover/" + taken.id() + ".md").body()).startsWith("**All** is well");
        assertThat(handovers.waiting()).as("the next is a new one").isEmpty();
        assertThat(other.get("/shift/handover/999999").statusCode()).isEqualTo(404);
    }

    private long caseId() {
        return theCase(host).id();
    }

    @Test
    void whatANoteNamesIsALinkAndWhoIsNamedIsTold() throws Exception {
        raised(guard, host, minute, CRITICAL, 9);
        var id = caseId();
        analyst.post("/shift/taken", "");
        loggedIn("other").post("/shift/taken", "");
        notes.write(
                person("other").id(),
                "@analyst see #%d on %s <b>".formatted(id, host.key()),
                false,
                null,
                Instant.now());
        var line = analyst.page("/shift/log?words=see+%23" + id).select(".shift-log tr td:last-child");
        assertThat(line.text()).isEqualTo("@analyst see #%d on %s <b>".formatted(id, host.key()));
        assertThat(line.select("a").eachAttr("href"))
                .containsExactly("/cases/" + id, "/estate/components/" + host.key());
        assertThat(line.select("b").text()).isEqualTo("@analyst");
        assertThat(analyst.page("/shift").text()).contains("1 note names you");
        assertThat(loggedIn("other").page("/shift").text()).doesNotContain("names you");
    }

    @Test
    void eachLineOfTheLogHasAnAddressThatStays() throws Exception {
        var at = Instant.now().minus(Duration.ofDays(3)).truncatedTo(ChronoUnit.MILLIS);
        notes.write(person("analyst").id(), "long ago on " + host.key(), false, null, at);
        notes.write(person("analyst").id(), "a little later on " + host.key(), false, null, at.plusSeconds(1));
        var found = analyst.page("/shift/log?words=long+ago+on+" + host.key()).select(".shift-log a.quiet-link");
        var there = analyst.page(found.attr("href"));
        assertThat(there.select(".shift-log tr.asked").text()).contains("long ago on " + host.key());
        assertThat(there.select(".shift-log").text())
                .as("it stands on top, with what was before it")
                .doesNotContain("a little later");
        for (var none : List.of("yesterday", "%2B999999999-12-31T23:59:59Z", "-1000-01-01T00:00:00Z"))
            assertThat(analyst.get("/shift/log?until=" + none).statusCode())
                    .as(none)
                    .isEqualTo(400);
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
            assertThat(analyst.page("/shift").select(".shift-turn").text())
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

    @Test
    void theHandoverIsThereAsPdf() throws Exception {
        handovers.write(
                person("analyst").id(),
                "# Handover\n\n- **quay-03** fills → look",
                handovers.waiting().map(Handovers.Written::version).orElse(0),
                Instant.now());
        var id = handovers.waiting().orElseThrow().id();
        var bytes = HandoverPdf.of(handovers.waiting().orElseThrow().words());
        try (var document = Loader.loadPDF(bytes)) {
            assertThat(new PDFTextStripper().getText(document))
                    .contains("Handover")
                    .contains("• quay-03 fills → look");
        }
        assertThat(analyst.get("/shift/handover/" + id + ".pdf").headers().firstValue("content-type"))
                .contains("application/pdf");
        assertThat(analyst.get("/shift/handover/99999.pdf").statusCode()).isEqualTo(404);
    }

    @Test
    void theHandoverIsSentToThoseWhoAreNotThere() throws Exception {
        var before = handovers.waiting().map(Handovers.Written::version).orElse(0);
        handovers.write(person("analyst").id(), "# Handover\nAll of " + host.key() + " is well", before, Instant.now());
        var to = "night-" + host.key() + "@sundrava.example";
        assertThat(analyst.post("/shift/handover/send", Map.of("address", to)).statusCode())
                .isEqualTo(302);
        eventually(() -> assertThat(MAIL.getReceivedMessagesForDomain(to)).hasSize(1));
        var mail = MAIL.getReceivedMessagesForDomain(to)[0];
        assertThat(mail.getSubject()).startsWith("Handover by Annika Ruuth, ");
        assertThat(Mailed.text(mail))
                .contains("All of " + host.key() + " is well")
                .contains("/shift/handover/" + handovers.waiting().orElseThrow().id());
        analyst.post("/shift/handover/send", Map.of("team", "team-" + host.key()));
        eventually(() -> assertThat(MAIL.getReceivedMessagesForDomain(host.mail()))
                .singleElement()
                .satisfies(one -> assertThat(one.getSubject()).startsWith("Handover by ")));
        var refused = Browser.shown(analyst.post("/shift/handover/send", Map.of("address", "the night")), 422);
        assertThat(refused.select(".refusal").text()).contains("type a mail address");
    }
}
