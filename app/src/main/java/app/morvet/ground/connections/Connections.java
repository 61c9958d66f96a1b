package app.morvet.ground.connections;

import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.Seal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What Morvet calls outside: looked up and changed. */
@Service
public class Connections {
    private static final Logger log = LoggerFactory.getLogger(Connections.class);

    /** What is said to the second of two who change one at once. */
    public static final String OVERTAKEN =
            "Somebody else changed this while you were editing it. Nothing was saved; load the page again to see theirs.";

    private final ConnectionStore store;
    private final Outgoing outgoing;
    private final Seal seal;

    Connections(ConnectionStore store, Outgoing outgoing, Seal seal) {
        this.store = store;
        this.seal = seal;
        this.outgoing = outgoing;
    }

    public List<Connection> of(String sort) {
        return store.ofSort(sort);
    }

    public Optional<Connection> byId(long id) {
        return store.byId(id);
    }

    public Optional<Connection> byKey(String sort, String key) {
        return of(sort).stream().filter(one -> one.key().equals(key)).findFirst();
    }

    /** The one of a sort to the system that reports by a feed. */
    public Optional<Connection> ofFeed(String sort, long feed) {
        return of(sort).stream()
                .filter(one -> Long.valueOf(feed).equals(one.feed()))
                .findFirst();
    }

    /** Adds one, or changes the one of the same key while its version is still the one given; tells whether. */
    public boolean keep(Connection one) {
        return store.keep(one);
    }

    /** What cannot work of what all connections have in common, by the field; asked once what is kept is filled in. */
    public Map<String, String> errors(Connection one) {
        var errors = new LinkedHashMap<String, String>();
        try {
            outgoing.check(one.url());
        } catch (IllegalArgumentException wrong) {
            errors.put("url", String.valueOf(wrong.getMessage()));
        }
        SecretHeaders.fault(one.headers()).ifPresent(words -> errors.put("headers", words));
        try {
            seal.close(one.headers() + one.secret(), one.sort());
        } catch (IllegalStateException noKey) {
            errors.put("headers", String.valueOf(noKey.getMessage()));
        }
        return errors;
    }

    /** A path is a part of an address that begins with a slash. */
    public static void path(String field, String path, Map<String, String> errors) {
        if (!path.startsWith("/")) errors.put(field, "A path begins with /.");
    }

    /** What answered at one address answers at another from now on. */
    @Transactional
    public void moved(String from, String to) {
        for (var one : store.all())
            if (one.url().startsWith(from)) store.keep(one.at(to + one.url().substring(from.length())));
    }

    /** After the key was changed, and at the first start with one: what is stored is sealed with the one of today. */
    @EventListener
    @Transactional
    public void on(ApplicationReadyEvent ready) {
        if (!store.sealedOtherwise()) return;
        store.sealAnew();
        log.info("the secrets of connections are sealed with the key of today");
    }
}
