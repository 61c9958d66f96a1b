package app.morvet.sources.intake;

import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.util.List;
import org.springframework.stereotype.Component;

/** Says on the now line that events were refused within the last hour. */
@Component
class FreshRejects implements NowSource {
    private final RejectStore rejects;
    private final Times times;

    FreshRejects(RejectStore rejects, Times times) {
        this.rejects = rejects;
        this.times = times;
    }

    @Override
    public List<NowItem> now() {
        long count = rejects.countSince(times.now().minus(Duration.ofHours(1)));
        return count == 0
                ? List.of()
                : List.of(new NowItem(
                        "notice", count + (count == 1 ? " event refused" : " events refused"), "/messages/refused"));
    }
}
