package app.morvet.ground.access;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keys by which feeds may send. A key is 256 random bits, so its plain SHA-256 is kept: nothing to guess, and cheap
 * enough to look up at every request.
 */
@Service
public class IntakeKeys {
    /** @param revokedAt null while it holds */
    public record Key(long id, String name, String feed, Instant madeAt, @Nullable Instant revokedAt) {}

    private final AccessStore store;
    private final Clock clock;
    private final Audit audit;

    IntakeKeys(AccessStore store, Clock clock, Audit audit) {
        this.store = store;
        this.clock = clock;
        this.audit = audit;
    }

    /** The feed that a key speaks for; empty for unknown and revoked keys. */
    public Optional<Long> feedOf(String key) {
        return store.feedOfKey(hash(key));
    }

    /** Makes a key; this is the only time that it can be read. */
    @Transactional
    public String make(String name, long feed, Person by) {
        var random = new byte[32];
        new SecureRandom().nextBytes(random);
        var key = "mk_" + Base64.getUrlEncoder().withoutPadding().encodeToString(random);
        add(name, feed, key);
        audit.record(by, "intake key made", "key " + name, null, "feed " + feed);
        return key;
    }

    /** Takes in a key made elsewhere. */
    public void add(String name, long feed, String key) {
        store.addKey(name, feed, hash(key), clock.instant());
    }

    @Transactional
    public void revoke(long id, Person by) {
        if (store.revokeKey(id, clock.instant()) == 0) return;
        // In the record a key is what it is called, as when it was made.
        var name = store.keys().stream()
                .filter(one -> one.id() == id)
                .map(Key::name)
                .findFirst()
                .orElseThrow();
        audit.record(by, "intake key revoked", "key " + name, "holds", "revoked");
    }

    public List<Key> all() {
        return store.keys();
    }

    private static byte[] hash(String key) {
        return DigestUtils.sha256(key);
    }
}
