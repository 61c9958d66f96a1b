package app.morvet.work.cases;

import app.morvet.ground.page.NewSince;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What became of cases while somebody was away. */
@Component
class NewCases implements NewSince {
    private final CasePast past;

    NewCases(CasePast past) {
        this.past = past;
    }

    @Override
    public List<Line> since(Instant since) {
        var counts = past.since(since);
        var lines = new ArrayList<Line>();
        if (counts.opened() > 0)
            lines.add(new Line(NewSince.words(counts.opened(), "case opened", "cases opened"), "/cases"));
        if (counts.reopened() > 0)
            lines.add(new Line(NewSince.words(counts.reopened(), "case opened again", "cases opened again"), "/cases"));
        if (counts.settled() > 0)
            lines.add(
                    new Line(NewSince.words(counts.settled(), "case settled", "cases settled"), "/cases?show=settled"));
        return lines;
    }
}
