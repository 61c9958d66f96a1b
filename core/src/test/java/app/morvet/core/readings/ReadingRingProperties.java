package app.morvet.core.readings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;

/** A ring keeps what a sorted list would, in whatever order readings come and are forgotten. */
class ReadingRingProperties {
    private record Told(long at, double value) {}

    private final ReadingRing ring = new ReadingRing();
    private final List<Told> list = new ArrayList<>();

    private void add(long at, double value) {
        ring.add(at, value);
        int place = list.size();
        while (place > 0 && list.get(place - 1).at() > at) place--;
        list.add(place, new Told(at, value));
    }

    private void forgetBefore(long at) {
        ring.forgetBefore(at);
        while (list.size() > 1 && list.get(1).at() < at) list.removeFirst();
    }

    private void clear() {
        ring.clear();
        list.clear();
    }

    /** @param deeds a reading of that time; what is below 0 forgets, mostly what lies before, now and then all */
    @Property(tries = 500)
    void itKeepsWhatASortedListKeeps(
            @ForAll @Size(max = 120) List<@IntRange(min = -40, max = 200) Integer> deeds,
            @ForAll @IntRange(min = -1, max = 201) int looked) {
        for (int i = 0; i < deeds.size(); i++) {
            int deed = deeds.get(i);
            if (deed >= 0) add(deed, i);
            else if (deed == -40) clear();
            else forgetBefore(-deed * 5L);
        }
        assertThat(ring.size()).isEqualTo(list.size());
        assertThat(ring.all().times()).containsExactly(times(list));
        assertThat(ring.all().values())
                .containsExactly(list.stream().mapToDouble(Told::value).toArray());
        assertThat(ring.has(looked)).isEqualTo(list.stream().anyMatch(one -> one.at() == looked));
        int after = (int) list.stream().filter(one -> one.at() <= looked).count();
        assertThat(ring.since(looked).times())
                .as("those after it, and the one before them")
                .containsExactly(times(list.subList(Math.max(0, after - 1), list.size())));
    }

    private static long[] times(List<Told> some) {
        return some.stream().mapToLong(Told::at).toArray();
    }
}
