package app.morvet.sources.changes;

import app.morvet.ground.page.Finder;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Changes of the last 30 days, by what stands in them. */
@Component
@Order(7)
class ChangeFinder implements Finder {
    private static final Duration BACK = Duration.ofDays(30);

    private final Changes changes;
    private final ChangeViews views;
    private final Times times;

    ChangeFinder(Changes changes, ChangeViews views, Times times) {
        this.changes = changes;
        this.views = views;
        this.times = times;
    }

    @Override
    public String name() {
        return "Changes";
    }

    @Override
    public String hint() {
        return "a version, a file or a setting that was changed in the last 30 days";
    }

    @Override
    public List<Hit> find(String words, int most) {
        var now = times.now();
        return views.rows(changes.latest(words, now.minus(BACK), now.plus(Duration.ofHours(1)), 0, most)).stream()
                .map(row -> new Hit("/estate/components/" + row.key(), row.component(), row.at() + " · " + row.words()))
                .toList();
    }
}
