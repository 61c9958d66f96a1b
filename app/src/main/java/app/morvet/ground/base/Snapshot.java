package app.morvet.ground.base;

import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Which transactions a read of the store has seen. Whoever reads the store and also hears of what is stored later tells by
 * it what is new to them, so that nothing counts twice and nothing is missed, however long a hearing takes.
 *
 * @param from    every transaction before this one had ended
 * @param to      this one and those after it had not begun
 * @param running those between that had not ended
 */
public record Snapshot(long from, long to, Set<Long> running) {
    public Snapshot {
        running = Set.copyOf(running);
    }

    /** What this transaction sees; for all of it only where it is one of repeatable reads. */
    public static Snapshot now(JdbcClient jdbc) {
        return parse(jdbc.sql("select pg_current_snapshot()::text")
                .query(String.class)
                .single());
    }

    /** {@code 10:20:12,15}, as PostgreSQL writes it. */
    public static Snapshot parse(String text) {
        var part = text.split(":", -1);
        return new Snapshot(
                Long.parseLong(part[0]),
                Long.parseLong(part[1]),
                Arrays.stream(part[2].split(","))
                        .filter(one -> !one.isEmpty())
                        .map(Long::valueOf)
                        .collect(Collectors.toSet()));
    }

    /** Whether what a transaction stored was there for the read; of one that has been committed by now. */
    public boolean saw(long transaction) {
        return transaction < from || transaction < to && !running.contains(transaction);
    }
}
