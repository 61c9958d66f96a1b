package app.morvet.views.services;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.tracks.TimeTracks;
import app.morvet.rules.guards.StateGuards;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What components were in over time, as high as their guards take it for bad. */
@Component
@Order(30)
class StateTracks implements TimeTracks {
    private static final int MOST = 20;

    private final SeriesBook series;
    private final States states;
    private final StateGuards guards;
    private final ServiceRows rows;
    private final Clock clock;

    StateTracks(SeriesBook series, States states, StateGuards guards, ServiceRows rows, Clock clock) {
        this.series = series;
        this.states = states;
        this.guards = guards;
        this.rows = rows;
        this.clock = clock;
    }

    @Override
    public List<Track> tracks(Looked at, Axis axis) {
        var now = clock.instant();
        var end = axis.to().isBefore(now) ? axis.to() : now;
        if (!axis.from().isBefore(end)) return List.of();
        var cadences = rows.cadences();
        return at.of().stream()
                .flatMap(one -> of(one, at, axis.from(), end, cadences))
                .toList();
    }

    private Stream<Track> of(Estate.Component one, Looked at, Instant from, Instant end, Map<Long, Duration> cadences) {
        var shown = series.ofComponent(one.id()).stream()
                .filter(it -> it.measure().isState() && !it.measure().name().equals(Changes.VERSION))
                .sorted(Comparator.comparing(Series::labelWords))
                .limit(MOST)
                .toList();
        if (shown.isEmpty()) return Stream.empty();
        var ids = shown.stream().map(Series::id).toList();
        var marks = guards.over(shown);
        var now = states.of(ids);
        var changes = states.changes(ids, from, end);
        // What nobody ever told of in that time is no track.
        var told = shown.stream()
                .filter(it -> now.containsKey(it.id()) || changes.containsKey(it.id()))
                .toList();
        return told.stream().map(it -> {
            var what = (it.measure().words() + " " + it.labelWords()).strip();
            var judged = Objects.requireNonNull(marks.get(it.id()));
            var known = knownTo(it, now.get(it.id()), cadences, end);
            return Track.relief(
                    at.name(what, one),
                    ServiceRows.stretches(it, changes.getOrDefault(it.id(), List.of()), from, end, known).stream()
                            .map(stretch -> new Track.Span(
                                    stretch.from(),
                                    stretch.to(),
                                    ServiceRows.mark(stretch.word(), judged),
                                    stretch.word() == null ? "not known" : stretch.word(),
                                    "/services/" + one.key()))
                            .toList());
        });
    }

    private static Instant knownTo(Series one, States.@Nullable Now heard, Map<Long, Duration> cadences, Instant end) {
        return heard == null ? end : ServiceRows.knownTo(one, heard, cadences);
    }
}
