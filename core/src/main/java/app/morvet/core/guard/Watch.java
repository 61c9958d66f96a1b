package app.morvet.core.guard;

import app.morvet.core.estate.NamePattern;
import app.morvet.core.estate.Scope;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Which series a guard stands over: those of one measure whose component is in a scope, and whose labels fit.
 *
 * @param measure    name of the measure; empty for a combination, which watches what its members do
 * @param label      name of a label that the series must have, or empty
 * @param labelValue a pattern for that label's value; empty for any value
 */
public record Watch(String measure, Scope scope, String label, String labelValue) {

    /** What is known of a series. */
    public record Facts(String measure, Scope.Facts component, Map<String, String> labels) {}

    public Watch {
        if (label.isBlank() && !labelValue.isBlank())
            throw new IllegalArgumentException("name the label whose value must be \"" + labelValue + "\"");
    }

    public static Watch of(String measure) {
        return new Watch(measure, Scope.ALL, "", "");
    }

    public Watch over(Scope other) {
        return new Watch(measure, other, label, labelValue);
    }

    public Watch named(String pattern) {
        return over(scope.named(pattern));
    }

    public Watch ofKind(String kind) {
        return over(scope.ofKind(kind));
    }

    public boolean matches(Facts facts) {
        return measure.equals(facts.measure()) && matchesComponent(facts);
    }

    /** Whether the component fits, whatever the measure. */
    public boolean matchesComponent(Facts facts) {
        return scope.takes(facts.component())
                && (label.isEmpty()
                        || NamePattern.fits(labelValue, facts.labels().get(label)));
    }

    /**
     * In words: {@code each interface of Freight Manifests}, {@code each host named quay-* with volume /data}.
     *
     * @param names gives the name that people know for the key of an application or a component
     */
    public String words(UnaryOperator<String> names) {
        var words = scope.words(names);
        if (label.isEmpty()) return words;
        return words + (labelValue.isEmpty() ? " with a " + label : " with " + label + " " + labelValue);
    }
}
