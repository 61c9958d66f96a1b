package app.morvet.work.actions;

import app.morvet.core.actions.OrderState;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.outposts.Outpost;
import app.morvet.sources.outposts.OutpostPart;
import app.morvet.sources.outposts.Outposts;
import app.morvet.work.cases.CaseBook;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * What can be done to a component by an outpost, asked for and followed. An order goes with the next answer to its outpost, for
 * two minutes; what comes of it is in the audit record and in the log of the case from which it was asked.
 */
@Service
public class Actions implements OutpostPart {
    static final String TOPIC = "actions";
    private static final int SHOWN = 6;
    private static final int LONGEST_WORDS = 2000;

    /**
     * @param outpost that does it, or 0
     * @param web     the web call by which it is done, or 0
     * @param by      in words
     * @param mayAsk whether who looks may ask for it
     */
    public record Offered(
            long outpost,
            long web,
            String by,
            String name,
            List<Outpost.Argument> arguments,
            boolean mayAsk,
            String right) {}

    /** @param outcome in a sentence: {@code asked by Annika 06:41, done after 3 s} */
    public record Asked(long id, String mark, String what, String outcome, String words) {}

    /** All that is shown of a component: what can be done to it, and what was. */
    public record On(long component, String key, String name, long caseId, List<Offered> offered, List<Asked> asked) {
        boolean isEmpty() {
            return offered.isEmpty() && asked.isEmpty();
        }
    }

    private final ActionStore store;
    private final Outposts outposts;
    private final WebActions web;
    private final CaseBook cases;
    private final People people;
    private final Estate estate;
    private final Audit audit;
    private final Times times;
    private final Live live;
    private final JsonMapper json;
    private final Clock clock;

    Actions(
            ActionStore store,
            @Lazy Outposts outposts,
            WebActions web,
            @Lazy CaseBook cases,
            People people,
            Estate estate,
            Audit audit,
            Times times,
            Live live,
            JsonMapper json,
            Clock clock) {
        this.store = store;
        this.outposts = outposts;
        this.web = web;
        this.cases = cases;
        this.people = people;
        this.estate = estate;
        this.audit = audit;
        this.times = times;
        this.live = live;
        this.json = json;
        this.clock = clock;
    }

    /** @param caseId from which it would be asked; 0 for none */
    public On on(Estate.Component component, long caseId, @Nullable Person who) {
        var offered = new ArrayList<Offered>();
        var now = clock.instant();
        for (var outpost : outposts.offering(component)) {
            var said = outpost.said();
            if (said == null || outpost.isSilent(now)) continue;
            for (var action : said.actions())
                if (isOf(action, outpost, component))
                    offered.add(new Offered(
                            outpost.id(),
                            0,
                            "by " + outpost.name(),
                            action.name(),
                            action.arguments(),
                            who != null && may(who, action),
                            action.right()));
        }
        for (var action : web.of(component.id()))
            offered.add(new Offered(
                    0,
                    action.id(),
                    "by a web call",
                    action.name(),
                    action.offered(),
                    who != null && who.role().compareTo(action.lowest()) >= 0,
                    action.lowest().word()));
        return new On(
                component.id(),
                component.key(),
                component.name(),
                caseId,
                offered,
                store.latest(component.id(), SHOWN).stream().map(this::asked).toList());
    }

    private boolean isOf(Outpost.Action action, Outpost outpost, Estate.Component component) {
        return action.of().isEmpty()
                ? outpost.component() == component.id()
                : action.of().equals(component.key());
    }

    static boolean may(Person who, Outpost.Action action) {
        return who.role().compareTo(Role.valueOf(action.right().toUpperCase(Locale.ROOT))) >= 0;
    }

    private Asked asked(HostOrder one) {
        var who = people.byId(one.by()).map(Person::name).orElse("somebody");
        var done = one.doneAt();
        var took = done == null ? "" : " after " + took(Duration.between(one.askedAt(), done));
        return new Asked(
                one.id(),
                mark(one.state()),
                one.what(),
                "%s %s, %s%s"
                        .formatted(
                                one.alert() == null ? "asked by " + who : "by itself, as " + who + " set",
                                times.of(one.askedAt()),
                                one.state().words(),
                                took),
                one.words());
    }

    private static String mark(OrderState state) {
        return switch (state) {
            case DONE -> "steady";
            case FAILED, UNKNOWN -> "critical";
            case REFUSED, LAPSED -> "warning";
            case ASKED, FETCHED -> "nodata";
        };
    }

    private static String took(Duration span) {
        return app.morvet.core.guard.Spans.words(Duration.ofSeconds(Math.max(1, Math.round(span.toMillis() / 1000.0))));
    }

    /**
     * Asks for something once. What is refused has written nothing, so whoever asks within a transaction goes on with it.
     *
     * @throws IllegalArgumentException that says why not
     */
    @Transactional(noRollbackFor = IllegalArgumentException.class)
    public long ask(
            long outpostId,
            long webId,
            String name,
            Map<String, String> arguments,
            Estate.Component component,
            long caseId,
            Person by) {
        var offer = on(component, caseId, by).offered().stream()
                .filter(one -> one.outpost() == outpostId
                        && one.web() == webId
                        && one.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(whyNot(outpostId, name, component)));
        if (!offer.mayAsk())
            throw new IllegalArgumentException("To ask for \"%s\" one must be %s.".formatted(name, offer.right()));
        var given = new TreeMap<String, String>();
        for (var argument : offer.arguments()) {
            var value = arguments.getOrDefault(argument.name(), "");
            if (!argument.values().contains(value))
                throw new IllegalArgumentException(
                        "%s is one of %s.".formatted(argument.name(), String.join(", ", argument.values())));
            given.put(argument.name(), value);
        }
        var now = clock.instant();
        Long from = caseId == 0 ? null : cases.find(caseId).map(one -> one.id()).orElse(null);
        long id = store.add(
                outpostId == 0 ? null : outpostId,
                webId == 0 ? null : webId,
                name,
                given,
                component.id(),
                from,
                by.id(),
                now);
        var order = store.byId(id).orElseThrow();
        audit.record(by, "action asked", "component " + component.name(), null, order.what() + ", " + offer.by());
        if (from != null)
            cases.log(from, "action", "%s asked to %s, %s".formatted(by.name(), order.what(), offer.by()), now);
        if (webId != 0) web.begin(id);
        live.changed(TOPIC);
        return id;
    }

    private String whyNot(long outpostId, String name, Estate.Component component) {
        var outpost = outposts.find(outpostId).orElse(null);
        if (outpost != null && outpost.isSilent(clock.instant()))
            return "The outpost " + outpost.name() + " is silent, so nothing can be asked of it.";
        return "Nobody offers to \"%s\" to %s.".formatted(name, component.name());
    }

    /** A web call begins; empty where it was begun before, so that it is never made twice. */
    @Transactional
    public Optional<HostOrder> beginWeb(long id) {
        boolean first = store.moved(id, OrderState.FETCHED, "", clock.instant());
        live.changed(TOPIC);
        return first ? store.byId(id) : Optional.empty();
    }

    @Transactional
    public void endWeb(HostOrder order, WebActions.Outcome outcome) {
        moved(order, outcome.state(), outcome.words(), clock.instant());
    }

    @Override
    public String name() {
        return "orders";
    }

    /** Given with each answer until it is told to be fetched: who has it already leaves it alone. */
    @Override
    public List<ObjectNode> now(Outpost outpost, Instant now) {
        var orders = new ArrayList<ObjectNode>();
        for (var one : store.asked(outpost.id())) {
            long left = OrderState.left(one.askedAt(), now).toSeconds();
            if (left <= 0) continue;
            var order = json.createObjectNode()
                    .put("id", one.id())
                    .put("action", one.action())
                    .put(
                            "right",
                            people.byId(one.by()).map(it -> it.role().word()).orElse(""))
                    .put("secondsLeft", left);
            order.set("arguments", json.valueToTree(one.arguments()));
            orders.add(order);
        }
        return orders;
    }

    @Override
    @Transactional
    public void take(Outpost outpost, JsonNode told, Instant now) {
        var order = store.byId(told.path("id").asLong(0))
                .filter(one -> Long.valueOf(outpost.id()).equals(one.outpost()))
                .orElseThrow(() -> new IllegalArgumentException("there is no such order of this outpost"));
        var state =
                switch (told.path("state").asString("")) {
                    case "FETCHED" -> OrderState.FETCHED;
                    case "DONE" -> OrderState.DONE;
                    case "FAILED" -> OrderState.FAILED;
                    case "REFUSED" -> OrderState.REFUSED;
                    case "UNKNOWN" -> OrderState.UNKNOWN;
                    default -> throw new IllegalArgumentException("an order is done, failed, refused or not known");
                };
        moved(order, state, told.path("words").asString(""), at(told, now));
    }

    private static Instant at(JsonNode told, Instant now) {
        try {
            var at = OffsetDateTime.parse(told.path("at").asString("")).toInstant();
            return at.isAfter(now) ? now : at;
        } catch (DateTimeException unreadable) {
            return now;
        }
    }

    private void moved(HostOrder order, OrderState state, String words, Instant at) {
        var plain = PlainText.cut(PlainText.of(words.strip()), LONGEST_WORDS);
        if (!store.moved(order.id(), state, plain, at)) return;
        live.changed(TOPIC);
        if (state == OrderState.FETCHED) return;
        var by = people.byId(order.by()).orElse(null);
        var outcome = "%s: %s%s".formatted(order.what(), state.words(), plain.isEmpty() ? "" : ", " + plain);
        if (by != null)
            audit.record(
                    by,
                    "action " + state.words(),
                    "component " + estate.component(order.component()).name(),
                    null,
                    outcome);
        if (order.caseId() != null)
            cases.log(
                    order.caseId(),
                    "action",
                    "%s after %s".formatted(outcome, took(Duration.between(order.askedAt(), at))),
                    at);
    }

    /** Orders that nobody fetched, and those of which nothing is heard any more. */
    @Transactional
    public void lapse() {
        var now = clock.instant();
        for (var one : store.open())
            // A web call waits for no outpost: its errand begins it whenever it can.
            if (one.outpost() != null || one.state() == OrderState.FETCHED)
                one.state()
                        .overdue(one.askedAt(), one.fetchedAt(), now)
                        .ifPresent(state -> moved(
                                one,
                                state,
                                state == OrderState.LAPSED
                                        ? "The outpost did not fetch it within 2 min; it is not done any more."
                                        : "It was begun, and nothing was said of what came of it; look whether it was done before you ask again.",
                                now));
    }
}
