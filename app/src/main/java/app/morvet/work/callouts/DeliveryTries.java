package app.morvet.work.callouts;

import app.morvet.core.callouts.Way;
import app.morvet.ground.base.Stamp;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of how deliveries were tried. */
@Repository
class DeliveryTries {
    private final JdbcClient jdbc;

    DeliveryTries(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** One try of a delivery. */
    record Try(Instant at, Way way, String recipient, Outcome outcome, String words, Duration took) {}

    enum Outcome {
        TAKEN,
        FAILED,
        /** Trying again does not help. */
        REFUSED
    }

    void add(UUID delivery, Try one) {
        jdbc.sql(
                        """
                        insert into delivery_try (delivery_id, at, way, recipient, outcome, words, millis)
                        values (:delivery, :at, :way, :recipient, :outcome, :words, :millis)""")
                .param("delivery", delivery)
                .param("at", Stamp.of(one.at()))
                .param("way", one.way().name())
                .param("recipient", one.recipient())
                .param("outcome", one.outcome().name())
                .param("words", one.words())
                .param("millis", one.took().toMillis())
                .update();
    }

    /** The first first; at most 50. */
    List<Try> of(UUID delivery) {
        return jdbc.sql("select * from delivery_try where delivery_id = :delivery order by at limit 50")
                .param("delivery", delivery)
                .query((row, number) -> new Try(
                        Stamp.in(row, "at"),
                        Way.valueOf(row.getString("way")),
                        row.getString("recipient"),
                        Outcome.valueOf(row.getString("outcome")),
                        row.getString("words"),
                        Duration.ofMillis(row.getLong("millis"))))
                .list();
    }

    /** Ways that take nothing just now: since when, by the last hour's tries; and how many wait for them. */
    List<Failing> failing(Instant now) {
        return jdbc.sql(
                        """
                        select t.way, min(t.at) as since,
                               (select count(*) from delivery d where d.state = 'WAITING' and d.failures > 0 and d.way = t.way) as waiting
                          from delivery_try t
                         where t.outcome = 'FAILED' and t.at > :day
                           and t.at > coalesce((select max(at) from delivery_try s where s.way = t.way and s.outcome = 'TAKEN'), '-infinity')
                         group by t.way having max(t.at) > :hour order by t.way""")
                .param("day", Stamp.of(now.minus(Duration.ofDays(1))))
                .param("hour", Stamp.of(now.minus(Duration.ofHours(1))))
                .query((row, number) ->
                        new Failing(Way.valueOf(row.getString("way")), Stamp.in(row, "since"), row.getLong("waiting")))
                .list();
    }

    record Failing(Way way, Instant since, long waiting) {}
}
