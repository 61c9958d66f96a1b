package app.morvet.views.shift;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Stamp;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keys of screens on walls: with one the estate is seen at a look, and nothing else. Only their hashes are kept. */
@Service
class WallKeys {
    private static final int BYTES = 24;
    private static final int LONGEST = 100;

    record Key(long id, String name, Instant madeAt, @Nullable Instant revokedAt) {}

    private final JdbcClient jdbc;
    private final Audit audit;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    WallKeys(JdbcClient jdbc, Audit audit, Clock clock) {
        this.jdbc = jdbc;
        this.audit = audit;
        this.clock = clock;
    }

    /** Those that hold first. */
    List<Key> all() {
        return jdbc.sql("select * from wall_key order by revoked_at is not null, name, id")
                .query((row, number) -> new Key(
                        row.getLong("id"),
                        row.getString("name"),
                        Stamp.in(row, "made_at"),
                        Stamp.orNull(row, "revoked_at")))
                .list();
    }

    boolean isGood(String key) {
        return jdbc.sql("select exists (select 1 from wall_key where key_hash = :hash and revoked_at is null)")
                .param("hash", DigestUtils.sha256(key))
                .query(Boolean.class)
                .single();
    }

    /**
     * @return the key, which is shown this once
     * @throws IllegalArgumentException where the name is none
     */
    @Transactional
    public String make(String name, Person by) {
        var named = name.strip();
        if (named.isEmpty() || named.length() > LONGEST)
            throw new IllegalArgumentException("say where the screen is, in at most 100 letters");
        var bytes = new byte[BYTES];
        random.nextBytes(bytes);
        var key = "mw_" + Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        jdbc.sql("insert into wall_key (name, key_hash, made_at) values (:name, :hash, :at)")
                .param("name", named)
                .param("hash", DigestUtils.sha256(key))
                .param("at", Stamp.of(clock.instant()))
                .update();
        audit.record(by, "wall key made", "wall key " + named, null, "holds");
        return key;
    }

    @Transactional
    public void revoke(long id, Person by) {
        jdbc.sql("update wall_key set revoked_at = :at where id = :id and revoked_at is null returning name")
                .param("at", Stamp.of(clock.instant()))
                .param("id", id)
                .query(String.class)
                .optional()
                .ifPresent(name -> audit.record(by, "wall key revoked", "wall key " + name, "holds", "revoked"));
    }
}
