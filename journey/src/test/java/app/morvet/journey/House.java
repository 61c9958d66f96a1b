package app.morvet.journey;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.TimeUnit;

/** Morvet and the stand-ins as they are really started: two processes from their jars, and a database of their own. */
final class House implements AutoCloseable {
    static final String KEY = "journey-intake-key";
    private static final Path LOGS = Path.of("target", "logs");

    private final String pg = needed("MORVET_TEST_PG");
    private final String password = needed("MORVET_TEST_PG_PASSWORD");
    private final String database = "journey_" + UUID.randomUUID().toString().substring(0, 8);
    private final int port = freePort();
    private final int standInPort = freePort();
    private final int smtpPort = freePort();
    private final HttpClient http = HttpClient.newHttpClient();
    private final String past;
    private final String batchPast;
    private final String clockOffset;
    private Process morvet;
    private Process standIns;

    /** @param past how much past the hub reports at first, such as {@code PT2H} */
    House(String past) throws Exception {
        this(past, past, Duration.ZERO);
    }

    /**
     * @param batchPast   how much past the scheduler tells of
     * @param clockOffset how far the clock of both is ahead of the machine's
     */
    House(String past, String batchPast, Duration clockOffset) throws Exception {
        this.past = past;
        this.batchPast = batchPast;
        this.clockOffset = clockOffset.toSeconds() + "s";
        Files.createDirectories(LOGS);
        try (var connection = connect("postgres");
                var statement = connection.createStatement()) {
            statement.execute("create database " + database);
        }
        standIns = start("standins", standInSettings());
        morvet = start("app", morvetSettings());
        untilReady();
    }

    private static String needed(String name) {
        var value = System.getenv(name);
        if (value == null) throw new IllegalStateException(name + " is not set: run the tests with ./morvet test");
        return value;
    }

    private static int freePort() {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        } catch (IOException none) {
            throw new IllegalStateException(none);
        }
    }

    private Map<String, String> standInSettings() {
        var settings = new LinkedHashMap<String, String>();
        settings.put("SERVER_PORT", "" + standInPort);
        settings.put("STANDINS_MORVET", address());
        settings.put("STANDINS_KEY", KEY);
        settings.put("STANDINS_DESKTOKEN", "desk-token");
        settings.put("STANDINS_DESKSECRET", "desk-secret");
        settings.put(
                "STANDINS_DATA", Path.of("target", database).toAbsolutePath().toString());
        settings.put("STANDINS_SMTPPORT", "" + smtpPort);
        settings.put("STANDINS_PAST", past);
        settings.put("STANDINS_BATCHPAST", batchPast);
        settings.put("STANDINS_CLOCKOFFSET", clockOffset);
        return settings;
    }

    private Map<String, String> morvetSettings() {
        var settings = new LinkedHashMap<String, String>();
        settings.put("SERVER_PORT", "" + port);
        settings.put("SPRING_PROFILES_ACTIVE", "demo");
        settings.put("SPRING_DATASOURCE_URL", "jdbc:postgresql://" + pg + "/" + database);
        settings.put("SPRING_DATASOURCE_PASSWORD", password);
        settings.put("SPRING_MAIL_PORT", "" + smtpPort);
        settings.put("MORVET_ZONE", "Europe/Helsinki");
        settings.put("MORVET_ADDRESS", address());
        settings.put("MORVET_OUTGOING", "127.0.0.1:" + standInPort);
        settings.put("MORVET_CLOCKOFFSET", clockOffset);
        settings.put("MORVET_DEMO_KEY", KEY);
        settings.put("MORVET_DEMO_DESK", standIn(""));
        settings.put("MORVET_DEMO_DESKTOKEN", "desk-token");
        settings.put("MORVET_DEMO_DESKSECRET", "desk-secret");
        settings.put("MORVET_DEMO_CADENCE", "2s");
        return settings;
    }

    private Process start(String module, Map<String, String> settings) throws IOException, InterruptedException {
        return Programs.start(module, settings, LOGS.resolve(database + "-" + module + ".log"));
    }

    private void untilReady() throws Exception {
        var end = Instant.now().plus(Duration.ofSeconds(300));
        while (!ready()) {
            if (!morvet.isAlive() || !standIns.isAlive())
                throw new IllegalStateException("a process has ended; see journey/" + LOGS);
            if (Instant.now().isAfter(end))
                throw new IllegalStateException("Morvet does not become ready; see journey/" + LOGS);
            Thread.sleep(200);
        }
    }

    private boolean ready() throws InterruptedException {
        try {
            return get(address() + "/actuator/health").body().contains("\"status\":\"UP\"");
        } catch (IOException notYet) {
            return false;
        }
    }

    String address() {
        return "http://127.0.0.1:" + port;
    }

    String standIn(String path) {
        return "http://127.0.0.1:" + standInPort + path;
    }

    HttpResponse<String> get(String address) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(URI.create(address)).build(), HttpResponse.BodyHandlers.ofString());
    }

    HttpResponse<String> send(String events) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(URI.create(address() + "/api/v1/events"))
                        .header("Authorization", "Bearer " + KEY)
                        .header("Content-Type", "application/cloudevents-batch+json")
                        .POST(HttpRequest.BodyPublishers.ofString(events))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** Does something on a stand-in's panel, as a form there would. */
    void panel(String path, String... fields) throws IOException, InterruptedException {
        var form = new StringBuilder();
        for (int i = 0; i < fields.length; i += 2) {
            form.append(i == 0 ? "" : "&")
                    .append(fields[i])
                    .append('=')
                    .append(URLEncoder.encode(fields[i + 1], StandardCharsets.UTF_8));
        }
        var answer = http.send(
                HttpRequest.newBuilder(URI.create(standIn(path)))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form.toString()))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() >= 400)
            throw new IllegalStateException(path + " answered " + answer.statusCode() + ": " + answer.body());
    }

    /** As a power cut would. */
    void kill() throws InterruptedException {
        morvet.destroyForcibly().waitFor();
    }

    void startAgain() throws Exception {
        morvet = start("app", morvetSettings());
        untilReady();
    }

    Connection connect(String name) throws SQLException {
        return DriverManager.getConnection("jdbc:postgresql://" + pg + "/" + name, "morvet", password);
    }

    String one(String sql) throws SQLException {
        try (var connection = connect(database);
                var rows = connection.createStatement().executeQuery(sql)) {
            return rows.next() ? rows.getString(1) : "";
        }
    }

    @Override
    public void close() {
        // Told to end, a program leaves an archive of its classes behind for the next; that may take a moment.
        for (var process : List.of(morvet, standIns)) process.destroy();
        for (var process : List.of(morvet, standIns)) {
            try {
                if (!process.waitFor(20, TimeUnit.SECONDS)) process.destroyForcibly();
            } catch (InterruptedException stop) {
                process.destroyForcibly();
                Thread.currentThread().interrupt();
            }
        }
    }
}
