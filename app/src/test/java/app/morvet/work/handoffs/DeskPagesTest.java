package app.morvet.work.handoffs;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.util.Map;
import java.util.TreeMap;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Setup of the ticket desk, as its page has it. */
class DeskPagesTest extends MorvetTest {
    @Autowired
    private Desks desks;

    private Browser admin;

    @BeforeEach
    void connect() throws Exception {
        admin = loggedIn("admin");
        HandoffTest.connect(desks);
    }

    /** What stands in the form. */
    private Map<String, String> fields() throws Exception {
        var fields = new TreeMap<String, String>();
        for (Element field : admin.page("/setup/desk").select("form [name]"))
            fields.put(field.attr("name"), field.tagName().equals("textarea") ? field.wholeText() : field.val());
        fields.remove("_csrf");
        return fields;
    }

    private Document sent(Map<String, String> fields, int status) throws Exception {
        return Browser.shown(admin.post("/setup/desk", fields), status);
    }

    @Test
    void whatStandsInTheFormIsSavedAsItWas() throws Exception {
        var before = desks.byKey("desk").orElseThrow();
        sent(fields(), 302);
        var after = desks.byKey("desk").orElseThrow();
        assertThat(after).usingRecursiveComparison().ignoringFields("version").isEqualTo(before);
        assertThat(after.version()).isEqualTo(before.version() + 1);
    }

    @Test
    void theSecretsAreNeverInThePage() throws Exception {
        assertThat(admin.get("/setup/desk").body()).doesNotContain("callback-secret");
        assertThat(fields().get("headers")).doesNotContain("morvet");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    name        | ''                   | Give the desk a name.
                    url         | http://elsewhere.example | outgoing
                    url         | no address           | address
                    template    | {"a": {{title}       | JSON
                    template    | {"a": "{{nobody}}"}  | nobody
                    states      | open is open         | =
                    states      | open = somewhere     | somewhere
                    createPath  | tickets              | A path begins with /.
                    readPath    | /tickets             | A path that begins with / and has {{ticket}} in it.
                    headers     | no colon             | Each line must read Name: value.
                    pollSeconds | 0                    | 1 to 3600 seconds.
                    pollSeconds | 3601                 | 1 to 3600 seconds.
                    """)
    void whatCannotWorkIsSaidAtItsFieldAndNothingIsSaved(String field, String typed, String words) throws Exception {
        var before = desks.byKey("desk").orElseThrow();
        var fields = fields();
        fields.put(field, typed);
        var page = sent(fields, 422);
        var said = page.select(".wrong").eachText();
        assertThat(said).as(said.toString()).hasSize(1);
        assertThat(said.getFirst()).containsIgnoringCase(words);
        var shown = page.select("form [name=" + field + "]").first();
        assertThat(shown.tagName().equals("textarea") ? shown.wholeText().strip() : shown.val())
                .isEqualTo(typed);
        assertThat(page.select(".wrong:not(:empty)")
                        .first()
                        .parent()
                        .select("[name]")
                        .attr("name"))
                .isEqualTo(field);
        assertThat(desks.byKey("desk")).contains(before);
    }

    @Test
    void ofTwoWhoChangeItAtOnceTheSecondIsTold() throws Exception {
        var mine = fields();
        var theirs = fields();
        theirs.put("pollSeconds", "2");
        sent(theirs, 302);
        mine.put("pollSeconds", "3");
        assertThat(sent(mine, 422).select(".refusal").text()).startsWith("Somebody else changed these settings");
        assertThat(desks.byKey("desk").orElseThrow().pollSeconds()).isEqualTo(2);
        var again = fields();
        again.put("pollSeconds", "1");
        sent(again, 302);
    }
}
