package app.morvet.core.guard;

import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * Which series a guard stands over: those of one measure whose component fits all that is said here. What comes into the
 * estate later and fits is watched from then on.
 *
 * @param measure     name of the measure; empty for a combination, which watches what its members do
 * @param application key of the application, or empty for any
 * @param kind        kind of the component, or empty for any
 * @param tier        tier of the application, or 0 for any
 * @param environment of the application, or empty for any
 * @param name        a pattern for the component's key or name, in which {@code *} stands for any text; or empty for any
 * @param label       name of a label that the series must have, or empty
 * @param labelValue  a pattern for that label's value; empty for any value
 */
public record Watch(
        String measure,
        String application,
        String kind,
        int tier,
        String environment,
        String name,
        String label,
        String labelValue) {

    /**
     * What is known of a series.
     *
     * @param application key of its application; empty while unassigned
     * @param tier        0 while unassigned
     * @param environment empty while unassigned
     */
    public record Facts(
            String measure,
            String componentKey,
            String componentName,
            String kind,
            String application,
            int tier,
            String environment,
            Map<String, String> labels) {}

    public Watch {
        if (tier < 0 || tier > 4) throw new IllegalArgumentException("a tier is 1, 2, 3 or 4, was " + tier);
        if (label.isBlank() && !labelValue.isBlank())
            throw new IllegalArgumentException("name the label whose value must be \"" + labelValue + "\"");
    }

    public static Watch of(String measure) {
        return new Watch(measure, "", "", 0, "", "", "", "");
    }

    public Watch named(String pattern) {
        return new Watch(measure, application, kind, tier, environment, pattern, label, labelValue);
    }

    public Watch ofKind(String other) {
        return new Watch(measure, application, other, tier, environment, name, label, labelValue);
    }

    public boolean matches(Facts facts) {
        return measure.equals(facts.measure()) && matchesComponent(facts);
    }

    /** Whether the component fits, whatever the measure. */
    public boolean matchesComponent(Facts facts) {
        return (application.isEmpty() || application.equals(facts.application()))
                && (kind.isEmpty() || kind.equals(facts.kind()))
                && (tier == 0 || tier == facts.tier())
                && (environment.isEmpty() || environment.equals(facts.environment()))
                && (name.isEmpty() || fits(name, facts.componentKey()) || fits(name, facts.componentName()))
                && (label.isEmpty() || fits(labelValue, facts.labels().get(label)));
    }

    /** Whether a text fits a pattern; upper and lower case are the same. An empty pattern fits any text that is there. */
    public static boolean fits(String pattern, @Nullable String text) {
        if (text == null) return false;
        if (pattern.isEmpty()) return true;
        int star = pattern.indexOf('*');
        if (star < 0) return pattern.equalsIgnoreCase(text);
        if (!text.regionMatches(true, 0, pattern, 0, star)) return false;
        // Each part between two stars where it first occurs leaves the most to those after it; the last one ends the
        // text.
        int at = star;
        while (true) {
            int next = pattern.indexOf('*', star + 1);
            int length = (next < 0 ? pattern.length() : next) - star - 1;
            if (next < 0)
                return text.length() - at >= length
                        && text.regionMatches(true, text.length() - length, pattern, star + 1, length);
            while (at + length <= text.length() && !text.regionMatches(true, at, pattern, star + 1, length)) at++;
            if (at + length > text.length()) return false;
            at += length;
            star = next;
        }
    }

    /**
     * In words: {@code each interface of Freight Manifests}, {@code host quay-*}.
     *
     * @param names gives the name that people know for the key of an application or a component
     */
    public String words(UnaryOperator<String> names) {
        var words = new StringBuilder();
        boolean one = !name.isEmpty() && name.indexOf('*') < 0;
        if (one) words.append(names.apply(name));
        else
            words.append("each ")
                    .append(tier > 0 ? "tier " + tier + " " : "")
                    .append(kind.isEmpty() ? "component" : kind);
        if (!environment.isEmpty()) words.append(" in ").append(environment);
        if (!application.isEmpty()) words.append(" of ").append(names.apply(application));
        else if (!one && name.isEmpty() && environment.isEmpty()) words.append(" of the estate");
        if (!name.isEmpty() && !one) words.append(" named ").append(name);
        if (!label.isEmpty())
            words.append(labelValue.isEmpty() ? " with a " + label : " with " + label + " " + labelValue);
        return words.toString().toLowerCase(Locale.ROOT).isBlank() ? "each component" : words.toString();
    }
}
