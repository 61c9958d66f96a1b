package app.morvet.sources.messages;

import app.morvet.core.messages.Fingerprint;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** All SQL of failure families. */
@Repository
class FamilyStore {
    record Family(long id, String fingerprint, String skeleton, Instant firstSeen) {}

    /**
     * What a family did in a span.
     *
     * @param open       how many of them still want somebody
     * @param rules      ids of the sorting rules that took them
     * @param components ids of the interfaces that it touched
     */
    record Tally(
            Family family,
            long count,
            long open,
            Instant first,
            Instant last,
            List<Long> rules,
            List<Long> components) {}

    /** So many of a family failed in an hour. */
    record Hour(long family, Instant hour, long count) {}

    /** A message that has no family yet. */
    record Orphan(MessageId id, String error) {}

    private final JdbcClient jdbc;

    FamilyStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private static Family family(ResultSet row, int number) throws SQLException {
        return new Family(
                row.getLong("family_id"),
                row.getString("fingerprint"),
                row.getString("skeleton"),
                Stamp.in(row, "first_seen"));
    }

    /**
     * The ids of families, new ones made.
     *
     * @param seen when each was seen, as many as there are fingerprints
     */
    List<Family> ensure(List<Fingerprint> prints, List<Instant> seen) {
        var keys = prints.stream().map(Fingerprint::key).toArray(String[]::new);
        jdbc.sql(
                        """
                        insert into failure_family (fingerprint, skeleton, first_seen)
                        select key, skeleton, seen
                          from unnest(:keys::text[], :skeletons::text[], :seen::timestamptz[]) as f(key, skeleton, seen)
                            on conflict (fingerprint) do update
                           set first_seen = least(failure_family.first_seen, excluded.first_seen)""")
                .param("seen", seen.stream().map(Timestamp::from).toArray(Timestamp[]::new))
                .param("keys", keys)
                .param("skeletons", prints.stream().map(Fingerprint::skeleton).toArray(String[]::new))
                .update();
        return jdbc.sql(
                        """
                        select id as family_id, fingerprint, skeleton, first_seen from failure_family
                         where fingerprint = any(:keys)""")
                .param("keys", keys)
                .query(FamilyStore::family)
                .list();
    }

    Optional<Family> byId(long id) {
        return jdbc.sql("select id as family_id, fingerprint, skeleton, first_seen from failure_family where id = :id")
                .param("id", id)
                .query(FamilyStore::family)
                .optional();
    }

    /** Those that have all of some words as they are written in what stays of their error, capitals or not; the newest first. */
    List<Family> with(List<String> words, int size) {
        return jdbc.sql(
                        """
                        select id as family_id, fingerprint, skeleton, first_seen from failure_family
                         where skeleton ~* all(array(select '***=' || word from unnest(:words::text[]) as w(word)))
                         order by id desc limit :size""")
                .param("words", words.toArray(String[]::new))
                .param("size", size)
                .query(FamilyStore::family)
                .list();
    }

    /** The families of a span, the most frequent first. */
    List<Tally> tallies(MessageScope scope, Instant from, Instant to, int size) {
        return jdbc.sql(
                        """
                        with counted as (select family_id, count(*) as failures, count(*) filter (where open) as open,
                                                min(at) as first, max(at) as last,
                                                array_agg(distinct rule_id) filter (where rule_id is not null) as rules,
                                                array_agg(distinct component_id) as components
                                           from failed_message
                                          where at >= :from and at <= :to and family_id is not null
                                            and (:component::bigint is null or component_id = :component::bigint)
                                            and (:family::bigint is null or family_id = :family::bigint)
                                            and (:rule::bigint is null or rule_id = :rule::bigint)
                                          group by family_id
                                          order by failures desc, family_id
                                          limit :size)
                        select c.*, f.fingerprint, f.skeleton, f.first_seen
                          from counted c join failure_family f on f.id = c.family_id
                         order by c.failures desc, c.family_id""")
                .param("component", scope.component())
                .param("family", scope.family())
                .param("rule", scope.rule())
                .param("from", Stamp.of(from))
                .param("to", Stamp.of(to))
                .param("size", size)
                .query((row, number) -> new Tally(
                        family(row, number),
                        row.getLong("failures"),
                        row.getLong("open"),
                        Stamp.in(row, "first"),
                        Stamp.in(row, "last"),
                        row.getArray("rules") == null
                                ? List.of()
                                : Arrays.asList((Long[]) row.getArray("rules").getArray()),
                        Arrays.asList((Long[]) row.getArray("components").getArray())))
                .list();
    }

    /** By the hour, for the rhythm of some families. */
    List<Hour> hours(List<Long> families, Instant from) {
        return jdbc.sql(
                        """
                        select family_id, date_trunc('hour', at) as hour, count(*) as failures from failed_message
                         where family_id = any(:families::bigint[]) and at >= :from
                         group by 1, 2""")
                .param("families", families.toArray(Long[]::new))
                .param("from", Stamp.of(from))
                .query((row, number) ->
                        new Hour(row.getLong("family_id"), Stamp.in(row, "hour"), row.getLong("failures")))
                .list();
    }

    /** The latest messages of a family. */
    List<MessageStore.Line> latest(long family, Instant from, int size) {
        return jdbc.sql(
                        """
                        select id, at, component_id, business_key, step, left(error, 8192) as error from failed_message
                         where family_id = :family and at >= :from
                         order by at desc, id desc
                         limit :size""")
                .param("family", family)
                .param("from", Stamp.of(from))
                .param("size", size)
                .query((row, number) -> MessageStore.line(row))
                .list();
    }

    List<Orphan> orphans(int size) {
        return jdbc.sql(
                        "select at, id, left(error, 8192) as error from failed_message where family_id is null limit :size")
                .param("size", size)
                .query((row, number) ->
                        new Orphan(new MessageId(Stamp.in(row, "at"), row.getLong("id")), row.getString("error")))
                .list();
    }

    void adopt(MessageId id, long family) {
        jdbc.sql("update failed_message set family_id = :family where at = :at and id = :id")
                .param("family", family)
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .update();
    }
}
