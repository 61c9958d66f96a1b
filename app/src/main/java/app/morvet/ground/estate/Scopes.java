package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** What can be chosen where a scope is, and what a scope covers; {@code scope-parts.html} shows both. */
@Component
public class Scopes {
    private static final int NAMED = 8;
    private static final int OFFERED = 20;

    private final Estate estate;

    Scopes(Estate estate) {
        this.estate = estate;
    }

    /** @param typed what stands in the fields, by {@link ScopeForm} */
    public void fill(Map<String, String> typed, Model model) {
        model.addAttribute("scope", typed);
        model.addAttribute("applications", estate.applications());
        model.addAttribute("kinds", Estate.KINDS);
        model.addAttribute(
                "groups", estate.groups().stream().map(Groups.Group::name).toList());
    }

    /** {@code 3 components: Quay host 3, quay-04, quay-05.} */
    public String covered(Scope scope) {
        var all = estate.covered(scope);
        if (all.isEmpty()) return "It covers no component.";
        var named = String.join(
                ", ", all.stream().limit(NAMED).map(Estate.Component::name).toList());
        return "It covers %,d %s: %s%s"
                .formatted(
                        all.size(),
                        all.size() == 1 ? "component" : "components",
                        named,
                        all.size() > NAMED ? " …" : ".");
    }

    /** Names of components in which a text stands, where there are thousands. */
    public List<String> names(String part) {
        var wanted = part.strip().toLowerCase(java.util.Locale.ROOT);
        return estate.components().stream()
                .filter(one -> one.name().toLowerCase(java.util.Locale.ROOT).contains(wanted)
                        || one.key().contains(wanted))
                .limit(OFFERED)
                .map(Estate.Component::name)
                .toList();
    }
}
