package app.morvet.views.upkeep;

import app.morvet.ground.estate.Estate;
import java.util.List;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Looks through the components by any of their attributes. */
@Component
class EstateSearch {
    static final String UNASSIGNED = "not assigned";

    /** A component with what can be said of it, by the name of the column. */
    record Row(Estate.Component component, Columns<Estate.Component> columns) {
        String get(String column) {
            return columns.of(component, column);
        }
    }

    private final Estate estate;
    private final Columns<Estate.Component> columns;

    EstateSearch(Estate estate) {
        this.estate = estate;
        this.columns = new Columns<Estate.Component>()
                .with("name", Estate.Component::name)
                .with("key", Estate.Component::key)
                .with("kind", Estate.Component::kind)
                .with("application", one -> estate.applicationOf(one)
                        .map(Estate.Application::name)
                        .orElse(UNASSIGNED))
                .with("team", one -> estate.ownerOf(one).map(Estate.Team::name).orElse(""))
                .with("tier", one -> estate.applicationOf(one)
                        .map(it -> "" + it.tier().number())
                        .orElse(""))
                .with("environment", one -> estate.applicationOf(one)
                        .map(Estate.Application::environment)
                        .orElse(""))
                .with("stands on", this::standsOn)
                .with(
                        "groups",
                        one -> String.join(
                                ", ", new TreeSet<>(estate.factsOf(one).groups())))
                .with("first seen", one -> one.firstSeen().toString());
    }

    private String standsOn(Estate.Component one) {
        var on = one.standsOn();
        return on == null ? "" : estate.component(on).name();
    }

    List<String> columns() {
        return columns.names();
    }

    static List<String> usual() {
        return List.of("name", "kind", "application", "team", "tier", "stands on");
    }

    /** By name. */
    List<Estate.Component> find(String query) {
        return columns.find(estate.components(), query);
    }

    Row row(Estate.Component one) {
        return new Row(one, columns);
    }
}
