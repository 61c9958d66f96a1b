package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.net.http.HttpResponse;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class LogInTest extends MorvetTest {
    private Browser browser;

    @BeforeEach
    void freshBrowser() {
        setUpOnce();
        browser = browser();
    }

    @Test
    void manyRequestsOfOneFreshSessionDoNotGetInEachOthersWay() throws Exception {
        logIn("in-a-hurry", "wrong");
        try (var threads = java.util.concurrent.Executors.newFixedThreadPool(12)) {
            var answers = new java.util.ArrayList<java.util.concurrent.Future<Integer>>();
            for (int i = 0; i < 60; i++)
                answers.add(threads.submit(
                        () -> get("/guards", "Accept", "text/html").statusCode()));
            for (var answer : answers) assertThat(answer.get()).isEqualTo(302);
        }
    }

    private HttpResponse<String> get(String path, String... headers) throws Exception {
        return browser.get(path, headers);
    }

    private HttpResponse<String> post(String path, String form) throws Exception {
        return browser.post(path, form);
    }

    private String logIn(String login, String password) throws Exception {
        return browser.logIn(login, password);
    }

    @Test
    void aPageSendsToTheLogInAndItsPartsDoNotSwapOneIn() throws Exception {
        assertThat(get("/cases").statusCode()).isEqualTo(302);
        assertThat(get("/cases").headers().firstValue("location").orElse("")).endsWith("/login");
        var part = get("/cases", "HX-Request", "true");
        assertThat(part.statusCode()).isEqualTo(401);
        assertThat(part.body()).isEmpty();
        assertThat(get("/live", "Accept", "text/event-stream").statusCode()).isEqualTo(401);
    }

    @Test
    void afterTheLogInComesThePageThatWasAskedForAndNeverAPartOfOne() throws Exception {
        get("/handoffs", "Accept", "text/html");
        get("/now", "HX-Request", "true", "Accept", "text/html");
        get("/cases/1/curves/1", "Accept", "*/*");
        assertThat(logIn("analyst", "right")).endsWith("/handoffs?continue");
    }

    @Test
    void theRightPasswordOpensAndTheWrongOneSaysSoWithoutSayingWhich() throws Exception {
        assertThat(logIn("analyst", "wrong")).endsWith("/login?refused");
        var page = get("/login?refused").body();
        assertThat(page).contains("Login and password do not belong together").contains("value=\"analyst\"");
        assertThat(logIn("nobody", "wrong")).endsWith("/login?refused");
        assertThat(get("/login?refused").body()).contains("Login and password do not belong together");
        assertThat(logIn("Analyst", "right")).doesNotContain("refused");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
    }

    @Test
    void repeatedWrongPasswordsLockALoginForAWhileEvenForTheRightOne() throws Exception {
        people.add("locked-out", "Somebody Else", Role.ANALYST, "right");
        for (int i = 0; i < 5; i++) logIn("locked-out", "wrong");
        assertThat(get("/login?refused").body()).contains("This login is locked until");
        assertThat(logIn("locked-out", "right")).endsWith("/login?refused");
        assertThat(logIn("analyst", "right")).as("another login").doesNotContain("refused");
        jdbc.sql("update login_failure set at = at - interval '5 minutes' where login = 'locked-out'")
                .update();
        assertThat(logIn("locked-out", "right")).doesNotContain("refused");
    }

    @Test
    void eachRoleReachesWhatItMayAndNoMore() throws Exception {
        logIn("analyst", "right");
        assertThat(get("/guards").statusCode()).isEqualTo(200);
        assertThat(get("/guards/new").statusCode()).isEqualTo(403);
        assertThat(post("/guards/0", "name=x").statusCode()).isEqualTo(403);
        assertThat(get("/setup/keys").statusCode()).isEqualTo(403);
        freshBrowser();
        logIn("lead", "right");
        assertThat(get("/guards/new").statusCode()).isEqualTo(200);
        assertThat(get("/setup/desk").statusCode()).isEqualTo(403);
        freshBrowser();
        logIn("admin", "right");
        assertThat(get("/setup/desk").statusCode()).isEqualTo(200);
        assertThat(get("/setup/keys").statusCode()).isEqualTo(200);
        assertThat(get("/openapi/api.json").body()).contains("/api/v1/events");
    }

    @Test
    void whatIsPostedWithoutTheTokenOfThePageIsRefused() throws Exception {
        logIn("analyst", "right");
        var answer = browser.postAsIs("/cases/1/note", "words=x");
        assertThat(answer.statusCode()).isEqualTo(403);
    }

    @Test
    void aSessionIsKeptInTheStoreAndEndsThere() throws Exception {
        logIn("analyst", "right");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        jdbc.sql("delete from spring_session").update();
        assertThat(get("/cases").statusCode()).isEqualTo(302);
    }

    @Test
    void pagesMayRunNoScriptsButTheirOwn() throws Exception {
        var page = get("/login");
        assertThat(page.headers().firstValue("content-security-policy").orElse(""))
                .contains("default-src 'self'")
                .doesNotContain("unsafe");
        assertThat(page.body())
                .doesNotContain("<script>")
                .doesNotContain("onclick")
                .doesNotContain("style=\"");
    }

    @Test
    void whatAPageNamesIsShippedWithIt() throws Exception {
        var named = Pattern.compile("(?:src|href)=\"(/[^\"]+\\.(?:css|js|svg))\"")
                .matcher(get("/login").body());
        int found = 0;
        for (; named.find(); found++)
            assertThat(get(named.group(1)).statusCode()).as(named.group(1)).isEqualTo(200);
        assertThat(found).isEqualTo(6);
    }

    @Test
    void passwordsAndKeysAreNotStoredAsTheyAre() {
        assertThat(jdbc.sql("select password_hash from person where login = 'analyst'")
                        .query(String.class)
                        .single())
                .startsWith("$2a$")
                .doesNotContain("right");
        assertThat(jdbc.sql("select encode(key_hash, 'escape') from intake_key where name = 'test'")
                        .query(String.class)
                        .single())
                .doesNotContain(KEY);
    }
}
