package app.morvet.rules.failures;

import app.morvet.ground.base.Stamp;
import app.morvet.sources.messages.OpenDays;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of failures that are on their way to be told, and of what they fold into. */
@Repository
class FoldStore {
    /**
     * A failure that was not told yet.
     *
     * @param repeat whether it is one that was sent again
     * @param known  whether it was told before, as what it no longer is or as one that it is again
     */
    record Untold(
            Instant at, long component, long family, long rule, String businessKey, boolean repeat, boolean known) {}

    /** Messages that fold into one and whose alert is up. */
    record Fold(long rule, String key, long component, long family, Instant raisedAt, Instant lastAt, long failures) {}

    private final JdbcClient jdbc;
    private final OpenDays openDays;

    FoldStore(JdbcClient jdbc, OpenDays openDays) {
        this.openDays = openDays;
        this.jdbc = jdbc;
    }

    private static Fold fold(ResultSet row, int number) throws SQLException {
        return new Fold(
                row.getLong("rule_id"),
                row.getString("fold_key"),
                row.getLong("component_id"),
                row.getLong("family_id"),
                Stamp.in(row, "raised_at"),
                Stamp.in(row, "last_at"),
                row.getLong("failures"));
    }

    /**
     * Takes the oldest failures that are not told yet out of the queue; those that nobody sorted are left out.
     *
     * @param upTo not later than this
     */
    List<Untold> take(Instant upTo, int most) {
        // Mostly there are none, and to plan the joining of all days costs more than to ask.
        boolean none = jdbc.sql("select not exists (select 1 from untold_failure where at <= :upTo)")
                .param("upTo", Stamp.of(upTo))
                .query(Boolean.class)
                .single();
        if (none) return List.of();
        return jdbc.sql(
                        """
                        with taken as (
                            delete from untold_failure where ctid = any(array(
                                select ctid from untold_failure where at <= :upTo order by at limit :most
                                   for update skip locked))
                            returning id, at, repeat, known)
                        select m.at, m.component_id, m.family_id, m.rule_id, m.business_key, t.repeat, t.repeat or t.known as known,
                               coalesce(case when t.repeat then m.last_failed end, m.at) as happened
                          from taken t join failed_message m on m.at = t.at and m.id = t.id
                         where m.rule_id is not null and m.family_id is not null
                         order by happened, m.id""")
                .param("upTo", Stamp.of(upTo))
                .param("most", most)
                .query((row, number) -> new Untold(
                        Stamp.in(row, "happened"),
                        row.getLong("component_id"),
                        row.getLong("family_id"),
                        row.getLong("rule_id"),
                        row.getString("business_key"),
                        row.getBoolean("repeat"),
                        row.getBoolean("known")))
                .list();
    }

    /** The first failure that is not told yet. */
    Optional<Instant> firstUntold() {
        return jdbc.sql("select min(at) as at from untold_failure")
                .query((row, number) -> Optional.ofNullable(Stamp.orNull(row, "at")))
                .single();
    }

    Optional<Fold> byKey(long rule, String key) {
        return jdbc.sql("select * from failure_fold where rule_id = :rule and fold_key = :key for update")
                .param("rule", rule)
                .param("key", key)
                .query(FoldStore::fold)
                .optional();
    }

    List<Fold> all() {
        return jdbc.sql("select * from failure_fold").query(FoldStore::fold).list();
    }

    void put(Fold fold) {
        jdbc.sql(
                        """
                        insert into failure_fold (rule_id, fold_key, component_id, family_id, raised_at, last_at, failures)
                        values (:rule, :key, :component, :family, :raised, :last, :failures)
                            on conflict (rule_id, fold_key) do update
                           set last_at = excluded.last_at, failures = excluded.failures""")
                .param("rule", fold.rule())
                .param("key", fold.key())
                .param("component", fold.component())
                .param("family", fold.family())
                .param("raised", Stamp.of(fold.raisedAt()))
                .param("last", Stamp.of(fold.lastAt()))
                .param("failures", fold.failures())
                .update();
    }

    void remove(Fold fold) {
        jdbc.sql("delete from failure_fold where rule_id = :rule and fold_key = :key")
                .param("rule", fold.rule())
                .param("key", fold.key())
                .update();
    }

    private Instant oldestUntold() {
        return jdbc.sql("select coalesce(min(at), now()) as oldest from untold_failure")
                .query((row, number) -> Stamp.in(row, "oldest"))
                .single();
    }

    /** Folds of which no message wants anybody any more: all of it was dealt with, or another rule has it now. */
    List<Fold> dealtWith() {
        return jdbc.sql(
                        """
                        select * from failure_fold f
                         where not exists (select 1 from failed_message m
                                            where m.open and m.at >= :since and m.rule_id = f.rule_id
                                              and (f.fold_key = 'r' or m.family_id = f.family_id and (left(f.fold_key, 1) = 'a' or m.component_id = f.component_id))
                                              and (left(f.fold_key, 1) <> 'k' or m.business_key = substr(f.fold_key, 2)))
                           and not exists (select 1 from untold_failure u join failed_message m using (at, id)
                                            where m.rule_id = f.rule_id and m.at >= :untold)""")
                .param("since", Stamp.of(openDays.since()))
                .param("untold", Stamp.of(oldestUntold()))
                .query(FoldStore::fold)
                .list();
    }
}
