package app.morvet.ground.base;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/** Calls to the outside over HTTP: only to hosts on the allow-list, with a time limit, and reading no more than needed. */
@Component
public class Outgoing {
    public static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final int LONGEST_ANSWER = 1024 * 1024;

    /**
     * @param type     its content type; empty where it does not say
     * @param location where it sends on to; empty where it does not
     * @param body     at most a mebibyte of it
     */
    public record Answer(int status, String type, String location, String body) {}

    private final MorvetSettings settings;
    private final Duration patience;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(5))
            .followRedirects(HttpClient.Redirect.NEVER)
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    @Autowired
    public Outgoing(MorvetSettings settings) {
        this(settings, PATIENCE);
    }

    Outgoing(MorvetSettings settings, Duration patience) {
        this.settings = settings;
        this.patience = patience;
    }

    /**
     * Checks an address before it is kept or called.
     *
     * @throws IllegalArgumentException when it is no HTTP address, or its host is not on the allow-list; says how to add it
     */
    public void check(String address) {
        URI uri;
        try {
            uri = URI.create(address);
        } catch (IllegalArgumentException bad) {
            throw new IllegalArgumentException("\"" + address + "\" is not an address.", bad);
        }
        boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
        if (!web || uri.getHost() == null || uri.getUserInfo() != null) {
            throw new IllegalArgumentException("\"" + address + "\" must be http://host:port or https://host.");
        }
        int port = uri.getPort() >= 0 ? uri.getPort() : "https".equals(uri.getScheme()) ? 443 : 80;
        var host = uri.getHost() + ":" + port;
        if (!settings.outgoing().contains(host)) {
            throw new IllegalArgumentException(
                    "Morvet may not call " + host + ". Add it to morvet.outgoing and start again.");
        }
    }

    /** @throws IOException when there is no whole answer in time; an answer of any status is no exception */
    public Answer call(HttpRequest.Builder request, String address) throws IOException, InterruptedException {
        return call(request, address, patience);
    }

    /** @param patience within which the whole answer must be there */
    public Answer call(HttpRequest.Builder request, String address, Duration patience)
            throws IOException, InterruptedException {
        check(address);
        long until = System.nanoTime() + patience.toNanos();
        var answer = client.send(
                request.uri(URI.create(address)).timeout(patience).build(), HttpResponse.BodyHandlers.ofInputStream());
        try (var body = answer.body()) {
            return new Answer(
                    answer.statusCode(),
                    answer.headers().firstValue("Content-Type").orElse(""),
                    answer.headers().firstValue("Location").orElse(""),
                    new String(beginning(body, until, patience), StandardCharsets.UTF_8));
        }
    }

    private static String words(Duration patience) {
        return patience.toMillis() % 1000 == 0 ? patience.toSeconds() + " s" : patience.toMillis() + " ms";
    }

    /** The client's own limit ends with the headers; who sends them and then nothing would be waited for for ever. */
    private static byte[] beginning(InputStream body, long until, Duration patience) throws IOException {
        var late = new AtomicBoolean();
        var watch = Thread.ofVirtual().start(() -> {
            try {
                Thread.sleep(Duration.ofNanos(Math.max(0, until - System.nanoTime())));
                late.set(true);
                body.close();
            } catch (InterruptedException | IOException over) {
                // it came in time, or is closed already
            }
        });
        try {
            var read = body.readNBytes(LONGEST_ANSWER);
            if (!late.get()) return read;
        } catch (IOException broken) {
            if (!late.get()) throw broken;
        } finally {
            watch.interrupt();
        }
        throw new HttpTimeoutException("it began to answer and did not end within %s".formatted(words(patience)));
    }
}
