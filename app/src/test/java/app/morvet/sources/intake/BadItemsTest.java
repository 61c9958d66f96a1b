package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataAccessResourceFailureException;

/** One item that the store does not take keeps none of the others out. */
class BadItemsTest {
    private final List<Integer> stored = new ArrayList<>();
    private final List<Integer> refused = new ArrayList<>();

    private static DataAccessException failed(String state) {
        return new DataAccessResourceFailureException("", new SQLException("", state));
    }

    /** All or nothing, as a transaction is. */
    private Consumer<List<Integer>> storeBut(List<Integer> bad, String state) {
        return some -> {
            if (some.stream().anyMatch(bad::contains)) throw failed(state);
            stored.addAll(some);
        };
    }

    private static List<Integer> items(int count) {
        return IntStream.range(0, count).boxed().toList();
    }

    @Test
    void allOthersAreStoredOnceAndInOrder() {
        BadItems.storeAll(items(100), storeBut(List.of(0, 41, 42, 99), "22021"), (one, why) -> refused.add(one));
        assertThat(refused).containsExactly(0, 41, 42, 99);
        assertThat(stored).hasSize(96).isSorted().doesNotContain(0, 41, 42, 99);
    }

    @Test
    void anIndexThatCannotHoldItIsTheItemsFaultToo() {
        BadItems.storeAll(items(3), storeBut(List.of(1), "54000"), (one, why) -> refused.add(one));
        assertThat(stored).containsExactly(0, 2);
    }

    /** The store is away: nothing is the sender's fault, and all of it is sent again. */
    @Test
    void whenTheStoreIsAwayNothingIsRefused() {
        assertThatThrownBy(() ->
                        BadItems.storeAll(items(8), storeBut(List.of(1), "08006"), (one, why) -> refused.add(one)))
                .isInstanceOf(DataAccessResourceFailureException.class);
        assertThat(refused).isEmpty();
        assertThat(stored).isEmpty();
    }
}
