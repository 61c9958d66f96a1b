package app.morvet.cases;

import app.morvet.core.alert.Severity;
import app.morvet.page.NowSource;
import app.morvet.page.Times;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Says on the now line what is open: critical and warning cases that are still going on, and returned ones. */
@Component
class CasesNow implements NowSource {
    private final CaseStore store;
    private final Times times;

    CasesNow(CaseStore store, Times times) {
        this.store = store;
        this.times = times;
    }

    @Override
    public List<NowItem> now() {
        var now = times.now();
        var open = store.open().stream()
                .filter(one -> !CaseViews.isQuiet(one, now))
                .toList();
        var items = new ArrayList<NowItem>();
        for (var severity : List.of(Severity.CRITICAL, Severity.WARNING)) {
            long count = open.stream()
                    .filter(one -> one.severity() == severity && one.overSince() == null)
                    .count();
            if (count > 0)
                items.add(new NowItem(
                        severity.word(), count + " " + severity.word(), "/cases?severity=" + severity.word()));
        }
        long returned = open.stream().filter(one -> one.standing().returned()).count();
        if (returned > 0) items.add(new NowItem("warning", returned + " returned", "/cases?show=returned"));
        return items;
    }
}
