package app.morvet.work.actions;

import app.morvet.core.actions.GuardAction;
import app.morvet.core.actions.OrderState;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of what is asked of outposts. */
@Repository
class ActionStore {
    private final JdbcClient jdbc;
    private final JsonMapper json;

    ActionStore(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private Map<String, String> arguments(String text) {
        var arguments = new TreeMap<String, String>();
        json.readTree(text)
                .properties()
                .forEach(one -> arguments.put(one.getKey(), one.getValue().asString()));
        return arguments;
    }

    private HostOrder order(ResultSet row, int number) throws SQLException {
        return new HostOrder(
                row.getLong("id"),
                row.getObject("outpost_id", Long.class),
                row.getObject("web_action_id", Long.class),
                row.getString("action"),
                arguments(row.getString("arguments")),
                row.getLong("component_id"),
                row.getObject("case_id", Long.class),
                row.getLong("by_id"),
                row.getObject("alert_id", Long.class),
                OrderState.valueOf(row.getString("state")),
                row.getString("words"),
                Stamp.in(row, "asked_at"),
                Stamp.orNull(row, "fetched_at"),
                Stamp.orNull(row, "done_at"));
    }

    /** @param outpost null where it is a web call, and then which */
    long add(
            @Nullable Long outpost,
            @Nullable Long webAction,
            String action,
            Map<String, String> arguments,
            long component,
            @Nullable Long caseId,
            long by,
            Instant now) {
        return jdbc.sql(
                        """
                        insert into host_order (outpost_id, web_action_id, action, arguments, component_id, case_id, by_id, state, asked_at)
                        values (:outpost, :web, :action, :arguments::jsonb, :component, :case, :by, 'ASKED', :now) returning id""")
                .param("outpost", outpost)
                .param("web", webAction)
                .param("action", action)
                .param("arguments", json.writeValueAsString(arguments))
                .param("component", component)
                .param("case", caseId)
                .param("by", by)
                .param("now", Stamp.of(now))
                .query(Long.class)
                .single();
    }

    Optional<HostOrder> byId(long id) {
        return jdbc.sql("select * from host_order where id = :id")
                .param("id", id)
                .query(this::order)
                .optional();
    }

    List<HostOrder> asked(long outpost) {
        return jdbc.sql("select * from host_order where outpost_id = :outpost and state = 'ASKED' order by id")
                .param("outpost", outpost)
                .query(this::order)
                .list();
    }

    /** Those of which an end is waited for. */
    List<HostOrder> open() {
        return jdbc.sql("select * from host_order where state in ('ASKED', 'FETCHED') order by id")
                .query(this::order)
                .list();
    }

    List<HostOrder> latest(long component, int most) {
        return jdbc.sql("select * from host_order where component_id = :component order by id desc limit :most")
                .param("component", component)
                .param("most", most)
                .query(this::order)
                .list();
    }

    private GuardAction guardAction(ResultSet row, int number) throws SQLException {
        return new GuardAction(
                row.getLong("guard_id"),
                row.getString("action"),
                arguments(row.getString("arguments")),
                row.getInt("at_most"),
                Duration.ofSeconds(row.getInt("within_seconds")),
                row.getLong("set_by"));
    }

    Optional<GuardAction> ofGuard(long guard) {
        return jdbc.sql("select * from guard_action where guard_id = :guard")
                .param("guard", guard)
                .query(this::guardAction)
                .optional();
    }

    void keep(GuardAction one, Instant now) {
        jdbc.sql(
                        """
                        insert into guard_action (guard_id, action, arguments, at_most, within_seconds, set_by, set_at)
                        values (:guard, :action, :arguments::jsonb, :most, :within, :by, :now)
                        on conflict (guard_id) do update
                           set action = excluded.action, arguments = excluded.arguments, at_most = excluded.at_most,
                               within_seconds = excluded.within_seconds, set_by = excluded.set_by, set_at = excluded.set_at""")
                .param("guard", one.guard())
                .param("action", one.action())
                .param("arguments", json.writeValueAsString(one.arguments()))
                .param("most", one.atMost())
                .param("within", (int) one.within().toSeconds())
                .param("by", one.setBy())
                .param("now", Stamp.of(now))
                .update();
    }

    void forget(long guard) {
        jdbc.sql("delete from guard_action where guard_id = :guard")
                .param("guard", guard)
                .update();
    }

    int countOfGuard(long guard, Instant since) {
        return jdbc.sql("select count(*) from host_order where guard_id = :guard and asked_at > :since")
                .param("guard", guard)
                .param("since", Stamp.of(since))
                .query(Integer.class)
                .single();
    }

    /** An order was a guard's own doing. */
    void byItself(long order, long guard, long alert) {
        jdbc.sql("update host_order set guard_id = :guard, alert_id = :alert where id = :order")
                .param("guard", guard)
                .param("alert", alert)
                .param("order", order)
                .update();
    }

    /** Orders that guards gave for an alert, of which it was not said yet whether they helped. */
    List<HostOrder> unjudged(long alert) {
        return jdbc.sql(
                        "select * from host_order where alert_id = :alert and guard_id is not null and not judged order by id")
                .param("alert", alert)
                .query(this::order)
                .list();
    }

    List<HostOrder> unjudgedBefore(Instant done) {
        return jdbc.sql(
                        "select * from host_order where guard_id is not null and not judged and done_at < :done order by id")
                .param("done", Stamp.of(done))
                .query(this::order)
                .list();
    }

    void judged(long order) {
        jdbc.sql("update host_order set judged = true where id = :order")
                .param("order", order)
                .update();
    }

    /** Tells whether it was in a state on which this one may follow. */
    boolean moved(long id, OrderState state, String words, Instant at) {
        return jdbc.sql(
                                """
                        update host_order
                           set state = :state, words = :words,
                               fetched_at = case when :state = 'FETCHED' then :at else fetched_at end,
                               done_at = case when :state = 'FETCHED' then done_at else :at end
                         where id = :id and state = any(:before)""")
                        .param("id", id)
                        .param("state", state.name())
                        .param(
                                "before",
                                state.before().stream().map(OrderState::name).toArray(String[]::new))
                        .param("words", words)
                        .param("at", Stamp.of(at))
                        .update()
                == 1;
    }
}
