package app.morvet;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.access.OpenIdProvider;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Derived;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.guards.Guards;
import app.morvet.rules.guards.StoredGuard;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import com.icegreen.greenmail.configuration.GreenMailConfiguration;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.DriverManager;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The whole of Morvet over HTTP, on a real PostgreSQL, with a desk and a mail server that can be made to fail. All
 * features share it; each test makes an interface of its own.
 */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
public abstract class MorvetTest {
    protected static final String KEY = "test-intake-key";
    protected static final DeskDouble DESK = new DeskDouble();

    /** Where people log in who do not log in here. */
    protected static final OpenIdProvider ELSEWHERE = new OpenIdProvider();

    /** Whose mailbox takes the replies; it is looked into where a test says so. */
    protected static final String REPLIES = "morvet@localhost";

    protected static final GreenMail MAIL = new GreenMail(new ServerSetup[] {
                new ServerSetup(FreePort.get(), "127.0.0.1", ServerSetup.PROTOCOL_SMTP),
                new ServerSetup(FreePort.get(), "127.0.0.1", ServerSetup.PROTOCOL_IMAP)
            })
            .withConfiguration(GreenMailConfiguration.aConfig().withUser(REPLIES, REPLIES, "replies"));

    private static final String DATABASE =
            "morvet_" + UUID.randomUUID().toString().substring(0, 8);
    private static final AtomicInteger COUNT = new AtomicInteger();
    private static final Map<String, Browser> LOGGED_IN = new HashMap<>();

    static {
        MAIL.start();
    }

    @LocalServerPort
    protected int port;

    @Autowired
    protected JdbcClient jdbc;

    @Autowired
    protected Estate estate;

    @Autowired
    protected Guards guards;

    @Autowired
    protected People people;

    @Autowired
    protected IntakeKeys keys;

    @Autowired
    protected SortingRules rules;

    @Autowired
    private List<Derived> derived;

    @Autowired
    private TransactionTemplate atOnce;

    protected final JsonMapper json = new JsonMapper();
    protected static final HttpClient HTTP = HttpClient.newHttpClient();

    @DynamicPropertySource
    static void settings(DynamicPropertyRegistry registry) throws Exception {
        var server = System.getenv("MORVET_TEST_PG");
        if (server == null)
            throw new IllegalStateException("MORVET_TEST_PG is not set: run the tests with ./morvet test");
        var password = System.getenv("MORVET_TEST_PG_PASSWORD");
        try (var connection =
                        DriverManager.getConnection("jdbc:postgresql://" + server + "/postgres", "morvet", password);
                var statement = connection.createStatement()) {
            statement.execute("create database " + DATABASE);
        }
        registry.add("spring.datasource.url", () -> "jdbc:postgresql://" + server + "/" + DATABASE);
        registry.add("spring.datasource.password", () -> password);
        registry.add("spring.mail.port", () -> MAIL.getSmtp().getPort());
        registry.add("morvet.replies.host", () -> "127.0.0.1");
        registry.add("morvet.replies.port", () -> MAIL.getImap().getPort());
        registry.add("morvet.replies.tls", () -> "false");
        registry.add("morvet.replies.user", () -> REPLIES);
        registry.add("morvet.replies.password", () -> "replies");
        registry.add("morvet.replies.every", () -> "24h");
        registry.add("morvet.secret-keys", () -> "a2V5IG9mIHRlc3RzOiBubyBzZWNyZXQgYXQgYWxsISE=");
        // Hundreds of tests log in; what a password costs to guess is no matter of theirs.
        registry.add("morvet.password-cost", () -> "4");
        registry.add("morvet.zone", () -> "Europe/Helsinki");
        registry.add("morvet.open-id.issuer", ELSEWHERE::issuer);
        registry.add("morvet.open-id.client-id", () -> "morvet");
        registry.add("morvet.open-id.client-secret", () -> "so secret");
        registry.add("morvet.open-id.roles[support]", () -> "ANALYST");
        registry.add("morvet.open-id.roles[support-leads]", () -> "LEAD");
        registry.add("morvet.open-id.teams[of-elsewhere]", () -> "elsewhere");
        registry.add("morvet.outgoing", () -> "127.0.0.1:" + DESK.port());
    }

    protected record Subject(String key, long id, long team, String mail) {}

    /** A fresh interface of a tier 1 application, owned by a fresh team. */
    protected Subject subject() {
        return subject("if-" + COUNT.incrementAndGet(), "Interface ", Estate.INTERFACE);
    }

    /** A component in an application of its own, owned by a team of its own; the estate is read anew once for it. */
    protected Subject subject(String key, String called, String kind) {
        setUpOnce();
        var mail = key + "@sundrava.example";
        return Objects.requireNonNull(atOnce.execute(status -> {
            long team = estate.addTeam("team-" + key, "Team of " + key, mail);
            long application = estate.addApplication("app-" + key, "Application of " + key, 1, team);
            return new Subject(key, estate.add(key, called + key, kind, application), team, mail);
        }));
    }

    protected synchronized void setUpOnce() {
        if (!people.all().isEmpty()) return;
        // Hundreds of guards are made; what each would have told in the last weeks is reckoned where a test asks.
        derived.forEach(Derived::rest);
        people.add("analyst", "Annika Ruuth", Role.ANALYST, "right");
        people.add("other", "Pia Lumme", Role.ANALYST, "right");
        people.add("lead", "Joel Varis", Role.LEAD, "right");
        people.add("admin", "Mirva Kesti", Role.ADMIN, "right");
        // Most tests are about guards; those of sorting rules say which of them alert.
        jdbc.sql("update sorting_rule set alerts = false").update();
        rules.set(rules.fresh().rules());
        keys.add("test", estate.addFeed("test", "Test feed", Duration.ofMinutes(1)), KEY);
    }

    protected Browser browser() {
        setUpOnce();
        return new Browser(port);
    }

    /** Somebody who is logged in, in the one session of theirs that all tests share. */
    protected Browser loggedIn(String login) throws Exception {
        var open = LOGGED_IN.get(login);
        if (open == null) LOGGED_IN.put(login, open = freshlyLoggedIn(login));
        return open;
    }

    /** The same in a session of their own, which may be ended. */
    protected Browser freshlyLoggedIn(String login) throws Exception {
        var browser = browser();
        assertThat(browser.logIn(login, "right")).isNotEmpty();
        return browser;
    }

    protected Person person(String login) {
        setUpOnce();
        return people.all().stream()
                .filter(one -> one.login().equals(login))
                .findFirst()
                .orElseThrow();
    }

    /** Stands over one interface: warns above 2, critical above 5, over a sliding window. */
    protected void guard(Subject subject, Duration window) {
        var rule = new LimitGuard(
                new Window.Sliding(window),
                Amount.of(Amount.Fold.SUM),
                Limits.above(2, 5),
                Terms.clearing(0.5, Duration.ZERO));
        guards.add(
                new StoredGuard(
                        0,
                        "Guard of " + subject.key() + " " + COUNT.incrementAndGet(),
                        true,
                        Watch.of("failed_messages").named(subject.key()),
                        rule,
                        "Look at **the error**.",
                        null,
                        0),
                person("lead"));
    }

    /** Sends readings, as a page in the plain-text ancestor of OpenMetrics. */
    protected HttpResponse<String> tell(String page) throws Exception {
        return tell("text/plain", page);
    }

    protected HttpResponse<String> tell(String type, String body) throws Exception {
        setUpOnce();
        return tell(KEY, type, body);
    }

    /** @param key of whoever tells it */
    protected HttpResponse<String> tell(String key, String type, String body) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/readings"))
                        .header("Authorization", "Bearer " + key)
                        .header("Content-Type", type)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    protected Map<String, Object> failed(String id, String subject, Instant at) {
        var data = new HashMap<String, Object>(Map.of("businessKey", "BK-" + id, "step", "deliver"));
        data.put("error", "no answer\n  from partner");
        data.putAll(Map.of("payloadType", "application/json", "payload", "{\"id\":1}"));
        data.put("attributes", Map.of("node", "hub-1"));
        var event = new HashMap<>(event("message.failed", subject, at, data));
        event.put("id", id);
        return event;
    }

    /** A failed message with what is told of it beside what every one has. */
    @SuppressWarnings("unchecked")
    protected Map<String, Object> failed(Subject subject, Map<String, Object> told) {
        var event = new HashMap<>(failed(UUID.randomUUID().toString(), subject.key(), Instant.now()));
        var data = new HashMap<>((Map<String, Object>) event.get("data"));
        data.putAll(told);
        event.put("data", data);
        return event;
    }

    /** An event of a run: {@code started}, {@code progress}, {@code finished} or {@code cancelled}. */
    protected static Map<String, Object> ofRun(
            String what, String job, String run, Instant at, Map<String, Object> more) {
        var data = new HashMap<>(more);
        data.put("run", run);
        return event("run." + what, job, at, data);
    }

    /** An event of a type of Morvet's, with an id of its own. */
    protected static Map<String, Object> event(String type, String subject, Instant at, Map<String, Object> data) {
        return Map.of(
                "specversion",
                "1.0",
                "id",
                UUID.randomUUID().toString(),
                "source",
                "/test",
                "type",
                "app.morvet." + type,
                "subject",
                subject,
                "time",
                at.toString(),
                "data",
                data);
    }

    /** Where the latest failed message of an interface is shown. */
    protected String messageOf(Subject subject) {
        return jdbc.sql(
                        """
                        select (extract(epoch from at) * 1000000)::bigint || '-' || id from failed_message
                         where component_id = :id order by at desc, id desc limit 1""")
                .param("id", subject.id())
                .query((row, number) -> "/messages/" + row.getString(1))
                .single();
    }

    /** A warning of a sorting rule before all others, about one interface. */
    protected StoredRule sorting(Subject subject, String text, boolean sendAgain, String... explainedBy) {
        setUpOnce();
        var rule = new StoredRule(
                0,
                "Rule " + COUNT.incrementAndGet() + " of " + subject.key(),
                new Criteria(
                        List.of(new Condition.OnInterface(Set.of(subject.key())), new Condition.ErrorContains(text)),
                        null),
                Severity.WARNING,
                null,
                "Look at **the partner**.",
                true,
                FoldBy.FAMILY,
                new FoldWindow(Duration.ofHours(4)),
                sendAgain,
                Set.of(explainedBy),
                null,
                0,
                null);
        var list = new ArrayList<StoredRule>();
        list.add(rule);
        var before = rules.fresh();
        list.addAll(before.rules());
        return rules.change(before.version(), list, person("lead")).rules().stream()
                .filter(one -> one.name().equals(rule.name()))
                .findFirst()
                .orElseThrow();
    }

    protected void fail(Subject subject, int count) throws Exception {
        var events = new ArrayList<Map<String, Object>>();
        var now = Instant.now();
        for (int i = 0; i < count; i++)
            events.add(failed(UUID.randomUUID().toString(), subject.key(), now.plusNanos(i * 1000L)));
        assertThat(send(events).statusCode()).isEqualTo(202);
    }

    protected HttpResponse<String> send(Object events) throws Exception {
        return send(KEY, "application/cloudevents-batch+json", json.writeValueAsString(events));
    }

    protected HttpResponse<String> send(String key, String type, String body) throws Exception {
        setUpOnce();
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/events"))
                        .header("Authorization", "Bearer " + key)
                        .header("Content-Type", type)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    protected JsonNode tree(HttpResponse<String> answer) {
        return json.readTree(answer.body());
    }

    /** So that jobs of other tests wait for no slot. */
    protected void forgetSchedulers() {
        jdbc.sql("delete from outside_call").update();
        jdbc.sql("delete from outside_connection where sort = 'scheduler'").update();
    }

    protected Map<String, Object> caseOf(Subject subject) {
        var cases = casesOf(subject);
        assertThat(cases).hasSize(1);
        return cases.getFirst();
    }

    protected List<Map<String, Object>> casesOf(Subject subject) {
        return jdbc.sql("select * from work_case where component_id = :id order by id")
                .param("id", subject.id())
                .query()
                .listOfRows();
    }

    protected interface Check {
        void run() throws Exception;
    }

    /** Until it holds, for at most half a minute; then with what did not hold. */
    protected static void eventually(Check check) throws Exception {
        var end = Instant.now().plusSeconds(30);
        while (true) {
            try {
                check.run();
                return;
            } catch (AssertionError | RuntimeException notYet) {
                if (Instant.now().isAfter(end)) throw notYet;
                Thread.sleep(50);
            }
        }
    }
}
