package app.morvet.work.actions;

import app.morvet.core.actions.OrderState;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.Seal;
import app.morvet.ground.estate.Estate;
import app.morvet.probe.Headers;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Actions that are web calls: set up by admins, and done once. The figure that one changes is read before and after it. A call of
 * which is not known whether it was taken is told so, and never made again by itself.
 */
@Service
public class WebActions implements Errand {
    private static final String NAME = "web-action";
    private static final String SEALED_FOR = "web-action";

    /** What became of a call. */
    record Outcome(OrderState state, String words) {}

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Seal seal;
    private final Outgoing outgoing;
    private final Errands errands;
    private final Actions actions;
    private final Estate estate;
    private final Audit audit;
    private final Clock clock;

    WebActions(
            JdbcClient jdbc,
            JsonMapper json,
            Seal seal,
            Outgoing outgoing,
            Errands errands,
            @Lazy Actions actions,
            Estate estate,
            Audit audit,
            Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.seal = seal;
        this.outgoing = outgoing;
        this.errands = errands;
        this.actions = actions;
        this.estate = estate;
        this.audit = audit;
        this.clock = clock;
    }

    private WebAction action(ResultSet row, int number) throws SQLException {
        var arguments = new LinkedHashMap<String, List<String>>();
        json.readTree(row.getString("arguments")).properties().forEach(one -> {
            var values = new ArrayList<String>();
            one.getValue().forEach(value -> values.add(value.asString()));
            arguments.put(one.getKey(), values);
        });
        return new WebAction(
                row.getLong("id"),
                row.getString("name"),
                row.getLong("component_id"),
                Role.valueOf(row.getString("lowest_role").toUpperCase(Locale.ROOT)),
                row.getString("url"),
                seal.open(row.getString("headers"), SEALED_FOR),
                row.getString("body"),
                arguments,
                row.getString("figure_url"),
                row.getString("figure_path"),
                row.getInt("version"));
    }

    List<WebAction> all() {
        return jdbc.sql("select * from web_action order by lower(name)")
                .query(this::action)
                .list();
    }

    List<WebAction> of(long component) {
        return jdbc.sql("select * from web_action where component_id = :component order by lower(name)")
                .param("component", component)
                .query(this::action)
                .list();
    }

    Optional<WebAction> find(long id) {
        return jdbc.sql("select * from web_action where id = :id")
                .param("id", id)
                .query(this::action)
                .optional();
    }

    /** Sets one up, for analysts, by the application itself. */
    public void set(
            String name,
            String component,
            String url,
            String headers,
            String body,
            String arguments,
            String figureUrl,
            String figurePath) {
        keep(
                new WebAction(
                        0,
                        name,
                        estate.byKey(component).orElseThrow().id(),
                        Role.ANALYST,
                        url,
                        headers,
                        body,
                        WebAction.arguments(arguments),
                        figureUrl,
                        figurePath,
                        0),
                component,
                null);
    }

    /** @throws IllegalArgumentException that says what cannot be */
    @Transactional
    void keep(WebAction one, String component, @Nullable Person by) {
        outgoing.check(WebAction.filled(one.url(), first(one)));
        if (!one.figureUrl().isEmpty()) outgoing.check(one.figureUrl());
        boolean taken = jdbc.sql("select exists (select 1 from web_action where name = :name and id <> :id)")
                .param("name", one.name())
                .param("id", one.id())
                .query(Boolean.class)
                .single();
        if (taken) throw new IllegalArgumentException("There is an action \"" + one.name() + "\" already.");
        var sql = one.id() == 0
                ? """
                  insert into web_action (name, component_id, lowest_role, url, headers, body, arguments, figure_url, figure_path, version)
                  values (:name, :component, :lowest, :url, :headers, :body, :arguments::jsonb, :figureUrl, :figurePath, 1)"""
                : """
                  update web_action set name = :name, component_id = :component, lowest_role = :lowest, url = :url, headers = :headers, body = :body,
                         arguments = :arguments::jsonb, figure_url = :figureUrl, figure_path = :figurePath, version = version + 1
                   where id = :id and version = :version""";
        var statement = jdbc.sql(sql)
                .param("name", one.name())
                .param("component", one.component())
                .param("lowest", one.lowest().word())
                .param("url", one.url())
                .param("headers", seal.close(one.headers(), SEALED_FOR))
                .param("body", one.body())
                .param("arguments", json.writeValueAsString(one.arguments()))
                .param("figureUrl", one.figureUrl())
                .param("figurePath", one.figurePath());
        if (one.id() != 0) statement = statement.param("id", one.id()).param("version", one.version());
        if (statement.update() != 1)
            throw new IllegalArgumentException("Somebody else changed this action meanwhile; look at it as it is now.");
        if (by == null) return;
        audit.record(
                by,
                one.id() == 0 ? "action made" : "action changed",
                "component " + component,
                null,
                "%s: posted to %s, asked by %s"
                        .formatted(one.name(), one.url(), one.lowest().word()));
    }

    private static Map<String, String> first(WebAction one) {
        var first = new LinkedHashMap<String, String>();
        one.arguments().forEach((name, values) -> first.put(name, values.getFirst()));
        return first;
    }

    @Transactional
    public void delete(long id, Person by) {
        find(id).ifPresent(one -> {
            jdbc.sql("delete from web_action where id = :id").param("id", id).update();
            audit.record(by, "action deleted", "action " + one.name(), one.url(), null);
        });
    }

    /** Has an order done at once, in the transaction that keeps it. */
    void begin(long order) {
        errands.at(clock.instant(), NAME, "" + order);
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String id) {
        long order = Long.parseLong(id);
        var asked = actions.beginWeb(order).orElse(null);
        if (asked == null) return Optional.empty();
        var action = find(asked.webAction() == null ? 0 : asked.webAction()).orElse(null);
        var outcome = action == null
                ? new Outcome(OrderState.REFUSED, "There is no such action any more.")
                : call(action, asked);
        actions.endWeb(asked, outcome);
        return Optional.empty();
    }

    private Outcome call(WebAction action, HostOrder order) {
        try {
            var before = figure(action);
            var request = HttpRequest.newBuilder()
                    .header("Accept", "application/json")
                    .header("Content-Type", "application/json")
                    .header("Idempotency-Key", "action-" + order.id())
                    .POST(HttpRequest.BodyPublishers.ofString(WebAction.filled(action.body(), order.arguments())));
            Headers.into(request, action.headers());
            int status;
            try {
                status = outgoing.call(request, WebAction.filled(action.url(), order.arguments()))
                        .status();
            } catch (IOException lost) {
                return new Outcome(
                        OrderState.UNKNOWN,
                        "There was no answer, so it is not known whether it was done: " + lost.getMessage());
            }
            if (status / 100 != 2) return new Outcome(OrderState.FAILED, "It was answered " + status + ".");
            var after = figure(action);
            if (before == null || after == null) return new Outcome(OrderState.DONE, "");
            return new Outcome(
                    OrderState.DONE, before.equals(after) ? "still " + after : "from " + before + " to " + after);
        } catch (IllegalArgumentException wrong) {
            return new Outcome(OrderState.REFUSED, String.valueOf(wrong.getMessage()));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return new Outcome(OrderState.UNKNOWN, "Morvet was stopped while it was done.");
        }
    }

    private @Nullable String figure(WebAction action) throws InterruptedException {
        if (action.figureUrl().isEmpty()) return null;
        var request =
                HttpRequest.newBuilder().header("Accept", "application/json").GET();
        Headers.into(request, action.headers());
        try {
            return action.figure(outgoing.call(request, action.figureUrl()).body());
        } catch (IOException none) {
            return null;
        }
    }
}
