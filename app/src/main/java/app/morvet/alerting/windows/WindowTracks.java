package app.morvet.alerting.windows;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.tracks.TimeTracks;
import java.util.List;
import org.springframework.stereotype.Component;

/** The windows over what is looked at. */
@Component
class WindowTracks implements TimeTracks {
    private static final int MOST = 60;

    private final Windows windows;

    WindowTracks(Windows windows) {
        this.windows = windows;
    }

    @Override
    public List<Track.Span> hatched(Looked at, Axis axis) {
        var facts = at.of().stream().map(windows::factsOf).toList();
        return windows.within(axis.from(), axis.to()).on().stream()
                .filter(on -> facts.stream().anyMatch(on.window().scope()::takes))
                .limit(MOST)
                .map(on -> new Track.Span(
                        on.from(), on.to(), "held", "window: " + on.window().name(), "/windows/" + on.id()))
                .toList();
    }
}
