package app.morvet.work.actions;

import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.work.cases.DossierPart;
import app.morvet.work.cases.WorkCase;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** What can be done at once to what a case is about, or to what that stands on. */
@Component
@Order(0)
class ActionsDossier implements DossierPart {
    private final Actions actions;
    private final Estate estate;

    ActionsDossier(Actions actions, Estate estate) {
        this.actions = actions;
        this.estate = estate;
    }

    @Override
    public String liveTopic() {
        return Actions.TOPIC;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        var authentication = SecurityContextHolder.getContext().getAuthentication();
        var who = authentication != null && authentication.getPrincipal() instanceof Person person ? person : null;
        var component = estate.component(shown.component());
        var on = actions.on(component, shown.id(), who);
        if (on.offered().isEmpty() && on.asked().isEmpty() && component.standsOn() != null)
            on = actions.on(estate.component(component.standsOn()), shown.id(), who);
        if (on.offered().isEmpty() && on.asked().isEmpty()) return Optional.empty();
        return Optional.of(new Part("action-parts :: dossier", on));
    }
}
