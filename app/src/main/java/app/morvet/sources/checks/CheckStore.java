package app.morvet.sources.checks;

import app.morvet.core.checks.Expectation;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.connections.Seal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of checks. */
@Repository
class CheckStore {
    private static final String SEALED_FOR = "check";

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Seal seal;

    CheckStore(JdbcClient jdbc, JsonMapper json, Seal seal) {
        this.jdbc = jdbc;
        this.json = json;
        this.seal = seal;
    }

    private StoredCheck check(ResultSet row, int number) throws SQLException {
        var last = Stamp.orNull(row, "last_at");
        var passed = Stamp.orNull(row, "passed_at");
        return new StoredCheck(
                row.getLong("id"),
                row.getString("name"),
                row.getLong("component_id"),
                Duration.ofSeconds(row.getInt("every_seconds")),
                row.getInt("tries"),
                target(row.getString("kind"), json.readTree(row.getString("target"))),
                seal.open(row.getString("headers"), SEALED_FOR),
                row.getBoolean("active"),
                row.getInt("version"),
                last == null
                        ? null
                        : new StoredCheck.Last(
                                last,
                                row.getString("last_state"),
                                Duration.ofMillis(row.getInt("last_took_ms")),
                                row.getString("last_why")),
                passed == null ? null : new StoredCheck.Passed(passed, row.getString("passed_said")));
    }

    private static Target target(String kind, JsonNode node) {
        var patience = Duration.ofMillis(node.path("patienceMillis").asLong());
        return switch (kind) {
            case "http" -> {
                var expectations = new ArrayList<Expectation>();
                expectations.add(Expectation.Code.of(node.path("codes").asString()));
                if (node.has("withinMillis"))
                    expectations.add(new Expectation.Within(
                            Duration.ofMillis(node.path("withinMillis").asLong())));
                expectations.addAll(Expectation.read(node.path("expected").asString()));
                yield new Target.Http(
                        node.path("method").asString(),
                        node.path("url").asString(),
                        node.path("body").asString(),
                        node.path("follow").asBoolean(),
                        patience,
                        expectations);
            }
            case "port" ->
                new Target.Port(
                        node.path("host").asString(),
                        node.path("port").asInt(),
                        node.path("firstLine").asString(),
                        patience);
            default ->
                new Target.Certificate(
                        node.path("host").asString(),
                        node.path("port").asInt(),
                        node.path("days").asInt(),
                        patience);
        };
    }

    private String tree(Target target) {
        var node =
                json.createObjectNode().put("patienceMillis", target.patience().toMillis());
        switch (target) {
            case Target.Http it -> {
                node.put("method", it.method())
                        .put("url", it.url())
                        .put("body", it.body())
                        .put("follow", it.follow());
                for (var one : it.expectations()) {
                    if (one instanceof Expectation.Code code) node.put("codes", code.ranges());
                    if (one instanceof Expectation.Within within)
                        node.put("withinMillis", within.most().toMillis());
                }
                node.put(
                        "expected",
                        it.expectations().stream()
                                .filter(one -> !(one instanceof Expectation.Code || one instanceof Expectation.Within))
                                .map(Expectation::words)
                                .collect(Collectors.joining("\n")));
            }
            case Target.Port it ->
                node.put("host", it.name()).put("port", it.port()).put("firstLine", it.firstLine());
            case Target.Certificate it ->
                node.put("host", it.name()).put("port", it.port()).put("days", it.days());
        }
        return node.toString();
    }

    static String kind(Target target) {
        return switch (target) {
            case Target.Http it -> "http";
            case Target.Port it -> "port";
            case Target.Certificate it -> "certificate";
        };
    }

    List<StoredCheck> all() {
        return jdbc.sql("select * from outside_check order by lower(name)")
                .query(this::check)
                .list();
    }

    Optional<StoredCheck> byId(long id) {
        return jdbc.sql("select * from outside_check where id = :id")
                .param("id", id)
                .query(this::check)
                .optional();
    }

    /** @return its id */
    long add(StoredCheck one, Instant now) {
        return given(
                        """
                        insert into outside_check (name, component_id, every_seconds, tries, kind, target, headers, active, version, next_at)
                        values (:name, :component, :every, :tries, :kind, :target::jsonb, :headers, :active, 1, :now) returning id""",
                        one,
                        now)
                .query(Long.class)
                .single();
    }

    /** Tells whether it was still as it was when it was read. */
    boolean change(StoredCheck one, Instant now) {
        return given(
                                """
                                update outside_check
                                   set name = :name, component_id = :component, every_seconds = :every, tries = :tries, kind = :kind,
                                       target = :target::jsonb, headers = :headers, active = :active, version = version + 1, next_at = :now
                                 where id = :id and version = :version""",
                                one,
                                now)
                        .param("id", one.id())
                        .param("version", one.version())
                        .update()
                == 1;
    }

    private JdbcClient.StatementSpec given(String sql, StoredCheck one, Instant now) {
        return jdbc.sql(sql)
                .param("name", one.name())
                .param("component", one.component())
                .param("every", (int) one.every().toSeconds())
                .param("tries", one.tries())
                .param("kind", kind(one.target()))
                .param("target", tree(one.target()))
                .param("headers", seal.close(one.headers(), SEALED_FOR))
                .param("active", one.active())
                .param("now", Stamp.of(now));
    }

    /** Whether another one has a name. */
    boolean taken(String name, long but) {
        return jdbc.sql("select exists (select 1 from outside_check where name = :name and id <> :but)")
                .param("name", name)
                .param("but", but)
                .query(Boolean.class)
                .single();
    }

    void moved(String before, String now) {
        jdbc.sql(
                        """
                        update outside_check
                           set target = jsonb_set(target, '{url}', to_jsonb(:now || substr(target ->> 'url', length(:before) + 1)))
                         where starts_with(target ->> 'url', :before)""")
                .param("now", now)
                .param("before", before)
                .update();
    }

    void delete(long id) {
        jdbc.sql("delete from outside_check where id = :id").param("id", id).update();
    }

    /**
     * Takes what is due, and puts down when it is again: what one node takes no other does. One that has fallen behind begins
     * anew from now.
     */
    List<StoredCheck> takeDue(Instant now, int most) {
        return jdbc.sql(
                        """
                        update outside_check
                           set next_at = greatest(next_at + every_seconds * interval '1 second', cast(:now as timestamptz) + every_seconds * interval '1 second' * 0.5)
                         where id in (select id from outside_check where active and next_at <= :now
                                       order by next_at limit :most for update skip locked)
                        returning *""")
                .param("now", Stamp.of(now))
                .param("most", most)
                .query(this::check)
                .list();
    }

    void keepResult(long id, Instant at, Result result, String said) {
        jdbc.sql(
                        """
                        update outside_check
                           set last_at = :at, last_state = :state, last_took_ms = :took, last_why = :why,
                               passed_at = case when :passed then :at else passed_at end,
                               passed_said = case when :passed then :said else passed_said end
                         where id = :id and (last_at is null or last_at <= :at)""")
                .param("id", id)
                .param("at", Stamp.of(at))
                .param("state", result.state())
                .param("took", (int) Math.min(Integer.MAX_VALUE, result.took().toMillis()))
                .param("why", result.why())
                .param("passed", result.state().equals(Result.PASSED))
                .param("said", said)
                .update();
    }
}
