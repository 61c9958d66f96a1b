package app.morvet.work.cases;

import app.morvet.ground.estate.Estate;
import app.morvet.sources.changes.ChangeViews;
import app.morvet.sources.changes.Changes;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What changed in the hours before trouble began and until it was over: on what is in trouble, on what that stands on and on what it needs. */
@Component
public class ChangedBefore {
    public static final Duration BEFORE = Duration.ofHours(6);

    private static final int SHOWN = 12;
    private static final int DEEPEST = 20;

    private final Changes changes;
    private final ChangeViews views;
    private final Estate estate;

    ChangedBefore(Changes changes, ChangeViews views, Estate estate) {
        this.changes = changes;
        this.views = views;
        this.estate = estate;
    }

    /** The latest of it. */
    public List<ChangeViews.Row> of(WorkCase one) {
        var end = one.overSince() == null ? Instant.MAX : one.overSince();
        var until = end.isBefore(one.lastSeen()) ? end : one.lastSeen();
        return views.rows(changes.of(
                around(one.component()),
                one.firstSeen().minus(BEFORE),
                until.isBefore(one.firstSeen()) ? one.firstSeen() : until,
                SHOWN));
    }

    /** A component, what it needs, and what each of them stands on. */
    private Set<Long> around(long component) {
        var all = new LinkedHashSet<Long>();
        below(component, all);
        for (var need : estate.needsOf(component)) below(need.id(), all);
        return all;
    }

    private void below(long component, Set<Long> all) {
        Long at = component;
        for (int depth = 0; at != null && depth < DEEPEST && all.add(at); depth++)
            at = estate.component(at).standsOn();
    }
}
