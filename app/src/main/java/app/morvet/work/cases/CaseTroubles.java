package app.morvet.work.cases;

import app.morvet.core.guard.Hindsight;
import app.morvet.rules.guards.TroubleSource;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.stereotype.Component;

/** How past cases were settled, for whoever tunes a guard. */
@Component
class CaseTroubles implements TroubleSource {
    private final CaseStore store;

    CaseTroubles(CaseStore store) {
        this.store = store;
    }

    @Override
    public List<Hindsight.Trouble> on(Collection<Long> components, Instant from, Instant to) {
        return store.settledOn(components, from, to).stream()
                .map(one -> new Hindsight.Trouble(
                        one.id(),
                        one.component(),
                        one.from(),
                        one.to(),
                        one.reason().realTrouble()))
                .toList();
    }
}
