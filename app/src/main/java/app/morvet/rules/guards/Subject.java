package app.morvet.rules.guards;

import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Watch;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Series;
import org.jspecify.annotations.Nullable;

/**
 * One series that a guard stands over.
 *
 * @param application null while its component is not assigned
 * @param about       what scopes ask of the component
 */
public record Subject(
        Series series, Estate.Component component, Estate.@Nullable Application application, Scope.Facts about) {
    /** {@code quay-03 /data}; a label of several words is in quotes, as in {@code Fares API "Fares are open"}. */
    public String name() {
        var name = new StringBuilder(component.name());
        for (var label : series.labels().values())
            name.append(label.contains(" ") ? " \"" + label + "\"" : " " + label);
        return name.toString();
    }

    /** What it has one alert together with, within its guard. */
    public String group(Grouping grouping) {
        return switch (grouping.by()) {
            case SUBJECT -> "c" + component.id();
            case LABEL -> "l" + series.labels().getOrDefault(grouping.label(), "");
            case APPLICATION -> "a" + (application == null ? 0 : application.id());
            case GUARD -> "g";
        };
    }

    Watch.Facts facts() {
        return new Watch.Facts(series.measure().name(), about, series.labels());
    }
}
