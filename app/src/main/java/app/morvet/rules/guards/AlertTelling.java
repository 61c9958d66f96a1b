package app.morvet.rules.guards;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import app.morvet.core.guard.Folding;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.readings.Past;
import app.morvet.rules.guards.Watches.GroupKey;
import app.morvet.rules.guards.Watches.Watching;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.readings.Series;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What one round of guards makes of alerts: what was found on single series, folded into what has one alert together. */
final class AlertTelling {
    private final Watches watches;
    private final Guards guards;
    private final Function<Series, Past> pasts;
    private final List<Move> moved = new ArrayList<>();
    private final List<Move> counted = new ArrayList<>();

    /** @param watches with the states that they had before the round */
    AlertTelling(Watches watches, Guards guards, Function<Series, Past> pasts) {
        this.watches = watches;
        this.guards = guards;
        this.pasts = pasts;
    }

    /** All of it: what changed, in order of time, and then what those that are up say by now. */
    List<Move> moves() {
        moved.sort(Comparator.comparing(one -> one.transition().at()));
        return Stream.concat(moved.stream(), counted.stream()).toList();
    }

    /** Whether anything changed but values. */
    boolean changed() {
        return !moved.isEmpty();
    }

    void of(Collection<Judging.Found> found) {
        var changed = new LinkedHashMap<GroupKey, List<Folding.Of<Watching>>>();
        for (var one : found)
            for (var change : one.step().transitions())
                changed.computeIfAbsent(one.watching().groupKey(), none -> new ArrayList<>())
                        .add(new Folding.Of<>(one.watching(), change));
        changed.forEach(this::fold);
        var up = found.stream().filter(Judging.Found::isUp).toList();
        var next = new HashMap<GuardStore.Key, GuardState>();
        for (var one : up) next.put(one.watching().key(), one.step().state());
        for (var one : up) count(one, next);
    }

    private void fold(GroupKey group, List<Folding.Of<Watching>> happened) {
        happened.sort(Comparator.comparing(one -> one.transition().at()));
        var levels = new HashMap<Watching, Severity>();
        for (var watching : watches.together(group)) {
            if (watching.post().isUp())
                levels.put(watching, watching.post().state.level());
        }
        if (watches.silenced().contains(group.guard())) return;
        for (var told : Folding.fold(levels, happened)) moved.add(moved(told.member(), told.transition()));
    }

    private Move moved(Watching watching, Transition change) {
        var level = change.level() == null ? Severity.WARNING : change.level();
        var words = words(watching, level, change.value(), change.at());
        return move(watching, change, words, atWorst(watching, level, change.value(), change.worst(), words));
    }

    private static Move move(Watching watching, Transition change, String words, @Nullable String worst) {
        var series = watching.subject().series();
        var topic = series.measure().countsFailures()
                ? MessageScope.of(watching.subject().component().id()).topic()
                : null;
        return new Move(
                GuardOrigins.origin(watching.guard().id()),
                watching.group(),
                About.of(watching.subject().component().id(), topic),
                series.id(),
                change,
                words,
                worst,
                "");
    }

    /** Where a trend was heading at its worst is not known any more. */
    private @Nullable String atWorst(Watching watching, Severity level, double value, double worst, String words) {
        if (Double.compare(value, worst) == 0) return words;
        var rule = watching.guard().rule();
        if (Double.isNaN(worst) || rule instanceof TrendGuard) return null;
        var breached = rule.limits().breachedBy(worst);
        return guards.headline(watching.guard(), watching.subject(), breached == null ? level : breached, worst, null);
    }

    private String words(Watching watching, Severity level, double value, Instant at) {
        var seen = watching.guard().rule() instanceof TrendGuard trend
                ? Guards.projection(trend, pasts.apply(watching.subject().series()), at)
                : null;
        return guards.headline(watching.guard(), watching.subject(), level, value, seen);
    }

    /**
     * An alert that is up tells its value: that of its worst series, which may be another than the one that changed.
     *
     * @param next the states after the round, of what was or is up
     */
    private void count(Judging.Found one, Map<GuardStore.Key, GuardState> next) {
        var before = one.before();
        var after = one.step().state();
        if (after.level() != null && Double.compare(after.value(), before.value()) == 0) return;
        var group = one.watching().groupKey();
        if (watches.silenced().contains(group.guard())) return;
        var limits = one.watching().guard().rule().limits();
        Watching worst = null;
        GuardState says = null;
        for (var other : watches.together(group)) {
            var state = next.getOrDefault(other.key(), other.post().state);
            if (state == null || state.level() == null) continue;
            if (says != null && limits.worse(says.value(), state.value()) != state.value()) continue;
            worst = other;
            says = state;
        }
        if (worst == null || says.level() == null) return;
        boolean tellsAlready = !worst.equals(one.watching())
                && (before.level() == null || limits.worse(before.value(), says.value()) == says.value());
        if (tellsAlready) return;
        var words = words(worst, says.level(), says.value(), says.evaluatedTo());
        var change = new Transition(Transition.Kind.SAYS, says.evaluatedTo(), says.level(), says.value(), says.worst());
        counted.add(move(worst, change, words, atWorst(worst, says.level(), says.value(), says.worst(), words)));
    }

    /** A guard that no longer stands over a series ends its alert there, unless another series keeps it up. */
    void left(Watching watching, GuardState state, Instant now) {
        boolean others = watches.together(watching.groupKey()).stream()
                .anyMatch(one -> one.post().isUp());
        if (others) return;
        moved.add(moved(watching, new Transition(Transition.Kind.CLEARED, now, null, state.value(), state.worst())));
    }

    /** Members of a combination that keep silent from now on end their alerts; those that speak again raise them. */
    void silenced(Set<Long> before, Instant now) {
        if (before.equals(watches.silenced())) return;
        watches.groups().forEach((group, together) -> {
            boolean was = before.contains(group.guard());
            boolean is = watches.silenced().contains(group.guard());
            if (was == is) return;
            together.stream()
                    .filter(one -> one.post().isUp())
                    .max(Comparator.comparing(
                            one -> Objects.requireNonNull(one.post().state.level())))
                    .ifPresent(one -> {
                        var state = one.post().state;
                        var change = new Transition(
                                is ? Transition.Kind.CLEARED : Transition.Kind.RAISED,
                                now,
                                is ? null : state.level(),
                                state.value(),
                                state.worst());
                        moved.add(moved(one, change));
                    });
        });
    }
}
