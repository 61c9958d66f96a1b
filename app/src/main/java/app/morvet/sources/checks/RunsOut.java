package app.morvet.sources.checks;

import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Coming;
import app.morvet.ground.page.Times;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Certificates, licences and whatever else tells how many days it has left: when they run out. */
@Component
class RunsOut implements Coming {
    private static final String LEFT = "_days_left";
    private static final Duration HEARD = Duration.ofDays(2);
    private static final double DAY = 86_400_000;

    private final SeriesBook series;
    private final ReadingHistory history;
    private final Estate estate;
    private final Times times;

    RunsOut(SeriesBook series, ReadingHistory history, Estate estate, Times times) {
        this.series = series;
        this.history = history;
        this.estate = estate;
        this.times = times;
    }

    @Override
    public List<Item> coming(Instant from, Instant to) {
        return series.measures().stream()
                .filter(measure -> measure.name().endsWith(LEFT))
                .flatMap(measure -> series.ofMeasure(measure.name()).stream())
                .filter(one -> !series.ended(one.id()))
                .flatMap(this::runsOut)
                .filter(one -> !one.at().isBefore(from) && one.at().isBefore(to))
                .toList();
    }

    private Stream<Item> runsOut(Series one) {
        var on = estate.component(one.component());
        var what = one.measure().name().replace(LEFT, "").replace('_', ' ');
        return history.newest(one.id(), times.now().minus(HEARD)).stream()
                .map(reading -> new Item(
                        reading.at().plusMillis(Math.round(reading.value() * DAY)),
                        "warning",
                        "the %s of %s runs out".formatted(what, on.name()),
                        "/estate/components/" + on.key()));
    }
}
