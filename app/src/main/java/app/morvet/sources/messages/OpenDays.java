package app.morvet.sources.messages;

import app.morvet.ground.base.AgedData;
import java.sql.Date;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The UTC days on which a failed message may be open. Messages are kept for more than a year, a day a table, and hardly any but
 * the latest are open: who asks for those that are looks from {@link #since} on.
 */
@Component
public class OpenDays implements AgedData {
    private final JdbcClient jdbc;
    private final MessageStore store;
    private final Clock clock;

    OpenDays(JdbcClient jdbc, MessageStore store, Clock clock) {
        this.clock = clock;
        this.jdbc = jdbc;
        this.store = store;
    }

    /** Before it no message is open. */
    public Instant since() {
        return jdbc.sql("select min(day) from message_open_day")
                .query((row, number) -> row.getDate(1))
                .optional()
                .map(Date::toLocalDate)
                .orElseGet(() -> LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC))
                .atStartOfDay(ZoneOffset.UTC)
                .toInstant();
    }

    /** Messages of these times are open; in the transaction that makes them so. */
    public void open(Collection<Instant> times) {
        if (times.isEmpty()) return;
        jdbc.sql("insert into message_open_day (day) select unnest(:days::date[]) on conflict do nothing")
                .param(
                        "days",
                        times.stream()
                                .map(at -> at.atOffset(ZoneOffset.UTC).toLocalDate())
                                .distinct()
                                .map(Date::valueOf)
                                .toArray(Date[]::new))
                .update();
    }

    /** Forgets the days on which none is open any more. Whoever is about to open one is waited for, and waits. */
    @Override
    @Transactional
    public void dropOld(Instant now) {
        jdbc.sql("lock table message_open_day in share row exclusive mode").update();
        var days = jdbc.sql("select day from message_open_day where day < :day")
                .param(
                        "day",
                        Date.valueOf(now.atOffset(ZoneOffset.UTC).toLocalDate().minusDays(1)))
                .query((row, number) -> row.getDate(1).toLocalDate())
                .list();
        for (var day : days)
            if (!store.anyOpen(day))
                jdbc.sql("delete from message_open_day where day = :day")
                        .param("day", Date.valueOf(day))
                        .update();
    }
}
