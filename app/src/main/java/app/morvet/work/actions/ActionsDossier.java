package app.morvet.work.actions;

import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.outposts.Outposts;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** What can be done at once to what a case is about and to what its alerts are on, or to what that stands on. */
@Component
@Order(0)
class ActionsDossier implements DossierPart {
    private static final int MOST = 5;

    private final Actions actions;
    private final CaseBook cases;
    private final Estate estate;

    ActionsDossier(Actions actions, CaseBook cases, Estate estate) {
        this.actions = actions;
        this.cases = cases;
        this.estate = estate;
    }

    @Override
    public String liveTopic() {
        return Actions.TOPIC + " " + Outposts.BACK;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var authentication = SecurityContextHolder.getContext().getAuthentication();
        var who = authentication != null && authentication.getPrincipal() instanceof Person person ? person : null;
        var all = new LinkedHashMap<Long, Actions.On>();
        for (var id : cases.about(shown)) {
            var component = estate.component(id);
            var on = actions.on(component, shown.id(), who);
            if (on.isEmpty() && component.standsOn() != null)
                on = actions.on(estate.component(component.standsOn()), shown.id(), who);
            if (!on.isEmpty()) all.putIfAbsent(on.component(), on);
            if (all.size() == MOST) break;
        }
        return all.isEmpty()
                ? Optional.empty()
                : Optional.of(new Part("action-parts :: dossier", List.copyOf(all.values())));
    }
}
