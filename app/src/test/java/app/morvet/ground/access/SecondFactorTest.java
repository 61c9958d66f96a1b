package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.Test;

/** Besides the password a code is asked that a telephone reckons (RFC 6238); none of it is good twice. */
class SecondFactorTest extends MorvetTest {
    private static final String PASSWORD = "phone-in-a-taxi";

    private String somebody(String login) {
        setUpOnce();
        var person = new Person(0, login, "Tuuli Niemi", Role.ANALYST);
        people.make(login, new People.Card(person, "", "", true), PASSWORD, person("admin"));
        return login;
    }

    private Browser in(String login) throws Exception {
        var browser = browser();
        assertThat(browser.logIn(login, PASSWORD)).endsWith("/shift");
        return browser;
    }

    /** As RFC 6238 and RFC 4226 say, written out; {@code steps} half minutes from now. */
    private static String code(String typed, int steps) throws Exception {
        var mac = Mac.getInstance("HmacSHA1");
        mac.init(new SecretKeySpec(new Base32().decode(typed.replace(" ", "")), "HmacSHA1"));
        var hash = mac.doFinal(ByteBuffer.allocate(8)
                .putLong(Instant.now().getEpochSecond() / 30 + steps)
                .array());
        int at = hash[19] & 15;
        return "%06d".formatted((ByteBuffer.wrap(hash, at, 4).getInt() & 0x7fffffff) % 1_000_000);
    }

    /** Has one set up; what the telephone is told. */
    private String setUp(Browser own) throws Exception {
        assertThat(own.post("/me/second", "password=wrong").body())
                .contains("The password that you have now is another.");
        assertThat(own.post("/me/second", "password=" + PASSWORD).statusCode()).isEqualTo(302);
        return own.page("/me/second").select("svg.qr + p").text();
    }

    @Test
    void theCodeIsAskedOnceTheTelephoneHasShownThatItKnows() throws Exception {
        var login = somebody("codes-1");
        var own = in(login);
        var elsewhere = in(login);
        var secret = setUp(own);
        assertThat(in(login).get("/cases").statusCode()).as("not confirmed yet").isEqualTo(200);
        assertThat(own.post("/me/second/confirmed", "code=12345x").body())
                .contains("This is not the code that the telephone shows now");
        // The steps before and after are good too, so a test at the end of one is not late.
        var confirmed = Browser.shown(own.post("/me/second/confirmed", "code=" + code(secret, 0)));
        assertThat(confirmed.select("ol.recovery li")).hasSize(10);
        assertThat(own.page("/me/second").select("ol.recovery li"))
                .as("shown once")
                .isEmpty();
        assertThat(elsewhere.get("/cases").statusCode())
                .as("whoever is in elsewhere logs in anew")
                .isEqualTo(302);
        var fresh = browser();
        assertThat(fresh.logIn(login, PASSWORD)).endsWith("/login/code");
        assertThat(fresh.get("/cases").statusCode()).as("half in is not in").isEqualTo(302);
        assertThat(fresh.get("/me/second").statusCode()).isEqualTo(302);
        assertThat(fresh.post("/login/code", "code=" + code(secret, -1)).statusCode())
                .as("no code is good twice, nor one from before it")
                .isEqualTo(401);
        assertThat(Browser.to(fresh.post("/login/code", "code=" + code(secret, 1))))
                .isEqualTo("/shift");
        assertThat(fresh.get("/cases").statusCode()).isEqualTo(200);
    }

    @Test
    void whoHasLostTheirTelephoneUsesWhatTheyWroteDownOnce() throws Exception {
        var login = somebody("codes-2");
        var own = in(login);
        var codes = Browser.shown(own.post("/me/second/confirmed", "code=" + code(setUp(own), 0)))
                .select("ol.recovery li")
                .eachText();
        for (int time = 0; time < 2; time++) {
            var browser = browser();
            browser.logIn(login, PASSWORD);
            var answer =
                    browser.post("/login/code", Map.of("code", codes.getFirst().toUpperCase(Locale.ROOT)));
            assertThat(answer.statusCode()).isEqualTo(time == 0 ? 302 : 401);
        }
        assertThat(own.page("/me/second").text()).contains("9 are left");
        var admin = loggedIn("admin");
        var path = "/setup/people/" + person(login).id();
        assertThat(admin.page(path).text()).contains("Ask them for no code any more");
        admin.post(path + "/second/removed", "");
        assertThat(in(login).get("/cases").statusCode()).isEqualTo(200);
    }

    @Test
    void codesAreGuessedNoFasterThanPasswords() throws Exception {
        var login = somebody("codes-3");
        var own = in(login);
        own.post("/me/second/confirmed", "code=" + code(setUp(own), 0));
        var guessing = browser();
        guessing.logIn(login, PASSWORD);
        for (int i = 0; i < Tries.AT_ONCE; i++)
            assertThat(guessing.post("/login/code", "code=wrong" + i).statusCode())
                    .isEqualTo(401);
        assertThat(guessing.post("/login/code", "code=wrong").statusCode()).isEqualTo(429);
    }

    @Test
    void withoutThePasswordThereIsNoCodeToGive() throws Exception {
        var nobody = browser();
        assertThat(Browser.to(nobody.post("/login/code", "code=123456"))).isEqualTo("/login");
        assertThat(Browser.to(nobody.get("/login/code"))).isEqualTo("/login");
    }

    @Test
    void itIsRemovedWithACodeAndNotWithout() throws Exception {
        var login = somebody("codes-4");
        var own = in(login);
        var secret = setUp(own);
        own.post("/me/second/confirmed", "code=" + code(secret, -1));
        assertThat(own.post("/me/second/removed", "code=").statusCode()).isEqualTo(422);
        assertThat(own.post("/me/second/removed", "code=" + code(secret, 1)).statusCode())
                .isEqualTo(302);
        assertThat(in(login).get("/cases").statusCode()).isEqualTo(200);
    }
}
