package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.Arrays;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** What is somebody's own: how they log in, how they are told; and a screen on a wall, which is nobody's. */
@ResourceLock(Lane.SHARED)
class OwnTest extends InAHouse {
    private static final String PASSWORD = "nine boats before dawn";

    private static void press(Page page, String button) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(button).setExact(true))
                .click();
    }

    private static void fill(Page page, String label, String words) {
        page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).fill(words);
    }

    /** An admin gives somebody a log-in. */
    private void somebody(String name, String login) {
        var page = pages.logIn("admin");
        page.navigate("/setup/people/new");
        fill(page, "Name", name);
        fill(page, "Logs in as", login);
        page.getByLabel("Is here as").selectOption("analyst");
        fill(page, "Mail", login + "@sundrava.example");
        fill(page, "First password", PASSWORD);
        press(page, "Save");
        assertThat(page.locator("#main")).containsText(name);
    }

    private static void logIn(Page page, String login) {
        page.navigate("/login");
        fill(page, "Login", login);
        fill(page, "Password", PASSWORD);
        press(page, "Log in");
    }

    /** What a telephone reckons from what is typed into it (RFC 6238, RFC 4648). */
    private static String code(String typed) throws Exception {
        var bits = BigInteger.ONE;
        for (char letter : typed.replace(" ", "").toCharArray())
            bits = bits.shiftLeft(5).add(BigInteger.valueOf("ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(letter)));
        var secret = bits.toByteArray();
        var mac = Mac.getInstance("HmacSHA1");
        mac.init(new SecretKeySpec(Arrays.copyOfRange(secret, 1, secret.length), "HmacSHA1"));
        var hash = mac.doFinal(ByteBuffer.allocate(8)
                .putLong(Instant.now().getEpochSecond() / 30)
                .array());
        return "%06d".formatted((ByteBuffer.wrap(hash, hash[19] & 15, 4).getInt() & 0x7fffffff) % 1_000_000);
    }

    @Test
    void aSecondFactorIsSetUpAndAskedAtTheNextLogIn() throws Exception {
        somebody("Runa Valta", "runa");
        var page = pages.anybody();
        logIn(page, "runa");
        page.waitForURL("**/shift");
        page.navigate("/me/second");
        fill(page, "Your password", PASSWORD);
        press(page, "Set it up");
        assertThat(page.getByRole(
                        AriaRole.IMG, new Page.GetByRoleOptions().setName(Pattern.compile("Picture for the app"))))
                .isVisible();
        fill(page, "The code that it shows", "000 00");
        press(page, "It has it");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("not the code that the telephone shows now");
        fill(page, "The code that it shows", code(page.locator("svg.qr + p").textContent()));
        press(page, "It has it");
        var written = page.locator(".recovery li");
        assertThat(written).hasCount(10);
        var first = written.first().textContent();
        press(page, "Log out");

        logIn(page, "runa");
        assertThat(page).hasURL(Pattern.compile(".*/login/code"));
        assertThat(page.getByLabel("Code")).isFocused();
        assertThat(Pages.barriers(page)).isEmpty();
        page.getByLabel("Code").fill("wrong");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).isVisible();
        page.getByLabel("Code").fill(first);
        page.keyboard().press("Enter");
        page.waitForURL("**/shift");
        page.navigate("/me/second");
        assertThat(page.locator("#main")).containsText("Of the codes that you wrote down 9 are left.");
    }

    @Test
    void somebodySaysHowTheyAreToldAndShowsThatTheyAreReachedThere() throws Exception {
        somebody("Sten Marsk", "sten");
        var page = pages.anybody();
        logIn(page, "sten");
        page.waitForURL("**/shift");
        page.navigate("/me/told");
        press(page, "Send a code there");
        assertThat(page.locator(".said")).containsText("A code is on its way");
        var mailed = Pattern.compile("(\\d{3} ?\\d{3}) is your code for Morvet")
                .matcher(house.get(house.standIn("/mailbox")).body());
        assertThat(mailed.find()).isTrue();
        page.getByLabel("Code sent by mail").fill(mailed.group(1));
        press(page, "Check it");
        assertThat(page.locator("#main")).containsText("yes: a code was sent there and typed here");
        page.getByLabel("Be quiet from").check();
        fill(page, "Quiet from", "22:00");
        fill(page, "Quiet to", "06:00");
        page.locator("form", new Page.LocatorOptions().setHasText("Be quiet from"))
                .getByRole(AriaRole.BUTTON)
                .click();
        assertThat(page.locator(".said")).containsText("Saved.");
        page.reload();
        assertThat(page.getByLabel("Be quiet from")).isChecked();
        press(page, "Switch them off");
        page.navigate("/cases");
        page.keyboard().press("?");
        assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
    }

    @Test
    void aScreenOnAWallTurnsByItselfUntilItsKeyIsRevoked() {
        var lead = pages.logIn("lead");
        lead.navigate("/shift/walls");
        fill(lead, "Where the screen is", "Above the quay");
        press(lead, "Make its key");
        var address = lead.locator("#main pre").textContent().strip();
        var screen = pages.onAWall(ColorScheme.DARK);
        screen.navigate(address.replaceFirst("https?://[^/]+", ""));
        assertThat(screen.locator(".wall-row").first()).isVisible();
        assertThat(screen.evaluate("document.documentElement.scrollHeight <= innerHeight"
                        + " && document.documentElement.scrollWidth <= innerWidth"))
                .as("nobody scrolls a wall")
                .isEqualTo(true);
        assertThat(Pages.barriers(screen))
                .filteredOn(one -> !one.startsWith("meta-refresh"))
                .as("nobody works there, so that it turns is in nobody's way")
                .isEmpty();
        screen.waitForURL(Pattern.compile(".*page=\\d+"));
        assertThat(screen.locator(".wall-row").first()).isVisible();

        lead.onceDialog(asked -> asked.accept());
        lead.locator("tr", new Page.LocatorOptions().setHasText("Above the quay"))
                .getByRole(AriaRole.BUTTON)
                .click();
        assertThat(lead.locator("#main")).containsText("revoked");
        screen.reload();
        assertThat(screen.getByRole(AriaRole.HEADING)).containsText("This screen shows nothing");
    }
}
