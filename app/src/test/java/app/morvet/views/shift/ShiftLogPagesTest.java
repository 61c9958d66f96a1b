package app.morvet.views.shift;

import static app.morvet.core.alert.Severity.CRITICAL;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.Mailed;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The log of the shift writes itself, people add to it, and the next shift is given it. */
class ShiftLogPagesTest extends AtAShift {
    @Autowired
    private ShiftNotes notes;

    @Autowired
    private Handovers handovers;

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
        cleared(guard, host, minute + 1, 9);
        assertThat(theCase(host).headline()).startsWith("Over on ");
        assertThat(analyst.page("/shift/log?words=" + host.key())
                        .select(".shift-log tr")
                        .eachText())
                .as("what was done stands beside what it was done about, not beside what became of that")
                .anyMatch(line -> line.endsWith(" case heat is 9.0 on " + host.key() + ": opened"))
                .noneMatch(line -> line.contains("Over on ") && line.contains(" case "));
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
