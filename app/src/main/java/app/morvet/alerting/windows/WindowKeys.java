package app.morvet.alerting.windows;

import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeJson;
import java.security.SecureRandom;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keys with which deployment tools open windows, each bound to a part of the estate and a longest time; and keys with which the
 * calendar is read. Of a key only its hash is kept, as of those of feeds.
 */
@Service
public class WindowKeys {
    /**
     * @param opens   whether windows can be opened with it, or only their calendar read
     * @param scope   over what it opens them
     * @param longest for how long at most
     */
    public record Key(
            long id,
            String name,
            boolean opens,
            Scope scope,
            Duration longest,
            Instant madeAt,
            @Nullable Instant revokedAt) {}

    private final JdbcClient jdbc;
    private final Estate estate;
    private final Audit audit;
    private final Clock clock;

    WindowKeys(JdbcClient jdbc, Estate estate, Audit audit, Clock clock) {
        this.jdbc = jdbc;
        this.estate = estate;
        this.audit = audit;
        this.clock = clock;
    }

    private static Key key(ResultSet row, int number) throws SQLException {
        return new Key(
                row.getLong("id"),
                row.getString("name"),
                row.getBoolean("opens"),
                ScopeJson.read(row.getString("over")),
                Duration.ofMinutes(row.getInt("minutes")),
                Stamp.in(row, "made_at"),
                Stamp.orNull(row, "revoked_at"));
    }

    public List<Key> all() {
        return jdbc.sql("select * from window_key order by revoked_at is not null, lower(name), id")
                .query(WindowKeys::key)
                .list();
    }

    /** Whether calendars may be read with it. */
    public boolean reads(String key) {
        return find(key).isPresent();
    }

    /** The key that holds; empty for unknown and revoked ones. */
    Optional<Key> find(String key) {
        return jdbc.sql("select * from window_key where hash = :hash and revoked_at is null")
                .param("hash", DigestUtils.sha256(key))
                .query(WindowKeys::key)
                .optional();
    }

    /**
     * Makes a key; this is the only time that it can be read.
     *
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public String make(String name, boolean opens, Scope scope, Duration longest, Person by) {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("a key has a name of at most 100 letters");
        if (longest.compareTo(Duration.ofMinutes(1)) < 0 || longest.compareTo(Duration.ofDays(1)) > 0)
            throw new IllegalArgumentException("with a key windows are opened for a minute to a day");
        var random = new byte[32];
        new SecureRandom().nextBytes(random);
        var key = "mw_" + Base64.getUrlEncoder().withoutPadding().encodeToString(random);
        jdbc.sql(
                        """
                        insert into window_key (name, hash, opens, over, minutes, made_at, made_by)
                        values (:name, :hash, :opens, :over::jsonb, :minutes, :at, :by)""")
                .param("name", name)
                .param("hash", DigestUtils.sha256(key))
                .param("opens", opens)
                .param("over", ScopeJson.write(scope))
                .param("minutes", (int) longest.toMinutes())
                .param("at", Stamp.of(clock.instant()))
                .param("by", by.id())
                .update();
        audit.record(
                by,
                "window key made",
                "window key " + name,
                null,
                opens
                        ? "opens windows over %s for %d min at most"
                                .formatted(scope.words(estate::nameOf), longest.toMinutes())
                        : "reads the calendar");
        return key;
    }

    @Transactional
    public void revoke(long id, Person by) {
        var name = jdbc.sql(
                        "update window_key set revoked_at = :at where id = :id and revoked_at is null returning name")
                .param("id", id)
                .param("at", Stamp.of(clock.instant()))
                .query(String.class)
                .optional();
        name.ifPresent(it -> audit.record(by, "window key revoked", "window key " + it, "holds", "revoked"));
    }

    /** The window that was opened under a name with a key. */
    Optional<Long> opened(Key key, String as) {
        return jdbc.sql("select id from maintenance_window where opened_by = :key and opened_as = :as")
                .param("key", key.id())
                .param("as", as)
                .query(Long.class)
                .optional();
    }

    void opened(long window, Key key, String as) {
        jdbc.sql("update maintenance_window set opened_by = :key, opened_as = :as where id = :id")
                .param("id", window)
                .param("key", key.id())
                .param("as", as)
                .update();
    }

    /** Until the end of the transaction no other opens any with the same key. */
    void inTurn(Key key) {
        jdbc.sql("select id from window_key where id = :id for update")
                .param("id", key.id())
                .query(Long.class)
                .single();
    }
}
