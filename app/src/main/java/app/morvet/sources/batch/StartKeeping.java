package app.morvet.sources.batch;

import app.morvet.core.batch.Occurrence;
import app.morvet.core.batch.Outcome;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Keeps what became of each expected start. One that changes it at a time, so that it knows what is stored. */
@Component
public class StartKeeping {
    /** What became of some starts otherwise than is stored. */
    public static final class Changes {
        private final List<RunStore.Expected> some;

        private Changes(List<RunStore.Expected> some) {
            this.some = some;
        }

        public boolean isEmpty() {
            return some.isEmpty();
        }
    }

    private final RunStore runs;
    private final Map<Long, Map<Instant, RunStore.Kept>> kept = new HashMap<>();
    private boolean keptIsRead;

    StartKeeping(RunStore runs) {
        this.runs = runs;
    }

    /** Somebody else kept them meanwhile: what is stored is read again. */
    public void forget() {
        kept.clear();
        keptIsRead = false;
    }

    public void store(Changes changes) {
        runs.keepOutcomes(changes.some);
    }

    /** What was stored is known from now on. */
    public void remember(Changes changes) {
        for (var one : changes.some)
            kept.computeIfAbsent(one.component(), none -> new HashMap<>())
                    .put(one.cycle(), new RunStore.Kept(one.cycle(), one.outcome(), one.run()));
    }

    /** What became of starts that have come, where that is not stored yet. */
    public Changes changed(Nights.View standing, Instant now) {
        if (!keptIsRead) {
            kept.putAll(runs.outcomes(now.minus(Nights.BACK), now.plus(Nights.AHEAD)));
            keptIsRead = true;
        }
        kept.values().forEach(some -> some.keySet()
                .removeIf(cycle -> cycle.isBefore(now.minus(Nights.BACK.plus(Duration.ofHours(2))))));
        var changed = new ArrayList<RunStore.Expected>();
        for (var one : standing.night().occurrences()) {
            if (one.outcome() == Outcome.PLANNED) continue;
            long component = Objects.requireNonNull(
                            standing.jobs().get(one.job().key()))
                    .component()
                    .id();
            var before = kept.getOrDefault(component, Map.of()).get(one.cycle());
            var run = lastRun(one);
            if (before == null || !before.outcome().equals(one.outcome().name()) || !Objects.equals(before.run(), run))
                changed.add(new RunStore.Expected(
                        component,
                        one.cycle(),
                        one.planned(),
                        one.deadline(),
                        one.outcome().name(),
                        run));
        }
        return new Changes(changed);
    }

    private static @Nullable Long lastRun(Occurrence one) {
        var last = one.last();
        return last == null ? null : last.id();
    }
}
