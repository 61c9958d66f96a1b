package app.morvet.rules.guards;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.sources.readings.Measure;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What is allowed and hardly meant: a guard that can never call, or will call for nothing. */
@Service
class Doubts {
    private final Matching matching;
    private final GuardStore store;

    Doubts(Matching matching, GuardStore store) {
        this.matching = matching;
        this.store = store;
    }

    /** What can be said without looking at history. */
    List<String> plain(Guard rule, Watch watch, List<Subject> subjects) {
        var doubts = new ArrayList<String>();
        if (subjects.isEmpty()) {
            var near = matching.nearest(watch)
                    .map(name -> " Did you mean \"" + name + "\"?")
                    .orElse("");
            doubts.add("It matches nothing, so it can never alert." + near);
            return doubts;
        }
        doubts.addAll(wordDoubts(rule, subjects.getFirst().series().measure()));
        var window = window(rule);
        var slowest = subjects.stream()
                .map(one -> matching.cadence(one.series()))
                .max(Duration::compareTo)
                .orElse(Duration.ZERO);
        boolean counts = subjects.getFirst().series().measure().sort() == app.morvet.core.readings.Sort.COUNT;
        if (window != null && !counts && window.compareTo(slowest) < 0)
            doubts.add("Its window of %s is shorter than the %s between two readings, so it is empty most of the time."
                    .formatted(Spans.words(window), Spans.words(slowest)));
        if (rule instanceof LimitGuard limit && limit.window() instanceof Window.Sliding && !counts && window != null) {
            long fit = slowest.isZero() ? 1000 : window.dividedBy(slowest);
            if (limit.amount().least() > Math.max(1, fit))
                doubts.add("It wants %d readings, but about %d come in its window, so it can hardly ever say anything."
                        .formatted(limit.amount().least(), fit));
        }
        if (rule instanceof LimitGuard limit
                && limit.amount().ceiling() instanceof Amount.Ceiling.Measured(var measure)
                && subjects.stream().noneMatch(one -> matching.ceiling(one.series(), measure)
                        .isPresent()))
            doubts.add("None of its subjects has the measure \"" + measure
                    + "\", so there is no ceiling to take a share of.");
        return doubts;
    }

    /** A word that the measure does not know is a slip, or has not been told yet. */
    private static List<String> wordDoubts(Guard rule, Measure measure) {
        if (rule instanceof CombinationGuard || rule instanceof SilenceGuard) return List.of();
        if (!(rule instanceof StateGuard state))
            return measure.isState()
                    ? List.of("\"%s\" is a state, one of %s; watch what it is in."
                            .formatted(measure.words(), measure.unit()))
                    : List.of();
        if (!measure.isState())
            return List.of("\"%s\" is measured in numbers and is in no state.".formatted(measure.words()));
        return state.words().stream()
                .filter(word -> measure.stateWords().place(word) < 0)
                .map(word ->
                        "\"%s\" knows no word \"%s\"; it knows %s.".formatted(measure.words(), word, measure.unit()))
                .toList();
    }

    private static @Nullable Duration window(Guard rule) {
        return switch (rule) {
            case LimitGuard it -> it.window() instanceof Window.Sliding(var length) ? length : null;
            case BandGuard it -> it.window();
            case TrendGuard it -> it.lookback();
            default -> null;
        };
    }

    /** What history says: limits that lie beyond anything ever seen. */
    List<String> shown(Guard rule, Replays.Taken taken) {
        var doubts = new ArrayList<String>();
        if (rule instanceof CombinationGuard || rule instanceof TrendGuard) return doubts;
        if (rule instanceof StateGuard) return doubts;
        double lowest = Double.POSITIVE_INFINITY;
        double highest = Double.NEGATIVE_INFINITY;
        for (var one : taken.measured()) {
            for (int i = 0; i < one.course().size(); i++) {
                double value = one.course().value(i);
                if (!Double.isFinite(value)) continue;
                lowest = Math.min(lowest, value);
                highest = Math.max(highest, value);
            }
        }
        if (highest < lowest) {
            if (!taken.measured().isEmpty())
                doubts.add("Nothing was measured in this time, so a replay shows nothing.");
            return doubts;
        }
        var mildest = rule.limits().mildest();
        // Twice as far out as anything seen is beyond a wish to be told of the unheard-of.
        double room = Math.max(highest - lowest, Math.abs(highest)) * 0.5;
        boolean beyond =
                switch (mildest.side()) {
                    case ABOVE -> mildest.high() > highest + room;
                    case BELOW -> mildest.low() < lowest - room;
                    case OUTSIDE -> mildest.high() > highest + room && mildest.low() < lowest - room;
                    case EQUAL -> mildest.low() > highest || mildest.low() < lowest;
                };
        boolean always = mildest.side() == Side.ABOVE && mildest.high() < lowest
                || mildest.side() == Side.BELOW && mildest.low() > highest;
        if (beyond)
            doubts.add("Nothing that was ever seen comes near its limit: it was %s to %s."
                    .formatted(Numbers.rounded(lowest), Numbers.rounded(highest)));
        if (always)
            doubts.add("Everything that was ever seen breaches its limit: it was %s to %s."
                    .formatted(Numbers.rounded(lowest), Numbers.rounded(highest)));
        return doubts;
    }

    /** For the list; found anew in the background. */
    void remember(StoredGuard guard, List<String> shown) {
        store.keepDoubts(guard, shown);
    }

    /** What was found about some guards as they are now, by their ids. */
    Map<Long, List<String>> remembered(Collection<StoredGuard> some) {
        return store.doubts(some.stream().map(StoredGuard::id).toList());
    }
}
