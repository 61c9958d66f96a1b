package app.morvet.ground.base;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Calls to the outside over HTTP: only to hosts on the allow-list, with a time limit, and reading no more than needed. */
@Component
public class Outgoing {
    public static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final int LONGEST_ANSWER = 1024 * 1024;

    /**
     * @param type its content type; empty where it does not say
     * @param body at most a mebibyte of it
     */
    public record Answer(int status, String type, String body) {}

    private final MorvetSettings settings;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(5))
            .followRedirects(HttpClient.Redirect.NEVER)
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    Outgoing(MorvetSettings settings) {
        this.settings = settings;
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

    /** @throws IOException when there is no answer in time; an answer of any status is no exception */
    public Answer call(HttpRequest.Builder request, String address) throws IOException, InterruptedException {
        check(address);
        var answer = client.send(
                request.uri(URI.create(address)).timeout(PATIENCE).build(), HttpResponse.BodyHandlers.ofInputStream());
        try (var body = answer.body()) {
            return new Answer(
                    answer.statusCode(),
                    answer.headers().firstValue("Content-Type").orElse(""),
                    new String(body.readNBytes(LONGEST_ANSWER), StandardCharsets.UTF_8));
        }
    }
}
