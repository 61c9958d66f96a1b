package app.morvet.ground.estate;

import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.util.List;
import org.springframework.stereotype.Component;

/** Says on the now line which feeds have been silent for longer than they promised. */
@Component
class StaleFeeds implements NowSource {
    private static final int MOST_NAMED = 2;

    private final Estate estate;
    private final Times times;

    StaleFeeds(Estate estate, Times times) {
        this.estate = estate;
        this.times = times;
    }

    @Override
    public List<NowItem> now() {
        var now = times.now();
        var stale = estate.feeds().stream()
                .filter(feed -> feed.stale(now))
                .map(feed -> new NowItem(
                        "nodata", feed.name() + " silent since " + times.of(feed.lastHeard()), "/estate/feeds"))
                .toList();
        return stale.size() <= MOST_NAMED
                ? stale
                : List.of(new NowItem("nodata", stale.size() + " feeds silent", "/estate/feeds"));
    }
}
