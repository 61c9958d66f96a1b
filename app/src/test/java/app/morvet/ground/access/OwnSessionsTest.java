package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Where somebody is logged in, and how it is ended from elsewhere. */
class OwnSessionsTest extends MorvetTest {
    private Browser somewhere(String login) throws Exception {
        var browser = browser();
        browser.logIn(login, "phone-in-a-taxi");
        assertThat(browser.get("/me").statusCode()).isEqualTo(200);
        return browser;
    }

    private void somebody(String login) {
        setUpOnce();
        people.make(
                login,
                new People.Card(new Person(0, login, "Same Name", Role.ANALYST), "", "", true),
                "phone-in-a-taxi",
                person("admin"));
    }

    private static List<String> rows(Browser browser) throws Exception {
        return browser.texts("/me", "table.evidence tr:has(td):has(.num)");
    }

    @Test
    void eachLogInIsListedAndTheOthersEndAtOnce() throws Exception {
        somebody("walks");
        var desk = somewhere("walks");
        var phone = somewhere("walks");
        assertThat(rows(desk)).filteredOn(row -> row.contains("127.0.0.1")).hasSize(2);
        assertThat(rows(desk)).filteredOn(row -> row.endsWith("here")).hasSize(1);
        desk.post("/me/sessions", Map.of("key", ""));
        assertThat(phone.get("/me").statusCode()).as("it is logged out").isEqualTo(302);
        assertThat(desk.get("/me").statusCode()).isEqualTo(200);
    }

    @Test
    void oneOfThemEndsAndTheOthersGoOn() throws Exception {
        somebody("stays");
        var desk = somewhere("stays");
        var phone = somewhere("stays");
        var tablet = somewhere("stays");
        var key = desk.page("/me").select("input[name=key]").first().val();
        desk.post("/me/sessions", Map.of("key", key));
        assertThat(List.of(phone.get("/me").statusCode(), tablet.get("/me").statusCode()))
                .containsExactlyInAnyOrder(200, 302);
    }

    /** Of two who have the same name neither sees the other's, nor ends it. */
    @Test
    void whatIsAnothersIsNeitherSeenNorEnded() throws Exception {
        somebody("mine-1");
        somebody("theirs");
        var mine = somewhere("mine-1");
        var also = somewhere("mine-1");
        var others = somewhere("theirs");
        assertThat(rows(others)).filteredOn(row -> row.contains("127.0.0.1")).hasSize(1);
        var key = mine.page("/me").select("input[name=key]").first().val();
        others.post("/me/sessions", Map.of("key", key));
        others.post("/me/sessions", Map.of("key", ""));
        assertThat(List.of(mine.get("/me").statusCode(), also.get("/me").statusCode()))
                .containsOnly(200);
    }
}
