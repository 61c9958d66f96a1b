package app.morvet.sources.messages;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.tracks.TimeTracks;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** The failed messages of interfaces over time, counted in equal stretches. */
@Component
@Order(10)
class FailureTracks implements TimeTracks {
    private static final int STRETCHES = 90;

    private final MessageStore messages;

    FailureTracks(MessageStore messages) {
        this.messages = messages;
    }

    @Override
    public List<Track> tracks(Looked at, Axis axis) {
        return at.of().stream()
                .filter(one -> one.kind().equals(Estate.INTERFACE))
                .map(one -> Track.columns(at.name("failed messages", one), columns(one, axis)))
                .toList();
    }

    private List<Track.Span> columns(Estate.Component one, Axis axis) {
        var stretch = Duration.ofSeconds(Math.max(60, axis.length().toSeconds() / STRETCHES));
        var counts = messages.counts(MessageScope.of(one.id()), axis.from(), axis.to(), stretch);
        var spans = new ArrayList<Track.Span>();
        for (int i = 0; i < counts.length; i++) {
            if (counts[i] == 0) continue;
            var from = axis.from().plus(stretch.multipliedBy(i));
            var words = counts[i] == 1 ? "1 failed" : "%,d failed".formatted(counts[i]);
            spans.add(new Track.Span(
                    from, from.plus(stretch), "critical", words, "/messages/interfaces/" + one.key(), counts[i]));
        }
        return spans;
    }
}
