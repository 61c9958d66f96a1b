package app.morvet.hostile;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/** Every route that there is, with what nobody means: whatever is wrong with a request is the sender's, and no error of Morvet's. */
class HostileRoutesTest extends MorvetTest {
    /** What ends a session, is asked for ever, or goes outside. */
    private static final Set<String> LEFT_OUT = Set.of("/live", "/login");

    /** As they stand in an address: none is the id of anything. */
    private static final List<String> IN_PATHS = List.of(
            "999999999999999999", "99999999999999999999999", "-1", "%C3%28", "%7Bx%7D", "2026-13", "999999999-12-31");

    private static final List<String> IN_FIELDS = List.of(
            "",
            "a%00b",
            "%C3%28",
            "/estate?%7Bx%7D",
            "-1",
            "99999999999999999999999",
            "1e400",
            "2026-99-99T99:99",
            "%2B999999999-12-31T23:59:59Z",
            "P999999999D",
            "%27%3B--(",
            "x".repeat(3000));

    /** Each route gets one in so many of the values, each value one in so many of the routes; 1 for all of all. */
    private static final int SHARE = Integer.getInteger("hostile.share", 8);

    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping mappings;

    private long lastConnection;

    @BeforeEach
    void whatIsConnected() {
        lastConnection = jdbc.sql("select coalesce(max(id), 0) from outside_connection")
                .query(Long.class)
                .single();
    }

    /** What is taken of all that is sent here is a desk or a channel that no other test knows how to deal with. */
    @AfterEach
    void whatWasConnectedIsNoMore() {
        for (var made : List.of("outside_call where connection_id", "outside_connection where id"))
            jdbc.sql("delete from " + made + " > :last")
                    .param("last", lastConnection)
                    .update();
    }

    private record Route(RequestMethod method, String pattern, List<String> fields) {
        /** With something in place of what varies in the path. */
        String at(String value) {
            return pattern.replaceAll("\\{[^/]*}", java.util.regex.Matcher.quoteReplacement(value));
        }

        boolean varies() {
            return pattern.contains("{");
        }
    }

    private List<Route> routes() {
        var routes = new TreeMap<String, Route>();
        mappings.getHandlerMethods().forEach((mapping, handler) -> {
            if (!handler.getBeanType().getPackageName().startsWith("app.morvet")) return;
            for (var method : mapping.getMethodsCondition().getMethods())
                for (var pattern : mapping.getPatternValues())
                    if (!pattern.startsWith("/api/") && !LEFT_OUT.contains(pattern))
                        routes.put(method + " " + pattern, new Route(method, pattern, fields(handler)));
        });
        assertThat(routes).hasSizeGreaterThan(120);
        return List.copyOf(routes.values());
    }

    /** The names of what a route takes: single fields, and those of the records that it fills. */
    private static List<String> fields(HandlerMethod handler) {
        var fields = new LinkedHashSet<String>();
        for (var parameter : handler.getMethodParameters()) {
            var named = parameter.getParameterAnnotation(RequestParam.class);
            if (named != null)
                fields.add(Optional.of(named.name())
                        .filter(name -> !name.isEmpty())
                        .orElseGet(() -> parameter.getParameter().getName()));
            if (parameter.hasParameterAnnotation(ModelAttribute.class)
                    && parameter.getParameterType().isRecord())
                Arrays.stream(parameter.getParameterType().getRecordComponents())
                        .forEach(one -> fields.add(one.getName()));
        }
        // What takes a form as a whole names no field of it.
        if (Arrays.stream(handler.getMethodParameters()).anyMatch(one -> Map.class.equals(one.getParameterType())))
            fields.addAll(List.of("back", "version", "name"));
        return List.copyOf(fields);
    }

    private static int status(Browser admin, Route route, String path, String fields) throws Exception {
        return route.method() == RequestMethod.GET
                ? admin.get(path + (fields.isEmpty() ? "" : "?" + fields)).statusCode()
                : admin.post(path, fields).statusCode();
    }

    @Test
    void noPathIsAnError() throws Exception {
        var admin = loggedIn("admin");
        var wrong = new ArrayList<String>();
        int place = 0;
        for (var route : routes()) {
            if (!route.varies()) continue;
            place++;
            for (int i = place % SHARE; i < IN_PATHS.size(); i += SHARE) {
                var value = IN_PATHS.get(i);
                var path = route.at(value);
                int status = status(admin, route, path, "");
                if (status >= 500) wrong.add(route.method() + " " + path + ": " + status);
            }
        }
        assertThat(wrong).isEmpty();
    }

    /** All fields of a route at once with its share of the values, with nothing, or each of them twice. */
    @Test
    void noFieldIsAnError() throws Exception {
        var admin = loggedIn("admin");
        var wrong = new ArrayList<String>();
        int place = 0;
        for (var route : routes()) {
            var path = route.at("999999999999999999");
            place++;
            var tried = new ArrayList<>(List.of(""));
            if (!route.fields().isEmpty()) {
                for (var value : IN_FIELDS) tried.add(joined(route.fields(), name -> name + "=" + value));
                tried.add(joined(route.fields(), name -> name + "=1&" + name + "=2"));
            }
            for (int i = place % SHARE; i < tried.size(); i += SHARE) {
                int status = status(admin, route, path, tried.get(i));
                if (status >= 500)
                    wrong.add(route.method() + " " + path + " with " + shortened(tried.get(i)) + ": " + status);
            }
        }
        assertThat(wrong).isEmpty();
    }

    private static String joined(List<String> names, UnaryOperator<String> each) {
        return names.stream().map(each).collect(Collectors.joining("&"));
    }

    private static String shortened(String value) {
        return value.length() > 80 ? value.substring(0, 80) + "…" : value;
    }
}
