package app.morvet.sources.messages;

import app.morvet.core.messages.Delays;
import app.morvet.ground.base.CopyRows;
import app.morvet.ground.base.Stamp;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/**
 * The SQL by which messages come in. Failed ones come by binary COPY into a table of the connection's own and from there
 * into theirs, so that a repeat is left out and the work that follows is put down in the same statement.
 */
@Repository
class ArrivalStore {
    /** A failed message with what sorting said of it. */
    record Sorted(MessagesArrived.Failed failed, long family, long rule, boolean open) {}

    /** One that is new. */
    record Added(MessageId id, long component, String eventId) {}

    /** What an interface carried in an hour. */
    record HourOf(long component, Instant hour) {}

    /** What is added to an hour; {@code last} is when it last carried something, the epoch where it did not. */
    record Carried(long delivered, long failed, Delays delays, Instant last) {
        Carried plus(Carried other) {
            return new Carried(
                    delivered + other.delivered,
                    failed + other.failed,
                    delays.plus(other.delays),
                    last.isAfter(other.last) ? last : other.last);
        }
    }

    private final JdbcClient jdbc;
    private final DataSource dataSource;
    private final JsonMapper json;
    private final OpenDays openDays;

    ArrivalStore(JdbcClient jdbc, DataSource dataSource, JsonMapper json, OpenDays openDays) {
        this.openDays = openDays;
        this.jdbc = jdbc;
        this.dataSource = dataSource;
        this.json = json;
    }

    /** Stores failed messages and tells which of them are new. */
    List<Added> addFailed(long feed, List<Sorted> messages) {
        var rows = new CopyRows(16);
        for (var one : messages) {
            var message = one.failed().message();
            rows.row()
                    .time(message.at())
                    .number(one.failed().component())
                    .text(one.failed().eventId())
                    .text(message.reference())
                    .text(message.businessKey())
                    .text(message.step())
                    .text(message.error())
                    .json(json.writeValueAsString(message.attributes()))
                    .text(message.payloadType())
                    .text(message.payload())
                    .bytes(message.binary())
                    .json(message.steps().isEmpty() ? "[]" : json.writeValueAsString(message.steps()))
                    .number(one.family())
                    .number(one.rule())
                    .flag(one.open())
                    .flag(!message.attachments().isEmpty());
        }
        var connection = DataSourceUtils.getConnection(dataSource);
        try (var statement = connection.createStatement()) {
            statement.execute(
                    """
                    create temp table if not exists fresh_failure (
                        at timestamptz, component_id bigint, event_id text, message_ref text, business_key text, step text,
                        error text, attributes jsonb, payload_type text, payload text, payload_bytes bytea, steps jsonb,
                        family_id bigint, rule_id bigint, open boolean, attached boolean) on commit delete rows""");
            rows.into(connection, "copy fresh_failure from stdin (format binary)");
        } catch (SQLException failed) {
            throw new org.springframework.jdbc.UncategorizedSQLException("copying failed messages", "copy", failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
        var added = jdbc.sql(
                        """
                        with added as (
                            insert into failed_message (at, component_id, feed_id, event_id, message_ref, business_key, step,
                                                        error, attributes, payload_type, payload, payload_bytes, steps,
                                                        family_id, rule_id, open)
                            select at, component_id, :feed, event_id, message_ref, business_key, step, error, attributes,
                                   payload_type, payload, payload_bytes, steps, family_id, rule_id, open
                              from fresh_failure
                                on conflict do nothing
                            returning id, at, component_id, event_id),
                        told as (insert into untold_failure (id, at) select id, at from added),
                        read as (insert into unread_failure (id, at) select id, at from added)
                        select id, at, component_id, event_id from added""")
                .param("feed", feed)
                .query((row, number) -> new Added(
                        new MessageId(Stamp.in(row, "at"), row.getLong("id")),
                        row.getLong("component_id"),
                        row.getString("event_id")))
                .list();
        openDays.open(messages.stream()
                .filter(Sorted::open)
                .map(one -> one.failed().message().at())
                .toList());
        attach(messages, added);
        return added;
    }

    private void attach(List<Sorted> messages, List<Added> added) {
        var attached = messages.stream()
                .filter(one -> !one.failed().message().attachments().isEmpty())
                .toList();
        if (attached.isEmpty()) return;
        var ids = added.stream().collect(Collectors.toMap(Added::eventId, Added::id, (one, other) -> one));
        for (var one : attached) {
            var id = ids.get(one.failed().eventId());
            if (id == null) continue;
            int place = 0;
            for (var attachment : one.failed().message().attachments())
                jdbc.sql(
                                "insert into message_attachment (at, id, place, name, type, content) values (:at, :id, :place, :name, :type, :content)")
                        .param("at", Stamp.of(id.at()))
                        .param("id", id.id())
                        .param("place", place++)
                        .param("name", attachment.name())
                        .param("type", attachment.type())
                        .param("content", attachment.content())
                        .update();
        }
    }

    /** Those of some references that were sent again: the messages that they are. */
    Map<String, MessageId> sentAgain(long feed, Collection<String> references) {
        var found = new HashMap<String, MessageId>();
        if (references.isEmpty()) return found;
        jdbc.sql(
                        "select message_ref, at, id from sent_again where feed_id = :feed and message_ref = any(:refs::text[])")
                .param("feed", feed)
                .param("refs", references.toArray(String[]::new))
                .query(row -> {
                    found.put(row.getString("message_ref"), new MessageId(Stamp.in(row, "at"), row.getLong("id")));
                });
        return found;
    }

    /** A message that was sent again has failed anew: it is open again, and one time more; told once for each event. */
    boolean failedAgain(MessageId id, MessagesArrived.Failed again) {
        int fresh = jdbc.sql(
                        """
                        insert into failed_again (at, id, failed_at, event_id, step, error)
                        values (:at, :id, :failedAt, :event, :step, :error) on conflict do nothing""")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .param("failedAt", Stamp.of(again.message().at()))
                .param("event", again.eventId())
                .param("step", again.message().step())
                .param("error", again.message().error())
                .update();
        if (fresh == 0) return false;
        jdbc.sql(
                        """
                        update failed_message
                           set repeats = repeats + 1, last_failed = :failedAt, dealing_id = null,
                               open = coalesce((select alerts from sorting_rule r where r.id = rule_id), true)
                         where at = :at and id = :id""")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .param("failedAt", Stamp.of(again.message().at()))
                .update();
        openDays.open(List.of(id.at()));
        jdbc.sql("insert into untold_failure (id, at, repeat) values (:id, :at, true)")
                .param("at", Stamp.of(id.at()))
                .param("id", id.id())
                .update();
        return true;
    }

    /** Stores counts of delivered messages, and gives back those that are new. */
    List<MessagesArrived.Carried> addCarried(long feed, List<MessagesArrived.Carried> carried) {
        var places = jdbc.sql(
                        """
                        with told as (select * from unnest(:froms::timestamptz[], :tos::timestamptz[], :components::bigint[],
                                                           :ids::text[], :counts::int[]) with ordinality
                                          as c(from_at, to_at, component_id, event_id, delivered, place)),
                             added as (insert into carried_count (from_at, to_at, component_id, feed_id, event_id, delivered)
                                       select from_at, to_at, component_id, :feed, event_id, delivered from told
                                           on conflict do nothing
                                       returning event_id, from_at)
                        select min(place) as place from told join added using (event_id, from_at) group by event_id, from_at""")
                .param("feed", feed)
                .param(
                        "froms",
                        carried.stream().map(one -> Timestamp.from(one.from())).toArray(Timestamp[]::new))
                .param(
                        "tos",
                        carried.stream().map(one -> Timestamp.from(one.to())).toArray(Timestamp[]::new))
                .param(
                        "components",
                        carried.stream().map(MessagesArrived.Carried::component).toArray(Long[]::new))
                .param(
                        "ids",
                        carried.stream().map(MessagesArrived.Carried::eventId).toArray(String[]::new))
                .param(
                        "counts",
                        carried.stream().map(MessagesArrived.Carried::delivered).toArray(Integer[]::new))
                .query(Integer.class)
                .list();
        return places.stream().map(place -> carried.get(place - 1)).toList();
    }

    /**
     * Adds to the hours what was new; always in the same order, so that two batches do not wait for each other crosswise.
     *
     * @return the first of the hours
     */
    Optional<Instant> addToHours(List<MessagesArrived.Carried> carried, List<Added> failed) {
        var hours = new TreeMap<HourOf, Carried>(
                Comparator.comparingLong(HourOf::component).thenComparing(HourOf::hour));
        for (var one : carried)
            hours.merge(
                    new HourOf(one.component(), one.from().truncatedTo(ChronoUnit.HOURS)),
                    new Carried(one.delivered(), 0, one.delays(), one.delivered() > 0 ? one.to() : Instant.EPOCH),
                    Carried::plus);
        var counts = new LinkedHashMap<HourOf, Long>();
        for (var one : failed)
            counts.merge(new HourOf(one.component(), one.id().at().truncatedTo(ChronoUnit.HOURS)), 1L, Long::sum);
        counts.forEach(
                (hour, count) -> hours.merge(hour, new Carried(0, count, Delays.none(), Instant.EPOCH), Carried::plus));
        if (hours.isEmpty()) return Optional.empty();
        var delays = new ArrayList<String>();
        for (var one : hours.values())
            delays.add(java.util.Arrays.stream(one.delays().shortCounts())
                    .mapToObj(String::valueOf)
                    .collect(Collectors.joining(",", "{", "}")));
        jdbc.sql(
                        """
                        insert into interface_hour as h (component_id, hour, delivered, failed, delays, last_carried)
                        select component_id, hour, delivered, failed, delays::int[], nullif(last, 'epoch'::timestamptz)
                          from unnest(:components::bigint[], :hours::timestamptz[], :delivered::bigint[], :failed::bigint[],
                                      :delays::text[], :lasts::timestamptz[])
                            as t(component_id, hour, delivered, failed, delays, last)
                         order by component_id, hour
                            on conflict (component_id, hour) do update
                           set delivered = h.delivered + excluded.delivered, failed = h.failed + excluded.failed,
                               delays = (select coalesce(array_agg(coalesce(a, 0) + coalesce(b, 0) order by place), '{}')
                                           from unnest(h.delays, excluded.delays) with ordinality as d(a, b, place)),
                               last_carried = greatest(h.last_carried, excluded.last_carried)""")
                .param(
                        "components",
                        hours.keySet().stream().map(HourOf::component).toArray(Long[]::new))
                .param(
                        "hours",
                        hours.keySet().stream()
                                .map(one -> Timestamp.from(one.hour()))
                                .toArray(Timestamp[]::new))
                .param(
                        "delivered",
                        hours.values().stream().map(Carried::delivered).toArray(Long[]::new))
                .param("failed", hours.values().stream().map(Carried::failed).toArray(Long[]::new))
                .param("delays", delays.toArray(String[]::new))
                .param(
                        "lasts",
                        hours.values().stream()
                                .map(one -> Timestamp.from(one.last()))
                                .toArray(Timestamp[]::new))
                .update();
        return hours.keySet().stream().map(HourOf::hour).min(Comparator.naturalOrder());
    }

    /** How an interface stands; what says nothing new is left out. */
    void addState(MessagesArrived.Stands stands) {
        var state = stands.state();
        jdbc.sql(
                        """
                        insert into interface_state (component_id, at, state, reason, version, node, event_id)
                        select :component, :at, :state, :reason, :version, :node, :event
                         where not exists (select 1
                                             from (select * from interface_state s
                                                    where s.component_id = :component and s.at <= :at
                                                    order by s.at desc, s.id desc limit 1) as latest
                                            where latest.state = :state and latest.reason = :reason
                                              and latest.version = :version and latest.node = :node)
                            on conflict do nothing""")
                .param("component", stands.component())
                .param("at", Stamp.of(state.at()))
                .param("state", state.state().words())
                .param("reason", state.reason())
                .param("version", state.version())
                .param("node", state.node())
                .param("event", stands.eventId())
                .update();
    }
}
