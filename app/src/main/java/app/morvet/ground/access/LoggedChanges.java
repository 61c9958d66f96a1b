package app.morvet.ground.access;

import app.morvet.ground.page.Logged;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;

/** What people changed of rules, windows and all else that is set up, for the log of the shift. */
@Component
class LoggedChanges implements Logged {
    private final AccessStore store;

    LoggedChanges(AccessStore store) {
        this.store = store;
    }

    @Override
    public List<Line> logged(Instant from, Instant to, String words, int most) {
        return store.audited(from, to, Logged.anywhere(words), most);
    }
}
