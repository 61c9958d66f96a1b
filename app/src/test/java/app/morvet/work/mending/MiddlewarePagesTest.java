package app.morvet.work.mending;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.ground.connections.Connections;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Setup of where messages are sent again. */
class MiddlewarePagesTest extends MorvetTest {
    @Autowired
    private Connections connections;

    private Browser admin;
    private long feed;
    private String name;

    @BeforeEach
    void logIn() throws Exception {
        admin = loggedIn("admin");
        name = "Middleware " + System.nanoTime();
        feed = estate.addFeed(name.toLowerCase(java.util.Locale.ROOT).replace(' ', '-'), name, Duration.ofMinutes(1));
    }

    private Map<String, String> right() {
        var fields = new LinkedHashMap<String, String>();
        fields.put("feed", "" + feed);
        fields.put("url", DESK.url());
        fields.put("sendPath", "/send-again");
        fields.put("headers", "Authorization: Bearer of-the-middleware");
        fields.put("version", "0");
        return fields;
    }

    private Document sent(Map<String, String> fields, int status) throws Exception {
        return Browser.shown(admin.post("/setup/middleware", fields), status);
    }

    @Test
    void whatIsSavedStandsInTheListAndItsSecretNowhere() throws Exception {
        sent(right(), 302);
        var page = admin.page("/setup/middleware?feed=" + feed);
        assertThat(page.select("tr:has(td:containsOwn(" + name + "))").text()).contains(DESK.url());
        assertThat(page.html()).doesNotContain("of-the-middleware");
        assertThat(page.select("[name=headers]").first().wholeText()).contains("Authorization: (kept)");
        // What is kept stays as it was when the rest is saved.
        var again = right();
        again.put("headers", "Authorization: (kept)");
        again.put("sendPath", "/again");
        again.put("version", page.select("[name=version]").val());
        sent(again, 302);
        var kept = connections.ofFeed("middleware", feed).orElseThrow();
        assertThat(kept.headers()).isEqualTo("Authorization: Bearer of-the-middleware");
        assertThat(kept.get("sendPath")).isEqualTo("/again");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    feed     | 0                        | Choose the feed by which this middleware reports.
                    feed     | 999999                   | Choose the feed by which this middleware reports.
                    url      | http://elsewhere.example | outgoing
                    url      | ftp://127.0.0.1          | http
                    sendPath | send-again               | A path begins with /.
                    headers  | nonsense                 | Each line must read Name: value.
                    """)
    void whatCannotWorkIsSaidAtItsFieldAndNothingIsSaved(String field, String typed, String words) throws Exception {
        var fields = right();
        fields.put(field, typed);
        var page = sent(fields, 422);
        assertThat(page.select(".wrong").eachText()).singleElement().satisfies(said -> assertThat(said)
                .containsIgnoringCase(words));
        assertThat(connections.ofFeed("middleware", feed)).isEmpty();
    }

    @Test
    void ofTwoWhoChangeItAtOnceTheSecondIsTold() throws Exception {
        sent(right(), 302);
        assertThat(sent(right(), 422).select(".refusal").text()).startsWith("Somebody else changed this");
    }
}
