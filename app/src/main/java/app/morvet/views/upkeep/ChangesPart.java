package app.morvet.views.upkeep;

import app.morvet.ground.estate.Estate;
import app.morvet.sources.changes.ChangeViews;
import app.morvet.sources.changes.Changes;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What changed in the hours before trouble began, on what is in trouble, on what that stands on and on what it needs. */
@Component
@Order(1)
class ChangesPart implements DossierPart {
    private static final Duration BEFORE = Duration.ofHours(6);
    private static final int SHOWN = 12;
    private static final int DEEPEST = 20;

    record Shown(long hours, List<ChangeViews.Row> rows) {}

    private final Changes changes;
    private final ChangeViews views;
    private final Estate estate;

    ChangesPart(Changes changes, ChangeViews views, Estate estate) {
        this.changes = changes;
        this.views = views;
        this.estate = estate;
    }

    @Override
    public String liveTopic() {
        return "changes";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var end = shown.overSince() == null ? Instant.MAX : shown.overSince();
        var until = end.isBefore(shown.lastSeen()) ? end : shown.lastSeen();
        var found = changes.of(
                around(shown.component()),
                shown.firstSeen().minus(BEFORE),
                until.isBefore(shown.firstSeen()) ? shown.firstSeen() : until,
                SHOWN);
        return found.isEmpty()
                ? Optional.empty()
                : Optional.of(new Part("change-parts :: dossier", new Shown(BEFORE.toHours(), views.rows(found))));
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
