package app.morvet.sources.batch;

import app.morvet.core.batch.Run;
import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.tracks.TimeTracks;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** The runs of jobs over time. */
@Component
@Order(20)
class RunTracks implements TimeTracks {
    /** What began before and runs into it. */
    private static final Duration LONGEST = Duration.ofHours(12);

    private final Runs runs;

    RunTracks(Runs runs) {
        this.runs = runs;
    }

    @Override
    public List<Track> tracks(Looked at, Axis axis) {
        return at.of().stream()
                .filter(one -> one.kind().equals(Estate.JOB))
                .map(one -> Track.relief(
                        at.name("runs", one),
                        runs.between(one.id(), axis.from().minus(LONGEST), axis.to()).stream()
                                .map(RunTracks::span)
                                .toList()))
                .toList();
    }

    private static Track.Span span(Run run) {
        var from = run.started() == null ? Objects.requireNonNull(run.ended()) : run.started();
        var link = "/batch/runs/" + run.id();
        if (run.end() == null) return new Track.Span(from, null, "steady", "runs", link);
        return switch (run.end()) {
            case FINE -> new Track.Span(from, run.ended(), "steady", "done", link);
            case WARNED -> new Track.Span(from, run.ended(), "warning", "done, with something to look at", link);
            case FAILED -> new Track.Span(from, run.ended(), "critical", "failed", link);
            case CANCELLED -> new Track.Span(from, run.ended(), "notice", "cancelled", link);
        };
    }
}
