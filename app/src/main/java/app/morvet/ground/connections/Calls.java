package app.morvet.ground.connections;

import app.morvet.core.handoff.RetryAfter;
import app.morvet.ground.base.Outgoing;
import app.morvet.probe.Headers;
import app.morvet.probe.Web;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Calls connections: one way to ask, one rule for what is worth trying again, and a record of how the last calls went. */
@Service
public class Calls {
    /** What a server says that may pass (RFC 9110, 15.5.9; RFC 8470, 5.2; RFC 6585, 4); all else of the client's fault does not. */
    private static final Set<Integer> PASSING = Set.of(408, 425, 429);

    private static final int EXCERPT = 200;

    /** @param words what went wrong, or what was answered */
    public record Call(Instant at, String what, boolean answered, String words, Duration took) {}

    private final Outgoing outgoing;
    private final ConnectionStore store;
    private final Clock clock;

    Calls(Outgoing outgoing, ConnectionStore store, Clock clock) {
        this.outgoing = outgoing;
        this.store = store;
        this.clock = clock;
    }

    /**
     * Asks, outside of any transaction, and gives back what was answered with success.
     *
     * @throws Unanswered where it was not
     */
    public String ask(Connection connection, Ask ask) throws Unanswered, InterruptedException {
        var answer = send(connection, ask);
        int status = answer.status();
        if (status >= 200 && status < 300) return answer.body();
        boolean lasting = status >= 400 && status < 500 && !PASSING.contains(status);
        throw new Unanswered(
                connection.name() + " answered " + status + excerpt(answer.body()),
                lasting,
                RetryAfter.read(answer.retryAfter(), Instant.now()),
                status == 404 || status == 410);
    }

    /** The answer, whatever its status. */
    Web.Answer send(Connection connection, Ask ask) throws Unanswered, InterruptedException {
        long began = System.nanoTime();
        try {
            var answer = outgoing.call(request(connection, ask), connection.address(ask.path()));
            boolean well = answer.status() >= 200 && answer.status() < 300;
            note(connection, ask, well, "answered " + answer.status() + (well ? "" : excerpt(answer.body())), began);
            return answer;
        } catch (IOException noAnswer) {
            var why = noAnswer.getMessage();
            var words = "gives no answer" + (why == null || why.isBlank() ? "" : " (" + why + ")");
            note(connection, ask, false, words, began);
            throw new Unanswered(connection.name() + " " + words, false);
        } catch (IllegalArgumentException wrongSettings) {
            note(connection, ask, false, String.valueOf(wrongSettings.getMessage()), began);
            throw new Unanswered(String.valueOf(wrongSettings.getMessage()), true);
        }
    }

    private static HttpRequest.Builder request(Connection connection, Ask ask) {
        var request = HttpRequest.newBuilder().header("Accept", "application/json, */*;q=0.8");
        if (ask.body().isEmpty()) request.method(ask.method(), HttpRequest.BodyPublishers.noBody());
        else
            request.header("Content-Type", ask.type())
                    .method(ask.method(), HttpRequest.BodyPublishers.ofString(ask.body()));
        ask.headers().forEach(request::header);
        if (!ask.key().isEmpty()) request.header("Idempotency-Key", ask.key());
        Headers.into(request, connection.headers());
        return request;
    }

    private void note(Connection connection, Ask ask, boolean answered, String words, long began) {
        var took = Duration.ofNanos(System.nanoTime() - began);
        store.called(connection.id(), new Call(clock.instant(), ask.what(), answered, words, took));
    }

    /** How the last calls went, the newest first. */
    public List<Call> last(Connection connection) {
        return store.calls(connection.id());
    }

    private static String excerpt(String body) {
        var text = body.strip().replaceAll("\\s+", " ");
        return text.isEmpty() ? "" : ": " + (text.length() > EXCERPT ? text.substring(0, EXCERPT) + "…" : text);
    }
}
