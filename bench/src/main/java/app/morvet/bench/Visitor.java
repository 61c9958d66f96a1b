package app.morvet.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/** Somebody who looks at pages, again and again, and takes the time. */
final class Visitor {
    /** A page that was never asked for is still being compiled; after so many rounds it is as it stays. */
    private static final int WARM_UPS = 4;

    /** Times this; less is noise. */
    private static final double BETTER = 0.95;

    private final String address;
    private final int times;
    private final HttpClient browser = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    /** @param times how often a page is asked for where it is measured */
    Visitor(int port, int times) {
        this.address = "http://127.0.0.1:" + port;
        this.times = times;
    }

    void logIn() throws IOException, InterruptedException {
        var token = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"")
                .matcher(get("/login").body());
        if (!token.find()) throw new IllegalStateException("no log-in form");
        browser.send(
                HttpRequest.newBuilder(URI.create(address + "/login"))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString("username=analyst&password=right&_csrf="
                                + URLEncoder.encode(token.group(1), StandardCharsets.UTF_8)))
                        .build(),
                HttpResponse.BodyHandlers.discarding());
    }

    /** As a feed would. */
    void post(String path, String type, String body) throws IOException, InterruptedException {
        var answer = browser.send(
                HttpRequest.newBuilder(URI.create(address + path))
                        .header("Authorization", "Bearer " + Bench.KEY)
                        .header("Content-Type", type)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 202)
            throw new IllegalStateException(path + " answered " + answer.statusCode() + ": " + answer.body());
    }

    private HttpResponse<String> get(String path) throws IOException, InterruptedException {
        return browser.send(
                HttpRequest.newBuilder(URI.create(address + path)).build(), HttpResponse.BodyHandlers.ofString());
    }

    /** Asks for pages, and a bare one, until the bare one comes no sooner: what all pages run through is compiled by then. */
    void warm(List<String> paths) throws IOException, InterruptedException {
        double best = Double.POSITIVE_INFINITY;
        for (int noBetter = 0; noBetter < 2; ) {
            for (var path : paths) medianMillis(path);
            double bare = medianMillis("/login");
            noBetter = bare < BETTER * best ? 0 : noBetter + 1;
            best = Math.min(best, bare);
        }
    }

    /** A page beside a bare one of the same server, asked for in turn. */
    InTurn besideABarePage(String path) throws Exception {
        return InTurn.of(WARM_UPS, () -> medianMillis(path), () -> medianMillis("/login"));
    }

    private double medianMillis(String path) throws IOException, InterruptedException {
        var took = new ArrayList<Double>();
        for (int i = 0; i < times; i++) {
            long start = System.nanoTime();
            var answer = get(path);
            took.add((System.nanoTime() - start) / 1e6);
            if (answer.statusCode() != 200) throw new IllegalStateException(path + " answered " + answer.statusCode());
        }
        return InTurn.quantile(took, 0.5);
    }
}
