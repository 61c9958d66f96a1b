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
    private final CasePast past;

    CaseTroubles(CasePast past) {
        this.past = past;
    }

    @Override
    public List<Hindsight.Trouble> on(Collection<Long> components, Instant from, Instant to) {
        return past.settledOn(components, from, to).stream()
                .map(one -> new Hindsight.Trouble(
                        one.id(),
                        one.component(),
                        one.from(),
                        one.to(),
                        one.reason().realTrouble()))
                .toList();
    }
}
