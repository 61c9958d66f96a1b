package app.morvet.bench;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.rules.guards.GuardRound;
import app.morvet.rules.guards.Guards;
import java.lang.management.ManagementFactory;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The running guards over a large estate: what the one thread that evaluates them costs for each minute of readings. */
final class RoundBench {
    private static final int PLACES = 200;
    private static final int A_PLACE = 10;
    private static final int MEASURES = 10;

    private final ConfigurableApplicationContext morvet;
    private final JdbcClient jdbc;
    private final URI address;

    RoundBench(ConfigurableApplicationContext morvet, int port) {
        this.morvet = morvet;
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.address = URI.create("http://127.0.0.1:" + port + "/api/v1/readings");
    }

    void run() throws Exception {
        System.out.printf("%nround: %,d series, %,d guards%n", PLACES * A_PLACE * MEASURES, PLACES * MEASURES);
        var round = morvet.getBean(GuardRound.class);
        round.stop();
        var guards = morvet.getBean(Guards.class);
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(15)),
                Amount.of(Amount.Fold.MEAN),
                Limits.above(95, 99),
                Terms.clearing(0.85, Duration.ofMinutes(5)));
        try (var client =
                HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build()) {
            tell(client, 0);
            for (int measure = 0; measure < MEASURES; measure++)
                for (int place = 0; place < PLACES; place++)
                    guards.set(
                            "m%d p%d".formatted(measure, place),
                            true,
                            Watch.of("m" + measure).named("p%03d-*".formatted(place)),
                            rule,
                            "");
            round.start();
            while (count() < PLACES * A_PLACE * MEASURES) Thread.sleep(500);
            var busy = new ArrayList<Double>();
            for (int minute = 1; minute <= InTurn.ROUNDS + 1; minute++) {
                double before = cpuMillis();
                tell(client, minute);
                Thread.sleep(20_000);
                if (minute > 1) busy.add(cpuMillis() - before);
            }
            double took = InTurn.quantile(busy, 0.5);
            System.out.printf(
                    "a minute's readings of all series, evaluated, stored and looked after for 20 s: %.0f ms of one core, %.1f %% of a minute (aim under 10)%n",
                    took, took / 600);
        }
    }

    private long count() {
        return jdbc.sql("select count(*) from guard_state").query(Long.class).single();
    }

    private void tell(HttpClient client, int minute) throws Exception {
        for (int measure = 0; measure < MEASURES; measure++) {
            var page = new StringBuilder("# TYPE m" + measure + " gauge\n");
            for (int place = 0; place < PLACES; place++)
                for (int one = 0; one < A_PLACE; one++)
                    page.append("m%d{component=\"p%03d-%d\"} %s%n"
                            .formatted(measure, place, one, 40 + (place * 7 + one * 3 + minute * 11) % 500 / 10.0));
            var answer = client.send(
                    HttpRequest.newBuilder(address)
                            .header("Authorization", "Bearer " + Bench.KEY)
                            .header("Content-Type", "text/plain")
                            .POST(HttpRequest.BodyPublishers.ofString(page.toString()))
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            if (answer.statusCode() != 202) throw new IllegalStateException("answered " + answer.statusCode());
        }
    }

    private static double cpuMillis() {
        var threads = ManagementFactory.getThreadMXBean();
        double millis = 0;
        for (var info : threads.getThreadInfo(threads.getAllThreadIds()))
            if (info != null && info.getThreadName().equals("guard-round"))
                millis += threads.getThreadCpuTime(info.getThreadId()) / 1e6;
        return millis;
    }
}
