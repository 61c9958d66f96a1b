package app.morvet.cases;

import app.morvet.estate.Estate;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Whose a case is: a guard or sorting rule that calls may name the team itself; otherwise it is the application's. */
@Service
public class CaseOwners {
    private final CaseStore store;
    private final AlertSources sources;
    private final Estate estate;

    CaseOwners(CaseStore store, AlertSources sources, Estate estate) {
        this.store = store;
        this.sources = sources;
        this.estate = estate;
    }

    public Optional<Estate.Team> of(WorkCase one) {
        return store.alerts(one.id()).stream()
                .filter(CaseAlert::up)
                .map(alert -> sources.owner(alert.source()))
                .flatMap(Optional::stream)
                .findFirst()
                .or(() -> estate.ownerOf(estate.component(one.component())));
    }
}
