package app.morvet.ground.access;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;

/**
 * What a feature asks of who comes to its paths, the first that fits first; a feature gives it as a bean. For all that nobody
 * says anything about, the right to do the work of a shift is enough, and needed.
 */
public record PathRights(List<Rule> rules) {
    /** @param method null for all */
    public record Rule(@Nullable HttpMethod method, String right, List<String> patterns) {}

    public static PathRights of(Rule... rules) {
        return new PathRights(List.of(rules));
    }

    /** To send a form there needs a right. */
    public static Rule toSend(String right, String... patterns) {
        return new Rule(HttpMethod.POST, right, List.of(patterns));
    }

    /** To come there at all needs a right. */
    public static Rule toSee(String right, String... patterns) {
        return new Rule(null, right, List.of(patterns));
    }
}
