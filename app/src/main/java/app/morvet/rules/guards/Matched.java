package app.morvet.rules.guards;

import app.morvet.core.guard.Watch;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Which series fit what guards watch, remembered from one look at all guards to the next: thousands of guards over tens of
 * thousands of series are millions of comparisons, and what changes is mostly one guard or the series of one measure. Nothing
 * has to tell it of changes. Not thread-safe.
 */
final class Matched {
    /**
     * What fits watches of one measure.
     *
     * @param all    of the measure, as it was
     * @param before what fitted at the last look, if all was the same then
     * @param found  at this look
     */
    private record OfMeasure(List<Subject> all, Map<Watch, List<Subject>> before, Map<Watch, List<Subject>> found) {
        List<Subject> of(Watch watch) {
            return found.computeIfAbsent(watch, it -> {
                var known = before.get(it);
                return known == null ? Matching.of(it, all) : known;
            });
        }
    }

    private final Matching matching;
    private Map<String, OfMeasure> measures = new HashMap<>();

    Matched(Matching matching) {
        this.matching = matching;
    }

    /** Begins another look: what fits a watch, as the estate is now. */
    Function<Watch, List<Subject>> now() {
        var before = measures;
        var now = new HashMap<String, OfMeasure>();
        measures = now;
        return watch -> now.computeIfAbsent(watch.measure(), measure -> {
                    var all = matching.all(measure);
                    var last = before.get(measure);
                    boolean same = last != null && last.all().equals(all);
                    return new OfMeasure(all, same ? last.found() : Map.of(), new HashMap<>());
                })
                .of(watch);
    }
}
