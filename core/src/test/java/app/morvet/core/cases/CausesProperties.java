package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Trouble;
import app.morvet.core.estate.Links;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;

/** Trouble all over a small estate, in any order, becomes the same cases; and fewer links never make one of two. */
class CausesProperties {
    private static final Instant T = Instant.parse("2027-03-18T02:00:00Z");
    private static final int SIZE = 9;

    /**
     * An estate where each component needs or stands on one other at most.
     *
     * @param on     by component the one it hangs on
     * @param stands those that stand on it; the others need it
     */
    record Forest(Map<Long, Long> on, Set<Long> stands) implements Links {
        @Override
        public Collection<Long> needs(long component) {
            var one = on.get(component);
            return one == null || stands.contains(component) ? List.of() : List.of(one);
        }

        @Override
        public Collection<Long> dependents(long component) {
            throw new UnsupportedOperationException("a cause lies below");
        }

        @Override
        public @Nullable Long standsOn(long component) {
            return stands.contains(component) ? on.get(component) : null;
        }

        Forest without(long component) {
            var fewer = new HashMap<>(on);
            fewer.remove(component);
            return new Forest(fewer, stands);
        }
    }

    @Provide
    Arbitrary<Forest> forests() {
        return Arbitraries.integers().between(0, SIZE).list().ofSize(SIZE).flatMap(parents -> Arbitraries.of(
                        true, false)
                .list()
                .ofSize(SIZE)
                .map(stands -> {
                    var on = new HashMap<Long, Long>();
                    var standing = new HashSet<Long>();
                    for (int one = 2; one <= SIZE; one++) {
                        int parent = parents.get(one - 1) % one;
                        if (parent > 0) on.put((long) one, (long) parent);
                        if (stands.get(one - 1)) standing.add((long) one);
                    }
                    return new Forest(on, standing);
                }));
    }

    @Provide
    Arbitrary<Set<Long>> troubled() {
        return Arbitraries.longs().between(1, SIZE).set().ofMinSize(1);
    }

    /** Cases as folding and joining make them, without the store: each alert by the component that is stopped. */
    private static Set<Set<Long>> cases(List<Long> heard, Links links) {
        var caseOf = new TreeMap<Long, Long>();
        var owner = new TreeMap<Long, Long>();
        for (long component : heard) {
            var known = owner.entrySet().stream()
                    .map(it -> new Home.Known(it.getKey(), it.getValue(), null, T, null))
                    .toList();
            var home = Home.of(About.of(component), T, known, () -> explained(component, caseOf, links));
            long into =
                    switch (home) {
                        case Home.Joins(long id) -> id;
                        case Home.Explained(long id) -> id;
                        case Home.Becomes(long id) -> id;
                        case Home.Reopens(long id) -> id;
                        case Home.Opens() -> component;
                    };
            if (home instanceof Home.Opens) owner.put(into, component);
            caseOf.put(component, into);
            var earlier = owner.keySet().stream()
                    .map(id -> new Earlier.Known(
                            id,
                            T,
                            true,
                            caseOf.keySet().stream()
                                    .filter(it -> caseOf.get(it).equals(id))
                                    .map(it -> explained(it, caseOf, links).orElse(0L))
                                    .toList()))
                    .toList();
            for (long id : Earlier.explained(earlier, into, T)) {
                caseOf.replaceAll((alert, one) -> one == id ? into : one);
                owner.remove(id);
            }
        }
        return new HashSet<>(caseOf.keySet().stream()
                .collect(Collectors.groupingBy(caseOf::get, Collectors.toSet()))
                .values());
    }

    private static Optional<Long> explained(long component, Map<Long, Long> caseOf, Links links) {
        var present = caseOf.keySet().stream()
                .map(it -> new Causes.Present(it, it, "service", Trouble.STATE, Severity.CRITICAL))
                .toList();
        return Causes.of(Trouble.STATE, "service", Causes.needed(component, links), present, Set.of())
                .map(cause -> caseOf.get(cause.component()));
    }

    @Property(tries = 500)
    void theOrderOfArrivalChangesNothing(
            @ForAll("forests") Forest estate, @ForAll("troubled") Set<Long> troubled, @ForAll Random random) {
        var heard = new ArrayList<>(troubled);
        var one = cases(heard, estate);
        Collections.shuffle(heard, random);
        assertThat(cases(heard, estate)).isEqualTo(one);
        var ordered = Causes.order(heard, estate).stream().map(heard::get).toList();
        assertThat(cases(ordered, estate)).isEqualTo(one);
    }

    @Property(tries = 500)
    void removingALinkNeverMergesMore(
            @ForAll("forests") Forest estate, @ForAll("troubled") Set<Long> troubled, @ForAll Random random) {
        var heard = List.copyOf(troubled);
        var all = cases(heard, estate);
        var fewer = cases(heard, estate.without(1 + random.nextInt(SIZE)));
        assertThat(fewer).allSatisfy(part -> assertThat(all).anyMatch(whole -> whole.containsAll(part)));
    }

    /** Taken from the ground up, nothing opens a case that then has to move: nobody is told twice. */
    @Property(tries = 300)
    void whatIsHeardAtOnceOpensACaseOnlyForWhatIsExplainedByNothing(
            @ForAll("forests") Forest estate, @ForAll("troubled") Set<Long> troubled) {
        var heard = List.copyOf(troubled);
        var ordered = Causes.order(heard, estate).stream().map(heard::get).toList();
        for (int last = 1; last <= ordered.size(); last++) {
            long newest = ordered.get(last - 1);
            var before = cases(ordered.subList(0, last - 1), estate);
            var after = cases(ordered.subList(0, last), estate);
            assertThat(after.stream()
                            .map(part ->
                                    part.stream().filter(it -> it != newest).collect(Collectors.toSet()))
                            .filter(part -> !part.isEmpty())
                            .collect(Collectors.toSet()))
                    .isEqualTo(before);
        }
    }
}
