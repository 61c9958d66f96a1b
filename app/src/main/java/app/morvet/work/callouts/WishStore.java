package app.morvet.work.callouts;

import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Wishes;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of how people wish to be told, of what waits because of that, and of whether they are reached where they say. */
@Repository
class WishStore {
    private final JdbcClient jdbc;

    WishStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Those of all who have any, by person. */
    Map<Long, Wishes> all() {
        var found = new HashMap<Long, Wishes>();
        jdbc.sql("select * from call_out_wish").query(row -> {
            found.put(row.getLong("person_id"), wishes(row));
        });
        return found;
    }

    Wishes of(long person) {
        return jdbc.sql("select * from call_out_wish where person_id = :person")
                .param("person", person)
                .query((row, number) -> wishes(row))
                .optional()
                .orElse(Wishes.NONE);
    }

    private static Wishes wishes(ResultSet row) throws SQLException {
        var first = row.getString("first_way");
        var every = row.getString("digest");
        return new Wishes(
                first == null ? null : Way.valueOf(first),
                row.getObject("quiet_from", LocalTime.class),
                row.getObject("quiet_to", LocalTime.class),
                every == null
                        ? null
                        : new Digest(
                                Digest.Every.valueOf(every),
                                DayOfWeek.of(row.getInt("digest_day")),
                                row.getObject("digest_at", LocalTime.class)),
                row.getBoolean("windows"));
    }

    void keep(long person, Wishes wishes) {
        var digest = wishes.digest();
        jdbc.sql(
                        """
                        insert into call_out_wish (person_id, first_way, quiet_from, quiet_to, digest, digest_day, digest_at, windows)
                        values (:person, :first, :from, :to, :digest, :day, :at, :windows)
                        on conflict (person_id) do update
                           set first_way = excluded.first_way, quiet_from = excluded.quiet_from, quiet_to = excluded.quiet_to,
                               digest = excluded.digest, digest_day = excluded.digest_day, digest_at = excluded.digest_at, windows = excluded.windows""")
                .param("person", person)
                .param("first", wishes.first() == null ? null : wishes.first().name())
                .param("from", wishes.quietFrom())
                .param("to", wishes.quietTo())
                .param("windows", wishes.windows())
                .param("digest", digest == null ? null : digest.every().name())
                .param("day", digest == null ? 1 : digest.day().getValue())
                .param("at", digest == null ? LocalTime.of(7, 0) : digest.at())
                .update();
    }

    /** It waits until an instant, since whoever is told wishes so, and goes in one message with what else does. */
    void defer(UUID delivery, Instant until) {
        jdbc.sql("update delivery set deferred = true, burst = true, next_try = :until where id = :id")
                .param("id", delivery)
                .param("until", Stamp.of(until))
                .update();
    }

    boolean isDeferred(UUID delivery) {
        return jdbc.sql("select deferred from delivery where id = :id")
                .param("id", delivery)
                .query(Boolean.class)
                .single();
    }

    /** Whether somebody, or an address that is nobody's own, has been told of a case since an instant, of more than that it is over. */
    boolean heard(long caseId, Delivery.To who, Instant since) {
        return jdbc.sql(
                        """
                        select exists (select 1 from delivery
                                        where case_id = :case and state = 'SENT' and about <> 'OVER'
                                          and (person_id = :person or :person::bigint is null and recipient = :recipient)
                                          and made_at >= :since)""")
                .param("case", caseId)
                .param("person", who.person())
                .param("recipient", who.hop().address())
                .param("since", Stamp.of(since))
                .query(Boolean.class)
                .single();
    }

    /**
     * A code on its way to an address.
     *
     * @param verified whether it was typed
     */
    record Check(String address, byte[] hash, Instant sentAt, int tries, boolean verified) {}

    Optional<Check> check(long person, Way way) {
        return jdbc.sql("select * from reach_check where person_id = :person and way = :way")
                .param("person", person)
                .param("way", way.name())
                .query((row, number) -> new Check(
                        row.getString("address"),
                        row.getBytes("code_hash"),
                        Stamp.in(row, "sent_at"),
                        row.getInt("tries"),
                        row.getObject("verified_at") != null))
                .optional();
    }

    /**
     * A new code takes the place of the one before, but of none that was sent after {@code notAfter}; tells whether it does. Of
     * two at once only one does.
     */
    boolean sent(long person, Way way, String address, byte[] hash, Instant at, Instant notAfter) {
        int taken = jdbc.sql(
                        """
                        insert into reach_check (person_id, way, address, code_hash, sent_at) values (:person, :way, :address, :hash, :at)
                        on conflict (person_id, way) do update
                           set address = excluded.address, code_hash = excluded.code_hash, sent_at = excluded.sent_at, tries = 0,
                               verified_at = null
                         where reach_check.sent_at <= :notAfter""")
                .param("person", person)
                .param("way", way.name())
                .param("address", address)
                .param("hash", hash)
                .param("at", Stamp.of(at))
                .param("notAfter", Stamp.of(notAfter))
                .update();
        return taken == 1;
    }

    /** Counts a try before it is looked at, so that tries at once count each; how many there have been with it. */
    int tried(long person, Way way) {
        return jdbc.sql(
                        "update reach_check set tries = tries + 1 where person_id = :person and way = :way returning tries")
                .param("person", person)
                .param("way", way.name())
                .query(Integer.class)
                .optional()
                .orElse(0);
    }

    void verified(long person, Way way, Instant at) {
        jdbc.sql("update reach_check set verified_at = :at where person_id = :person and way = :way")
                .param("person", person)
                .param("way", way.name())
                .param("at", Stamp.of(at))
                .update();
    }
}
