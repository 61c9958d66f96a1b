package app.morvet.rules.guards;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.GuardEvaluator;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Heard;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Past;
import app.morvet.core.readings.Sort;
import app.morvet.rules.guards.Watches.Watching;
import app.morvet.sources.readings.Series;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** What guards find on single series in one round, each judged up to the instant to which it is known. */
final class Judging {
    static final Duration GRACE = Duration.ofSeconds(5);

    /** What one guard found on one series. */
    record Found(Watching watching, GuardState before, GuardEvaluator.Step step) {
        /** Whether it was raised before or is now; most are neither. */
        boolean isUp() {
            return before.level() != null || step.state().level() != null;
        }
    }

    private final Watches watches;
    private final SetAside aside;
    private final Function<Series, Past> pasts;
    private final Learned learned;

    /** @param aside is told of what cannot be judged */
    Judging(Watches watches, Function<Series, Past> pasts, Learned learned, SetAside aside) {
        this.aside = aside;
        this.watches = watches;
        this.pasts = pasts;
        this.learned = learned;
    }

    /** Of those that are due, and of the combinations of which they are members. */
    List<Found> of(Iterable<Watching> due, Instant now) {
        var found = new ArrayList<Found>();
        for (var watching : due) {
            if (watching.guard().rule() instanceof CombinationGuard) continue;
            try {
                found.add(found(watching, now));
                aside.judged(watching.key());
            } catch (RuntimeException failed) {
                aside.put(watching.key(), failed);
            }
        }
        found.addAll(combined(List.copyOf(found)));
        return found;
    }

    private Found found(Watching watching, Instant now) {
        var post = watching.post();
        var series = watching.subject().series();
        var until = horizon(watching, now);
        var before = post.state != null ? post.state : GuardState.startingAt(until);
        var rule = watching.guard().rule();
        var sort = series.measure().sort();
        var glanced = GuardEvaluator.glance(rule, before, post.ring, sort, until);
        if (glanced != null) return new Found(watching, before, glanced);
        var from = before.evaluatedTo().minus(rule.reach());
        var heard = new Heard(
                post.ring.since(Micros.of(from.minusSeconds(1))),
                post.ceiling.since(Micros.of(from)),
                pasts.apply(series),
                sort,
                watching.cadence(),
                learned.of(series.id()),
                series.measure().stateWords());
        return new Found(watching, before, GuardEvaluator.step(rule, before, heard, until));
    }

    /** The combinations whose members were judged in this round. */
    private List<Found> combined(List<Found> judged) {
        if (watches.combinations().isEmpty()) return List.of();
        var steps = new HashMap<GuardStore.Key, GuardEvaluator.Step>();
        judged.forEach(one -> steps.put(one.watching().key(), one.step()));
        var found = new ArrayList<Found>();
        for (var watching : watches.combinations()) {
            var combination = (CombinationGuard) watching.guard().rule();
            var members = new ArrayList<GuardEvaluator.Answers>();
            @Nullable Instant until = null;
            for (long member : combination.members()) {
                var own = watches
                        .byGuardAndComponent()
                        .getOrDefault(member, Map.of())
                        .getOrDefault(watching.subject().component().id(), List.of())
                        .stream()
                        .map(steps::get)
                        .filter(Objects::nonNull)
                        .toList();
                members.add(GuardEvaluator.Answers.any(
                        own.stream().map(GuardEvaluator.Step::answers).toList()));
                for (var step : own)
                    if (until == null || step.state().evaluatedTo().isBefore(until))
                        until = step.state().evaluatedTo();
            }
            if (until == null) continue;
            var state = watching.post().state;
            var before = state != null ? state : GuardState.startingAt(until);
            found.add(new Found(watching, before, GuardEvaluator.combine(combination, before, members, until)));
        }
        return found;
    }

    private Instant horizon(Watching watching, Instant now) {
        var tied = watches.tiedWith(watching);
        if (tied.isEmpty()) return ownHorizon(watching, now);
        return tied.stream()
                .map(one -> ownHorizon(one, now))
                .min(Comparator.naturalOrder())
                .orElseThrow();
    }

    private Instant ownHorizon(Watching watching, Instant now) {
        var settled = now.minus(grace(watching));
        var newest = watching.post().ring.newest();
        if (newest.isBefore(settled)) return settled;
        return newest.isAfter(now) ? now : newest;
    }

    /** How long one waits for the next reading before time is taken to have passed without any. */
    private static Duration grace(Watching watching) {
        var series = watching.subject().series();
        // Of what is counted, or told when it changes, nothing is promised that one could wait for.
        boolean unpromised = series.measure().sort() == Sort.COUNT || series.toldOnChange();
        return unpromised || watching.cadence().compareTo(GRACE) < 0 ? GRACE : watching.cadence();
    }

    /** Until when one that was judged now would be judged no further if no reading came; now where it would at once. */
    Instant still(Watching watching, Instant now) {
        var newest = watching.post().ring.newest();
        boolean waits = watches.tiedWith(watching).isEmpty() && newest.isAfter(Instant.MIN) && !newest.isAfter(now);
        return waits ? newest.plus(grace(watching)) : now;
    }
}
