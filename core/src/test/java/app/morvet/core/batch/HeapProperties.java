package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** What is pushed and popped in any order comes as from the JDK's queue. */
class HeapProperties {
    private record Entry(double key, int value) {}

    @Property
    void theLeastKeyComesFirstAndOfEqualOnesTheLeastNumber(@ForAll List<Byte> keys, @ForAll List<Boolean> pops) {
        var heap = new Heap(1);
        var model = new PriorityQueue<>(Comparator.comparingDouble(Entry::key).thenComparingInt(Entry::value));
        for (int i = 0; i < keys.size(); i++) {
            double key = keys.get(i) / 16;
            heap.push(key, i);
            model.add(new Entry(key, i));
            if (i < pops.size() && pops.get(i)) {
                assertThat(heap.topKey()).isEqualTo(model.element().key());
                assertThat(heap.pop()).isEqualTo(model.remove().value());
            }
        }
        while (!model.isEmpty()) assertThat(heap.pop()).isEqualTo(model.remove().value());
        assertThat(heap.isEmpty()).isTrue();
    }
}
