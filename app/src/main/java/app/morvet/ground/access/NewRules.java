package app.morvet.ground.access;

import app.morvet.ground.page.NewSince;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** How many rules were changed while somebody was away. */
@Component
class NewRules implements NewSince {
    private final AccessStore store;

    NewRules(AccessStore store) {
        this.store = store;
    }

    @Override
    public List<Line> since(Instant since) {
        long changed = store.rulesChanged(since);
        return changed == 0
                ? List.of()
                : List.of(new Line(
                        NewSince.words(changed, "rule or guard changed", "rules and guards changed"), "/guards"));
    }
}
