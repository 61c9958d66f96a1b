package app.morvet.views.upkeep;

import app.morvet.sources.changes.ChangeViews;
import app.morvet.work.cases.ChangedBefore;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What changed before trouble began, in its dossier. */
@Component
@Order(1)
class ChangesPart implements DossierPart {
    record Shown(long hours, List<ChangeViews.Row> rows) {}

    private final ChangedBefore changed;

    ChangesPart(ChangedBefore changed) {
        this.changed = changed;
    }

    @Override
    public String liveTopic() {
        return "changes";
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var found = changed.of(shown);
        return found.isEmpty()
                ? Optional.empty()
                : Optional.of(new Part("change-parts :: dossier", new Shown(ChangedBefore.BEFORE.toHours(), found)));
    }
}
