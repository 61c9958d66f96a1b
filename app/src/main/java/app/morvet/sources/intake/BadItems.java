package app.morvet.sources.intake;

import java.sql.SQLException;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;

/**
 * Stores a batch of which the store may not take all. What is wrong with an item is found at the door; should something pass it, the
 * batch is halved until that one is found, and all the others are stored.
 */
final class BadItems {
    private static final Logger log = LoggerFactory.getLogger(BadItems.class);

    private BadItems() {}

    /**
     * @param store  stores some items in a transaction of its own
     * @param refuse is told of one that cannot be stored, and why
     */
    static <T> void storeAll(List<T> items, Consumer<List<T>> store, BiConsumer<T, String> refuse) {
        try {
            store.accept(items);
        } catch (DataAccessException | IllegalArgumentException failed) {
            var why = why(failed);
            if (why == null || items.isEmpty()) throw failed;
            if (items.size() == 1) {
                log.warn("the store does not take an item: {}", String.valueOf(failed.getMessage()));
                refuse.accept(items.getFirst(), why);
                return;
            }
            int half = items.size() / 2;
            storeAll(items.subList(0, half), store, refuse);
            storeAll(items.subList(half, items.size()), store, refuse);
        }
    }

    /** In words for the sender; null where it is not the data that it fails for. What core says against it says so itself. */
    private static @Nullable String why(RuntimeException failed) {
        if (!(failed instanceof DataAccessException access)) return String.valueOf(failed.getMessage());
        return fault(access) == null ? null : "it cannot be stored: a value is too long or out of range";
    }

    /** What the store finds wrong with the data; null where it is not the data that it fails for. */
    private static @Nullable String fault(DataAccessException failed) {
        for (Throwable cause = failed; cause != null; cause = cause.getCause())
            if (cause instanceof SQLException sql && sql.getSQLState() != null) {
                var state = sql.getSQLState();
                // Data exceptions, constraints, limits of a row or an index (SQL:2016, 24.1; PostgreSQL, appendix A).
                boolean data = state.startsWith("22") || state.startsWith("23") || state.startsWith("54");
                return data ? state : null;
            }
        return null;
    }
}
