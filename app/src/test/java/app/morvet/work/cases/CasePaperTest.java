package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import java.time.Duration;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A case for those who were not there, as Markdown and as PDF; the list as CSV, in the order that is asked for. */
class CasePaperTest extends ToldAlerts {
    @Autowired
    private CasePaper paper;

    @Autowired
    private CasePdf pdf;

    private Subject troubled() {
        var host = component(host());
        raised(guard("Hot *and* <b>loud</b>"), host, 0, CRITICAL, 9);
        var by = person("analyst");
        cases.note(theCase(host).id(), by, "pumping → dry by noon ✓\n# not a head", at(5));
        cases.take(theCase(host).id(), theCase(host).version(), by, at(6));
        return host;
    }

    @Test
    void markdownTellsTheWholeAndWhatWasToldStaysText() throws Exception {
        var host = troubled();
        var answer = loggedIn("analyst").get("/cases/" + theCase(host).id() + ".md");
        assertThat(answer.headers().firstValue("content-type").orElseThrow()).startsWith("text/markdown");
        assertThat(answer.body())
                .startsWith("# heat is 9.0 on " + host.key())
                .contains("owned by Team of " + host.key() + " · taken, "
                        + person("analyst").name())
                .contains("## Alerts\n\n- Hot \\*and\\* \\<b\\>loud\\</b\\>")
                .contains("## How to fix it\n\n- Open the sea valve.")
                .contains("## Over time")
                .contains("pumping → dry by noon ✓ \\# not a head")
                .doesNotContain("\n# not");
    }

    @Test
    void thePdfHasTheSameWordsAndIsDrawn() throws Exception {
        var host = troubled();
        raised(guard("Second"), host, 9, WARNING, 3);
        for (int i = 0; i < 120; i++)
            cases.note(theCase(host).id(), person("analyst"), "note " + i + " " + "long".repeat(i), at(10 + i));
        var bytes = pdf.of(paper.of(theCase(host)));
        try (var document = Loader.loadPDF(bytes)) {
            var text = new PDFTextStripper().getText(document).replaceAll("\\s+", " ");
            assertThat(document.getNumberOfPages()).isGreaterThan(3);
            assertThat(text)
                    .contains("heat is 9.0 on " + host.key())
                    .contains("pumping → dry by noon")
                    .contains("note 119")
                    .contains("How to fix it");
            assertThat(document.getDocumentInformation().getTitle())
                    .isEqualTo(theCase(host).headline());
        }
    }

    /** A curve says what it is of, how far it went, and when. */
    @Test
    void theCurvesOfThePdfHaveTheirFigures() throws Exception {
        var subject = subject();
        guard(subject, Duration.ofMinutes(30));
        fail(subject, 7);
        eventually(() -> assertThat(casesOf(subject)).isNotEmpty());
        eventually(() -> {
            try (var document = Loader.loadPDF(pdf.of(paper.of(theCase(subject))))) {
                assertThat(new PDFTextStripper().getText(document))
                        .containsPattern("failed over the last 30 min, 7 at most; \\d+ \\w{3} \\d\\d:\\d\\d to ");
            }
        });
    }

    @Test
    void itIsServedAsPdfAndThereIsNoneOfWhatIsNotThere() throws Exception {
        var analyst = loggedIn("analyst");
        var answer = analyst.get("/cases/" + theCase(troubled()).id() + ".pdf");
        assertThat(answer.headers().firstValue("content-type")).contains("application/pdf");
        assertThat(answer.body()).startsWith("%PDF-");
        assertThat(analyst.get("/cases/99999999.pdf").statusCode()).isEqualTo(404);
        assertThat(analyst.get("/cases/99999999.md").statusCode()).isEqualTo(404);
    }

    @Test
    void theListIsThereAsCsvInItsOrderAndANameIsNoFormula() throws Exception {
        var first = component(host());
        raised(guard("Hot"), first, 0, CRITICAL, 9);
        var second = component(host());
        raised(guard("Hot"), second, 1, WARNING, 3);
        var analyst = loggedIn("analyst");
        var only = "/cases.csv?application=app-" + first.key();
        assertThat(analyst.get(only).body().lines())
                .hasSize(2)
                .first()
                .asString()
                .startsWith("case,headline,severity,over,state,who,place,urgency");
        assertThat(analyst.get(only).body())
                .contains(theCase(first).id() + ",heat is 9.0 on " + first.key() + ",critical,,new,");
        var newest = analyst.get("/cases.csv?order=newest").body();
        assertThat(newest.indexOf("on " + second.key())).isPositive().isLessThan(newest.indexOf("on " + first.key()));
        var page = analyst.page("/cases?order=newest");
        assertThat(page.select(".list-head b").text()).isEqualTo("newest first");
        assertThat(page.select("#case-rows").attr("data-live-src")).contains("order=newest");
    }

    @Test
    void manyAreMergedIntoTheFirstThatIsChosen() throws Exception {
        var one = component(host());
        var other = component(host());
        long hot = guard("Hot");
        raised(hot, one, 0, CRITICAL, 9);
        raised(hot, other, 1, WARNING, 3);
        var analyst = loggedIn("analyst");
        var into = theCase(one);
        var form = "act=merge&pick=%d%%3A%d&pick=%d%%3A%d"
                .formatted(
                        into.id(),
                        into.version(),
                        theCase(other).id(),
                        theCase(other).version());
        assertThat(analyst.post("/cases/many", form).body()).contains("2 cases: one now.");
        assertThat(theCase(other).settled()).isTrue();
        assertThat(logOf(theCase(one)))
                .anyMatch(words -> words.startsWith(
                        "case %d is a part".formatted(theCase(other).id())));
        assertThat(analyst.post("/cases/many", "act=merge&pick=%d%%3A%d".formatted(into.id(), into.version()))
                        .body())
                .contains("Choose two or more to merge.");
    }
}
