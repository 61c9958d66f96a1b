package app.morvet.work.cases;

import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
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
        var items = new ArrayList<NowItem>();
        var counts = store.countOpen(times.now());
        if (counts.critical() > 0)
            items.add(new NowItem("critical", counts.critical() + " critical", "/cases?severity=critical"));
        if (counts.warning() > 0)
            items.add(new NowItem("warning", counts.warning() + " warning", "/cases?severity=warning"));
        if (counts.returned() > 0)
            items.add(new NowItem("warning", counts.returned() + " returned", "/cases?show=returned"));
        return items;
    }

    @Override
    public List<String> topics() {
        return List.of("cases");
    }
}
