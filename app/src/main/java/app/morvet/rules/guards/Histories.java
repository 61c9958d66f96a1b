package app.morvet.rules.guards;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.ground.base.Snapshot;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Series;
import app.morvet.sources.states.States;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** The stored past of any series: failed messages are counted from the messages, all else is readings. */
@Component
class Histories {
    private final ReadingHistory readings;
    private final MessageStore messages;
    private final States states;
    private final JdbcClient jdbc;
    private final TransactionTemplate repeatable;

    Histories(
            ReadingHistory readings,
            MessageStore messages,
            States states,
            JdbcClient jdbc,
            PlatformTransactionManager transactions) {
        this.states = states;
        this.readings = readings;
        this.messages = messages;
        this.jdbc = jdbc;
        this.repeatable = new TransactionTemplate(transactions);
        repeatable.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
    }

    /**
     * Reads what is counted as it was at one moment, so that who also hears of it knows what it has counted. Nothing else is to be
     * read so: a day that is sealed meanwhile would look empty.
     */
    void asOfOneMoment(Consumer<Snapshot> reading) {
        repeatable.executeWithoutResult(status -> reading.accept(Snapshot.now(jdbc)));
    }

    Readings between(Series series, Instant from, Instant to) {
        return between(List.of(series), from, to).getOrDefault(series.id(), Readings.NONE);
    }

    /** The same of several series, by their ids; those that have nothing are left out. */
    Map<Long, Readings> between(Collection<Series> some, Instant from, Instant to) {
        var counted = new HashMap<Long, Long>();
        var read = new ArrayList<Long>();
        for (var one : some)
            if (one.measure().countsFailures()) counted.put(one.component(), one.id());
            else read.add(one.id());
        var found = new HashMap<Long, Readings>();
        if (!read.isEmpty()) found.putAll(readings.between(read, from, to));
        wordsBefore(some, from, found);
        if (!counted.isEmpty())
            messages.timesOf(counted.keySet(), from, to)
                    .forEach((component, times) -> found.put(counted.get(component), ones(times)));
        return found;
    }

    /** What a state was in when the span begins was told before it, however long. */
    private void wordsBefore(Collection<Series> some, Instant from, Map<Long, Readings> found) {
        var ids = some.stream()
                .filter(one -> one.measure().isState())
                .map(Series::id)
                .toList();
        states.changes(ids, from, from).forEach((series, changes) -> {
            var last = changes.getLast();
            var after = found.getOrDefault(series, Readings.NONE);
            long at = Micros.of(last.at());
            if (after.size() > 0 && after.times()[0] <= at) return;
            found.put(series, after.behind(at, last.place()));
        });
    }

    private static Readings ones(List<Instant> at) {
        var times = at.stream().mapToLong(Micros::of).toArray();
        var ones = new double[times.length];
        Arrays.fill(ones, 1);
        return new Readings(times, ones);
    }

    Past of(Series series) {
        return (from, to) -> between(series, from, to);
    }
}
