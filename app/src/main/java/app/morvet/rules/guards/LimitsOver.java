package app.morvet.rules.guards;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.UsualRange;
import app.morvet.core.readings.Sort;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What guards hold a series against, as far as it can be drawn into the curve of its plain values. */
@Service
public class LimitsOver {
    /** Their values are of the same unit as the readings. */
    private static final Set<Amount.Fold> PLAIN = Set.of(
            Amount.Fold.LAST,
            Amount.Fold.MEAN,
            Amount.Fold.MIN,
            Amount.Fold.MAX,
            Amount.Fold.EACH,
            Amount.Fold.PERCENTILE);

    private static final int MOST = 3;

    private final GuardStore store;
    private final Matching matching;
    private final Histories histories;

    LimitsOver(GuardStore store, Matching matching, Histories histories) {
        this.store = store;
        this.matching = matching;
        this.histories = histories;
    }

    /** @param band the first guard over a band of usual values, or null */
    public record Lines(List<Double> warning, List<Double> critical, @Nullable BandGuard band) {}

    public Lines over(Series one) {
        var facts = matching.subject(one).facts();
        var limits = one.measure().sort() == Sort.GAUGE
                ? store.activeOfKind("limit").stream()
                        .filter(guard -> guard.watch().matches(facts))
                        .map(guard -> (LimitGuard) guard.rule())
                        .filter(rule -> PLAIN.contains(rule.amount().fold())
                                && rule.amount().ceiling() == null)
                        .limit(MOST)
                        .toList()
                : List.<LimitGuard>of();
        Optional<BandGuard> band = store.activeOfKind("band").stream()
                .filter(guard -> guard.watch().matches(facts))
                .map(guard -> (BandGuard) guard.rule())
                .findFirst();
        return new Lines(
                limits.stream()
                        .flatMap(rule -> Curves.lines(rule.limits().warning()).stream())
                        .distinct()
                        .toList(),
                limits.stream()
                        .flatMap(rule -> Curves.lines(rule.limits().critical()).stream())
                        .distinct()
                        .toList(),
                band.orElse(null));
    }

    /** Within what a value is usual by a guard, or null where too little was heard to say. */
    public record Usual(double low, double high) {}

    /** What is usual in each hour of a span, in their order from the hour of its begin on. */
    public List<@Nullable Usual> usual(BandGuard guard, Series one, List<Instant> hours) {
        if (hours.isEmpty()) return List.of();
        var oldest = hours.getFirst().minus(Duration.ofDays(7L * guard.weeks() + 1));
        var past = histories.between(one, oldest, hours.getLast().plus(Duration.ofHours(1)));
        double width = guard.limits().mildest().low();
        return hours.stream()
                .map(hour -> UsualRange.learn(past, hour, guard.weeks(), guard.zone()))
                .<@Nullable Usual>map(usual -> usual == null ? null : new Usual(usual.edge(width), usual.edge(-width)))
                .toList();
    }
}
