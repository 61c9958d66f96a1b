package app.morvet.sources.intake;

import app.morvet.core.readings.Micros;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Events that tell of a state when it changes; the {@code subject} is the key of the component. Their data: {@code state}, its word;
 * {@code measure}, what is in it ({@code service} where it is left out); {@code words}, all that it may have, in order; {@code said}. Such
 * a state stands until another event tells of another.
 */
@Component
@Order(4)
class StateEvents implements EventKind<StateEvents.Data> {
    private static final String CHANGED = "app.morvet.state.changed";
    private static final String SERVICE = "service";

    record Data(String measure, Told.State state) {
        Told told(String component, Instant at) {
            return Told.of(state, 0, component, SERVICE, measure, "", Map.of(), Micros.of(at));
        }
    }

    private final ReadingRules rules;
    private final ReadingRows rows;

    StateEvents(ReadingRules rules, ReadingRows rows) {
        this.rules = rules;
        this.rows = rows;
    }

    @Override
    public List<String> types() {
        return List.of(CHANGED);
    }

    @Override
    public Optional<String> about() {
        return Optional.of(SERVICE);
    }

    @Override
    public Data read(String type, JsonNode data, Instant at) throws EventRefused {
        var state = ReadingsJson.state(data);
        if (state == null) throw new EventRefused("data.state is missing: the word for what it is in");
        var measure = EventFields.optional(data, "measure");
        var said = new Data(measure.isBlank() ? SERVICE : measure, state);
        // What its subject may be was looked at before.
        var reason = rules.refusal(said.told(SERVICE, at), at);
        if (reason != null) throw new EventRefused("data: " + reason);
        return said;
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<Data>> some) {
        var told = new ArrayList<Told>();
        for (var one : some) told.add(one.said().told(one.subject(), one.at()));
        rows.prepare(told, feed, true, new Refusals());
        return () -> rows.write(feed, told);
    }
}
