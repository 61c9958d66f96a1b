package app.morvet.journey;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FormData;
import com.microsoft.playwright.options.RequestOptions;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Debian's Chromium, and people who are logged in. What goes wrong in a page's scripts is kept and must stay empty. */
final class Pages {
    private static final int PATIENCE_MILLIS = 60_000;

    private static final Pattern FORM = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"");

    private static final List<String> READABLE = List.of("color-contrast", "link-in-text-block");

    private static final String AXE = resource("/axe.min.js");

    /**
     * Of what is right it need not tell where it stands; for the one rule that is left out all style sheets would be fetched and
     * parsed again, and so they would for what is to be there before it begins if that were not said.
     */
    private static final String FINDINGS =
            """
            async ([only, not]) => {
              const told = await axe.run(document, {
                resultTypes: ["violations"], preload: { assets: ["media"] },
                rules: Object.fromEntries(["css-orientation-lock", ...not].map((one) => [one, { enabled: false }])),
                ...(only.length ? { runOnly: { type: "rule", values: only } } : {}),
              });
              return told.violations.map((one) => one.id + ": " + one.nodes.map((node) => node.html + " " + node.failureSummary).join(", "));
            }""";

    /** Starting one takes longer than some tests do, and it belongs to the thread that it was started by. */
    private static final ThreadLocal<Browser> BROWSER = ThreadLocal.withInitial(Pages::started);

    private final Browser browser = BROWSER.get();
    private final List<BrowserContext> open = new ArrayList<>();
    private final List<String> wrong = new ArrayList<>();
    private final String address;

    Pages(String address) {
        this.address = address;
        // Machines differ in speed; what is asked for is that it comes, not how fast.
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MILLIS);
    }

    /** It ends with the process of the tests. */
    private static Browser started() {
        return Playwright.create()
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Stream.of("/usr/bin/chromium-headless-shell", "/usr/bin/chromium")
                                .map(Path::of)
                                .filter(Files::exists)
                                .findFirst()
                                .orElseThrow())
                        .setArgs(List.of(
                                "--no-sandbox",
                                "--disable-gpu",
                                "--disable-quic",
                                "--no-first-run",
                                "--disable-background-networking",
                                "--disable-component-update",
                                "--disable-sync",
                                // Each page is new, and little in it is done often enough to be worth the second
                                // compiler.
                                "--js-flags=--no-opt --no-maglev")));
    }

    /** Somebody who is logged in, and looks at nothing yet: which page is opened first is for the test to say. */
    Page logIn(String login, ColorScheme scheme) {
        var page = fresh(login, scheme);
        var asked = page.context().request();
        var form = FORM.matcher(asked.get("/login").text());
        if (!form.find()) throw new IllegalStateException("the page to log in has no token");
        var answer = asked.post(
                "/login",
                RequestOptions.create()
                        .setMaxRedirects(0)
                        .setForm(FormData.create()
                                .set("_csrf", form.group(1))
                                .set("username", login)
                                .set("password", password(login))));
        if (answer.headers().getOrDefault("location", "refused").contains("refused"))
            throw new IllegalStateException(login + " could not log in: " + answer.status());
        return page;
    }

    /** The same, with Cases before them. */
    Page atCases(String login) {
        var page = logIn(login);
        page.navigate("/cases");
        return page;
    }

    private static String password(String login) {
        return "ferry-" + login.replaceAll("\\d", "");
    }

    /** Of somebody who is not logged in. */
    Page anybody() {
        return fresh("anybody", ColorScheme.LIGHT);
    }

    /** A screen that nobody logs in on. */
    Page onAWall(ColorScheme scheme) {
        return fresh("a wall", scheme, 1920, 1080);
    }

    private Page fresh(String who, ColorScheme scheme) {
        return fresh(who, scheme, 1280, 800);
    }

    private Page fresh(String who, ColorScheme scheme, int width, int height) {
        BrowserContext context = browser.newContext(new Browser.NewContextOptions()
                .setViewportSize(width, height)
                .setColorScheme(scheme)
                .setBaseURL(address));
        open.add(context);
        context.setDefaultTimeout(PATIENCE_MILLIS);
        var page = context.newPage();
        page.onPageError(error -> wrong.add(who + ": " + error));
        page.onConsoleMessage(message -> {
            if (message.type().equals("error")
                    && !message.text().contains("status of 4")
                    && !message.text().contains("Status Error Code 4")) wrong.add(who + ": " + message.text());
        });
        return page;
    }

    /** Fills in and sends the form on which a page stands. */
    static void logIn(Page page, String login) {
        page.getByLabel("Login").fill(login);
        page.getByLabel("Password").fill(password(login));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Log in"))
                .click();
        page.waitForURL(Pattern.compile(".*/(cases|shift)$"));
    }

    Page logIn(String login) {
        return logIn(login, ColorScheme.LIGHT);
    }

    /** Where the bench of a guard is, by its name. */
    String bench(Page page, String guard) {
        page.navigate("/guards");
        return page.locator(".row-link")
                        .filter(new Locator.FilterOptions().setHasText(guard))
                        .first()
                        .getAttribute("href")
                        .replaceAll("\\?.*", "")
                + "/edit";
    }

    /** What stands in the way of people who cannot see or point: all that axe finds. */
    static List<String> barriers(Page page) {
        return barriers(page, List.of(), List.of());
    }

    /** What is hard to read on the paper that a page has; all else is the same on the other one. */
    static List<String> faint(Page page) {
        return barriers(page, READABLE, List.of());
    }

    /** All but what is hard to read, which takes three quarters of the time and is so on a screen of any width. */
    static List<String> barriersButFaint(Page page) {
        return barriers(page, List.of(), READABLE);
    }

    /**
     * @param only rules that are looked at; all where there are none
     * @param not  rules that are not
     */
    private static List<String> barriers(Page page, List<String> only, List<String> not) {
        page.evaluate(AXE);
        return ((List<?>) page.evaluate(FINDINGS, List.of(only, not)))
                .stream().map(String::valueOf).toList();
    }

    private static String resource(String path) {
        try (var in = Objects.requireNonNull(AxeBuilder.class.getResourceAsStream(path))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    /** Closes all pages, which would follow what goes on in the house for ever, and tells what has gone wrong in them. */
    List<String> leave() {
        open.forEach(BrowserContext::close);
        open.clear();
        var told = List.copyOf(wrong);
        wrong.clear();
        return told;
    }
}
