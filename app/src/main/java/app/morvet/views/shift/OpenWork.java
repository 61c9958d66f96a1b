package app.morvet.views.shift;

import app.morvet.core.cases.ResponseTime;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseViews;
import app.morvet.work.cases.OpenTrouble;
import java.util.List;
import org.springframework.stereotype.Component;

/** Open work, the most urgent first, and how much of it is whose. */
@Component
class OpenWork {
    private static final int SHOWN = 4;

    /** @param late how many nobody has taken in their response time */
    record Work(List<CaseViews.Row> rows, int all, long mine, long nobodys, long returned, long late) {}

    private final CaseViews views;
    private final Estate estate;
    private final Times times;

    OpenWork(CaseViews views, Estate estate, Times times) {
        this.views = views;
        this.estate = estate;
        this.times = times;
    }

    Work of(Person reader, OpenTrouble trouble) {
        var now = times.now();
        var open = trouble.cases().stream().filter(one -> !one.isQuiet(now)).toList();
        var rows = views.urgent(open, trouble);
        return new Work(
                rows.subList(0, Math.min(SHOWN, rows.size())),
                rows.size(),
                open.stream()
                        .filter(one ->
                                Long.valueOf(reader.id()).equals(one.progress().takenBy()))
                        .count(),
                open.stream().filter(one -> one.progress().takenBy() == null).count(),
                open.stream().filter(one -> one.progress().returned()).count(),
                open.stream()
                        .filter(one -> one.progress().takenBy() == null && one.overSince() == null)
                        .filter(one -> one.openedAt()
                                .plus(ResponseTime.of(one.severity(), estate.tierOf(estate.component(one.component()))))
                                .isBefore(now))
                        .count());
    }
}
