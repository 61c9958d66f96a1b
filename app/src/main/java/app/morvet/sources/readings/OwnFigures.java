package app.morvet.sources.readings;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What Morvet measures of itself becomes readings of the component {@value #COMPONENT}, like all else that is measured. */
@Component
class OwnFigures extends Rounds {
    static final String COMPONENT = "morvet";
    private static final Duration EVERY = Duration.ofSeconds(30);

    /** Asked for late: one of them is the rounds themselves. */
    private final ObjectProvider<OwnFigure> measured;

    private final SeriesBook series;
    private final ReadingBook readings;
    private final Estate estate;
    private final Leases.Share share;
    private final String node;
    private final TransactionTemplate transaction;
    private final Clock clock;

    OwnFigures(
            ObjectProvider<OwnFigure> measured,
            SeriesBook series,
            ReadingBook readings,
            Estate estate,
            Leases leases,
            Notices notices,
            TransactionTemplate transaction,
            Clock clock) {
        super(
                "own-figures",
                new Undone("Morvet does not watch itself", "Morvet watches itself late", "/services"),
                EVERY);
        this.measured = measured;
        this.series = series;
        this.readings = readings;
        this.estate = estate;
        this.share = leases.share("own figures", 1);
        this.node = notices.node();
        this.transaction = transaction;
        this.clock = clock;
    }

    @Override
    protected boolean round() {
        // What is the same on all nodes is told by one of them.
        boolean forAll = !share.held().none();
        var figures = measured.stream()
                .flatMap(one -> one.figures().stream())
                .filter(one -> one.ofNode() || forAll)
                .toList();
        if (figures.isEmpty()) return false;
        if (estate.byKey(COMPONENT).isEmpty()) estate.add(COMPONENT, "Morvet", "instance", null);
        long component = estate.byKey(COMPONENT).orElseThrow().id();
        var fresh = figures.stream()
                .filter(one ->
                        series.find(component, one.measure(), labels(one)).isEmpty())
                .map(one -> new SeriesBook.Newcomer(
                                component, one.measure(), Sort.GAUGE, one.unit(), one.help(), labels(one))
                        .promising(EVERY))
                .toList();
        if (!fresh.isEmpty()) series.registerOwn(fresh);
        var told = figures.stream()
                .map(one -> series.find(component, one.measure(), labels(one)).orElseThrow())
                .toList();
        var promised = new HashMap<Long, Duration>();
        told.stream().filter(one -> !EVERY.equals(one.promised())).forEach(one -> promised.put(one.id(), EVERY));
        if (!promised.isEmpty()) series.promise(promised);
        var times = new long[told.size()];
        Arrays.fill(times, Micros.of(clock.instant()));
        readings.prepare(times);
        transaction.executeWithoutResult(status -> readings.add(
                told.stream().mapToLong(Series::id).toArray(),
                times,
                figures.stream().mapToDouble(OwnFigure.Figure::value).toArray()));
        return false;
    }

    private Map<String, String> labels(OwnFigure.Figure one) {
        if (!one.ofNode()) return one.labels();
        var labels = new TreeMap<>(one.labels());
        labels.put("node", node);
        return labels;
    }
}
