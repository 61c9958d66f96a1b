package app.morvet.rules.guards;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Readings;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Series;
import java.time.Instant;
import java.util.Arrays;
import org.springframework.stereotype.Component;

/** The stored past of any series: failed messages are counted from the messages, all else is readings. */
@Component
class Histories {
    private final ReadingHistory readings;
    private final MessageStore messages;

    Histories(ReadingHistory readings, MessageStore messages) {
        this.readings = readings;
        this.messages = messages;
    }

    Readings between(Series series, Instant from, Instant to) {
        if (!series.measure().name().equals(Measure.FAILED_MESSAGES)) return readings.between(series.id(), from, to);
        var times = messages.timesOf(series.component(), from, to).stream()
                .mapToLong(Micros::of)
                .toArray();
        var ones = new double[times.length];
        Arrays.fill(ones, 1);
        return new Readings(times, ones);
    }

    Past of(Series series) {
        return (from, to) -> between(series, from, to);
    }
}
