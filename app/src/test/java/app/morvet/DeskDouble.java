package app.morvet;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;

/** A ticket desk over HTTP that can be down, swallow its answers, or refuse. One ticket a key, as a desk should. */
public final class DeskDouble {
    public volatile int status = 201;
    /** Makes the ticket and answers nothing, as when a connection breaks at the worst moment. */
    public volatile boolean swallowAnswer;
    /** What happens before the next answer to a ticket, once. */
    private final AtomicReference<Runnable> meanwhile = new AtomicReference<>(() -> {});

    public final List<String> bodies = new CopyOnWriteArrayList<>();
    public final List<String> tries = new CopyOnWriteArrayList<>();
    private final Map<String, String> ticketOfKey = new ConcurrentHashMap<>();
    private final Map<String, String> states = new ConcurrentHashMap<>();

    private record Answer(int status, String body) {}

    /** A request to one of the paths that {@link #answer} knows. */
    public record Heard(String method, String path, Map<String, String> headers, String body) {}

    private final List<Heard> heard = new CopyOnWriteArrayList<>();

    private final Map<String, Answer> answers = new ConcurrentHashMap<>();
    private final HttpServer server;

    DeskDouble() {
        try {
            server = HttpServer.create(new InetSocketAddress(InetAddress.getByName("127.0.0.1"), 0), 0);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        server.createContext("/tickets", this::answer);
        server.start();
    }

    public int port() {
        return server.getAddress().getPort();
    }

    public String url() {
        return "http://127.0.0.1:" + port();
    }

    /** A page beside the tickets, such as one in OpenMetrics; an empty one is an error. */
    public void page(String path, java.util.function.Supplier<String> text) {
        server.createContext(path, exchange -> {
            var answer = text.get();
            reply(exchange, answer.isEmpty() ? 500 : 200, answer);
        });
    }

    /** What is answered at a path from now on. */
    public void answer(String path, int status, String body) {
        var answer = new Answer(status, body);
        if (answers.put(path, answer) == null)
            server.createContext(path, exchange -> {
                var now = answers.get(path);
                var headers = new java.util.TreeMap<String, String>(String.CASE_INSENSITIVE_ORDER);
                exchange.getRequestHeaders().forEach((name, values) -> headers.put(name, values.getFirst()));
                var told = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
                heard.add(new Heard(
                        exchange.getRequestMethod(), exchange.getRequestURI().getRawPath(), headers, told));
                reply(exchange, now.status(), now.body());
            });
    }

    /** At a path there is too much asked, for so many seconds. */
    public void tooMuch(String path, int seconds) {
        server.createContext(path, exchange -> {
            exchange.getRequestBody().readAllBytes();
            exchange.getResponseHeaders().set("Retry-After", "" + seconds);
            reply(exchange, 429, "");
        });
    }

    /** Has something happen while a ticket is being sent, before the next answer to it. */
    public void meanwhile(Runnable once) {
        meanwhile.set(once);
    }

    /** What was asked at paths that begin so, the first first. */
    public List<Heard> heard(String path) {
        return heard.stream().filter(one -> one.path().startsWith(path)).toList();
    }

    /** What the desk says of a ticket from now on: {@code {"word": …, "why": …}}. */
    public void say(String ticket, String state, String reason) {
        states.put(ticket, "{\"id\":\"" + ticket + "\",\"word\":\"" + state + "\",\"why\":\"" + reason + "\"}");
    }

    /** The ticket that was made for a key, or null. */
    public String ticketOf(String key) {
        return ticketOfKey.get(key);
    }

    private void answer(HttpExchange exchange) throws IOException {
        var body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        if (exchange.getRequestMethod().equals("POST")) {
            var key = exchange.getRequestHeaders().getFirst("Idempotency-Key");
            tries.add(key);
            int now = status;
            meanwhile.getAndSet(() -> {}).run();
            if (now == 201) {
                var ticket = ticketOfKey.computeIfAbsent(key, fresh -> {
                    bodies.add(body);
                    return "T-" + (ticketOfKey.size() + 1);
                });
                states.putIfAbsent(ticket, "{\"id\":\"" + ticket + "\",\"word\":\"open\",\"why\":\"\"}");
                if (swallowAnswer) {
                    exchange.close();
                    return;
                }
                reply(exchange, 201, states.get(ticket));
            } else {
                reply(exchange, now, "{\"error\":\"not today\"}");
            }
        } else {
            var ticket = exchange.getRequestURI().getPath().substring("/tickets/".length());
            reply(exchange, status == 201 ? 200 : status, states.getOrDefault(ticket, "{}"));
        }
    }

    private static void reply(HttpExchange exchange, int status, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(status, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }
}
