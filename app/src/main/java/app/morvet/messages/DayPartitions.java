package app.morvet.messages;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes the day partitions of bulk tables when the first row of a day is on its way. Days are UTC days. Done in a
 * transaction of its own, before the rows are written, so that the lock on the whole table is held for a moment only.
 */
@Component
class DayPartitions {
    private static final int LOCK = 0x6d6f7276;

    private final JdbcClient jdbc;
    private final TransactionTemplate ownTransaction;
    private final Set<String> known = ConcurrentHashMap.newKeySet();

    DayPartitions(JdbcClient jdbc, PlatformTransactionManager transactions) {
        this.jdbc = jdbc;
        this.ownTransaction = new TransactionTemplate(transactions);
        this.ownTransaction.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** @param table a table of this application, never a text from outside */
    void ensure(String table, Collection<Instant> times) {
        var missing = new TreeSet<LocalDate>();
        for (var at : times) {
            var day = at.atOffset(ZoneOffset.UTC).toLocalDate();
            if (!known.contains(name(table, day))) missing.add(day);
        }
        if (missing.isEmpty()) return;
        ownTransaction.executeWithoutResult(status -> {
            jdbc.sql("select 1 from (select pg_advisory_xact_lock(:lock)) as locked")
                    .param("lock", LOCK)
                    .query(Integer.class)
                    .single();
            for (var day : missing) {
                jdbc.sql("create table if not exists %s partition of %s for values from ('%sT00:00Z') to ('%sT00:00Z')"
                                .formatted(name(table, day), table, day, day.plusDays(1)))
                        .update();
            }
        });
        missing.forEach(day -> known.add(name(table, day)));
    }

    private static String name(String table, LocalDate day) {
        return table + "_" + day.toString().replace("-", "");
    }
}
