package app.morvet.sources.intake;

import app.morvet.core.readings.Sort;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What a reading is of, as a feed names it. A page names few series and tells many readings of each, so what is asked of a series
 * is asked once: those of one page that are the same are one object.
 */
final class ToldSeries {
    final String component;
    final String kind;
    final String measure;
    final Sort sort;
    final String unit;
    final String help;
    /** Without those that say what it is about. */
    final Map<String, String> labels;

    /** Which it is, once that was looked up. */
    @Nullable
    Series found;

    /** How often it is promised itself, where that was told with it. */
    @Nullable
    Duration promised;

    private @Nullable String refusal;
    private boolean judged;

    ToldSeries(
            String component,
            String kind,
            String measure,
            Sort sort,
            String unit,
            String help,
            Map<String, String> labels) {
        this.component = component;
        this.kind = kind;
        this.measure = measure;
        this.sort = sort;
        this.unit = unit;
        this.help = help;
        this.labels = labels;
    }

    /** Why no reading of it is taken, or null; judged once. */
    @Nullable
    String refusal(Function<ToldSeries, @Nullable String> judge) {
        if (!judged) refusal = judge.apply(this);
        judged = true;
        return refusal;
    }

    /** For whoever is told that it was refused. */
    String named() {
        return component + " " + measure;
    }
}
