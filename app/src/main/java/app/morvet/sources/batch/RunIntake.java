package app.morvet.sources.batch;

import app.morvet.core.batch.ExitCodes;
import app.morvet.core.batch.Run;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Takes in what schedulers tell of runs, in the transaction that acknowledges it. Events of one run may come in any order,
 * twice, or not at all; what is stored does not depend on the order in which they came.
 */
@Component
class RunIntake {
    private final RunStore store;
    private final JobBook jobs;
    private final ApplicationEventPublisher events;

    RunIntake(RunStore store, JobBook jobs, ApplicationEventPublisher events) {
        this.store = store;
        this.jobs = jobs;
        this.events = events;
    }

    @EventListener
    void on(RunsArrived arrived) {
        if (!arrived.runs().isEmpty()) {
            var components = arrived.runs().stream()
                    .map(RunsArrived.Told::component)
                    .distinct()
                    .toList();
            jobs.meet(components, arrived.feed());
            var codes = new LinkedHashMap<Long, ExitCodes>();
            for (long one : components)
                codes.put(
                        one,
                        jobs.byComponent(one).map(job -> job.job().exitCodes()).orElse(ExitCodes.USUAL));
            // In one order on every connection, so that two batches with the same runs do not wait for each other.
            Map<String, RunStore.Facts> facts = new TreeMap<>();
            for (var told : arrived.runs())
                add(
                        facts.computeIfAbsent(
                                told.component() + " " + told.said().run(),
                                none -> new RunStore.Facts(
                                        told.component(), told.said().run())),
                        told.said(),
                        Objects.requireNonNull(codes.get(told.component())));
            store.take(arrived.feed(), facts.values());
        }
        store.addFiles(arrived.files());
        events.publishEvent(new RunsRecorded());
    }

    private static void add(RunStore.Facts facts, RunsArrived.Said told, ExitCodes codes) {
        if (!told.node().isEmpty()) facts.node = told.node();
        if (told.meant() != null) facts.meant = told.meant();
        if (told.records() != null && (facts.records == null || told.records() > facts.records))
            facts.records = told.records();
        switch (told.what()) {
            case STARTED -> {
                if (facts.started == null || told.at().isBefore(facts.started)) facts.started = told.at();
                facts.trigger = trigger(told.trigger());
            }
            case PROGRESS -> {
                if (facts.percentAt == null || !told.at().isBefore(facts.percentAt)) {
                    facts.percentAt = told.at();
                    if (told.percent() != null) facts.percent = told.percent();
                }
            }
            case FINISHED, CANCELLED -> {
                if (told.started() != null
                        && (facts.started == null || told.started().isBefore(facts.started)))
                    facts.started = told.started();
                if (facts.ended != null && told.at().isBefore(facts.ended)) return;
                facts.ended = told.at();
                facts.exitCode = told.exitCode();
                facts.end = end(told, codes);
                if (!told.reason().isEmpty()) facts.reason = told.reason();
                if (told.output() != null) {
                    facts.output = told.output();
                    facts.cut = told.cut();
                }
            }
        }
    }

    private static Run.End end(RunsArrived.Said told, ExitCodes codes) {
        if (told.what() == RunsArrived.What.CANCELLED) return Run.End.CANCELLED;
        return switch (told.result()) {
            case "fine" -> Run.End.FINE;
            case "warning" -> Run.End.WARNED;
            case "failed" -> Run.End.FAILED;
            default ->
                told.exitCode() == null
                        ? Run.End.FINE
                        : codes.of(told.exitCode()).end();
        };
    }

    private static Run.Trigger trigger(String told) {
        return switch (told) {
            case "retry" -> Run.Trigger.RETRY;
            case "manual" -> Run.Trigger.BY_HAND;
            default -> Run.Trigger.SCHEDULE;
        };
    }
}
