package app.morvet.views.upkeep;

import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Finder;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Components of every kind, by their name; each leads to the page that its kind has. */
@Component
@Order(2)
class ComponentFinder implements Finder {
    private static final String IN_THE_ESTATE = "/estate/components/";

    private final Estate estate;
    private final Map<String, String> pages;

    ComponentFinder(Estate estate, List<ComponentPage> pages) {
        this.estate = estate;
        this.pages = pages.stream().collect(Collectors.toMap(ComponentPage::kind, ComponentPage::path));
    }

    @Override
    public String name() {
        return "Components";
    }

    @Override
    public String hint() {
        return "the name of a component";
    }

    @Override
    public List<Hit> find(String words, int most) {
        var lower = words.toLowerCase(Locale.ROOT);
        return estate.components().stream()
                .filter(one -> one.name().toLowerCase(Locale.ROOT).contains(lower))
                .limit(most)
                .map(one -> new Hit(pages.getOrDefault(one.kind(), IN_THE_ESTATE) + one.key(), one.name(), one.kind()))
                .toList();
    }
}
