package app.morvet.sources.batch;

import static app.morvet.sources.intake.EventFields.name;
import static app.morvet.sources.intake.EventFields.optional;
import static app.morvet.sources.intake.EventFields.time;

import app.morvet.ground.estate.Estate;
import app.morvet.sources.intake.EventKind;
import app.morvet.sources.intake.EventRefused;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Events about runs; the {@code subject} is the key of the job.
 *
 * <table>
 * <caption>Beside {@code run}, the scheduler's own name for it, which every event has</caption>
 * <tr><td>started</td><td>{@code scheduled}: the start by the schedule that it is for; {@code trigger}: {@code schedule},
 * {@code retry} or {@code manual}; {@code node}</td></tr>
 * <tr><td>progress</td><td>{@code percent}, {@code records}</td></tr>
 * <tr><td>finished</td><td>{@code exitCode}, or {@code result}: {@code fine}, {@code warning} or {@code failed};
 * {@code started}, {@code records}, {@code output}: its tail, {@code outputCut}: whether its beginning is missing</td></tr>
 * <tr><td>cancelled</td><td>{@code reason}</td></tr>
 * </table>
 */
@Component
@Order(2)
class RunEvents implements EventKind<RunsArrived.Said> {
    private static final String STARTED = "app.morvet.run.started";
    private static final String PROGRESS = "app.morvet.run.progress";
    private static final String FINISHED = "app.morvet.run.finished";
    private static final String CANCELLED = "app.morvet.run.cancelled";

    private static final int LONGEST_OUTPUT = 512 * 1024;
    private static final Set<String> TRIGGERS = Set.of("", "schedule", "retry", "manual");
    private static final Set<String> RESULTS = Set.of("", "fine", "warning", "failed");

    private final ApplicationEventPublisher events;

    RunEvents(ApplicationEventPublisher events) {
        this.events = events;
    }

    @Override
    public List<String> types() {
        return List.of(STARTED, PROGRESS, FINISHED, CANCELLED);
    }

    @Override
    public Optional<String> about() {
        return Optional.of(Estate.JOB);
    }

    @Override
    public RunsArrived.Said read(String type, JsonNode data, Instant at) throws EventRefused {
        return switch (type) {
            case STARTED -> started(data, at);
            case PROGRESS -> progress(data, at);
            case FINISHED -> finished(data, at);
            default -> cancelled(data, at);
        };
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<RunsArrived.Said>> some) {
        var runs = some.stream()
                .map(one -> new RunsArrived.Told(one.component(), one.said()))
                .toList();
        return () -> events.publishEvent(new RunsArrived(feed, runs, List.of()));
    }

    private static RunsArrived.Said started(JsonNode data, Instant at) throws EventRefused {
        var trigger = oneOf(data, "trigger", TRIGGERS);
        return said(RunsArrived.What.STARTED, data, at, null, trigger, null, "", null, null);
    }

    private static RunsArrived.Said progress(JsonNode data, Instant at) throws EventRefused {
        var percent = data.get("percent");
        if (percent != null
                && !percent.isNull()
                && !(percent.isNumber()
                        && percent.doubleValue(Double.NaN) >= 0
                        && percent.doubleValue(Double.NaN) <= 100))
            throw new EventRefused("data.percent must be a number from 0 to 100");
        var records = records(data);
        if (records == null && (percent == null || percent.isNull()))
            throw new EventRefused("data of a progress must have percent or records");
        return said(
                RunsArrived.What.PROGRESS,
                data,
                at,
                null,
                "",
                null,
                "",
                percent == null || percent.isNull() ? null : percent.doubleValue(Double.NaN),
                null);
    }

    private static RunsArrived.Said finished(JsonNode data, Instant at) throws EventRefused {
        var code = data.get("exitCode");
        if (code != null && !code.isNull() && !code.isInt())
            throw new EventRefused("data.exitCode must be a whole number");
        var result = oneOf(data, "result", RESULTS);
        var output = data.get("output");
        return said(
                RunsArrived.What.FINISHED,
                data,
                at,
                optionalTime(data, "started"),
                "",
                code == null || code.isNull() ? null : Integer.valueOf(code.intValue()),
                result,
                null,
                output == null || output.isNull() ? null : optional(data, "output"));
    }

    private static RunsArrived.Said cancelled(JsonNode data, Instant at) throws EventRefused {
        return said(RunsArrived.What.CANCELLED, data, at, optionalTime(data, "started"), "", null, "", null, null);
    }

    private static RunsArrived.Said said(
            RunsArrived.What what,
            JsonNode data,
            Instant at,
            @Nullable Instant started,
            String trigger,
            @Nullable Integer exitCode,
            String result,
            @Nullable Double percent,
            @Nullable String output)
            throws EventRefused {
        boolean tooLong = output != null && output.length() > LONGEST_OUTPUT;
        return new RunsArrived.Said(
                what,
                name(data, "run", 200),
                at,
                started,
                optionalTime(data, "scheduled"),
                trigger,
                optional(data, "node"),
                exitCode,
                result,
                records(data),
                percent,
                optional(data, "reason"),
                tooLong ? output.substring(output.length() - LONGEST_OUTPUT) : output,
                tooLong || data.path("outputCut").asBoolean(false));
    }

    private static @Nullable Long records(JsonNode data) throws EventRefused {
        var records = data.get("records");
        if (records == null || records.isNull()) return null;
        if (!records.isIntegralNumber() || !records.canConvertToLong() || records.longValue() < 0)
            throw new EventRefused("data.records must be a whole number, 0 or more");
        return records.longValue();
    }

    private static @Nullable Instant optionalTime(JsonNode data, String name) throws EventRefused {
        var value = data.get(name);
        return value == null || value.isNull() ? null : time(data, name);
    }

    private static String oneOf(JsonNode data, String name, Set<String> known) throws EventRefused {
        var value = optional(data, name);
        if (!known.contains(value))
            throw new EventRefused("data.%s must be one of %s, was \"%s\""
                    .formatted(
                            name,
                            String.join(
                                    ", ",
                                    known.stream()
                                            .filter(one -> !one.isEmpty())
                                            .sorted()
                                            .toList()),
                            value));
        return value;
    }
}
