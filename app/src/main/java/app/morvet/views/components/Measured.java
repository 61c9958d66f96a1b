package app.morvet.views.components;

import app.morvet.core.cases.Causes;
import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.EstateLinks;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import app.morvet.ground.tracks.TimeTracks;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Components over time, with the curves of what is measured on them. */
@Component
public class Measured {
    private static final Duration DAY = Duration.ofDays(1);
    private static final int MOST_COMPONENTS = 8;

    /** A curve of the page; what it is of is said where several components stand beside each other. */
    public record Row(long id, String name, String unit) {}

    private final Estate estate;
    private final EstateLinks links;
    private final SeriesBook series;
    private final CaseBook cases;
    private final TimePictures pictures;
    private final Times times;

    Measured(Estate estate, EstateLinks links, SeriesBook series, CaseBook cases, TimePictures pictures, Times times) {
        this.estate = estate;
        this.links = links;
        this.series = series;
        this.cases = cases;
        this.pictures = pictures;
        this.times = times;
    }

    /** With a little of what is to come, so that now is to be seen. */
    Axis lastDay() {
        var now = times.now();
        return new Axis(now.minus(DAY), now.plus(DAY.dividedBy(50)));
    }

    public TimePictures.Shown picture(Estate.Component one, Optional<Axis> asked) {
        return picture("/estate/components/" + one.key() + "/time", List.of(one), asked);
    }

    TimePictures.Shown compared(List<Series> some, Optional<Axis> asked) {
        var query = some.stream().map(one -> "series=" + one.id()).collect(Collectors.joining("&"));
        var of = some.stream()
                .map(Series::component)
                .distinct()
                .limit(MOST_COMPONENTS)
                .map(estate::component)
                .toList();
        return picture("/estate/compare/time" + (query.isEmpty() ? "" : "?" + query), of, asked);
    }

    private TimePictures.Shown picture(String path, List<Estate.Component> of, Optional<Axis> asked) {
        var axis = asked.orElseGet(this::lastDay);
        var around = new LinkedHashSet<>(of);
        for (var one : of) Causes.needed(one.id(), links).keySet().forEach(id -> around.add(estate.component(id)));
        var looked = new TimeTracks.Looked(of, around);
        var ids = looked.ids();
        var lived = ids.isEmpty() ? List.<Track>of() : List.of(cases(ids, axis));
        return pictures.of(path, looked, axis, asked.isPresent(), lived, List.of());
    }

    private Track cases(List<Long> ids, Axis axis) {
        return Track.relief(
                "cases",
                cases.during(ids, axis.from(), axis.to()).stream()
                        .map(one -> new Track.Span(
                                one.from(), one.to(), one.severity().word(), one.headline(), "/cases/" + one.id()))
                        .toList());
    }

    /** What is drawn as a curve, by name. */
    public List<Row> rows(Estate.Component one) {
        var drawn = series.ofComponent(one.id()).stream()
                .filter(it -> !it.measure().isState())
                .sorted(Comparator.comparing((Series it) -> it.measure().name()).thenComparing(Series::labelWords))
                .toList();
        return rows(new ArrayList<>(drawn), false);
    }

    List<Row> rows(List<Series> some, boolean named) {
        return some.stream()
                .map(one -> new Row(one.id(), named ? name(one) : own(one), SeriesCurves.unit(one)))
                .toList();
    }

    private static String own(Series one) {
        return (one.measure().words() + " " + one.labelWords()).strip();
    }

    String name(Series one) {
        return estate.component(one.component()).name() + ", " + own(one);
    }
}
