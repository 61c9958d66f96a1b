package app.morvet.work.orders;

import app.morvet.core.handoff.BackOff;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.SecretHeaders;
import app.morvet.ground.page.Live;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Schedulers;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
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
class OrderSending implements Errand {
    static final String NAME = "order";
    private static final Logger log = LoggerFactory.getLogger(OrderSending.class);
    private static final BackOff BACK_OFF =
            new BackOff(Duration.ofSeconds(3), Duration.ofMinutes(1), Duration.ofMinutes(10));

    private record Told(Order.State state, String words) {}

    private final OrderStore store;
    private final Schedulers schedulers;
    private final JobBook jobs;
    private final Outgoing outgoing;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Clock clock;

    OrderSending(
            OrderStore store,
            Schedulers schedulers,
            JobBook jobs,
            Outgoing outgoing,
            JsonMapper json,
            TransactionTemplate transaction,
            Live live,
            Clock clock) {
        this.store = store;
        this.schedulers = schedulers;
        this.jobs = jobs;
        this.outgoing = outgoing;
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
                ? Optional.<Schedulers.Connection>empty()
                : Optional.ofNullable(job.feed()).flatMap(schedulers::of);
        if (job == null || connection.isEmpty())
            return new Told(Order.State.REFUSED, "The scheduler takes no orders any more.");
        var request = HttpRequest.newBuilder()
                .header("Content-Type", "application/json")
                .header("Accept", "application/json")
                .header("Idempotency-Key", "order-" + order.id())
                .POST(HttpRequest.BodyPublishers.ofString(json.writeValueAsString(
                        Map.of("order", order.kind().key(), "job", job.key(), "run", order.run()))));
        SecretHeaders.into(request, connection.get().headers());
        try {
            var answer = outgoing.call(request, connection.get().address());
            if (answer.status() >= 200 && answer.status() < 300) return read(answer.body());
            boolean lasting = answer.status() >= 400 && answer.status() < 500 && answer.status() != 429;
            return new Told(
                    lasting ? Order.State.REFUSED : Order.State.WAITING,
                    "The scheduler answered " + answer.status() + ".");
        } catch (IOException noAnswer) {
            log.info("the scheduler gives no answer to order {}: {}", order.id(), noAnswer.getMessage());
            return new Told(Order.State.WAITING, "The scheduler gives no answer.");
        } catch (IllegalArgumentException wrong) {
            return new Told(Order.State.REFUSED, String.valueOf(wrong.getMessage()));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            return new Told(Order.State.WAITING, "");
        }
    }

    private Told read(String body) {
        try {
            var tree = json.readTree(body);
            var words = tree.path("words").asString("");
            if (words.length() > 500) words = words.substring(0, 499) + "…";
            return switch (tree.path("outcome").asString("")) {
                case "done" -> new Told(Order.State.DONE, words);
                case "refused" -> new Told(Order.State.REFUSED, words);
                default -> new Told(Order.State.REFUSED, "The scheduler's answer does not say what came of it.");
            };
        } catch (JacksonException notJson) {
            return new Told(Order.State.REFUSED, "The scheduler's answer is not JSON.");
        }
    }
}
