package app.morvet.core.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Trouble;
import app.morvet.core.estate.Links;
import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * What in an estate explains trouble of a component: trouble of something that it needs or stands on, through others too, that stops what
 * depends on it. That a thing is not as it should be stops what needs it and what stands on it; that nothing is heard of a machine stops what
 * stands on it. A value over its limit stops nothing by itself: a full disk is no reason for a refused handshake.
 *
 * <p>Of those that explain the nearest does, and of the equally near the first that was heard.
 */
public final class Causes {
    /** So many steps away something is looked for. */
    public static final int FARTHEST = 4;

    private static final Set<String> MACHINES = Set.of("host", "instance");
    private static final Set<String> DATED = Set.of("certificate", "licence");

    private Causes() {}

    /**
     * A component that another needs or stands on.
     *
     * @param far     how many steps away, from 1
     * @param through the last before it; the other itself where it is one step away
     * @param under   whether the other stands on it, step by step, and nothing is needed on the way
     */
    public record Needed(long component, int far, long through, boolean under) {}

    /**
     * Trouble that is there now.
     *
     * @param id        of the alert
     * @param component on which it shows
     * @param kind      of that component
     */
    public record Present(long id, long component, String kind, Trouble trouble, Severity level) {}

    /** What a component needs or stands on, up to {@link #FARTHEST} steps away, the nearest first; never itself. */
    public static Map<Long, Needed> needed(long component, Links links) {
        var found = new LinkedHashMap<Long, Needed>();
        var left = new ArrayDeque<Needed>();
        left.add(new Needed(component, 0, component, true));
        while (!left.isEmpty()) {
            var one = left.poll();
            if (one.far() >= FARTHEST) continue;
            var on = links.standsOn(one.component());
            if (on != null) add(new Needed(on, one.far() + 1, one.component(), one.under()), found, left);
            for (long need : links.needs(one.component()))
                add(new Needed(need, one.far() + 1, one.component(), false), found, left);
        }
        found.remove(component);
        return found;
    }

    private static void add(Needed next, Map<Long, Needed> found, ArrayDeque<Needed> left) {
        if (found.putIfAbsent(next.component(), next) == null) left.add(next);
    }

    /** Whether what is wrong with one thing stops another that depends on it in that way. */
    public static boolean stops(Present cause, Needed way) {
        if (!cause.level().worseThan(Severity.NOTICE)) return false;
        return switch (cause.trouble()) {
            case STATE -> true;
            case SILENT -> way.under() && MACHINES.contains(cause.kind());
            case FAILING, RUN, CHANGED, LIMIT, UNUSUAL, AHEAD -> false;
        };
    }

    /** Whether trouble of a sort can be another component's doing: what people changed, what is foretold, and what runs out by its date cannot. */
    public static boolean canBeExplained(Trouble trouble, String kind) {
        return trouble != Trouble.AHEAD && trouble != Trouble.CHANGED && !DATED.contains(kind);
    }

    /**
     * What explains trouble of a component.
     *
     * @param needed  what the component needs, as {@link #needed} found it
     * @param present trouble on those, in the order in which it was heard
     * @param named   kinds of components whose trouble, of whatever sort that is not only foretold, explains this by a rule of its own
     */
    public static Optional<Present> of(
            Trouble trouble, String kind, Map<Long, Needed> needed, Collection<Present> present, Set<String> named) {
        boolean explicable = canBeExplained(trouble, kind);
        return present.stream()
                .filter(one -> needed.containsKey(one.component()) && one.trouble() != Trouble.AHEAD)
                .filter(one -> named.contains(one.kind()) || explicable && stops(one, way(needed, one)))
                .min(Comparator.comparing(one -> way(needed, one).far()));
    }

    private static Needed way(Map<Long, Needed> needed, Present one) {
        return Objects.requireNonNull(needed.get(one.component()));
    }

    /**
     * In which order trouble that is heard at once is taken: what others depend on comes before them, so that the order in which a round
     * went through the estate makes no difference.
     *
     * @param components on which it shows; equal ones stay in their order
     * @return the places in the list, in the order to take them
     */
    public static List<Integer> order(List<Long> components, Links links) {
        var places = IntStream.range(0, components.size()).boxed().toList();
        var all = new LinkedHashSet<>(components);
        if (all.size() < 2) return places;
        var taken = new LinkedHashSet<Long>();
        for (long one : all) take(one, all, links, new HashSet<>(), taken);
        var rank = new HashMap<Long, Integer>();
        for (long one : taken) rank.put(one, rank.size());
        return places.stream()
                .sorted(Comparator.comparing(place -> Objects.requireNonNull(rank.get(components.get(place)))))
                .toList();
    }

    /** After all of those that it depends on; where they depend on each other, wherever the walk began. */
    private static void take(long one, Set<Long> all, Links links, Set<Long> walked, Set<Long> taken) {
        if (taken.contains(one) || !walked.add(one)) return;
        for (long needed : needed(one, links).keySet())
            if (all.contains(needed)) take(needed, all, links, walked, taken);
        taken.add(one);
    }
}
