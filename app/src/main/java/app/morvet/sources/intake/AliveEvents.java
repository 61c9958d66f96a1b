package app.morvet.sources.intake;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.SeriesBook;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Signs of life; the {@code subject} is the key of what is alive. Their data: {@code every}, within which the next is promised, and
 * {@code leeway}, how late it may come; half of that where it is left out. What is alive is a reading, so guards over silence judge it.
 */
@Component
@Order(5)
class AliveEvents implements EventKind<Duration> {
    private static final String ALIVE = "app.morvet.alive";
    private static final String MEASURE = "alive";
    private static final Duration SHORTEST = Duration.ofSeconds(10);
    private static final Duration LONGEST = Duration.ofDays(40);

    private final ReadingRows rows;
    private final SeriesBook series;
    private final Estate estate;

    AliveEvents(ReadingRows rows, SeriesBook series, Estate estate) {
        this.rows = rows;
        this.series = series;
        this.estate = estate;
    }

    @Override
    public List<String> types() {
        return List.of(ALIVE);
    }

    @Override
    public Optional<String> about() {
        return Optional.of("component");
    }

    /**
     * How often it is promised as silence is counted: what is not there half of that late counts as missed, so that it does when
     * what was promised and the leeway are over.
     */
    @Override
    public Duration read(String type, JsonNode data, Instant at) throws EventRefused {
        var every = span(data, "every");
        if (every == null) throw new EventRefused("data.every is missing: within what time the next is promised");
        var leeway = span(data, "leeway");
        if (every.compareTo(SHORTEST) < 0 || every.compareTo(LONGEST) > 0)
            throw new EventRefused("data.every is 10 s to 40 days");
        if (leeway != null && (leeway.isNegative() || leeway.compareTo(every.multipliedBy(10)) > 0))
            throw new EventRefused("data.leeway is from nothing to ten times what is promised");
        var counted =
                leeway == null ? every : every.plus(leeway).multipliedBy(2).dividedBy(3);
        return counted.truncatedTo(ChronoUnit.SECONDS);
    }

    private static @Nullable Duration span(JsonNode data, String name) throws EventRefused {
        var text = EventFields.optional(data, name);
        if (text.isBlank()) return null;
        try {
            return Duration.parse(text.strip());
        } catch (DateTimeException | ArithmeticException bad) {
            throw new EventRefused(
                    "data." + name + " must be a duration as in ISO 8601, such as PT15M, was \"" + text + "\"");
        }
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<Duration>> some) {
        var told = new ArrayList<Told>();
        var promised = new HashMap<String, Duration>();
        for (var one : some) {
            var of = new ToldSeries(one.subject(), "component", MEASURE, Sort.GAUGE, "", "Signs of life.", Map.of());
            of.promised = one.said();
            told.add(new Told(0, of, Micros.of(one.at()), 1));
            promised.put(one.subject(), one.said());
        }
        rows.prepare(told, feed, false, new Refusals());
        promise(promised);
        return () -> rows.write(feed, told);
    }

    private void promise(Map<String, Duration> promised) {
        var changed = new HashMap<Long, Duration>();
        promised.forEach((key, every) -> estate.byKey(key)
                .flatMap(one -> series.find(one.id(), MEASURE, Map.of()))
                .filter(one -> !every.equals(one.promised()))
                .ifPresent(one -> changed.put(one.id(), every)));
        if (!changed.isEmpty()) series.promise(changed);
    }
}
