package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

/** Which jobs wait for which, for any waits. */
class JobGraphProperties {
    private static final int JOBS = 7;

    /** For each job, those that it waits for; some that are not among them. */
    @Provide
    Arbitrary<List<Set<Integer>>> waits() {
        return Arbitraries.integers()
                .between(0, JOBS)
                .set()
                .ofMaxSize(2)
                .list()
                .ofSize(JOBS)
                .map(JobGraphProperties::withoutOwn);
    }

    private static List<Set<Integer>> withoutOwn(List<Set<Integer>> waits) {
        return IntStream.range(0, waits.size())
                .mapToObj(i -> waits.get(i).stream().filter(one -> one != i).collect(Collectors.toSet()))
                .toList();
    }

    @Property
    void eachJobComesAfterThoseItWaitsForOrTheCycleIsNamed(@ForAll("waits") List<Set<Integer>> waits) {
        var jobs = jobs(waits);
        if (cyclic(waits)) {
            assertThatThrownBy(() -> JobGraph.of(jobs)).satisfies(thrown -> named(thrown.getMessage(), waits));
            return;
        }
        var graph = JobGraph.of(jobs);
        assertThat(graph.order()).containsExactlyInAnyOrderElementsOf(jobs);
        var done = new HashSet<String>();
        for (var job : graph.order()) {
            for (var wait : job.waits())
                assertThat(done.contains(wait) || wait.equals("j" + JOBS)).isTrue();
            done.add(job.key());
        }
        for (int i = 0; i < JOBS; i++) {
            int waited = i;
            assertThat(graph.waitingFor("j" + i))
                    .containsExactlyElementsOf(IntStream.range(0, JOBS)
                            .filter(one -> waits.get(one).contains(waited))
                            .mapToObj(one -> "j" + one)
                            .toList());
        }
    }

    /** The message names jobs each of which waits for the next, and ends where it began. */
    private static void named(String message, List<Set<Integer>> waits) {
        assertThat(message).startsWith("these jobs wait for each other: ");
        var keys = message.substring(message.indexOf(':') + 2).split(" waits for ");
        assertThat(keys[0]).isEqualTo(keys[keys.length - 1]);
        for (int i = 0; i + 1 < keys.length; i++)
            assertThat(waits.get(number(keys[i]))).contains(number(keys[i + 1]));
    }

    private static int number(String key) {
        return Integer.parseInt(key.substring(1));
    }

    /** By taking away jobs that wait for none, until none can be taken. */
    private static boolean cyclic(List<Set<Integer>> waits) {
        var left = new TreeMap<Integer, Set<Integer>>();
        for (int i = 0; i < JOBS; i++) left.put(i, new TreeSet<>(waits.get(i)));
        while (true) {
            var free = left.entrySet().stream()
                    .filter(one -> one.getValue().stream().noneMatch(left::containsKey))
                    .map(java.util.Map.Entry::getKey)
                    .toList();
            if (free.isEmpty()) return !left.isEmpty();
            free.forEach(left::remove);
        }
    }

    private static List<Job> jobs(List<Set<Integer>> waits) {
        return IntStream.range(0, waits.size())
                .mapToObj(i -> Jobs.job(
                        "j" + i, "", waits.get(i).stream().map(one -> "j" + one).toArray(String[]::new)))
                .toList();
    }

    @Test
    void aVeryLongChainIsOrderedToo() {
        var jobs = new ArrayList<Job>();
        int length = 30_000;
        for (int i = 0; i < length; i++) jobs.add(Jobs.job("j" + i, "", "j" + (i + 1)));
        var graph = JobGraph.of(jobs);
        assertThat(graph.order()).hasSize(length);
        assertThat(graph.order().getFirst().key()).isEqualTo("j" + (length - 1));
        assertThat(graph.order().getLast().key()).isEqualTo("j0");
    }
}
