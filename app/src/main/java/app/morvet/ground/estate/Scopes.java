package app.morvet.ground.estate;

import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** What can be chosen where a scope is; {@code scope-parts.html} shows it. */
@Component
public class Scopes {
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
