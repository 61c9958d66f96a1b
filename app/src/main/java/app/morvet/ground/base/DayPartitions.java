package app.morvet.ground.base;

import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Makes the day partitions of bulk tables: those of the next days ahead of time, and those of other days when the first row of
 * one is on its way. Days are UTC days. Done in a transaction of its own, before the one that writes the rows, so that the
 * lock on the whole table is held for a moment only and nobody who has a connection waits for another.
 */
@Component
public class DayPartitions {
    private static final int LOCK = 0x6d6f7276;

    private static final int DAYS_AHEAD = 3;
    private static final String DROPPED = "partitions";

    private final JdbcClient jdbc;
    private final Notices notices;
    private final Clock clock;
    private final OwnTransaction ownTransaction;
    private final Set<String> known = ConcurrentHashMap.newKeySet();

    DayPartitions(JdbcClient jdbc, OwnTransaction ownTransaction, Notices notices, Clock clock) {
        this.jdbc = jdbc;
        this.notices = notices;
        this.clock = clock;
        this.ownTransaction = ownTransaction;
        notices.hearOthers(DROPPED, known::clear);
    }

    /** Today's of all bulk tables, and those of the days after it. */
    @EventListener
    @Order(Ordered.HIGHEST_PRECEDENCE)
    void on(ApplicationReadyEvent ready) {
        makeAhead(clock.instant());
    }

    void makeAhead(Instant now) {
        var days = new ArrayList<Instant>();
        for (int day = 0; day <= DAYS_AHEAD; day++) days.add(now.plus(Duration.ofDays(day)));
        for (var table : tables()) ensure(table, days);
    }

    private List<String> tables() {
        return jdbc.sql(
                        """
                        select c.relname from pg_partitioned_table p join pg_class c on c.oid = p.partrelid
                         where c.relnamespace = current_schema()::regnamespace order by 1""")
                .query(String.class)
                .list();
    }

    /** @param table a table of this application, never a text from outside */
    public void ensure(String table, Collection<Instant> times) {
        var missing = new TreeSet<LocalDate>();
        for (var at : times) {
            var day = at.atOffset(ZoneOffset.UTC).toLocalDate();
            if (!known.contains(name(table, day))) missing.add(day);
        }
        if (missing.isEmpty()) return;
        ownTransaction.run(() -> {
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

    /** The days of which a table holds partitions. */
    public List<LocalDate> days(String table) {
        return jdbc.sql(
                        """
                        select right(child.relname, 8) as day
                          from pg_inherits join pg_class child on child.oid = inhrelid
                         where inhparent = :table::regclass
                         order by 1""")
                .param("table", table)
                .query((row, number) -> LocalDate.parse(row.getString("day"), DateTimeFormatter.BASIC_ISO_DATE))
                .list();
    }

    /** Drops what a table holds of days before one. Whoever writes to them again makes them anew. */
    public void dropBefore(String table, LocalDate first) {
        for (var day : days(table)) if (day.isBefore(first)) drop(table, day);
    }

    /** Drops what a table holds of a day. */
    public void drop(String table, LocalDate day) {
        ownTransaction.run(() -> {
            jdbc.sql("drop table if exists " + name(table, day)).update();
            notices.tell(DROPPED);
        });
        known.remove(name(table, day));
    }

    /** The name of the partition that holds a day. */
    public static String name(String table, LocalDate day) {
        return table + "_" + day.toString().replace("-", "");
    }
}
