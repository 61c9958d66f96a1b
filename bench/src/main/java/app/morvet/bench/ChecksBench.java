package app.morvet.bench;

import app.morvet.core.checks.Look;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.checks.Checks;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * 2,000 checks a minute from one node, of which some targets are slow and some never answer: how late the latest of them is, and
 * what they cost, beside a bare loop of the same calls.
 */
final class ChecksBench {
    private static final int CHECKS = 2000;
    private static final int MINUTES = 3;
    private static final int HOSTS = 97;
    private static final int AT_ONCE = 50;
    private static final Duration SLOW = Duration.ofSeconds(2);

    /** What is asked; it notes when each was. */
    static final class Target {
        private final HttpServer server;
        private final Map<String, List<Long>> asked = new ConcurrentHashMap<>();

        Target() throws IOException {
            server = HttpServer.create(new InetSocketAddress(0), 500);
            server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
            server.createContext("/", exchange -> {
                var path = exchange.getRequestURI().getPath();
                asked.computeIfAbsent(path, none -> new ArrayList<>()).add(System.nanoTime());
                try {
                    if (path.startsWith("/slow")) Thread.sleep(SLOW);
                    if (path.startsWith("/never")) Thread.sleep(Duration.ofMinutes(1));
                } catch (InterruptedException stop) {
                    Thread.currentThread().interrupt();
                }
                var body = "{\"status\":\"open\"}".getBytes(StandardCharsets.UTF_8);
                exchange.sendResponseHeaders(200, body.length);
                exchange.getResponseBody().write(body);
                exchange.close();
            });
            server.start();
        }

        /** Of one machine at most four are asked at once, so there are many: all of them are this one. */
        String host(int number) {
            return "127.0.1." + (number % HOSTS + 1) + ":" + server.getAddress().getPort();
        }

        /** All of them, for the list of who may be called. */
        String hosts() {
            return IntStream.range(0, HOSTS).mapToObj(this::host).collect(Collectors.joining(","));
        }
    }

    private final Target target;
    private final Checks checks;
    private final Estate estate;
    private final JdbcClient jdbc;

    ChecksBench(ConfigurableApplicationContext morvet, Target target) {
        this.target = target;
        this.checks = morvet.getBean(Checks.class);
        this.estate = morvet.getBean(Estate.class);
        this.jdbc = morvet.getBean(JdbcClient.class);
    }

    /** One of a hundred never answers, five are slow. */
    private String path(int number) {
        return number % 100 == 0 ? "/never/" + number : number % 20 == 1 ? "/slow/" + number : "/quick/" + number;
    }

    void run() throws Exception {
        double bare = bareLoop();
        fill();
        // The first two are not counted: all that is new is registered then.
        Thread.sleep(Duration.ofMinutes(2));
        target.asked.clear();
        double before = processorSeconds();
        Thread.sleep(Duration.ofMinutes(MINUTES));
        double used = (processorSeconds() - before) / MINUTES;
        var gaps = gaps();
        System.out.printf(
                "%nchecks: %,d a minute for %d min, of a hundred one never answers and five take %d s%n",
                CHECKS, MINUTES, SLOW.toSeconds());
        System.out.printf(
                "  asked                        %,d times a minute%n",
                target.asked.values().stream().mapToInt(List::size).sum() / MINUTES);
        System.out.printf(
                "  after a minute and           %.2f s (half of them), %.2f s (99 of 100), %.2f s (the latest; a tenth of the cadence is 6 s)%n",
                InTurn.quantile(gaps, 0.5), InTurn.quantile(gaps, 0.99), InTurn.quantile(gaps, 1));
        System.out.printf(
                "  of one core a minute         %.2f s, a bare loop of the same calls %.2f s, ratio %.1f%n",
                used, bare, used / bare);
    }

    /** By how much one was asked later than a minute after it was asked before. */
    private List<Double> gaps() {
        var gaps = new ArrayList<Double>();
        target.asked.forEach((path, times) -> {
            for (int i = 1; i < times.size(); i++) gaps.add(Math.max(0, (times.get(i) - times.get(i - 1)) / 1e9 - 60));
        });
        return gaps;
    }

    private static double processorSeconds() {
        var system = (com.sun.management.OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();
        return system.getProcessCpuTime() / 1e9;
    }

    private double bareLoop() throws Exception {
        var client = HttpClient.newHttpClient();
        var places = new Semaphore(AT_ONCE);
        for (int warmUp = 0; ; warmUp++) {
            double before = processorSeconds();
            try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
                for (int i = 0; i < CHECKS; i++) {
                    var url = URI.create("http://" + target.host(i) + "/quick/" + i);
                    places.acquire();
                    threads.submit(() -> {
                        try {
                            return client.send(
                                            HttpRequest.newBuilder(url).build(), HttpResponse.BodyHandlers.ofString())
                                    .body();
                        } finally {
                            places.release();
                        }
                    });
                }
            }
            if (warmUp == 3) return processorSeconds() - before;
        }
    }

    private void fill() {
        for (int i = 0; i < CHECKS; i++) {
            var key = "target-" + i;
            estate.add(key, "Target " + i, "endpoint", null);
            checks.set(
                    "Check " + i,
                    key,
                    Duration.ofMinutes(1),
                    Look.of(
                            "http",
                            Map.of(
                                    "url", "http://" + target.host(i) + path(i),
                                    "expected", "$.status = \"open\"",
                                    "patience", "5 s")),
                    List.of(),
                    "",
                    List.of());
        }
        jdbc.sql("update outside_check set next_at = now() + (id % 60) * interval '1 second' where name like 'Check %'")
                .update();
    }
}
