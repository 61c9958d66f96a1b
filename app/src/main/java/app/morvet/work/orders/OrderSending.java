package app.morvet.work.orders;

import app.morvet.core.handoff.BackOff;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Unanswered;
import app.morvet.ground.page.Live;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Schedulers;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Sends an order to its scheduler. It is posted {@code {"order": "rerun" | "hold" | "release" | "kill", "job": …, "run": …}}
 * and answers {@code {"outcome": "done" | "refused", "run": …, "words": …}}. An order bears an {@code Idempotency-Key}, so one
 * that got through without our hearing of it is not carried out twice. Who asks at night wants to know soon: after ten
 * minutes without an answer it is given up, loudly.
 */
@Component
class OrderSending implements Errand, ConnectionSort {
    static final String NAME = "order";
    private static final int LONGEST_WORDS = 499;
    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(3), Duration.ofMinutes(1), Duration.ofMinutes(10));

    private record Told(Order.State state, String words) {}

    private final OrderStore store;
    private final Schedulers schedulers;
    private final JobBook jobs;
    private final Calls calls;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Clock clock;

    OrderSending(
            OrderStore store,
            Schedulers schedulers,
            JobBook jobs,
            Calls calls,
            JsonMapper json,
            TransactionTemplate transaction,
            Live live,
            Clock clock) {
        this.store = store;
        this.schedulers = schedulers;
        this.jobs = jobs;
        this.calls = calls;
        this.json = json;
        this.transaction = transaction;
        this.live = live;
        this.clock = clock;
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Optional<Instant> run(String id) {
        var order = store.byId(Long.parseLong(id))
                .filter(one -> one.state() == Order.State.WAITING)
                .orElse(null);
        if (order == null) return Optional.empty();
        var told = ask(order);
        var now = clock.instant();
        boolean over = told.state() == Order.State.WAITING && BACK_OFF.exhausted(Duration.between(order.at(), now));
        var state = over ? Order.State.GIVEN_UP : told.state();
        transaction.executeWithoutResult(status -> {
            store.tried(order.id(), state, told.words(), now);
            if (state == Order.State.DONE && order.kind() == Order.Kind.HOLD) jobs.held(order.component(), now);
            if (state == Order.State.DONE && order.kind() == Order.Kind.RELEASE) jobs.held(order.component(), null);
            live.changed("batch");
        });
        if (state != Order.State.WAITING) return Optional.empty();
        return Optional.of(now.plus(BACK_OFF.after(order.tries() + 1)));
    }

    private Told ask(Order order) {
        var job = jobs.byComponent(order.component()).orElse(null);
        var connection = job == null
                ? null
                : Optional.ofNullable(job.feed()).flatMap(schedulers::of).orElse(null);
        if (job == null || connection == null)
            return new Told(Order.State.REFUSED, "The scheduler takes no orders any more.");
        var ask = ask(
                "order to " + order.kind().words(),
                connection,
                "order-" + order.id(),
                order.kind().key(),
                job.key(),
                order.run());
        try {
            return read(calls.ask(connection, ask));
        } catch (Unanswered failed) {
            return new Told(failed.lasting() ? Order.State.REFUSED : Order.State.WAITING, failed.words());
        } catch (IllegalArgumentException unreadable) {
            return new Told(Order.State.REFUSED, connection.name() + ": " + unreadable.getMessage());
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return new Told(Order.State.WAITING, "");
        }
    }

    private Ask ask(String what, Connection connection, String key, String order, String job, String run) {
        var body = json.writeValueAsString(Map.of("order", order, "job", job, "run", run));
        return new Ask(what, key, connection.get(Schedulers.PATH), body);
    }

    @Override
    public String sort() {
        return Schedulers.SORT;
    }

    /** No job there has this name, so nothing is released. */
    @Override
    public Ask trial(Connection connection) {
        return ask("tried", connection, "morvet-tries", Order.Kind.RELEASE.key(), "morvet-tries", "");
    }

    @Override
    public String reads(Connection connection, String answer) {
        var told = read(answer);
        return told.state().name().toLowerCase(Locale.ROOT) + (told.words().isEmpty() ? "" : ": " + told.words());
    }

    /** @throws IllegalArgumentException where it does not say what came of it */
    private Told read(String body) {
        try {
            var tree = json.readTree(body);
            var words = PlainText.cut(tree.path("words").asString(""), LONGEST_WORDS);
            return switch (tree.path("outcome").asString("")) {
                case "done" -> new Told(Order.State.DONE, words);
                case "refused" -> new Told(Order.State.REFUSED, words);
                default -> throw new IllegalArgumentException("its answer does not say what came of it");
            };
        } catch (JacksonException notJson) {
            throw new IllegalArgumentException("its answer is not JSON", notJson);
        }
    }
}
