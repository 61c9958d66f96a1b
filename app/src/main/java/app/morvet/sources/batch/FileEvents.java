package app.morvet.sources.batch;

import app.morvet.sources.intake.EventKind;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** A file for which jobs wait has arrived; the {@code subject} is its name, and its data says no more. */
@Component
@Order(3)
class FileEvents implements EventKind<String> {
    private final ApplicationEventPublisher events;

    FileEvents(ApplicationEventPublisher events) {
        this.events = events;
    }

    @Override
    public List<String> types() {
        return List.of("app.morvet.file.arrived");
    }

    @Override
    public Optional<String> about() {
        return Optional.empty();
    }

    @Override
    public String read(String type, JsonNode data, Instant at) {
        return "";
    }

    @Override
    public Runnable arriving(long feed, List<Arrived<String>> some) {
        var files = some.stream()
                .map(one -> new RunsArrived.File(one.subject(), one.at()))
                .toList();
        return () -> events.publishEvent(new RunsArrived(feed, List.of(), files));
    }
}
