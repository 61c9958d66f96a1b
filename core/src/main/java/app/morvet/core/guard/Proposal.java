package app.morvet.core.guard;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Limits found by replay: of those that keep within a budget of alerts, the ones that tell the most real trouble; among
 * equals those with the fewest false calls, then the fewest alerts, then the tightest that is left.
 *
 * @param limits what is proposed; null where no limit keeps within the budget
 * @param tried  the trials that it was chosen from, the tightest first
 * @param chosen the one it was chosen for; null as above
 */
public record Proposal(@Nullable Limits limits, List<Trial> tried, @Nullable Trial chosen) {
    private static final int CANDIDATES = 48;

    /** One position of the warning limit, and what it would have done. */
    public record Trial(double limit, double alertsAWeek, int caught, int missed, int falseCalls) {}

    /**
     * @param runs   the courses, the same whatever the limits
     * @param budget alerts a week over all subjects, at most
     * @param judge  holds the outcome of a replay against past cases
     */
    public static Proposal of(
            Guard guard,
            List<Replay.Run> runs,
            double budget,
            Instant from,
            Instant to,
            Function<Replay.Outcome, Hindsight> judge) {
        var side = guard.limits().side();
        var trials = new ArrayList<Trial>();
        if (side != Side.ABOVE && side != Side.BELOW) return new Proposal(null, trials, null);
        for (double limit : candidates(runs, side)) {
            var outcome = Replay.of(guard.withLimits(Limits.of(side, limit, null)), runs, from, to);
            var hindsight = judge.apply(outcome);
            trials.add(new Trial(
                    limit,
                    outcome.alertsAWeek(),
                    hindsight.caught().size(),
                    hindsight.missed().size(),
                    hindsight.falseCalls()));
        }
        var chosen = best(trials, budget, side);
        if (chosen.isEmpty()) return new Proposal(null, trials, null);
        double warning = chosen.get().limit();
        var critical = best(
                trials.stream()
                        .filter(trial -> outside(side, trial.limit(), warning))
                        .toList(),
                budget / 4,
                side);
        var proposed = Limits.of(side, warning, critical.map(Trial::limit).orElse(null));
        return new Proposal(proposed, trials, chosen.get());
    }

    private static boolean outside(Side side, double limit, double warning) {
        return side == Side.ABOVE ? limit > warning : limit < warning;
    }

    private static Optional<Trial> best(List<Trial> trials, double budget, Side side) {
        return trials.stream()
                .filter(trial -> trial.alertsAWeek() <= budget && trial.alertsAWeek() > 0)
                .min(Comparator.comparingInt((Trial trial) -> -trial.caught())
                        .thenComparingInt(Trial::falseCalls)
                        .thenComparingDouble(Trial::alertsAWeek)
                        .thenComparingDouble(trial -> side == Side.ABOVE ? trial.limit() : -trial.limit()));
    }

    /** Round values between what is usual and the farthest ever seen, the tightest first. */
    private static List<Double> candidates(List<Replay.Run> runs, Side side) {
        var seen = runs.stream()
                .flatMapToDouble(run ->
                        java.util.stream.IntStream.range(0, run.course().size()).mapToDouble(run.course()::value))
                .filter(Double::isFinite)
                .toArray();
        if (seen.length == 0) return List.of();
        Arrays.sort(seen);
        double usual = Statistics.quantile(seen, 0.5);
        double farthest = side == Side.ABOVE ? seen[seen.length - 1] : seen[0];
        if (usual == farthest) return List.of();
        var found = new TreeSet<Double>();
        for (int i = 0; i < CANDIDATES; i++) {
            double even = usual + (farthest - usual) * i / CANDIDATES;
            double share = 0.5 + 0.5 * (1 - Math.pow(0.85, i));
            found.add(round(even, Math.abs(farthest - usual)));
            found.add(round(
                    Statistics.quantile(seen, side == Side.ABOVE ? share : 1 - share), Math.abs(farthest - usual)));
        }
        var ordered = new ArrayList<>(found);
        if (side == Side.BELOW) java.util.Collections.reverse(ordered);
        return ordered;
    }

    /** To a figure that people would choose: two places of the size of what is seen. */
    private static double round(double value, double range) {
        double step = Math.pow(10, Math.floor(Math.log10(range)) - 1);
        double rounded = Math.round(value / step) * step;
        return step >= 1 ? rounded : Double.parseDouble(String.format(java.util.Locale.ROOT, "%.6g", rounded));
    }
}
