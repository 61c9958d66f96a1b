package app.morvet.bench;

import app.morvet.ground.base.DayPartitions;
import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Search over two million failed messages, beside the bare SQL that asks for the same in one go. */
final class SearchBench {
    private static final int MESSAGES = 2_000_000;
    private static final int DAYS = 20;

    private final JdbcClient jdbc;
    private final DataSource dataSource;
    private final DayPartitions partitions;
    private final String address;
    private final HttpClient browser =
            HttpClient.newBuilder().cookieHandler(new CookieManager()).build();

    SearchBench(ConfigurableApplicationContext morvet, int port) {
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.dataSource = morvet.getBean(DataSource.class);
        this.partitions = morvet.getBean(DayPartitions.class);
        this.address = "http://127.0.0.1:" + port;
    }

    private record Question(String what, String path, String sql) {}

    void run() throws Exception {
        System.out.printf("%nsearch: filling %,d failed messages of %d days%n", MESSAGES, DAYS);
        fill();
        logIn();
        var select =
                """
                select m.id, m.at, m.component_id, m.business_key, m.step, left(m.error, 2000) as error, m.rule_id, m.open, m.dealing_id
                  from failed_message m
                """;
        var words =
                " join message_words w on w.at = m.at and w.id = m.id and w.words @@ websearch_to_tsquery('simple', '%s')";
        var newest = " order by m.at desc, m.id desc limit 41";
        for (var one : new Question[] {
            new Question(
                    "a word in one of 2,000,000",
                    "q=seldom1234567",
                    select + words.formatted("seldom1234567") + newest),
            new Question("a word in one of 100", "q=capstan42", select + words.formatted("capstan42") + newest),
            new Question("a word in each", "q=connection", select + words.formatted("connection") + newest),
            new Question("two words", "q=refused+harbour7", select + words.formatted("refused harbour7") + newest),
            new Question("a business key", "key=BK-1234567", select + " where m.business_key = 'BK-1234567'" + newest),
            new Question(
                    "what is open on an interface",
                    "interface=interface-3&state=open",
                    select + " where m.component_id = (select id from component where key = 'interface-3') and m.open"
                            + newest)
        }) {
            var found = InTurn.of(3, () -> page(one.path()), () -> bare(one.sql()));
            System.out.printf(
                    "  %-30s page %8.1f ms, bare SQL in one go %8.1f ms, %s%n",
                    one.what(), found.measured(), found.limit(), found.words());
        }
    }

    private void fill() {
        var now = Instant.now();
        for (int day = 0; day <= DAYS; day++) {
            var at = java.util.List.of(now.minus(Duration.ofDays(day)));
            partitions.ensure("failed_message", at);
            partitions.ensure("message_words", at);
        }
        jdbc.sql("drop index message_words_by_word").update();
        jdbc.sql(
                        """
                        insert into failure_family (fingerprint, skeleton, first_seen)
                        values ('bench-search', 'Connect to ⟨host⟩ failed', now()) on conflict do nothing""")
                .update();
        for (int part = 0; part < 10; part++)
            jdbc.sql(
                            """
                            with added as (
                                insert into failed_message (at, component_id, feed_id, event_id, business_key, step, error, attributes,
                                                            payload_type, payload, rule_id, family_id, open)
                                select now() - (n * :seconds) * interval '1 second', (select min(id) from component) + n % 20,
                                       (select min(id) from feed), 'search-' || n, 'BK-' || n, 'deliver',
                                       'Connect to partner ' || n % 40 || ' failed: connection refused after ' || n % 977 || ' ms, order ' || n,
                                       '{"node":"hub-1"}', 'application/json', '{"harbour":"harbour' || n % 300 || '"}',
                                       (select min(id) from sorting_rule),
                                       (select id from failure_family where fingerprint = 'bench-search'), n % 50 = 0
                                  from generate_series(:from::bigint, :to::bigint) as n
                                returning at, id, error, payload, event_id)
                            insert into message_words (at, id, words)
                            select at, id, to_tsvector('simple', error || ' ' || translate(payload, '{}":', '    ') || ' seldom' || substr(event_id, 8)
                                                                 || ' capstan' || id % 100)
                              from added""")
                    .param("seconds", DAYS * 86_400.0 / MESSAGES)
                    .param("from", (long) part * (MESSAGES / 10) + 1)
                    .param("to", (long) (part + 1) * (MESSAGES / 10))
                    .update();
        jdbc.sql("create index message_words_by_word on message_words using gin (words)")
                .update();
        jdbc.sql("analyze").update();
    }

    private double bare(String sql) throws Exception {
        long start = System.nanoTime();
        try (var connection = dataSource.getConnection();
                var statement = connection.createStatement();
                var rows = statement.executeQuery(sql)) {
            while (rows.next()) rows.getString("error");
        }
        return (System.nanoTime() - start) / 1e6;
    }

    private double page(String asked) throws IOException, InterruptedException {
        long start = System.nanoTime();
        var answer = get("/messages/search?" + asked);
        if (answer.statusCode() != 200) throw new IllegalStateException(asked + " answered " + answer.statusCode());
        return (System.nanoTime() - start) / 1e6;
    }

    private HttpResponse<String> get(String path) throws IOException, InterruptedException {
        return browser.send(
                HttpRequest.newBuilder(URI.create(address + path)).build(), HttpResponse.BodyHandlers.ofString());
    }

    private void logIn() throws Exception {
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
}
