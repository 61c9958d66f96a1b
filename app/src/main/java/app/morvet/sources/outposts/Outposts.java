package app.morvet.sources.outposts;

import app.morvet.core.estate.ComponentKey;
import app.morvet.core.outposts.Ask;
import app.morvet.core.outposts.Brief;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import app.morvet.ground.page.Live;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Outposts as people set them up: each with a key of its own, and with what it is asked. */
@Service
public class Outposts {
    static final String TOPIC = "outposts";
    /** That one is heard which was not: what it offers can be asked for again. */
    public static final String BACK = "outposts-back";

    private static final Duration CADENCE = Duration.ofSeconds(10);

    private final OutpostStore store;
    private final Briefs briefs;
    private final Estate estate;
    private final Groups groups;
    private final Audit audit;
    private final Live live;
    private final Clock clock;

    Outposts(OutpostStore store, Briefs briefs, Estate estate, Groups groups, Audit audit, Live live, Clock clock) {
        this.store = store;
        this.briefs = briefs;
        this.estate = estate;
        this.groups = groups;
        this.audit = audit;
        this.live = live;
        this.clock = clock;
    }

    public List<Outpost> all() {
        return store.all();
    }

    /** Those whose key holds. */
    public List<Outpost> standing() {
        return store.all().stream().filter(one -> one.revokedAt() == null).toList();
    }

    /** Those that offer an action on a component. */
    public List<Outpost> offering(Estate.Component component) {
        return store.offering(component.id(), component.key());
    }

    public Optional<Outpost> find(long id) {
        return store.byId(id);
    }

    Brief measures(Outpost one) {
        return briefs.measures(one);
    }

    List<OutpostStore.Kept> asks() {
        return store.asks();
    }

    private static byte[] hash(String key) {
        return DigestUtils.sha256(key);
    }

    Optional<Outpost> byKey(String key) {
        return store.byKey(hash(key));
    }

    private static String key() {
        var random = new byte[32];
        new SecureRandom().nextBytes(random);
        return "mo_" + Base64.getUrlEncoder().withoutPadding().encodeToString(random);
    }

    /**
     * Sets one up, on a host that is in the estate or becomes one.
     *
     * @param host its key; empty where it is called as the outpost is
     * @return its key, which can be read this once
     * @throws IllegalArgumentException that says what cannot be
     */
    @Transactional
    public String make(String name, String host, Person by) {
        var key = key();
        add(name, host.isBlank() ? name : host.strip(), key);
        audit.record(by, "outpost made", "outpost " + name, null, "on " + (host.isBlank() ? name : host.strip()));
        return key;
    }

    /** Takes in one whose key was made elsewhere. */
    public long add(String name, String host, String key) {
        if (!name.matches("[A-Za-z0-9][A-Za-z0-9._-]{0,63}"))
            throw new IllegalArgumentException("An outpost is called by letters, digits, dots and dashes.");
        if (store.taken(name)) throw new IllegalArgumentException("There is an outpost " + name + " already.");
        var unfit = ComponentKey.refusal(host);
        if (unfit != null) throw new IllegalArgumentException("The host: " + unfit + ".");
        if (estate.byKey(host).isEmpty()) estate.add(host, host, "host", null);
        long component = estate.byKey(host).orElseThrow().id();
        long feed = estate.addFeed("outpost-" + name, "Outpost " + name, CADENCE);
        long id = store.add(name, component, feed, hash(key), clock.instant());
        live.changed(TOPIC);
        return id;
    }

    @Transactional
    public void revoke(long id, Person by) {
        var one = store.byId(id).orElse(null);
        if (one == null || !store.revoke(id, clock.instant())) return;
        audit.record(by, "outpost revoked", "outpost " + one.name(), "its key holds", "its key is revoked");
        live.changed(TOPIC);
    }

    /** Gives it another key; the one before holds no more. */
    @Transactional
    public String rekey(long id, Person by) {
        var one = store.byId(id).orElseThrow(() -> new IllegalArgumentException("There is no such outpost."));
        var key = key();
        store.rekey(id, hash(key));
        audit.record(by, "outpost given another key", "outpost " + one.name(), null, null);
        live.changed(TOPIC);
        return key;
    }

    /** Has it look at everything at once, when it is heard next. */
    @Transactional
    public void lookAgain(long id) {
        store.lookAgain(id, true);
        live.changed(TOPIC);
    }

    /**
     * Asks something of all outposts, of those of a group or of one.
     *
     * @throws IllegalArgumentException that says what cannot be
     */
    @Transactional
    public void ask(@Nullable Long group, @Nullable Long outpost, Ask ask, @Nullable Person by) {
        var of = group != null
                ? "the group "
                        + groups.find(group)
                                .orElseThrow(() -> new IllegalArgumentException("There is no such group."))
                                .name()
                : outpost != null
                        ? store.byId(outpost)
                                .orElseThrow(() -> new IllegalArgumentException("There is no such outpost."))
                                .name()
                        : "all outposts";
        store.ask(group, outpost, ask);
        if (by != null) audit.record(by, "outposts asked", "brief of " + of, null, words(ask));
        asked();
    }

    private static String words(Ask ask) {
        return ask.active()
                ? ask.what() + (ask.of().isEmpty() ? "" : " of " + ask.of()) + " every "
                        + ask.every().toSeconds() + " s"
                : "not " + ask.what();
    }

    @Transactional
    public void unask(long id, Person by) {
        store.asks().stream().filter(one -> one.id() == id).findFirst().ifPresent(one -> {
            store.unask(id);
            audit.record(by, "outposts asked no more", "brief", words(one.ask()), null);
            asked();
        });
    }

    /** Notes for each what it is wanted to look at from now on. Whoever changes a part of briefs says so. */
    public void asked() {
        var now = clock.instant();
        for (var one : standing()) store.wanted(one.id(), briefs.version(one), now);
        live.changed(TOPIC);
    }
}
