package app.morvet.sources.checks;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.ground.base.YamlFile;
import app.morvet.sources.outposts.Outposts;
import java.util.UUID;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** Checks as a file: read twice it changes nothing, and what is wrong is told by its line. */
class CheckFileTest extends MorvetTest {
    @Autowired
    Outposts outposts;

    @Autowired
    CheckFile file;

    private String mark;
    private Browser lead;

    @BeforeEach
    void setUp() throws Exception {
        setUpOnce();
        mark = "fi" + UUID.randomUUID().toString().substring(0, 8);
        lead = loggedIn("lead");
        outposts.add(mark, mark, "key-" + mark);
    }

    private String text() {
        return """
                checks:
                  - name: %1$s up
                    of: %1$s-gate
                    every: 30 s
                    tries: 2
                    kind: http
                    look:
                      url: http://127.0.0.1:%2$d/in
                      method: POST
                      takes: token from $.token
                      url2: http://127.0.0.1:%2$d/me/{token}
                      codes2: 200-299
                  - name: %1$s size
                    of: %1$s-gate
                    every: 1 min
                    from: [%1$s]
                    kind: command
                    look: {command: folder size, exit: 0}
                """
                .formatted(mark, DESK.port());
    }

    @Test
    void whatIsWrittenOutIsReadInWithoutChangingAnything() throws Exception {
        var preview = Jsoup.parse(lead.post("/services/checks/file", "text=" + encoded(text()))
                        .body())
                .text();
        assertThat(preview)
                .contains(
                        "2 checks change, 0 stay the same",
                        "not there",
                        "Every 30 s, send POST to",
                        "from " + mark + ", run folder size");
        assertThat(file.read(text()).changes()).hasSize(2);
        lead.post("/services/checks/file/apply", "text=" + encoded(text()));
        assertThat(file.read(text())).isEqualTo(new YamlFile.Read(java.util.List.of(), 2, java.util.List.of()));
        var out = lead.get("/services/checks/file/checks.yaml").body();
        assertThat(out).contains("name: " + mark + " up", "url2: ");
        assertThat(file.read(out).changes()).isEmpty();
        assertThat(file.read(out).faults()).isEmpty();
        var other = file.read(text().replace("every: 30 s", "every: 45 s").replace("exit: 0", "exit: 3"));
        assertThat(other.changes()).extracting(YamlFile.Change::name).containsExactly(mark + " up", mark + " size");
        assertThat(loggedIn("analyst")
                        .post("/services/checks/file/apply", "text=" + encoded(text()))
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void whatIsSecretStaysWithTheSameHostsOnly() throws Exception {
        lead.post("/services/checks/file/apply", "text=" + encoded(text()));
        var id = jdbc.sql("select id from outside_check where name = :name")
                .param("name", mark + " up")
                .query(Long.class)
                .single();
        lead.post(
                "/services/checks/" + id,
                "kind=http&every=30+s&tries=2&patience=5+s&active=yes&version=1&component=" + mark + "-gate&name="
                        + encoded(mark + " up") + "&codes=200&url=" + encoded("http://127.0.0.1:" + DESK.port() + "/in")
                        + "&headers=" + encoded("X-Key: secret-" + mark));
        assertThat(lead.get("/services/checks/file/checks.yaml").body()).doesNotContain("secret-" + mark);
        lead.post("/services/checks/file/apply", "text=" + encoded(text()));
        assertThat(lead.page("/services/checks/" + id + "/edit")
                        .select("textarea[name=headers]")
                        .text())
                .isEqualTo("X-Key: (kept)");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    every: 30 s           | every: 3 s              | 4  | A check runs every 10 s to every day.
                    every: 30 s           | every: often            | 4  | is not a duration
                    tries: 2              | tries: 9                | 5  | A check is tried 1 to 5 times.
                    kind: http            | kind: ping              | 6  | is no kind of check; those are http, page
                    method: POST          | method: PUSH            | 8  | The method is one of GET
                    method: POST          | verb: POST              | 9  | "verb" is not known of a web call; known are method, url
                    codes2: 200-299       | codes2: many            | 12 | is no code of an answer
                    kind: command         | kind: service           | 18 | "command" is not known of a service
                    of: %s-gate           | off: x                  | 3  | "off" is not known here
                    checks:               | check:                  | 1  | The file begins with "checks:"
                    from: [%s]            | from: [nowhere]         | 16 | There is no outpost "nowhere".
                    from: [%s]            | tries: 1                | 17 | A check of a command is made by an outpost
                    """)
    void whatIsWrongIsToldByItsLine(String right, String wrong, int line, String why) {
        var read = file.read(text().replaceFirst(java.util.regex.Pattern.quote(right.formatted(mark)), wrong));
        assertThat(read.faults()).isNotEmpty();
        assertThat(read.faults().getFirst().words()).contains(why);
        assertThat(read.faults().getFirst().line()).isEqualTo(line);
    }

    @Test
    void aHostThatMayNotBeCalledIsToldAndNothingIsDone() throws Exception {
        var elsewhere = text().replace("127.0.0.1:" + DESK.port() + "/me", "192.0.2.7/me");
        assertThat(Jsoup.parse(lead.post("/services/checks/file/apply", "text=" + encoded(elsewhere))
                                .body())
                        .text())
                .contains("2 Morvet may not call 192.0.2.7:80");
        assertThat(jdbc.sql("select count(*) from outside_check where name like :name")
                        .param("name", mark + "%")
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    @Test
    void theSchemaKnowsEachKindAndItsFields() throws Exception {
        JsonNode schema = json.readTree(
                lead.get("/services/checks/file/checks.schema.json").body());
        var kinds = schema.path("properties").path("checks").path("items").path("allOf");
        assertThat(kinds).hasSize(app.morvet.core.checks.Kinds.ALL.size());
        assertThat(kinds.get(0)
                        .path("then")
                        .path("properties")
                        .path("look")
                        .path("properties")
                        .propertyNames())
                .contains("url", "url10", "proxy")
                .doesNotContain("proxy2");
    }
}
