package app.morvet.sources.checks;

import app.morvet.core.checks.Look;
import app.morvet.ground.base.Seal;
import app.morvet.ground.base.Stamp;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** All SQL of checks that are tried by hand from an outpost. */
@Repository
class CheckTryStore {
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Seal seal;

    CheckTryStore(JdbcClient jdbc, JsonMapper json, Seal seal) {
        this.jdbc = jdbc;
        this.json = json;
        this.seal = seal;
    }

    /**
     * A check that is tried from an outpost.
     *
     * @param result as the outpost told it; null while it has not
     */
    record Try(
            long id, long outpost, Look look, StoredCheck.Secrets secrets, Instant askedAt, @Nullable String result) {}

    private Try attempt(ResultSet row, int number) throws SQLException {
        return new Try(
                row.getLong("id"),
                row.getLong("outpost_id"),
                Look.of(row.getString("kind"), CheckStore.fields(json, row.getString("fields"))),
                new StoredCheck.Secrets(
                        seal.open(row.getString("headers"), CheckStore.SEALED_FOR),
                        seal.open(row.getString("log_in"), CheckStore.SEALED_FOR)),
                Stamp.in(row, "asked_at"),
                row.getString("result"));
    }

    /** @param forgotten those asked before are of no use to anybody */
    long add(long outpost, Look look, StoredCheck.Secrets secrets, Instant now, Instant forgotten) {
        jdbc.sql("delete from check_try where asked_at < :before")
                .param("before", Stamp.of(forgotten))
                .update();
        return jdbc.sql(
                        """
                        insert into check_try (outpost_id, kind, fields, headers, log_in, asked_at)
                        values (:outpost, :kind, :fields::jsonb, :headers, :logIn, :now) returning id""")
                .param("outpost", outpost)
                .param("kind", look.kind().key())
                .param("fields", json.writeValueAsString(look.fields()))
                .param("headers", seal.close(secrets.headers(), CheckStore.SEALED_FOR))
                .param("logIn", seal.close(secrets.logIn(), CheckStore.SEALED_FOR))
                .param("now", Stamp.of(now))
                .query(Long.class)
                .single();
    }

    List<Try> open(long outpost, Instant since) {
        return jdbc.sql(
                        "select * from check_try where outpost_id = :outpost and result is null and asked_at > :since order by id limit 20")
                .param("outpost", outpost)
                .param("since", Stamp.of(since))
                .query(this::attempt)
                .list();
    }

    Optional<Try> byId(long id) {
        return jdbc.sql("select * from check_try where id = :id")
                .param("id", id)
                .query(this::attempt)
                .optional();
    }

    void keep(long id, long outpost, String result) {
        jdbc.sql(
                        "update check_try set result = :result::jsonb where id = :id and outpost_id = :outpost and result is null")
                .param("id", id)
                .param("outpost", outpost)
                .param("result", result)
                .update();
    }
}
