package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.ground.access.Person;
import app.morvet.ground.page.Csv;
import app.morvet.ground.page.Files;
import java.time.Instant;
import java.util.Arrays;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Cases for those who were not there: one as Markdown and as PDF, the list as CSV. */
@Controller
class CasePaperController {
    private static final int MOST_SETTLED = 2000;

    private final CaseBook book;
    private final CaseViews views;
    private final CasePaper paper;
    private final CasePdf pdf;

    CasePaperController(CaseBook book, CaseViews views, CasePaper paper, CasePdf pdf) {
        this.book = book;
        this.views = views;
        this.paper = paper;
        this.pdf = pdf;
    }

    @GetMapping("/cases/{id:\\d+}.md")
    ResponseEntity<byte[]> markdown(@PathVariable long id) {
        return Files.out("case-" + id + ".md", "text/markdown", paper.markdown(paper.of(find(id))));
    }

    @GetMapping("/cases/{id:\\d+}.pdf")
    ResponseEntity<byte[]> pdf(@PathVariable long id) {
        return Files.pdf("case-" + id + ".pdf", pdf.of(paper.of(find(id))));
    }

    /** The list as it is asked for, whole; of what is settled the latest. */
    @GetMapping("/cases.csv")
    ResponseEntity<byte[]> list(
            @RequestParam(defaultValue = "open") String show,
            @RequestParam(defaultValue = "") String severity,
            @RequestParam(defaultValue = "") String application,
            @RequestParam(defaultValue = "") String order,
            @AuthenticationPrincipal Person reader) {
        var which = CaseViews.Show.of(show);
        var only = Arrays.stream(Severity.values())
                .filter(one -> one.word().equals(severity))
                .findFirst()
                .orElse(null);
        var rows = which == CaseViews.Show.SETTLED
                ? views.rows(views.settled(Instant.parse("9999-01-01T00:00:00Z"), Long.MAX_VALUE, MOST_SETTLED))
                : views.open(which, reader, only, application, CaseOrder.of(order));
        var text = new StringBuilder();
        try (var csv = new Csv(text)) {
            csv.line(
                    "case",
                    "headline",
                    "severity",
                    "over",
                    "state",
                    "who",
                    "place",
                    "urgency",
                    "seen",
                    "returned because");
            for (var row : rows)
                csv.line(
                        row.id(),
                        row.headline(),
                        row.severity(),
                        row.over() ? "over" : "",
                        row.state(),
                        row.who(),
                        row.place(),
                        row.urgency(),
                        row.seen(),
                        row.returnReason());
        }
        return Files.out("cases.csv", "text/csv", text.toString());
    }

    private WorkCase find(long id) {
        return book.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no case " + id + "."));
    }
}
