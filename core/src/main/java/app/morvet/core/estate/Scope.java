package app.morvet.core.estate;

import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * A part of the estate over which something stands: a guard, a guard over runs, a window. It takes in each component that fits
 * all that is said here; what comes into the estate later and fits is taken in from then on.
 *
 * @param application key of the application, or empty for any
 * @param kind        kind of the component, or empty for any
 * @param tier        tier of the application, 1 to 4, or 0 for any
 * @param environment of the application, or empty for any
 * @param name        a pattern for the component's key or name ({@link NamePattern}), or empty for any
 * @param group       name of a group that it is in, or empty for any
 * @param chain       name of the chain that a job is in, or empty for any component
 * @param onIt        whether all that stands on a component that fits is taken in as well, however many lie between
 */
public record Scope(
        String application,
        String kind,
        int tier,
        String environment,
        String name,
        String group,
        String chain,
        boolean onIt) {

    public static final Scope ALL = new Scope("", "", 0, "", "", "", "", false);

    /** Who stands on whom goes no deeper than this, should it go round. */
    private static final int DEEPEST = 20;

    /**
     * What is known of a component.
     *
     * @param application key of its application; empty while unassigned
     * @param tier        0 while unassigned
     * @param environment empty while unassigned
     * @param groups      names of the groups that it is in
     * @param chain       of a job; else empty
     * @param standsOn    what it stands on, or null
     */
    public record Facts(
            String key,
            String name,
            String kind,
            String application,
            int tier,
            String environment,
            Set<String> groups,
            String chain,
            @Nullable Facts standsOn) {

        public Facts ofChain(String other) {
            return new Facts(key, name, kind, application, tier, environment, groups, other, standsOn);
        }
    }

    public Scope {
        if (tier < 0 || tier > 4) throw new IllegalArgumentException("a tier is 1, 2, 3 or 4, was " + tier);
    }

    public static Scope ofJob(String key) {
        return ALL.ofKind("job").named(key);
    }

    public static Scope ofChain(String name) {
        return new Scope("", "job", 0, "", "", "", name, false);
    }

    public Scope ofApplication(String key) {
        return new Scope(key, kind, tier, environment, name, group, chain, onIt);
    }

    public Scope ofKind(String other) {
        return new Scope(application, other, tier, environment, name, group, chain, onIt);
    }

    public Scope named(String pattern) {
        return new Scope(application, kind, tier, environment, pattern, group, chain, onIt);
    }

    public Scope inGroup(String other) {
        return new Scope(application, kind, tier, environment, name, other, chain, onIt);
    }

    public Scope withAllOnIt() {
        return new Scope(application, kind, tier, environment, name, group, chain, true);
    }

    public boolean takes(Facts component) {
        if (takesItself(component)) return true;
        if (!onIt) return false;
        var below = component.standsOn();
        for (int depth = 0; below != null && depth < DEEPEST; depth++, below = below.standsOn())
            if (takesItself(below)) return true;
        return false;
    }

    private boolean takesItself(Facts component) {
        return (application.isEmpty() || application.equals(component.application()))
                && (kind.isEmpty() || kind.equals(component.kind()))
                && (tier == 0 || tier == component.tier())
                && (environment.isEmpty() || environment.equals(component.environment()))
                && (name.isEmpty()
                        || NamePattern.fits(name, component.key())
                        || NamePattern.fits(name, component.name()))
                && (group.isEmpty() || component.groups().contains(group))
                && (chain.isEmpty() || chain.equals(component.chain()));
    }

    /** Whether it is over something that has a name, and not over all of a sort wherever that is. */
    public boolean isOverSomething() {
        return !application.isEmpty() || !name.isEmpty() || !group.isEmpty() || !chain.isEmpty();
    }

    /** Whether it names one component only. */
    public boolean isOne() {
        return !name.isEmpty() && name.indexOf('*') < 0;
    }

    /**
     * In words: {@code each interface of Freight Manifests}, {@code host quay-*}, {@code quay-05 with all that stands on it}.
     *
     * @param names gives the name that people know for the key of an application or a component
     */
    public String words(UnaryOperator<String> names) {
        boolean anywhere =
                application.isEmpty() && environment.isEmpty() && name.isEmpty() && group.isEmpty() && chain.isEmpty();
        return anywhere && !onIt ? words("each", names) + " of the estate" : words("each", names);
    }

    /** Its jobs in words: {@code a job of the chain nightly}; of a single one its name. */
    public String jobWords(String each, UnaryOperator<String> names) {
        if (isOne() && !onIt) return names.apply(name);
        if (onIt || !kind.isEmpty() && !kind.equals("job")) return each + " job of " + words("each", names);
        return ofKind("job").words(each, names);
    }

    /** The same with another word than {@code each}: {@code a job of the chain nightly}. */
    public String words(String each, UnaryOperator<String> names) {
        var words = new StringBuilder();
        if (isOne()) words.append(names.apply(name));
        else
            words.append(each)
                    .append(tier > 0 ? " tier " + tier : "")
                    .append(' ')
                    .append(kind.isEmpty() ? "component" : kind);
        if (!environment.isEmpty()) words.append(" in ").append(environment);
        if (!application.isEmpty()) words.append(" of ").append(names.apply(application));
        if (!chain.isEmpty()) words.append(" of the chain ").append(chain);
        if (!name.isEmpty() && !isOne()) words.append(" named ").append(name);
        if (!group.isEmpty()) words.append(" in the group ").append(group);
        if (onIt) words.append(" with all that stands on it");
        return words.toString();
    }
}
