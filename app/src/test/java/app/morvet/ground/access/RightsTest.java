package app.morvet.ground.access;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Who may what, over every path that there is. What changes something stands here with the right that it needs; a new one
 * that nobody has thought about fails.
 */
class RightsTest extends MorvetTest {
    private static final Pattern ROW = Pattern.compile("\\| `(/[^`]*)` \\| (TEAM|WORK|TUNE|UNCOVER|SETUP) \\|.*");

    /** By the beginning of the path, the longest that fits; as {@code docs/security.md} says it. */
    private static final Map<String, String> TO_CHANGE = said();

    private static Map<String, String> said() {
        try (var lines = Files.lines(Path.of("..", "docs", "security.md"))) {
            var said = new TreeMap<String, String>();
            lines.map(ROW::matcher).filter(Matcher::matches).forEach(row -> said.put(row.group(1), row.group(2)));
            assertThat(said).hasSizeGreaterThan(15);
            return said;
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
    }

    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping mappings;

    /**
     * The paths that answer a method, with something in place of what varies; those of machines keep keys of their own, those of links
     * their code, and the code of a log-in is given before anybody has a right.
     */
    private List<String> paths(RequestMethod method) {
        var paths = new TreeSet<String>();
        mappings.getHandlerMethods().forEach((mapping, handler) -> {
            if (!handler.getBeanType().getPackageName().startsWith("app.morvet")) return;
            if (!mapping.getMethodsCondition().getMethods().contains(method)) return;
            for (var pattern : mapping.getPatternValues())
                if (Stream.of("/api/", "/take/", "/wall", Entrance.CODE).noneMatch(pattern::startsWith))
                    paths.add(filled(pattern));
        });
        return List.copyOf(paths);
    }

    /** {@code /cases/{id:\d+}/take} as {@code /cases/1/take}. */
    private static String filled(String pattern) {
        return pattern.replaceAll("\\{(id|alert|version)[^/]*}", "1").replaceAll("\\{[^/]*}", "1-1");
    }

    private static String needed(String path) {
        return TO_CHANGE.entrySet().stream()
                .filter(entry -> path.matches(
                        entry.getKey().replace("*", "[^/]+") + (entry.getKey().endsWith("/") ? ".*" : "(/.*)?")))
                .max(java.util.Comparator.comparingInt(entry -> entry.getKey().length()))
                .map(Map.Entry::getValue)
                .orElse("nobody has said who may this");
    }

    @Test
    void whatChangesSomethingIsClosedToThoseWithoutTheRight() throws Exception {
        var wrong = new ArrayList<String>();
        var changing = paths(RequestMethod.POST);
        assertThat(changing).hasSizeGreaterThan(40);
        for (var path : changing) {
            var needed = needed(path);
            if (!List.of("TEAM", "WORK", "TUNE", "UNCOVER", "SETUP").contains(needed)) wrong.add(path + ": " + needed);
        }
        assertThat(wrong).isEmpty();
        for (var role : List.of(Role.ANALYST, Role.LEAD)) {
            var browser = loggedIn(role.word());
            for (var path : changing) {
                if (role.rights().contains(needed(path))) continue;
                int status = browser.post(path, "version=0").statusCode();
                if (status != 403) wrong.add(role.word() + " " + path + ": " + status);
            }
        }
        assertThat(wrong).isEmpty();
    }

    /** There are no rows for what is not there; 0 stands for what is new. */
    @Test
    void eachRowIsOfAPathThatThereIs() {
        var changing = paths(RequestMethod.POST);
        for (var row : TO_CHANGE.keySet()) {
            var path = row.replaceFirst("/0$", "/1").replace("*", "[^/]+") + (row.endsWith("/") ? ".*" : "(/.*)?");
            assertThat(changing).as(row).anyMatch(one -> one.matches(path));
        }
    }

    @Test
    void withoutTheTokenOfThePageNothingIsChangedByAnybody() throws Exception {
        var admin = loggedIn("admin");
        var wrong = new ArrayList<String>();
        for (var path : paths(RequestMethod.POST)) {
            int status = admin.postAsIs(path, "version=0").statusCode();
            if (status != 403) wrong.add(path + ": " + status);
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void whoIsNotLoggedInSeesNothingOfIt() throws Exception {
        var nobody = browser();
        var wrong = new ArrayList<String>();
        for (var path : paths(RequestMethod.GET)) {
            if (path.equals("/login")) continue;
            var page = nobody.get(path, "Accept", "text/html");
            if (page.statusCode() != 302 || !Browser.to(page).equals("/login"))
                wrong.add(path + " as a page: " + page.statusCode());
            int part = nobody.get(path, "HX-Request", "true").statusCode();
            if (part != 401) wrong.add(path + " as a part of a page: " + part);
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void setupAndWhatIsMadeThereIsSeenByAdminsAlone() throws Exception {
        var seen = paths(RequestMethod.GET).stream()
                .filter(path -> path.startsWith("/setup"))
                .toList();
        assertThat(seen).hasSizeGreaterThan(3);
        for (var role : List.of("analyst", "lead")) {
            var browser = loggedIn(role);
            for (var path : seen)
                assertThat(browser.get(path).statusCode()).as(role + " " + path).isEqualTo(403);
        }
    }

    /** Of a team that things are handed to: they see that, and nothing else of Morvet's. */
    @Test
    void whoIsOfATeamSeesWhatIsHandedToItAndNothingElse() throws Exception {
        setUpOnce();
        people.make(
                "member",
                new People.Card(new Person(0, "member", "Otso Haapala", Role.MEMBER), "", "", true),
                "quay-side-lantern",
                person("admin"));
        var member = browser();
        member.logIn("member", "quay-side-lantern");
        assertThat(Browser.to(member.get("/"))).isEqualTo("/handed");
        var wrong = new ArrayList<String>();
        for (var path : paths(RequestMethod.GET)) {
            if (path.equals("/") || path.startsWith("/login") || isTheirs(path)) continue;
            int status = member.get(path, "Accept", "application/json").statusCode();
            if (status != 403) wrong.add("GET " + path + ": " + status);
        }
        for (var path : paths(RequestMethod.POST)) {
            if (isTheirs(path)) continue;
            int status =
                    member.post(path, "version=0", "Accept", "application/json").statusCode();
            if (status != 403) wrong.add("POST " + path + ": " + status);
        }
        assertThat(wrong).isEmpty();
    }

    private static boolean isTheirs(String path) {
        return path.startsWith("/handed") || path.equals("/me") || path.startsWith("/me/");
    }

    @Test
    void eachRoleMayAllThatTheOneBeforeItMay() {
        var before = List.<String>of();
        for (var role : Role.values()) {
            assertThat(role.rights()).containsAll(before);
            before = role.rights();
        }
    }
}
