package app.morvet.bench;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Leases;
import app.morvet.rules.guards.GuardRound;
import app.morvet.rules.guards.Guards;
import java.lang.management.ManagementFactory;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The running guards over a large estate: what the one thread of each node that
 * evaluates them costs for each minute of readings. */
final class RoundBench {
    private static final int PLACES = 200;
    private static final int A_PLACE = 10;
    private static final int MEASURES = 10;
    private static final String KEY = "bench-minutes-key";
    /** A bit more than a minute by the nodes' clock, after which what guards remember is stored, however little it says. */
    private static final Duration APART = Duration.ofSeconds(61);
    /** Until all nodes have looked at their clock. */
    private static final Duration CLOCK_READ = Duration.ofMillis(300);

    private final ConfigurableApplicationContext morvet;
    private final JdbcClient jdbc;
    private final URI address;
    private int minute;
    private Duration ahead = Duration.ZERO;
    private Instant toldAt = Instant.now();

    RoundBench(ConfigurableApplicationContext morvet, int port) {
        this.morvet = morvet;
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.address = URI.create("http://127.0.0.1:" + port + "/api/v1/readings");
    }

    /** @param most with one node, two, and so on up to so many */
    void run(int most) throws Exception {
        System.out.printf("%nround: %,d series, %,d guards%n", PLACES * A_PLACE * MEASURES, PLACES * MEASURES);
        var round = morvet.getBean(GuardRound.class);
        round.stop();
        var guards = morvet.getBean(Guards.class);
        // Told as promised: what is overdue would be looked at in turn as well.
        morvet.getBean(IntakeKeys.class)
                .add("minutes", morvet.getBean(Estate.class).addFeed("minutes", "Minutes", Duration.ofMinutes(2)), KEY);
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
            if (most == 1) alone(client);
            else shared(client, most);
        }
    }

    private void alone(HttpClient client) throws Exception {
        var found = new ArrayList<Double>();
        for (int i = 0; i < InTurn.ROUNDS + 2; i++) found.add(needed(client));
        double alone = InTurn.quantile(found.subList(2, found.size()), 0.5);
        System.out.printf(
                "a minute's readings of all series, judged, what guards remember stored, and looked after for 20 s: %.0f ms of one core, %.1f %% of a minute (aim under 10)%n",
                alone, alone / 600);
    }

    /** One node, two, and so on in turn, so that whatever else the machine does happens to each. */
    private void shared(HttpClient client, int most) throws Exception {
        var nodes = new ArrayList<>(List.of(morvet));
        while (nodes.size() < most) nodes.add(another());
        var found = new ArrayList<List<Double>>();
        while (found.size() < most) found.add(new ArrayList<>());
        for (int i = 0; i < InTurn.ROUNDS + 1; i++) {
            for (int count = 1; count <= most; count++) {
                deal(client, nodes, count);
                double needed = needed(client);
                if (i > 0) found.get(count - 1).add(needed);
            }
        }
        for (int count = 2; count <= most; count++) {
            var alone = found.getFirst();
            var shared = found.get(count - 1);
            var gains = new ArrayList<Double>();
            for (int i = 0; i < alone.size(); i++) gains.add(alone.get(i) / shared.get(i));
            System.out.printf(
                    "%d nodes: one of them needs %.0f ms, one alone %.0f ms; 1/%.2f of that (1/%.2f to 1/%.2f, aim 1/%.1f)%n",
                    count,
                    InTurn.quantile(shared, 0.5),
                    InTurn.quantile(alone, 0.5),
                    InTurn.quantile(gains, 0.5),
                    InTurn.quantile(gains, 0.25),
                    InTurn.quantile(gains, 0.75),
                    count == 2 ? 1.8 : 2.6);
        }
        nodes.subList(1, nodes.size()).forEach(ConfigurableApplicationContext::close);
    }

    /**
     * So many have their share, and all but the first rest on it: a node has a machine of its own, and here they would share a
     * core and its caches. When this returns the first has got used to its share.
     */
    private void deal(HttpClient client, List<ConfigurableApplicationContext> nodes, int count) throws Exception {
        for (var node : nodes.subList(count, nodes.size())) {
            node.getBean(GuardRound.class).stop();
            node.getBean(Leases.class).stop();
        }
        for (var node : nodes.subList(0, count)) {
            node.getBean(Leases.class).start();
            node.getBean(GuardRound.class).start();
        }
        while (!dealtAmong(count)) Thread.sleep(500);
        for (var node : nodes.subList(1, count)) node.getBean(GuardRound.class).stop();
        // With like fresh memory each time: who has just taken parts has just read them, who gave some away has long
        // held the rest.
        var first = nodes.getFirst().getBean(GuardRound.class);
        first.stop();
        first.start();
        Thread.sleep(5_000);
        later();
        tell(client, ++minute);
        Thread.sleep(10_000);
    }

    private ConfigurableApplicationContext another() {
        var settings = morvet.getEnvironment();
        return Bench.node(
                settings.getRequiredProperty("spring.datasource.url"),
                settings.getRequiredProperty("spring.datasource.password"));
    }

    /** Whether all parts are held, by so many nodes that have like many of them. */
    private boolean dealtAmong(int nodes) {
        return jdbc.sql(
                        """
                        select count(*) = :nodes and max(held) - min(held) <= 1 and sum(held) = (select count(*) from lease where name = 'guards')
                          from (select count(*) as held from lease
                                 where name = 'guards' and until > clock_timestamp() group by holder) each""")
                .param("nodes", nodes)
                .query(Boolean.class)
                .single();
    }

    /** What the first node needs for a minute of readings: milliseconds of one core. */
    private double needed(HttpClient client) throws Exception {
        later();
        double before = cpuMillis();
        tell(client, ++minute);
        Thread.sleep(20_000);
        return cpuMillis() - before;
    }

    /** Puts the clock of all nodes forward to when the next readings are told. */
    private void later() throws Exception {
        var now = Instant.now().plus(ahead);
        var next = toldAt.plus(APART);
        if (next.isAfter(now)) ahead = ahead.plus(Duration.between(now, next));
        var written = Files.writeString(Files.createTempFile("bench", ".clock"), ahead.toString());
        Files.move(written, Bench.CLOCK, StandardCopyOption.ATOMIC_MOVE);
        toldAt = Instant.now().plus(ahead);
        Thread.sleep(CLOCK_READ);
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
                            .header("Authorization", "Bearer " + KEY)
                            .header("Content-Type", "text/plain")
                            .POST(HttpRequest.BodyPublishers.ofString(page.toString()))
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            if (answer.statusCode() != 202) throw new IllegalStateException("answered " + answer.statusCode());
        }
    }

    /** Of the one node that judges. */
    private static double cpuMillis() {
        var threads = ManagementFactory.getThreadMXBean();
        var judging = Arrays.stream(threads.getThreadInfo(threads.getAllThreadIds()))
                .filter(one -> one != null && one.getThreadName().equals("guard-round"))
                .toList();
        if (judging.size() != 1) throw new IllegalStateException(judging.size() + " nodes judge, not one");
        return threads.getThreadCpuTime(judging.getFirst().getThreadId()) / 1e6;
    }
}
