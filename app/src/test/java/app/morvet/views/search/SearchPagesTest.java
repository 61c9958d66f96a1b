package app.morvet.views.search;

import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.sources.messages.Masks;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;

/** The one field on top of every page: what it finds, and where that leads. */
class SearchPagesTest extends ToldAlerts {
    @Autowired
    private Masks masks;

    private Browser analyst;

    @BeforeEach
    void logIn() throws Exception {
        analyst = loggedIn("analyst");
    }

    private List<String> links(String words) throws Exception {
        return analyst.page("/search?q=" + Browser.encoded(words))
                .select("main a[href]")
                .eachAttr("href");
    }

    @Test
    void aCaseIsFoundByItsNumberAndByWordsOfItsHeadline() throws Exception {
        long guard = guard("searched");
        var subject = component(host());
        raised(guard, subject, 0, WARNING, 3);
        var link = "/cases/" + theCase(subject).id();
        // First, though the number may stand in the headlines of a hundred others.
        assertThat(links("" + theCase(subject).id())).startsWith(link);
        assertThat(links("heat is 3.0 on " + subject.key())).contains(link);
        assertThat(links(("HEAT is 3.0 ON " + subject.key()).toUpperCase(java.util.Locale.ROOT)))
                .contains(link);
        assertThat(links("heat is 4.0 on " + subject.key())).doesNotContain(link);
    }

    @Test
    void eachKindOfComponentLeadsToItsOwnPage() throws Exception {
        var subject = subject();
        var host = component(host());
        var job = component(job());
        assertThat(links("Interface " + subject.key())).contains("/messages/interfaces/" + subject.key());
        for (var one : List.of(Map.entry(host, "/estate/components/"), Map.entry(job, "/batch/jobs/"))) {
            var name = estate.byKey(one.getKey().key()).orElseThrow().name();
            assertThat(links(name)).contains(one.getValue() + one.getKey().key());
        }
    }

    @Test
    void aMessageIsFoundByItsWholeBusinessKey() throws Exception {
        var subject = subject();
        var key = "MF-" + System.nanoTime();
        send(List.of(failed(subject, Map.of("businessKey", key))));
        eventually(() -> assertThat(links(key)).anyMatch(link -> link.startsWith("/messages/")));
        assertThat(links(key.substring(0, key.length() - 2))).noneMatch(link -> link.matches("/messages/\\d+-\\d+"));
    }

    @Test
    void anErrorIsFoundByItsWordsAndByNothingThatIsHidden() throws Exception {
        var subject = subject();
        var mark = "zq" + Long.toString(System.nanoTime(), 36).replaceAll("\\d", "x");
        masks.set("Berth of " + subject.key(), Set.of(subject.key()), "", "berth" + mark);
        send(List.of(failed(subject, Map.of("error", "The Gangway " + mark + " was refused by berth" + mark))));
        eventually(() -> assertThat(links("GANGWAY " + mark))
                .anyMatch(link -> link.matches("/messages/families/\\d+"))
                .contains("/messages/search?q=GANGWAY%20" + mark));
        assertThat(links("gangway " + mark + " accepted")).isEmpty();
        // Letters only: what has a meaning in patterns has none here.
        assertThat(links("gang.*way " + mark)).noneMatch(link -> link.startsWith("/messages/families/"));
        assertThat(links("gangway berth" + mark)).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "   ", "%", "_", "\\", "'; drop table work_case; --", "<script>", "(((", "a & b | !c"})
    void whateverIsTypedIsOnlyLookedFor(String words) throws Exception {
        var page = analyst.page("/search?q=" + Browser.encoded(words));
        assertThat(page.select("input[name=q]").first().val()).isEqualTo(words.strip());
        assertThat(page.select("script:not([src])"))
                .allMatch(script -> !script.data().contains(words) || words.isBlank());
    }

    @Test
    void aNulIsRefusedBeforeAnythingIsAsked() throws Exception {
        for (var path : List.of("/search?q=a%00b", "/messages/search?q=%00", "/cases?show=%00", "/estate?q=%00"))
            assertThat(analyst.get(path).statusCode()).as(path).isEqualTo(400);
    }

    @Test
    void endlessWordsFindNothingAndBreakNothing() throws Exception {
        var page = analyst.page("/search?q=" + "x".repeat(3000));
        assertThat(page.text()).contains("Nothing found");
    }
}
