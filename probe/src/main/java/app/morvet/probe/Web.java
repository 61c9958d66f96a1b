package app.morvet.probe;

import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.ProxySelector;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.net.ssl.SSLContext;
import org.jspecify.annotations.Nullable;

/** Calls over HTTP with a time limit for the whole answer, that read no more than needed and go nowhere by themselves. */
public final class Web {
    private static final int LONGEST_ANSWER = 1024 * 1024;

    /**
     * @param type       its content type; empty where it does not say
     * @param location   where it sends on to; empty where it does not
     * @param retryAfter when it wants to be asked again, as it says so; empty where it does not
     * @param body       at most a mebibyte of it
     */
    public record Answer(int status, String type, String location, String retryAfter, String body) {}

    private final HttpClient client;

    public Web() {
        this(null, "");
    }

    /**
     * @param believed whose signatures are believed; null for those that everybody believes
     * @param proxy    {@code host:port}; empty for none
     */
    public Web(@Nullable SSLContext believed, String proxy) {
        var builder = HttpClient.newBuilder()
                .connectTimeout(Duration.ofSeconds(5))
                .followRedirects(HttpClient.Redirect.NEVER)
                .version(HttpClient.Version.HTTP_1_1);
        if (believed != null) builder.sslContext(believed);
        if (!proxy.isEmpty()) {
            int colon = proxy.lastIndexOf(':');
            builder.proxy(ProxySelector.of(InetSocketAddress.createUnresolved(
                    proxy.substring(0, colon), Integer.parseInt(proxy.substring(colon + 1)))));
        }
        client = builder.build();
    }

    /**
     * @param patience within which the whole answer must be there
     * @throws IOException when it is not; an answer of any status is no exception
     */
    public Answer call(HttpRequest.Builder request, String address, Duration patience)
            throws IOException, InterruptedException {
        long until = System.nanoTime() + patience.toNanos();
        var answer = client.send(
                request.uri(URI.create(address)).timeout(patience).build(), HttpResponse.BodyHandlers.ofInputStream());
        try (var body = answer.body()) {
            return new Answer(
                    answer.statusCode(),
                    answer.headers().firstValue("Content-Type").orElse(""),
                    answer.headers().firstValue("Location").orElse(""),
                    answer.headers().firstValue("Retry-After").orElse(""),
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
