package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.ground.duty.Rotas;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Whoever is let in elsewhere (OpenID Connect) is who they are here by what is said there, and nobody by anything less. */
class OpenIdTest extends MorvetTest {
    @Autowired
    private Rotas rotas;

    /** Leads among them would be told of cases of other tests. */
    @AfterEach
    void nobodyStays() {
        jdbc.sql("update person set active = false where open_id is not null and login <> 'admin'")
                .update();
    }

    private static Map<String, Object> said(String login, String... groups) {
        var claims = new HashMap<String, Object>();
        claims.put("sub", "id of " + login);
        claims.put("preferred_username", login);
        claims.put("name", "Sanni Kallio");
        claims.put("email", login + "@sundrava.example");
        claims.put("groups", List.of(groups));
        return claims;
    }

    /** Goes there and back, as a browser does. */
    private HttpResponse<String> throughIt(Browser browser) throws Exception {
        var away = browser.get("/oauth2/authorization/company");
        assertThat(away.statusCode()).isEqualTo(302);
        var there = HTTP.send(
                HttpRequest.newBuilder(
                                URI.create(away.headers().firstValue("location").orElseThrow()))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        var back = URI.create(there.headers().firstValue("location").orElseThrow());
        return browser.get(back.getRawPath() + "?" + back.getRawQuery());
    }

    @Test
    void whoeverIsInAGroupThatDoesSomethingHereIsMadeAndIsIn() throws Exception {
        setUpOnce();
        long team = estate.addTeam("elsewhere", "Team Elsewhere", "elsewhere@sundrava.example");
        ELSEWHERE.says(said("sanni.kallio", "everybody", "support", "of-elsewhere"), "");
        var browser = browser();
        assertThat(browser.page("/login")
                        .select("a[href=/oauth2/authorization/company]")
                        .text())
                .isEqualTo("Log in with the company's log-in");
        assertThat(Browser.to(throughIt(browser))).isEqualTo("/shift");
        assertThat(browser.page("/me").text()).contains("logs in as sanni.kallio, analyst");
        var made = person("sanni.kallio");
        assertThat(rotas.members(team)).extracting(card -> card.person().id()).contains(made.id());
        ELSEWHERE.says(said("sanni.kallio", "support", "support-leads"), "");
        throughIt(browser());
        assertThat(person("sanni.kallio").role()).as("as it is said there now").isEqualTo(Role.LEAD);
        assertThat(browser.get("/cases").statusCode()).isEqualTo(200);
    }

    @Test
    void whoeverLogsInHereTooIsThemOnceAndNobodyElseCanBe() throws Exception {
        people.add("both.ways", "Both Ways", Role.ANALYST, "right");
        ELSEWHERE.says(said("both.ways", "support"), "");
        assertThat(Browser.to(throughIt(browser()))).isEqualTo("/shift");
        var claims = said("both.ways", "support");
        claims.put("sub", "somebody else");
        ELSEWHERE.says(claims, "");
        var refused = throughIt(browser());
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(refused.body()).contains("Somebody else has come here as both.ways before.");
    }

    @Test
    void whoeverIsInNoSuchGroupIsToldWhichThereAre() throws Exception {
        setUpOnce();
        ELSEWHERE.says(said("a.guest", "everybody"), "");
        var browser = browser();
        var refused = throughIt(browser);
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(refused.body())
                .contains("in no group that does anything here")
                .contains("support, support-leads");
        assertThat(browser.get("/cases").statusCode()).isEqualTo(302);
        assertThat(people.all()).noneMatch(one -> one.login().equals("a.guest"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"nonce", "key", "audience", "old"})
    void whatIsNotSaidByItToUsNowIsNotBelieved(String wrong) throws Exception {
        setUpOnce();
        ELSEWHERE.says(said("forged", "support"), wrong);
        var browser = browser();
        var refused = throughIt(browser);
        assertThat(refused.statusCode()).isEqualTo(401);
        assertThat(refused.body()).contains("its answer was not right");
        assertThat(browser.get("/cases").statusCode()).isEqualTo(302);
    }

    /** An answer to a question of another reader, or to none. */
    @Test
    void anAnswerToNoQuestionOfOursIsNotBelieved() throws Exception {
        ELSEWHERE.says(said("planted", "support"), "");
        var answer = browser().get("/login/oauth2/code/company?code=code-0&state=made-up");
        assertThat(answer.statusCode()).isEqualTo(401);
        var asked = browser();
        asked.get("/oauth2/authorization/company");
        assertThat(asked.get("/login/oauth2/code/company?code=code-0&state=made-up")
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void whoeverIsSwitchedOffHereStaysOut() throws Exception {
        setUpOnce();
        ELSEWHERE.says(said("gone.now", "support"), "");
        throughIt(browser());
        people.change(new People.Card(person("gone.now"), "", "", false), "", person("admin"));
        assertThat(throughIt(browser()).body()).contains("You are switched off here.");
    }

    /** What is kept with the reader is no more than browsers keep. */
    @Test
    void toAskCostsTheStoreNothing() throws Exception {
        long before = sessions();
        for (int i = 0; i < 3; i++)
            assertThat(browser().get("/oauth2/authorization/company").headers().allValues("set-cookie"))
                    .filteredOn(cookie -> cookie.startsWith(OpenIdRequests.COOKIE))
                    .singleElement()
                    .satisfies(cookie -> assertThat(cookie.length()).isLessThan(1000));
        assertThat(sessions()).isEqualTo(before);
    }

    private long sessions() {
        return jdbc.sql("select count(*) from spring_session where principal_name is null")
                .query(Long.class)
                .single();
    }
}
