package app.morvet.ground.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** What is called outside: how it is stored, asked and tried. */
class ConnectionsTest extends MorvetTest {
    @Autowired
    private Connections connections;

    @Autowired
    private Calls calls;

    @AfterEach
    void forget() {
        forgetSchedulers();
    }

    private Connection kept(String url) {
        var key = "c-" + UUID.randomUUID();
        connections.keep(new Connection(
                0,
                "scheduler",
                key,
                null,
                "Night office",
                url,
                "Authorization: Bearer hush",
                "shh",
                Map.of("path", "/" + key),
                0));
        return connections.byKey("scheduler", key).orElseThrow();
    }

    @Test
    void aCopyOfTheDatabaseGivesNoSecretAway() {
        var one = kept(DESK.url());
        var stored = jdbc.sql(
                        "select headers || ' ' || secret || ' ' || settings::text from outside_connection where id = :id")
                .param("id", one.id())
                .query(String.class)
                .single();
        assertThat(stored).doesNotContain("hush", "shh", "Authorization");
        assertThat(one.headers()).isEqualTo("Authorization: Bearer hush");
        assertThat(one.secret()).isEqualTo("shh");
    }

    @Test
    void ofTwoWhoChangeItTheSecondDoesNothing() {
        var one = kept(DESK.url());
        assertThat(connections.keep(one.with("path", "/first"))).isTrue();
        assertThat(connections.keep(one.with("path", "/second"))).isFalse();
        assertThat(connections.byId(one.id()).orElseThrow().get("path")).isEqualTo("/first");
    }

    /** What passes is worth another try, and what somebody must change is not. */
    @ParameterizedTest
    @CsvSource({
        "400, true",
        "401, true",
        "404, true",
        "422, true",
        "408, false",
        "425, false",
        "429, false",
        "500, false",
        "503, false"
    })
    void anAnswerWithoutSuccessIsToldApartByWhetherItMayPass(int status, boolean lasting) {
        var one = kept(DESK.url());
        DESK.answer(one.get("path"), status, "no  such\nthing");
        assertThatThrownBy(() -> calls.ask(one, Ask.read("looked", one.get("path"))))
                .isInstanceOfSatisfying(
                        Unanswered.class, failed -> assertThat(failed.lasting()).isEqualTo(lasting))
                .hasMessage("Night office answered " + status + ": no such thing");
        assertThat(calls.last(one)).first().satisfies(call -> {
            assertThat(call.answered()).isFalse();
            assertThat(call.what()).isEqualTo("looked");
            assertThat(call.words()).isEqualTo("answered " + status + ": no such thing");
        });
    }

    @Test
    void whoGivesNoAnswerIsAskedAgainAndWhoMayNotBeCalledIsNot() {
        var gone = kept("http://127.0.0.1:1");
        assertThatThrownBy(() -> calls.ask(gone, Ask.read("looked", "/")))
                .isInstanceOfSatisfying(
                        Unanswered.class, failed -> assertThat(failed.lasting()).isTrue())
                .hasMessageContaining("may not call 127.0.0.1:1");
        assertThat(connections.errors(gone)).containsOnlyKeys("url");
    }

    @Test
    void aTrialShowsRequestAndAnswerAndWhatIsReadAndNoSecret() throws Exception {
        var one = kept(DESK.url());
        var admin = loggedIn("admin");
        DESK.answer(one.get("path"), 200, "{\"outcome\":\"refused\",\"words\":\"no such job\"}");
        var shown = Browser.shown(admin.post("/setup/connections/" + one.id() + "/try", ""));
        assertThat(shown.text())
                .contains("POST " + DESK.url() + one.get("path"))
                .contains("\"job\":\"morvet-tries\"")
                .contains("Morvet reads: refused: no such job")
                .contains("tried", "answered 200");
        assertThat(shown.html()).doesNotContain("hush");
        DESK.answer(one.get("path"), 200, "fine, thank you");
        assertThat(Browser.shown(admin.post("/setup/connections/" + one.id() + "/try", ""))
                        .text())
                .contains("Morvet cannot read it: its answer is not JSON");
        DESK.answer(one.get("path"), 503, "closed");
        assertThat(Browser.shown(admin.post("/setup/connections/" + one.id() + "/try", ""))
                        .text())
                .contains("It answers, but not with success.");
        assertThat(admin.page("/setup/connections/" + one.id() + "/calls").select("tbody tr, table tr:has(td)"))
                .hasSize(3);
        assertThat(admin.get("/setup/connections/999999/calls").statusCode()).isEqualTo(404);
        assertThat(loggedIn("lead")
                        .post("/setup/connections/" + one.id() + "/try", "")
                        .statusCode())
                .isEqualTo(403);
    }

    @Test
    void whatAnswersElsewhereNowIsCalledThere() {
        var one = kept("http://old.example:8080/base");
        connections.moved("http://old.example:8080", "http://new.example:9090");
        var moved = connections.byId(one.id()).orElseThrow();
        assertThat(moved.url()).isEqualTo("http://new.example:9090/base");
        assertThat(moved.headers()).isEqualTo(one.headers());
    }
}
