package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Searches that are given a name: kept, replaced, deleted, and counted for guards. */
class SavedSearchesTest extends MorvetTest {
    private Browser analyst;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
    }

    private static String unique(String name) {
        return name + " " + Long.toString(System.nanoTime(), 36);
    }

    private void save(String name, String asks) throws Exception {
        assertThat(analyst.post("/messages/searches", "name=" + Browser.encoded(name) + "&" + asks)
                        .statusCode())
                .isEqualTo(302);
    }

    private String refusal(String name, String asks) throws Exception {
        var answer = analyst.post("/messages/searches", "name=" + Browser.encoded(name) + "&" + asks);
        assertThat(answer.statusCode()).isEqualTo(422);
        var page = Jsoup.parse(answer.body());
        assertThat(page.select("input[name=name]").val()).isEqualTo(name);
        return page.text();
    }

    private List<Map<String, Object>> kept(String name) {
        return jdbc.sql("select name, query::text as query, measure from saved_search where name = :name")
                .param("name", name)
                .query()
                .listOfRows();
    }

    @Test
    void aSearchIsKeptWithWhatItAsksAndLeadsThere() throws Exception {
        var subject = subject();
        var name = unique("Late fares");
        save(name, "interface=" + subject.key() + "&q=fare+late&state=open&days=7");
        assertThat(kept(name)).singleElement().satisfies(row -> assertThat(
                        row.get("query").toString())
                .contains("\"interface\": \"" + subject.key() + "\"", "\"q\": \"fare late\""));
        var link = analyst.page("/messages/search")
                .select("a:containsOwn(" + name + ")")
                .first()
                .attr("href");
        var opened = analyst.page(link);
        assertThat(opened.select("main [name=q]").val()).isEqualTo("fare late");
        assertThat(opened.select("main [name=interface] option[selected], main input[name=interface]")
                        .val())
                .isEqualTo(subject.key());
    }

    @Test
    void whatSomebodyElseKeptIsDeletedByALeadAlone() throws Exception {
        var name = unique("Of another");
        save(name, "q=mine");
        long id = jdbc.sql("select id from saved_search where name = :name")
                .param("name", name)
                .query(Long.class)
                .single();
        assertThat(loggedIn("other")
                        .post("/messages/searches/" + id + "/delete", "")
                        .statusCode())
                .isEqualTo(403);
        assertThat(kept(name)).hasSize(1);
        loggedIn("lead").post("/messages/searches/" + id + "/delete", "");
        assertThat(kept(name)).isEmpty();
    }

    @Test
    void oneOfTheSameNameIsReplacedAndOneThatIsDeletedIsGone() throws Exception {
        var name = unique("Replaced");
        save(name, "q=first");
        save(name, "q=second");
        assertThat(kept(name)).singleElement().satisfies(row -> assertThat(
                        row.get("query").toString())
                .contains("second")
                .doesNotContain("first"));
        var form = analyst.page("/messages/search")
                .select("tr:has(a:containsOwn(" + name + ")) form")
                .attr("action");
        analyst.post(form, "");
        assertThat(kept(name)).isEmpty();
        // Twice is as once.
        assertThat(analyst.post(form, "").statusCode()).isEqualTo(302);
        assertThat(jdbc.sql("select what from audit_entry where subject = :search order by id")
                        .param("search", "search " + name)
                        .query(String.class)
                        .list())
                .containsExactly("search saved", "search saved", "search deleted");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    ''   | q=x  | Give the search a name of at most 60 characters.
                    Name | q=   | This search asks for nothing that could be kept.
                    """)
    void whatCannotBeKeptSaysWhyAndTheNameStays(String name, String asks, String words) throws Exception {
        assertThat(refusal(name, asks)).contains(words);
        assertThat(refusal("n".repeat(61), "q=x")).contains("Give the search a name of at most 60 characters.");
    }

    @Test
    void aNameBecomesAMeasureAndTwoNamesNeverTheSame() throws Exception {
        var name = unique("Späte Fahrten!");
        save(name, "q=late&counted=yes");
        var measure = kept(name).getFirst().get("measure").toString();
        assertThat(measure).matches("search_spate_fahrten_[a-z0-9]+");
        // Told apart by people, but not as a measure: it would count what either finds.
        assertThat(refusal(name.replace("!", "?"), "q=other&counted=yes"))
                .contains(
                        "The search \"" + name + "\" feeds the measure " + measure + " already; choose another name.");
        save(name, "q=later&counted=yes");
        save(name.replace("!", "?"), "q=other");
        assertThat(kept(name.replace("!", "?")).getFirst().get("measure")).isNull();
    }

    @Test
    void whatASearchFindsIsCountedOnTheInterfaceOnWhichItFailedAndOnlyWhatComesIn() throws Exception {
        var one = subject();
        var other = subject();
        var word = "winch" + Long.toString(System.nanoTime(), 36);
        send(List.of(failed(one, Map.of("error", word + " before it was saved"))));
        eventually(() ->
                assertThat(analyst.get("/messages/search?q=" + word).body()).contains("before it was saved"));
        save("Winches " + word, "q=" + word + "&counted=yes");
        send(List.of(
                failed(one, Map.of("error", word + " jammed")),
                failed(one, Map.of("error", word + " jammed again")),
                failed(one, Map.of("error", "something else")),
                failed(other, Map.of("error", word + " loose"))));
        eventually(() -> assertThat(counted(one, word)).isEqualTo(2));
        eventually(() -> assertThat(counted(other, word)).isEqualTo(1));
        assertThat(counted(one, word)).isEqualTo(2);
    }

    private int counted(Subject subject, String word) {
        return jdbc.sql(
                        """
                        select count(*) from reading r join series s on s.id = r.series_id join measure m on m.id = s.measure_id
                         where s.component_id = :component and m.name = :measure and r.at > :from""")
                .param("component", subject.id())
                .param("measure", "search_winches_" + word)
                .param("from", app.morvet.ground.base.Stamp.of(Instant.now().minusSeconds(3600)))
                .query(Integer.class)
                .single();
    }
}
