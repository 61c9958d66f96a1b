package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import java.util.HashMap;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/** Scopes as they are chosen in a form; {@code scope-parts.html} has its fields. */
public final class ScopeForm {
    private ScopeForm() {}

    public static Map<String, String> fields(Scope scope) {
        var fields = new HashMap<String, String>();
        fields.put("application", scope.application());
        fields.put("component", scope.kind());
        fields.put("tier", scope.tier() == 0 ? "" : Integer.toString(scope.tier()));
        fields.put("environment", scope.environment());
        fields.put("pattern", scope.name());
        fields.put("group", scope.group());
        fields.put("chain", scope.chain());
        fields.put("onIt", scope.onIt() ? "yes" : "");
        return fields;
    }

    /** What was typed into the fields, readable or not. */
    public static Map<String, String> typed(UnaryOperator<@Nullable String> typed) {
        var fields = fields(Scope.ALL);
        fields.replaceAll((name, nothing) -> given(typed, name));
        return fields;
    }

    /**
     * @param typed gives what was typed into a field
     * @throws IllegalArgumentException saying what cannot be
     */
    public static Scope read(UnaryOperator<@Nullable String> typed) {
        var tier = given(typed, "tier");
        if (!tier.matches("\\d?")) throw new IllegalArgumentException("a tier is 1, 2, 3 or 4, was " + tier);
        return new Scope(
                given(typed, "application"),
                given(typed, "component"),
                tier.isEmpty() ? 0 : Integer.parseInt(tier),
                given(typed, "environment"),
                given(typed, "pattern"),
                given(typed, "group"),
                given(typed, "chain"),
                given(typed, "onIt").equals("yes"));
    }

    private static String given(UnaryOperator<@Nullable String> typed, String name) {
        var value = typed.apply(name);
        return value == null ? "" : value.strip();
    }
}
