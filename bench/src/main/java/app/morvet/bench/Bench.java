package app.morvet.bench;

import app.morvet.MorvetApplication;
import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Role;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/** Starts Morvet on a database of its own and measures what is asked for: {@code intake}, {@code replay}, {@code payloads}, {@code
 * readings}, {@code round}, {@code nodes} (the same with one to three nodes), {@code search}, {@code pages}, {@code batch}, {@code callouts}, {@code checks}, several of them in this order, or all.
 * Of {@code pages} it takes addresses, such as {@code /shift}, where only those are wanted. */
public final class Bench {
    static final String KEY = "bench-intake-key";
    /** By which all nodes go; it says how far they are ahead. */
    static final Path CLOCK = clock();

    private Bench() {}

    public static void main(String[] words) throws Exception {
        var wanted = Set.of(words);
        var target = new ChecksBench.Target();
        try (var morvet = start(target.hosts())) {
            setUp(morvet);
            int port =
                    ((ServletWebServerApplicationContext) morvet).getWebServer().getPort();
            if (wanted.isEmpty() || wanted.contains("intake")) new IntakeBench(morvet, port).run();
            if (wanted.isEmpty() || wanted.contains("replay")) new ReplayBench().run();
            if (wanted.isEmpty() || wanted.contains("windows")) new WindowsBench().run();
            if (wanted.isEmpty() || wanted.contains("payloads")) new PayloadBench().run();
            if (wanted.isEmpty() || wanted.contains("readings")) new ReadingsBench(morvet, port).run();
            if (wanted.isEmpty() || wanted.contains("round") || wanted.contains("nodes"))
                new RoundBench(morvet, port).run(wanted.contains("nodes") ? 3 : 1);
            if (wanted.isEmpty() || wanted.contains("search")) new SearchBench(morvet, port).run();
            if (wanted.isEmpty() || wanted.contains("pages")) new PagesBench(morvet, port).run(wanted);
            if (wanted.isEmpty() || wanted.contains("batch")) new BatchBench(morvet, port).run();
            if (wanted.isEmpty() || wanted.contains("callouts")) new CallOutsBench(morvet, target).run();
            if (wanted.isEmpty() || wanted.contains("checks")) new ChecksBench(morvet, target).run();
        }
        System.exit(0);
    }

    private static Path clock() {
        try {
            var file = Files.createTempFile("bench", ".clock");
            file.toFile().deleteOnExit();
            return Files.writeString(file, "PT0S");
        } catch (IOException full) {
            throw new UncheckedIOException(full);
        }
    }

    private static ConfigurableApplicationContext start(String mayCall) throws Exception {
        var server = System.getenv("MORVET_TEST_PG");
        var password = System.getenv("MORVET_TEST_PG_PASSWORD");
        if (server == null || password == null) throw new IllegalStateException("run it with ./morvet bench");
        var database = "bench_" + UUID.randomUUID().toString().substring(0, 8);
        try (var connection =
                        DriverManager.getConnection("jdbc:postgresql://" + server + "/postgres", "morvet", password);
                var statement = connection.createStatement()) {
            statement.execute("create database " + database);
        }
        return node("jdbc:postgresql://" + server + "/" + database, password, "--morvet.outgoing=" + mayCall);
    }

    /** One more process of Morvet, as it were: with a pool, caches and rounds of its own. */
    static ConfigurableApplicationContext node(String url, String password, String... more) {
        var settings = new ArrayList<>(List.of(
                "--spring.datasource.url=" + url,
                "--spring.datasource.password=" + password,
                "--server.port=0",
                "--morvet.clock-file=" + CLOCK,
                "--morvet.zone=Europe/Helsinki"));
        settings.addAll(List.of(more));
        return new SpringApplicationBuilder(MorvetApplication.class).run(settings.toArray(String[]::new));
    }

    private static void setUp(ConfigurableApplicationContext morvet) {
        var estate = morvet.getBean(Estate.class);
        long team = estate.addTeam("platform", "Platform", "platform@sundrava.example");
        long application = estate.addApplication("departure-displays", "Departure Displays", 2, team);
        for (int i = 0; i < 20; i++) estate.add("interface-" + i, "Interface " + i, Estate.INTERFACE, application);
        morvet.getBean(IntakeKeys.class).add("bench", estate.addFeed("bench", "Bench", Duration.ofMinutes(1)), KEY);
        rules(morvet.getBean(SortingRules.class));
        morvet.getBean(People.class).add("analyst", "Annika Ruuth", Role.ANALYST, "right");
    }

    /** Twelve rules before the one that takes the bench's messages in the end. */
    private static void rules(SortingRules rules) {
        var list = new ArrayList<StoredRule>();
        for (int i = 0; i < 12; i++) {
            Condition condition =
                    switch (i % 4) {
                        case 0 -> new Condition.ErrorContains("certificate " + i);
                        case 1 -> Condition.ErrorMatches.of("timed out after \\d+ (?:ms|s) " + i);
                        case 2 -> Condition.JsonPathHolds.of("$.ship.flag" + i);
                        default -> new Condition.Attribute("node", "hub-" + (i + 10));
                    };
            list.add(new StoredRule(
                    0,
                    "Rule " + i,
                    new Criteria(List.of(condition), null),
                    Severity.WARNING,
                    null,
                    "",
                    true,
                    FoldBy.FAMILY,
                    new FoldWindow(Duration.ofHours(4)),
                    true,
                    Set.of(),
                    null,
                    0,
                    null));
        }
        list.add(rules.fresh().catchAll());
        rules.set(list);
    }
}
