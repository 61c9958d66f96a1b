package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
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
        assertThat(logIn("analyst", "right")).endsWith("/handoffs");
    }

    private HttpResponse<String> tried(String login, String password) throws Exception {
        return post("/login", "username=" + login + "&password=" + password);
    }

    @Test
    void theRightPasswordOpensAndTheWrongOneSaysSoWithoutSayingWhich() throws Exception {
        for (var login : List.of("analyst", "nobody")) {
            var answer = tried(login, "wrong");
            assertThat(answer.statusCode()).isEqualTo(401);
            assertThat(answer.body())
                    .contains("Login and password do not belong together")
                    .contains("value=\"" + login + "\"");
        }
        assertThat(logIn("Analyst", "right")).endsWith("/shift");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
    }

    /** Five, and not three: each try counts once. */
    @Test
    void afterFiveTriesTheNextMustWaitEvenWithTheRightPasswordAndOthersNeedNot() throws Exception {
        people.add("hasty", "Somebody Else", Role.ANALYST, "right");
        for (int i = 0; i < Tries.AT_ONCE; i++)
            assertThat(tried("hasty", "wrong").statusCode()).as("try %d", i).isEqualTo(401);
        var answer = tried("hasty", "right");
        assertThat(answer.statusCode()).isEqualTo(429);
        assertThat(answer.body()).containsPattern("The next is possible in \\d+ s");
        assertThat(logIn("analyst", "right")).endsWith("/shift");
    }

    @Test
    void ofManyTriesAtOnceNoMoreAreLookedAtThanOfManyInTurn() throws Exception {
        people.add("guessed", "Somebody Else", Role.ANALYST, "right");
        browser.get("/login");
        try (var threads = Executors.newFixedThreadPool(12)) {
            var answers = new ArrayList<Future<Integer>>();
            for (int i = 0; i < 12; i++)
                answers.add(threads.submit(() -> tried("guessed", "wrong").statusCode()));
            var statuses = new ArrayList<Integer>();
            for (var answer : answers) statuses.add(answer.get());
            // On a machine that has much to do one that may be looked at is told to come again.
            assertThat(statuses.stream().filter(status -> status == 401 || status == 503))
                    .hasSize(Tries.AT_ONCE);
            assertThat(statuses.stream().filter(status -> status == 429)).hasSize(12 - Tries.AT_ONCE);
        }
    }

    @Test
    void whoHasLoggedInHereBeforeIsNotKeptOutByOthers() throws Exception {
        people.add("regular", "Somebody Else", Role.ANALYST, "right");
        assertThat(logIn("regular", "right")).endsWith("/shift");
        post("/logout", "");
        var other = browser();
        for (int i = 0; i < 8; i++) other.post("/login", "username=regular&password=wrong");
        assertThat(other.post("/login", "username=regular&password=right").statusCode())
                .isEqualTo(429);
        assertThat(logIn("regular", "right")).endsWith("/shift");
    }

    /** No row is written of who is not known, whatever they try. */
    @Test
    void whoHasNotLoggedInHasNoSession() throws Exception {
        get("/handoffs", "Accept", "text/html");
        tried("nobody", "wrong");
        assertThat(get("/login").headers().allValues("set-cookie")).noneMatch(one -> one.startsWith("SESSION"));
        assertThat(logIn("analyst", "right")).endsWith("/handoffs");
    }

    @Test
    void afterTheLogInNobodyIsLedElsewhere() throws Exception {
        get("//elsewhere.example/cases", "Accept", "text/html");
        assertThat(logIn("analyst", "right")).doesNotContain("elsewhere");
    }

    /** What a library says of an error is not told, least of all to who is not known. */
    @Test
    void anErrorTellsNothingOfTheDatabase() throws Exception {
        for (var form : List.of("username=a%00b&password=x", "username=%C3%28&password=x"))
            assertThat(post("/login", form).body())
                    .doesNotContainIgnoringCase("sql")
                    .doesNotContain("org.");
        logIn("analyst", "right");
        assertThat(browser.get("/messages/1-x%27", "Accept", "application/json").body())
                .doesNotContainIgnoringCase("select ")
                .doesNotContain("Exception");
    }

    @Test
    void whoHasAnotherRoleByNowHasItsRightsAtOnce() throws Exception {
        people.add("promoted", "Somebody Else", Role.ADMIN, "right");
        logIn("promoted", "right");
        assertThat(get("/setup/keys").statusCode()).isEqualTo(200);
        jdbc.sql("update person set role = 'ANALYST' where login = 'promoted'").update();
        eventually(() -> assertThat(get("/setup/keys").statusCode()).isEqualTo(403));
        assertThat(get("/cases").statusCode()).isEqualTo(200);
    }

    @Test
    void aSessionEndsWithThePasswordItBeganWithAndAfterADay() throws Exception {
        people.add("changed", "Somebody Else", Role.ANALYST, "right");
        logIn("changed", "right");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        jdbc.sql("update person set password_hash = password_hash || 'x' where login = 'changed'")
                .update();
        eventually(() -> assertThat(get("/cases").statusCode()).isEqualTo(302));
        freshBrowser();
        people.add("of yesterday", "Somebody Else", Role.ANALYST, "right");
        logIn("of+yesterday", "right");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        jdbc.sql("update spring_session set creation_time = creation_time - 24 * 3600 * 1000"
                        + sessionsOf("of yesterday"))
                .update();
        assertThat(get("/cases").statusCode()).isEqualTo(302);
    }

    /** Open pages ask often: it is put down once a minute that a session is in use, and one that is in use does not end. */
    @Test
    void thatASessionIsInUseIsPutDownOnceAMinute() throws Exception {
        people.add("patient", "Somebody Patient", Role.ANALYST, "right");
        logIn("patient", "right");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        usedBefore(Duration.ofSeconds(20));
        long before = usedAt();
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        assertThat(usedAt()).isEqualTo(before);
        usedBefore(Duration.ofHours(11));
        before = usedAt();
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        assertThat(usedAt()).isGreaterThan(before + Duration.ofHours(10).toMillis());
        usedBefore(Duration.ofHours(13));
        assertThat(get("/cases").statusCode()).as("nobody used it for 12 hours").isEqualTo(302);
    }

    private static String sessionsOf(String login) {
        return " where principal_name = (select 'person ' || id from person where login = '" + login + "')";
    }

    private static final String OF_PATIENT = sessionsOf("patient");

    private void usedBefore(Duration ago) {
        long at = System.currentTimeMillis() - ago.toMillis();
        jdbc.sql(
                        "update spring_session set last_access_time = :at, expiry_time = :at + max_inactive_interval * 1000::bigint"
                                + OF_PATIENT)
                .param("at", at)
                .update();
    }

    private long usedAt() {
        return jdbc.sql("select last_access_time from spring_session" + OF_PATIENT)
                .query(Long.class)
                .single();
    }

    /** A page at another port of the same machine may set cookies here, and may post. */
    @Test
    void aTokenThatWasPlantedOpensNothing() throws Exception {
        logIn("analyst", "right");
        var planted = "SESSION-OF-NOBODY";
        assertThat(browser.postAsIs("/cases/1/note", "words=x&_csrf=" + planted, "Cookie", "XSRF-TOKEN=" + planted)
                        .statusCode())
                .isEqualTo(403);
        var search = "/messages/search/save";
        assertThat(post(search, "name=").statusCode()).isNotEqualTo(403);
        for (var from : List.of("cross-site", "same-site"))
            assertThat(browser.post(search, "name=", "Sec-Fetch-Site", from).statusCode())
                    .as(from)
                    .isEqualTo(403);
        assertThat(browser.post(search, "name=", "Origin", "http://localhost:1").statusCode())
                .isEqualTo(403);
        assertThat(browser.post(search, "name=", "Sec-Fetch-Site", "same-origin")
                        .statusCode())
                .isNotEqualTo(403);
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
        people.add("fleeting", "Somebody Else", Role.ANALYST, "right");
        logIn("fleeting", "right");
        assertThat(get("/cases").statusCode()).isEqualTo(200);
        jdbc.sql("delete from spring_session" + sessionsOf("fleeting")).update();
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
