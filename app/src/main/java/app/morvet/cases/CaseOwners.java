package app.morvet.cases;

import app.morvet.estate.Estate;
import app.morvet.guards.Guards;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Whose a case is: a guard that calls may name the team itself; otherwise it is the application's. */
@Service
public class CaseOwners {
    private final CaseStore store;
    private final Guards guards;
    private final Estate estate;

    CaseOwners(CaseStore store, Guards guards, Estate estate) {
        this.store = store;
        this.guards = guards;
        this.estate = estate;
    }

    public Optional<Estate.Team> of(WorkCase one) {
        return store.alerts(one.id()).stream()
                .filter(CaseAlert::up)
                .map(alert -> guards.owner(alert.guard()))
                .flatMap(Optional::stream)
                .findFirst()
                .or(() -> estate.ownerOf(estate.component(one.component())));
    }
}
