package app.morvet.sources.batch;

import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.Run;
import app.morvet.core.batch.ScheduleProposal;
import app.morvet.sources.messages.Masks;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Runs that were told, and what became of expected starts, looked up. */
@Service
public class Runs {
    private static final int LEARNED_FROM = 400;
    /** How long after its expected start a run may begin, and how long before. */
    private static final Duration LATEST = Duration.ofHours(36);

    private static final Duration EARLIEST = Duration.ofHours(1);

    private final RunStore store;
    private final Masks masks;

    Runs(RunStore store, Masks masks) {
        this.store = store;
        this.masks = masks;
    }

    /**
     * @param reference the scheduler's own name for it
     * @param reason    why it was cancelled; may be empty
     */
    public record Told(long component, Run run, String reference, String node, String reason) {}

    /** @param run the last run of it, or null */
    public record Start(Instant cycle, Outcome outcome, @Nullable Long run) {}

    /** @param cut whether its beginning is missing */
    public record Output(String text, boolean cut) {}

    public Optional<Told> byId(long id) {
        return store.byId(id).map(Runs::shown);
    }

    /** The latest first, before an instant. */
    public List<Told> latest(long component, Instant before, int most) {
        return store.latest(component, before, most).stream().map(Runs::shown).toList();
    }

    /** Runs of a job in a half-open span, in order. */
    public List<Run> between(long component, Instant from, Instant to) {
        return store.of(component, from, to);
    }

    /** Expected starts of a job in a half-open span and what became of them, in order. */
    public List<Start> starts(long component, Instant from, Instant to) {
        return store.outcomesOf(component, from, to).stream().map(Runs::start).toList();
    }

    /** Of all jobs, by component. */
    public Map<Long, List<Start>> starts(Instant from, Instant to) {
        var found = new HashMap<Long, List<Start>>();
        store.outcomes(from, to)
                .forEach((component, some) -> found.put(
                        component, some.values().stream().map(Runs::start).toList()));
        return found;
    }

    private static Start start(RunStore.Kept kept) {
        return new Start(kept.cycle(), Outcome.valueOf(kept.outcome()), kept.run());
    }

    private static Told shown(RunStore.Shown shown) {
        return new Told(shown.component(), shown.run(), shown.reference(), shown.node(), shown.reason());
    }

    /** What a run wrote, with what the masks name hidden, wherever it is shown or sent; empty where it told nothing. */
    public Optional<Output> output(Told told) {
        return store.output(told.run().id())
                .map(one ->
                        new Output(masks.on(told.component()).text(one.text()).text(), one.cut()));
    }

    /** The last run with an output that failed, or that was done, up to an instant. */
    public Optional<Told> lastWithOutput(long component, boolean failed, Instant upTo) {
        return store.lastWithOutput(component, failed, upTo).map(Runs::shown);
    }

    /** A schedule learned from the runs of a job; of those of one that is told of by its scheduler only. */
    public Optional<ScheduleProposal.Proposed> proposal(StoredJob job, Instant now) {
        var starts = store.latest(job.component().id(), now, LEARNED_FROM).stream()
                .map(one -> one.run())
                .filter(run -> run.trigger() == Run.Trigger.SCHEDULE)
                .map(Run::started)
                .filter(java.util.Objects::nonNull)
                .toList();
        return ScheduleProposal.of(starts, job.job().timetable().zone());
    }

    /** How runs of a job stand, by id: as their expected start does, or as they ended. */
    public Map<Long, Outcome> outcomes(StoredJob job, List<Told> some) {
        var found = new HashMap<Long, Outcome>();
        if (some.isEmpty()) return found;
        boolean planned = job.job().planned();
        for (var one : some) found.put(one.run().id(), Outcome.of(one.run(), planned));
        var begun = some.stream().map(one -> one.run().at()).sorted().toList();
        for (var start : starts(
                job.component().id(),
                begun.getFirst().minus(LATEST),
                begun.getLast().plus(EARLIEST))) if (start.run() != null) found.replace(start.run(), start.outcome());
        return found;
    }
}
