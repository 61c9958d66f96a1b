package app.morvet.sources.changes;

import static app.morvet.sources.intake.EventFields.optional;

import app.morvet.core.changes.Change;
import app.morvet.sources.intake.EventKind;
import app.morvet.sources.intake.EventRefused;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/**
 * Events that tell of a change; the {@code subject} is the key of the component. Their data: {@code what} (version, file,
 * setting, start mode, or another word), {@code name}, {@code before}, {@code after}, {@code by}, {@code note}; {@code what} must
 * be there, and one of before and after.
 */
@Component
@Order(3)
class ChangeEvents implements EventKind<Change> {
    private static final String OBSERVED = "app.morvet.change.observed";

    private final Changes changes;

    ChangeEvents(Changes changes) {
        this.changes = changes;
    }

    @Override
    public List<String> types() {
        return List.of(OBSERVED);
    }

    @Override
    public Optional<String> about() {
        return Optional.of("component");
    }

    @Override
    public Change read(String type, JsonNode data, Instant at) throws EventRefused {
        return new Change(
                at,
                optional(data, "what").strip(),
                optional(data, "name").strip(),
                optional(data, "before"),
                optional(data, "after"),
                optional(data, "by").strip(),
                optional(data, "note"));
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<Change>> some) {
        return () -> changes.told(feed, some);
    }
}
