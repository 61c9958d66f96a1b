package app.morvet.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.time.Instant;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.ResourceLock;

/** What is looked at over time, of a component and of a case, is moved by keys and links and stays in the address. */
@ResourceLock(Lane.SHARED)
class TimeTest extends InAHouse {
    /** Until its first curves are those of the span that it shows. */
    private static void drawnOfTheSpan(Page page) {
        page.waitForFunction(
                """
                () => {
                  const { from, to } = document.querySelector(".measured .time").dataset;
                  const query = new URLSearchParams({ from: new Date(+from).toISOString(), to: new Date(+to).toISOString() });
                  return [...document.querySelectorAll("[data-series-curve]")].slice(0, 2).every((one) => one.dataset.drawn === "?" + query);
                }""");
    }

    private static long from(Locator time) {
        return Long.parseLong(time.getAttribute("data-from"));
    }

    private static long to(Locator time) {
        return Long.parseLong(time.getAttribute("data-to"));
    }

    /** What is read in one of its curves is read in all, and in the tracks above them. */
    @Test
    void aComponentIsMovedThroughTimeByKeysAlone() {
        var page = pages.logIn("analyst");
        page.navigate("/estate/components/gangway-2");
        var time = page.locator("#time-picture");
        var lanes = page.locator(".time-lanes");
        var first = page.locator(".series-row").first();
        assertThat(first.locator("canvas")).isVisible();
        assertThat(first.locator("[data-figures]")).containsText("mean");
        var keyboard = page.keyboard();
        var day = time.getAttribute("data-from");
        lanes.focus();
        keyboard.press("-");
        assertThat(time).not().hasAttribute("data-from", day);
        assertThat(lanes).isFocused();
        assertThat(first.locator("[data-csv]")).hasAttribute("href", Pattern.compile("from="));
        var wider = time.getAttribute("data-from");
        keyboard.press("ArrowLeft");
        assertThat(time).not().hasAttribute("data-from", wider);
        assertThat(lanes).isFocused();
        // Faster than the answer comes: what is pressed last is done to the picture that comes.
        keyboard.press("ArrowLeft");
        keyboard.press("0");
        assertThat(time.locator("[data-time-move=whole]")).hasCount(0);

        // Of two clicks in a row each counts; the keys stay at the link, and the address is that of the span.
        var earlier = time.locator("[data-time-move=earlier]");
        earlier.focus();
        long begun = from(time);
        for (int steps = 0; steps < 2; steps++) {
            begun = from(time);
            keyboard.press("Enter");
            assertThat(time).not().hasAttribute("data-from", "" + begun);
            assertThat(earlier).isFocused();
        }
        long step = begun - from(time);
        // Found and clicked in one go: a link that was found before what is told live came would be another by now.
        page.evaluate(
                """
                () => {
                  const link = document.querySelector("#time-picture [data-time-move=earlier]");
                  link.click();
                  link.click();
                }""");
        var there = "" + (begun - 3 * step);
        assertThat(time).hasAttribute("data-from", there);
        assertThat(page).hasURL(Pattern.compile(".*/gangway-2\\?from=.*&to=.*"));
        page.reload();
        assertThat(time).hasAttribute("data-from", there);
        lanes.focus();
        keyboard.press("0");
        assertThat(page).hasURL(Pattern.compile(".*/gangway-2"));
        assertThat(time.locator("[data-time-move=whole]")).hasCount(0);

        // The page may be open for long: the last day is that before now, not that before it was opened.
        var lastDay = page.locator(".time-lengths").getByText("1 day");
        lastDay.evaluate("day => { day.href = day.href.replaceAll(/T\\d\\d/g, 'T00'); }");
        lastDay.click();
        assertThat(time.locator("[data-time-move=whole]")).hasCount(1);
        var now = house.now();
        assertThat(Instant.ofEpochMilli(to(time))).isBetween(now.minusSeconds(60), now.plusSeconds(60));
        lanes.focus();
        keyboard.press("0");
        assertThat(time.locator("[data-time-move=whole]")).hasCount(0);

        // What is drawn of the span before is no curve to be read any more.
        drawnOfTheSpan(page);
        first.locator(".series-chart").focus();
        // Some hours back: of the last minutes a house that has only begun knows nothing.
        for (int i = 0; i < 4; i++) keyboard.press("Shift+ArrowLeft");
        assertThat(page.locator(".series-row").nth(1).locator(".series-reading"))
                .hasText(Pattern.compile("\\d"));
        assertThat(page.locator(".time-reading")).hasText(Pattern.compile("\\d\\d:\\d\\d"));
        first.locator("[data-enlarge]").focus();
        keyboard.press("Enter");
        assertThat(first).hasClass(Pattern.compile("large"));
    }

    /** The list opens with its first case, and has no address of its own for what is looked at there. */
    @Test
    void theSpanThatIsLookedAtBesideAListIsInTheAddressOfItsCase() {
        var page = pages.atCases("analyst");
        var time = page.locator("#time-picture");
        var of = page.locator("#dossier").getAttribute("data-path");
        var begun = time.getAttribute("data-from");
        page.locator(".time-lanes").focus();
        page.keyboard().press("ArrowLeft");
        assertThat(time).not().hasAttribute("data-from", begun);
        assertThat(page).hasURL(Pattern.compile(".*" + of + "\\?.*from=.*&to=.*"));
        var there = time.getAttribute("data-from");
        page.reload();
        assertThat(time).hasAttribute("data-from", there);
        assertThat(page.locator(".row-link[aria-current]")).hasAttribute("href", Pattern.compile("^" + of + "\\b"));
    }

    /** Stretches are shorter there than readings are apart; what is told live comes more often than what is past. */
    @Test
    void theCurveOfAnHourIsALineThatIsReadAnywhere() {
        var page = pages.logIn("analyst");
        isALineUntil(page, House.NIGHT.plusMinutes(10).toInstant());
        isALineUntil(page, House.NIGHT.minusHours(1).toInstant());
        var first = page.locator(".series-row").first();
        first.locator(".series-chart").focus();
        page.keyboard().press("Shift+ArrowLeft");
        for (int i = 0; i < 5; i++) {
            page.keyboard().press("ArrowLeft");
            assertThat(first.locator(".series-reading")).hasText(Pattern.compile("^\\d"));
        }
    }

    private static void isALineUntil(Page page, Instant to) {
        page.navigate("/estate/components/gangway-2?from=" + to.minusSeconds(3600) + "&to=" + to);
        drawnOfTheSpan(page);
        page.waitForFunction(
                """
                () => {
                  const canvas = document.querySelector("[data-series-curve] canvas");
                  const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
                  const inked = new Set();
                  for (let i = 0; i < data.length; i += 4)
                    if (data[i + 3] > 200 && Math.max(data[i], data[i + 1], data[i + 2]) < 110) inked.add((i / 4) % canvas.width);
                  return inked.size > canvas.width * 0.7;
                }""");
    }
}
