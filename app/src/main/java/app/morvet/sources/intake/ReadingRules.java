package app.morvet.sources.intake;

import app.morvet.core.estate.ComponentKey;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.PlainText;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.SeriesBook;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What a reading may be, so that it is taken. */
@Component
class ReadingRules {
    private static final Duration AHEAD = Duration.ofMinutes(5);
    private static final int MOST_LABELS = 16;
    private static final int LONGEST_NAME = 200;
    /** What they take in the index by which a series is found, which has 2.7 kB for it. */
    private static final int MOST_LABEL_BYTES = 2000;

    private static final Pattern MEASURE = Pattern.compile("[A-Za-z_:][A-Za-z0-9_:.]*");

    private final SeriesBook series;
    private final MorvetSettings settings;

    ReadingRules(SeriesBook series, MorvetSettings settings) {
        this.series = series;
        this.settings = settings;
    }

    /** Why a reading is not taken, in words for who sent it; null where it is. */
    @Nullable
    String refusal(Told one, Instant now) {
        var state = one.state();
        if (state == null && !Double.isFinite(one.value())) return "value is not a finite number, which is no reading";
        var unfit = one.of().refusal(this::refusal);
        if (unfit != null) return unfit;
        var unlike = state == null ? null : unlike(one.of().measure, state);
        if (unlike != null) return unlike;
        var at = Micros.instant(one.at());
        if (at.isAfter(now.plus(AHEAD))) return "at lies more than 5 min ahead of Morvet's clock";
        if (at.isBefore(now.minus(settings.keepReadings())))
            return "at lies before the " + settings.keepReadings().toDays() + " days that are kept";
        return null;
    }

    private @Nullable String refusal(ToldSeries one) {
        if (one.measure.isBlank() || one.measure.length() > LONGEST_NAME)
            return "measure is missing or longer than 200 characters";
        if (!MEASURE.matcher(one.measure).matches())
            return "measure must be a name of letters, digits and _, was \"" + one.measure + "\"";
        if (one.measure.equals(Measure.FAILED_MESSAGES)) return "failed_messages is counted from events, not sent";
        var known = series.measure(one.measure).orElse(null);
        var unlike = known == null ? null : ReadingRows.unlike(known, one.sort == Sort.STATE);
        if (unlike != null) return unlike;
        var unfit = ComponentKey.refusal(one.component);
        if (unfit != null) return "component: " + unfit;
        if (one.unit.length() > LONGEST_NAME || !isPlain(one.unit))
            return "unit is longer than 200 characters, or contains a NUL or half a character";
        return refusal(one.labels);
    }

    private static @Nullable String refusal(Map<String, String> labels) {
        if (labels.size() > MOST_LABELS) return "at most 16 labels, were " + labels.size();
        int bytes = 0;
        for (var label : labels.entrySet()) {
            if (label.getKey().length() > LONGEST_NAME || label.getValue().length() > LONGEST_NAME)
                return "a label is longer than 200 characters";
            if (!isPlain(label.getValue()) || !isPlain(label.getKey()))
                return "a label contains a NUL or half a character";
            bytes += bytes(label.getKey()) + bytes(label.getValue());
        }
        return bytes <= MOST_LABEL_BYTES
                ? null
                : "its labels are too long together: at most %,d bytes, were %,d".formatted(MOST_LABEL_BYTES, bytes);
    }

    /** A state has as many words as one may have. */
    private @Nullable String unlike(String measure, Told.State state) {
        if (!isPlain(state.said())) return "what it said contains a NUL or half a character";
        try {
            series.measure(measure)
                    .map(Measure::stateWords)
                    .orElse(StateWords.NONE)
                    .with(state.words());
            return null;
        } catch (IllegalArgumentException unfit) {
            return String.valueOf(unfit.getMessage());
        }
    }

    private static boolean isPlain(String text) {
        return PlainText.of(text).equals(text);
    }

    private static int bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8).length;
    }
}
