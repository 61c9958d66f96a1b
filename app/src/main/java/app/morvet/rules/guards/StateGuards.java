package app.morvet.rules.guards;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.StateGuard;
import app.morvet.sources.readings.Series;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** How bad the words of states are, by the guards that stand over them. */
@Service
public class StateGuards {
    private final GuardStore store;
    private final Matching matching;

    StateGuards(GuardStore store, Matching matching) {
        this.store = store;
        this.matching = matching;
    }

    /** How bad the words of one state are. */
    public static final class Marks {
        private final List<StateGuard> over;
        private final Map<String, Optional<Severity>> known = new HashMap<>();

        Marks(List<StateGuard> over) {
            this.over = over;
        }

        /** Whether any guard stands over it; else no word of it is good or bad. */
        public boolean judged() {
            return !over.isEmpty();
        }

        /** The worst that any guard takes a word for. */
        public Optional<Severity> of(String word) {
            return known.computeIfAbsent(word, it -> over.stream()
                    .flatMap(one -> Stream.ofNullable(one.mark(it).orElse(null)))
                    .max(Comparator.naturalOrder()));
        }
    }

    /** Of some series, by their ids. */
    public Map<Long, Marks> over(List<Series> some) {
        var guards = store.activeOfKind("state");
        var marks = new HashMap<Long, Marks>();
        for (var one : some) {
            var facts = matching.subject(one).facts();
            marks.put(
                    one.id(),
                    new Marks(guards.stream()
                            .filter(guard -> guard.watch().matches(facts))
                            .map(guard -> (StateGuard) guard.rule())
                            .toList()));
        }
        return marks;
    }
}
