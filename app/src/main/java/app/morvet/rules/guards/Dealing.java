package app.morvet.rules.guards;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Grouping;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/**
 * By what the work of guards is dealt out to nodes: what is judged together, or has one alert together, falls to one node.
 * Mostly that is a component. A guard that has one alert over several components is dealt out by that alert; and what
 * combinations tie to such a guard is dealt out with it as a whole.
 */
final class Dealing {
    /** So many components with ids in a row fall together: what is read, kept and judged in a row is nearer in memory. */
    private static final long ROW = 16;

    /** By guard, the lowest id of those that combinations tie to it; of those that are dealt out as a whole. */
    private final Map<Long, Long> wholes = new HashMap<>();

    Dealing(List<StoredGuard> guards) {
        for (var guard : guards)
            if (guard.rule() instanceof CombinationGuard combination) tie(guard.id(), combination.members());
        var whole = guards.stream()
                .filter(Dealing::isWide)
                .map(guard -> wholes.get(guard.id()))
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
        wholes.values().retainAll(whole);
    }

    private static boolean isWide(StoredGuard guard) {
        return guard.rule().terms().grouping().by() != Grouping.By.SUBJECT;
    }

    private void tie(long combination, List<Long> members) {
        var together = new HashSet<>(members);
        together.add(combination);
        var before = together.stream().map(wholes::get).filter(Objects::nonNull).collect(Collectors.toSet());
        wholes.forEach((guard, first) -> {
            if (before.contains(first)) together.add(guard);
        });
        long first = together.stream().min(Long::compare).orElseThrow();
        together.forEach(guard -> wholes.put(guard, first));
    }

    /**
     * A number by which what a guard says of a series is dealt out.
     *
     * @param group what has one alert together
     */
    long of(StoredGuard guard, long component, String group) {
        var whole = wholes.get(guard.id());
        if (whole != null) return -whole;
        return isWide(guard) ? guard.id() * 31L + group.hashCode() : of(component);
    }

    /** The number of all that is dealt out by its component. */
    static long of(long component) {
        return component / ROW;
    }
}
