package app.morvet.ground.estate;

import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Says on the now line which feeds have been silent for longer than they promised. */
@Component
class StaleFeeds implements NowSource, OwnFigure {
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

    @Override
    public List<Figure> figures() {
        var now = times.now();
        long silent = estate.feeds().stream().filter(feed -> feed.stale(now)).count();
        return List.of(new Figure("morvet_feeds_silent", "", "Feeds that are not heard.", Map.of(), false, silent));
    }
}
