package app.morvet.core.estate;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What stands on what, laid out around one component. */
class StandingMapTest {
    /** @param needs pairs of what needs and what is needed */
    private record Drawn(Map<Long, Long> on, List<long[]> needs) implements Links {
        @Override
        public Collection<Long> needs(long component) {
            return needs.stream()
                    .filter(it -> it[0] == component)
                    .map(it -> it[1])
                    .toList();
        }

        @Override
        public @Nullable Long standsOn(long component) {
            return on.get(component);
        }

        @Override
        public Collection<Long> dependents(long component) {
            var all = new ArrayList<>(needs.stream()
                    .filter(it -> it[1] == component)
                    .map(it -> it[0])
                    .toList());
            on.forEach((one, other) -> {
                if (other == component) all.add(one);
            });
            return all;
        }
    }

    private static List<Long> column(StandingMap map, int steps) {
        return map.columns().stream()
                .filter(one -> one.steps() == steps)
                .findFirst()
                .map(StandingMap.Column::nodes)
                .orElse(List.of());
    }

    @Test
    void whatIsNeededStandsLeftAndWhatDependsRightByStepsAway() {
        // 3 stands on 2, which stands on 1; 4 needs 3, 5 needs 4; 6 needs 1 and has nothing to do with 3.
        var links = new Drawn(Map.of(3L, 2L, 2L, 1L), List.of(new long[] {4, 3}, new long[] {5, 4}, new long[] {6, 1}));
        var map = StandingMap.around(3, links, 3, 100);
        assertThat(map.columns()).extracting(StandingMap.Column::steps).containsExactly(-2, -1, 0, 1, 2);
        assertThat(column(map, -2)).containsExactly(1L);
        assertThat(column(map, 2)).containsExactly(5L);
        assertThat(map.links())
                .containsExactlyInAnyOrder(
                        new StandingMap.Link(2, 3, true),
                        new StandingMap.Link(1, 2, true),
                        new StandingMap.Link(3, 4, false),
                        new StandingMap.Link(4, 5, false));
        assertThat(StandingMap.around(3, links, 1, 100).columns()).hasSize(3);
    }

    @Test
    void whatGoesRoundIsThereOnce() {
        var links = new Drawn(Map.of(), List.of(new long[] {1, 2}, new long[] {2, 3}, new long[] {3, 1}));
        var map = StandingMap.around(1, links, 5, 100);
        assertThat(map.columns().stream().flatMap(one -> one.nodes().stream())).containsExactlyInAnyOrder(1L, 2L, 3L);
        assertThat(StandingMap.dependents(1, links)).containsExactly(3L, 2L);
    }

    /** Two bundles that were told of crosswise: each is put beside what it hangs on. */
    @Test
    void thoseStandNearToWhatTheyHangOn() {
        var needs = new ArrayList<long[]>();
        needs.add(new long[] {10, 1});
        needs.add(new long[] {11, 1});
        for (long i = 0; i < 6; i++) needs.add(new long[] {20 + i, 10 + i % 2});
        var map = StandingMap.around(1, new Drawn(Map.of(), needs), 2, 100);
        assertThat(crossings(map)).isZero();
    }

    private static int crossings(StandingMap map) {
        var place = new HashMap<Long, int[]>();
        for (int x = 0; x < map.columns().size(); x++)
            for (int y = 0; y < map.columns().get(x).nodes().size(); y++)
                place.put(map.columns().get(x).nodes().get(y), new int[] {x, y});
        int crossings = 0;
        for (var one : map.links())
            for (var other : map.links()) {
                var a = place.get(one.lower());
                var b = place.get(one.upper());
                var c = place.get(other.lower());
                var d = place.get(other.upper());
                if (a[0] == c[0] && b[0] == d[0] && a[1] < c[1] && b[1] > d[1]) crossings++;
            }
        return crossings;
    }

    @Test
    void ofTooManyTheNearestAreShownAndTheRestIsCounted() {
        var needs = new ArrayList<long[]>();
        for (long i = 0; i < 500; i++) needs.add(new long[] {100 + i, 1});
        var map = StandingMap.around(1, new Drawn(Map.of(), needs), 3, 300);
        assertThat(column(map, 1)).hasSize(299).doesNotHaveDuplicates();
        assertThat(map.more()).isEqualTo(201);
        assertThat(StandingMap.dependents(1, new Drawn(Map.of(), needs))).hasSize(500);
    }
}
