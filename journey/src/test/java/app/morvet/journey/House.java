package app.morvet.journey;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Morvet and the stand-ins as they are really started: two processes from their jars, and a database of their own. All begin at
 * the same instant with a copy of the same past, so what a test finds there is the same each time.
 */
final class House implements AutoCloseable {
    static final String KEY = "journey-intake-key";

    /** The instant at which every house begins: settling bookings goes slowly, archiving has failed. */
    static final ZonedDateTime NIGHT = ZonedDateTime.of(2027, 3, 18, 3, 20, 20, 0, ZoneId.of("Europe/Helsinki"));

    /** The past is made from some minutes before that, so that a slow machine is done with it in time. */
    private static final Duration TO_MAKE_IT = Duration.ofMinutes(10);

    /** The first to end leaves an archive of its classes behind for all others: half a minute of processor time. */
    private static final Duration TO_END = Duration.ofMinutes(3);

    private static final Path TARGET = Path.of("target").toAbsolutePath();
    private static final Path LOGS = TARGET.resolve("logs");
    private static final String FIRST = "journey_past";

    private final String database;
    private final Clock clock;
    private final Path clockFile;
    private Duration moved = Duration.ZERO;
    private final int[] ports;
    private final int standInPort = Programs.freePort();
    private final int smtpPort = Programs.freePort();
    private final HttpClient http = HttpClient.newHttpClient();
    /** Null where one was killed. */
    private final @Nullable Process[] nodes;

    private final Process standIns;

    /** Of tests that look again and again; a new one for each look would take longer than the look. */
    private @Nullable Connection asking;

    /** One for all tests that leave its clock alone; it ends with the process. */
    private static @Nullable House shared;

    static House shared() throws Exception {
        var house = shared;
        if (house == null) {
            house = open();
            Runtime.getRuntime().addShutdownHook(new Thread(house::close));
            shared = house;
        }
        return house;
    }

    /** A house with six hours of messages and readings and 25 nights behind it, the same each time. */
    static House open() throws Exception {
        return open(1);
    }

    /** The same with several nodes of Morvet. What the stand-ins tell of they tell the first. */
    static House open(int nodes) throws Exception {
        makePastOnce();
        var database = "journey_" + UUID.randomUUID().toString().substring(0, 8);
        Databases.run("create database " + database + " template " + FIRST);
        copy(TARGET.resolve(FIRST), TARGET.resolve(database));
        // A test sees within seconds what a machine says; the past is made with the cadence that its readings have.
        Databases.run(database, "update feed set cadence = interval '10 s' where fetch_url is not null");
        Databases.run(
                database,
                "update outside_connection set settings = jsonb_set(settings, '{everySeconds}', '\"10\"') where sort = 'vendor'");
        return new House(database, NIGHT, nodes);
    }

    /** The first that asks makes it, others wait; it is there as a whole or not at all. */
    private static synchronized void makePastOnce() throws Exception {
        Files.createDirectories(LOGS);
        if (Files.exists(TARGET.resolve(FIRST)) && Databases.has(FIRST)) return;
        var making = FIRST + "_making";
        for (var leftOver : List.of(FIRST, making)) Databases.run("drop database if exists " + leftOver);
        Databases.run("create database " + making);
        delete(TARGET.resolve(making));
        delete(TARGET.resolve(FIRST));
        new House(making, NIGHT.minus(TO_MAKE_IT), 1).close();
        Databases.run("alter database " + making + " rename to " + FIRST);
        Files.move(TARGET.resolve(making), TARGET.resolve(FIRST));
    }

    private House(String database, ZonedDateTime begins, int count) throws Exception {
        this.database = database;
        this.ports = IntStream.range(0, count).map(node -> Programs.freePort()).toArray();
        this.nodes = new Process[count];
        this.clock = Clock.offset(Clock.systemUTC(), Duration.between(Instant.now(), begins.toInstant()));
        this.clockFile = Files.createDirectories(TARGET.resolve("clocks")).resolve(database);
        later(Duration.ZERO);
        standIns = start("standins", standInSettings());
        for (int node = 0; node < count; node++) startAgain(node);
        untilReady();
    }

    private static void copy(Path from, Path to) throws IOException {
        Files.createDirectories(to);
        try (var files = Files.list(from)) {
            for (var file : files.toList()) Files.copy(file, to.resolve(file.getFileName()));
        }
    }

    private static void delete(Path folder) throws IOException {
        if (!Files.exists(folder)) return;
        try (var files = Files.list(folder)) {
            for (var file : files.toList()) Files.delete(file);
        }
        Files.delete(folder);
    }

    /** How far the clock with which the house began is ahead of the machine's. */
    private Duration ahead() {
        return Duration.between(Instant.now(), clock.instant());
    }

    /** Instead of waiting: all nodes of Morvet are so much later from now on. The stand-ins go on by their own clock. */
    void later(Duration span) throws IOException {
        moved = moved.plus(span);
        var written = Files.writeString(
                clockFile.resolveSibling(database + ".new"), ahead().plus(moved).toString());
        Files.move(written, clockFile, StandardCopyOption.ATOMIC_MOVE);
    }

    private Map<String, String> standInSettings() {
        var settings = new LinkedHashMap<String, String>();
        settings.put("SERVER_PORT", "" + standInPort);
        settings.put("STANDINS_MORVET", address());
        settings.put("STANDINS_KEY", KEY);
        settings.put("STANDINS_DESKTOKEN", "desk-token");
        settings.put("STANDINS_DESKSECRET", "desk-secret");
        settings.put("STANDINS_DATA", TARGET.resolve(database).toString());
        settings.put("STANDINS_SMTPPORT", "" + smtpPort);
        settings.put("STANDINS_PAST", "PT6H");
        settings.put("STANDINS_BATCHPAST", "P25D");
        settings.put("STANDINS_CLOCKOFFSET", ahead().toMillis() + "ms");
        return settings;
    }

    private Map<String, String> settings(int node) {
        var settings = new LinkedHashMap<String, String>();
        settings.put("SERVER_PORT", "" + ports[node]);
        settings.put("SPRING_PROFILES_ACTIVE", "demo");
        settings.put("MORVET_NODE", "node" + node);
        settings.put("SPRING_DATASOURCE_URL", Databases.url(database));
        settings.put("SPRING_DATASOURCE_PASSWORD", Databases.PASSWORD);
        settings.put("SPRING_MAIL_PORT", "" + smtpPort);
        settings.put("MORVET_ZONE", "Europe/Helsinki");
        settings.put("MORVET_PASSWORDCOST", "4");
        settings.put("MORVET_ADDRESS", address());
        settings.put("MORVET_OUTGOING", "127.0.0.1:" + standInPort);
        settings.put("MORVET_CLOCKFILE", clockFile.toString());
        settings.put("MORVET_DEMO_KEY", KEY);
        settings.put("MORVET_SECRETKEYS", "a2V5IG9mIHRlc3RzOiBubyBzZWNyZXQgYXQgYWxsISE=");
        settings.put("MORVET_OPENID_ISSUER", standIn("/id"));
        settings.put("MORVET_OPENID_CLIENTID", "morvet");
        settings.put("MORVET_OPENID_CLIENTSECRET", "ferry-login");
        settings.put("MORVET_DEMO_DESK", standIn(""));
        settings.put("MORVET_DEMO_DESKTOKEN", "desk-token");
        settings.put("MORVET_DEMO_DESKSECRET", "desk-secret");
        return settings;
    }

    private Process start(String module, Map<String, String> settings) throws IOException, InterruptedException {
        var port = settings.get("SERVER_PORT");
        return Programs.start(module, settings, LOGS.resolve(database + "-" + module + "-" + port + ".log"));
    }

    void untilReady() throws Exception {
        var end = Instant.now().plus(Duration.ofSeconds(300));
        while (!ready()) {
            if (!standIns.isAlive() || !alive().allMatch(Process::isAlive))
                throw new IllegalStateException("a process has ended; see journey/" + LOGS);
            if (Instant.now().isAfter(end))
                throw new IllegalStateException("Morvet does not become ready; see journey/" + LOGS);
            Thread.sleep(200);
        }
    }

    private Stream<Process> alive() {
        return Stream.of(nodes).filter(Objects::nonNull);
    }

    private boolean ready() throws InterruptedException {
        try {
            for (int node = 0; node < nodes.length; node++) if (nodes[node] != null && !isUp(node)) return false;
            return true;
        } catch (IOException notYet) {
            return false;
        }
    }

    private boolean isUp(int node) throws IOException, InterruptedException {
        return get(address(node) + "/actuator/health").body().contains("\"status\":\"UP\"");
    }

    /** By the clock of the house. */
    Instant now() {
        return clock.instant().plus(moved);
    }

    String address() {
        return address(0);
    }

    String address(int node) {
        return "http://127.0.0.1:" + ports[node];
    }

    String standIn(String path) {
        return "http://127.0.0.1:" + standInPort + path;
    }

    HttpResponse<String> get(String address) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(URI.create(address)).build(), HttpResponse.BodyHandlers.ofString());
    }

    /** An event of a failed message, as it fails now. */
    String failed(String interfaceKey, String key, String error, String type, String payload) {
        return """
                {"specversion":"1.0","id":"%s-%s","source":"/t","type":"app.morvet.message.failed","subject":"%s","time":"%s",
                 "data":{"businessKey":"%s","step":"s","error":"%s","payloadType":"%s","payload":"%s"}}"""
                .formatted(
                        interfaceKey,
                        key,
                        interfaceKey,
                        now(),
                        key,
                        error.replace("\"", "\\\""),
                        type,
                        payload.replace("\\", "\\\\").replace("\"", "\\\""));
    }

    /** An interface is broken, carries some messages, which all fail, and is mended. */
    void failing(String interfaceKey, String fault, int count) throws IOException, InterruptedException {
        panel("/hub/" + interfaceKey + "/break", "fault", fault);
        panel("/hub/" + interfaceKey + "/carry", "count", "" + count);
        panel("/hub/" + interfaceKey + "/mend");
    }

    HttpResponse<String> send(String events) throws IOException, InterruptedException {
        return send(0, events);
    }

    HttpResponse<String> send(int node, String events) throws IOException, InterruptedException {
        return post(address(node) + "/api/v1/events", KEY, "application/cloudevents-batch+json", events);
    }

    /** What a program tells Morvet, by a key. */
    HttpResponse<String> post(String path, String key, String json) throws IOException, InterruptedException {
        return post(address() + path, key, "application/json", json);
    }

    private HttpResponse<String> post(String address, String key, String type, String body)
            throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(URI.create(address))
                        .header("Authorization", "Bearer " + key)
                        .header("Content-Type", type)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
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
    void kill(int node) throws InterruptedException {
        Objects.requireNonNull(nodes[node]).destroyForcibly().waitFor();
        nodes[node] = null;
    }

    void startAgain(int node) throws Exception {
        nodes[node] = start("app", settings(node));
    }

    /**
     * An outpost on this machine, which may start again what has stopped at the stand-ins.
     *
     * @param key that Morvet has shown
     */
    Process outpost(String name, String key, String service) throws IOException {
        var folder = Files.createDirectories(TARGET.resolve("outposts").resolve(database));
        var heal = folder.resolve("heal.sh");
        Files.writeString(
                heal,
                """
                exec 3<>/dev/tcp/127.0.0.1/%d
                printf 'POST /machines/%s/heal HTTP/1.1\\r\\nHost: stand-ins\\r\\nContent-Length: 0\\r\\nConnection: close\\r\\n\\r\\n' >&3
                head -n 1 <&3
                """
                        .formatted(standInPort, service));
        var file = folder.resolve(name + ".yaml");
        Files.writeString(
                file,
                """
                morvet: %s
                name: %s
                key: %s
                spool: %s
                reach: ["127.0.0.1:%d"]
                actions:
                  restart %s: {run: [bash, "%s"], of: %s}
                """
                        .formatted(
                                address(),
                                name,
                                key,
                                folder.resolve(name + "-spool"),
                                standInPort,
                                service,
                                heal,
                                service));
        return Programs.outpost(file, ahead().plus(moved), LOGS.resolve(database + "-" + name + ".log"));
    }

    /** The first column of the first row; empty where there is none. */
    String one(String sql) throws SQLException {
        var open = asking;
        if (open == null) asking = open = Databases.connect(database);
        try (var statement = open.createStatement();
                var rows = statement.executeQuery(sql)) {
            return rows.next() ? rows.getString(1) : "";
        }
    }

    @Override
    public void close() {
        try {
            if (asking != null) asking.close();
        } catch (SQLException gone) {
            // So it is closed.
        }
        // Told to end, a program leaves an archive of its classes behind for the next; that may take a moment.
        var all = Stream.concat(alive(), Stream.of(standIns)).toList();
        all.forEach(Process::destroy);
        for (var process : all) {
            try {
                if (!process.waitFor(TO_END.toSeconds(), TimeUnit.SECONDS)) process.destroyForcibly();
            } catch (InterruptedException stop) {
                process.destroyForcibly();
                Thread.currentThread().interrupt();
            }
        }
    }
}
