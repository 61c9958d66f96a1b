package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Whom;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Remembered;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.page.Live;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who is told of what: the rules in their order, the last of which takes every critical case that no other did. */
@Service
public class CallOutRules {
    static final String TOPIC = "callouts";
    private static final String CHANGED = "call-out-rules";
    private static final String OVERTAKEN = "somebody else changed this rule meanwhile; look at it as it is now";

    /**
     * @param id      0 while it is new
     * @param catches whether it is the last, which stays
     * @param version counts its changes
     */
    public record Stored(long id, CallOutRule rule, boolean catches, int version) {}

    /** In their order, also those that were deleted. */
    record Kept(Stored rule, boolean deleted) {}

    private final Remembered<List<Kept>> known;
    private final CallOutRuleStore store;
    private final Estate estate;
    private final People people;
    private final Connections connections;
    private final Audit audit;
    private final Notices notices;
    private final Live live;

    CallOutRules(
            CallOutRuleStore store,
            Estate estate,
            People people,
            Connections connections,
            Audit audit,
            Notices notices,
            Live live) {
        this.known = new Remembered<>(store::all, it -> true);
        this.store = store;
        this.notices = notices;
        notices.hearOthers(CHANGED, known::forget);
        this.estate = estate;
        this.people = people;
        this.connections = connections;
        this.audit = audit;
        this.live = live;
    }

    public List<Stored> all() {
        return known.get().stream()
                .filter(one -> !one.deleted())
                .map(Kept::rule)
                .toList();
    }

    /** Also one that was deleted: what it began goes on. */
    Optional<Stored> byId(long id) {
        return known.get().stream()
                .map(Kept::rule)
                .filter(one -> one.id() == id)
                .findFirst();
    }

    String sentence(CallOutRule rule) {
        return rule.sentence(estate::nameOf, names());
    }

    /** What those are called who can be told. */
    Whom.Names names() {
        var everybody = people.names();
        return new Whom.Names() {
            @Override
            public String team(long id) {
                return estate.team(id).map(Estate.Team::name).orElse("a team that is gone");
            }

            @Override
            public String person(long id) {
                return everybody.getOrDefault(id, "somebody who is gone");
            }

            @Override
            public String role(String role) {
                return Role.valueOf(role).word();
            }

            @Override
            public String connection(long id) {
                return connections.byId(id).map(Connection::name).orElse("something that is gone");
            }
        };
    }

    /**
     * Adds one, or changes one.
     *
     * @throws IllegalArgumentException where it cannot be, or somebody else was faster
     */
    @Transactional
    public long keep(Stored one, @Nullable Person by) {
        var rule = one.rule();
        var before = one.id() == 0 ? null : byId(one.id()).orElse(null);
        if (before != null && before.catches()) staysCatching(rule);
        for (var step : rule.steps()) check(step.whom());
        long id =
                store.keep(before != null && before.catches() ? new Stored(one.id(), rule, true, one.version()) : one);
        if (id == 0) throw new IllegalArgumentException(OVERTAKEN);
        if (by != null)
            audit.record(
                    by,
                    before == null ? "call-out rule made" : "call-out rule changed",
                    "call-out rule " + rule.name(),
                    before == null ? null : sentence(before.rule()),
                    sentence(rule));
        changed();
        return id;
    }

    /** The last rule may tell others, in other steps; that it takes every critical case is what it is for. */
    private static void staysCatching(CallOutRule rule) {
        if (rule.when() != Happening.OPENED || !rule.scope().equals(Scope.ALL) || rule.hours() != null)
            throw new IllegalArgumentException("the last rule takes whatever no other rule does, at all times");
        if (rule.from() != Severity.CRITICAL)
            throw new IllegalArgumentException(
                    "the last rule is for critical cases; make another for what is less, which stands before it");
    }

    private void check(Whom whom) {
        boolean known =
                switch (whom) {
                    case Whom.OnDuty one ->
                        one.team() == Whom.OWNER || estate.team(one.team()).isPresent();
                    case Whom.Team one ->
                        one.team() == Whom.OWNER || estate.team(one.team()).isPresent();
                    case Whom.One one -> people.card(one.person()).isPresent();
                    case Whom.Desk one ->
                        one.team() == Whom.OWNER || estate.team(one.team()).isPresent();
                    case Whom.Role one -> isRole(one.role());
                    case Whom.Address one -> true;
                    case Whom.Outside one -> connections.byId(one.connection()).isPresent();
                };
        if (!known) throw new IllegalArgumentException("choose who is told: whoever stood there is gone");
    }

    private static boolean isRole(String role) {
        for (var one : Role.values()) if (one.name().equals(role)) return true;
        return false;
    }

    /** @throws IllegalArgumentException where it is the last, or somebody else was faster */
    @Transactional
    public void delete(long id, int version, Person by) {
        var before = byId(id).orElseThrow(() -> new IllegalArgumentException("there is no such rule"));
        if (before.catches())
            throw new IllegalArgumentException("the last rule stays, so that no critical case is told to nobody");
        if (!store.delete(id, version)) throw new IllegalArgumentException(OVERTAKEN);
        audit.record(
                by, "call-out rule deleted", "call-out rule " + before.rule().name(), sentence(before.rule()), null);
        changed();
    }

    /** Moves one before the one above it, or behind the one below; the last stays the last. */
    @Transactional
    public void move(long id, boolean up, Person by) {
        var order = new ArrayList<>(all().stream().filter(one -> !one.catches()).toList());
        int from = -1;
        for (int place = 0; place < order.size(); place++) if (order.get(place).id() == id) from = place;
        int to = up ? from - 1 : from + 1;
        if (from < 0 || to < 0 || to >= order.size()) return;
        Collections.swap(order, from, to);
        for (int place = 0; place < order.size(); place++)
            store.place(order.get(place).id(), place + 1);
        audit.record(
                by,
                "call-out rules put in another order",
                "call-out rule " + order.get(to).rule().name(),
                "place " + (from + 1),
                "place " + (to + 1));
        changed();
    }

    private void changed() {
        notices.tell(CHANGED);
        live.changed(TOPIC);
        known.forget();
    }
}
