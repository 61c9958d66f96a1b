package app.morvet.views.shift;

import app.morvet.ground.access.Person;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseViews;
import app.morvet.work.cases.OpenTrouble;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** Open work, the most urgent first, and how much of it is whose. */
@Component
class OpenWork {
    private static final int SHOWN = 4;

    /** @param late how many nobody has taken in their response time */
    record Work(List<CaseViews.Row> rows, int all, long mine, long nobodys, long returned, long late) {}

    private final CaseViews views;
    private final Times times;

    OpenWork(CaseViews views, Times times) {
        this.views = views;
        this.times = times;
    }

    Work of(Person reader, OpenTrouble trouble) {
        var now = times.now();
        var open = trouble.cases().stream().filter(one -> !one.isQuiet(now)).toList();
        var rows = views.urgent(open, trouble);
        return new Work(
                rows.subList(0, Math.min(SHOWN, rows.size())),
                rows.size(),
                count(CaseViews.Show.MINE, trouble, reader, now),
                count(CaseViews.Show.NOBODYS, trouble, reader, now),
                count(CaseViews.Show.RETURNED, trouble, reader, now),
                count(CaseViews.Show.LATE, trouble, reader, now));
    }

    /** As many as the list has that it leads to. */
    private long count(CaseViews.Show show, OpenTrouble trouble, Person reader, Instant now) {
        return trouble.cases().stream()
                .filter(one -> views.lists(show, one, reader, now))
                .count();
    }
}
