package app.morvet.core.guard;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Many series, one alert: it is as bad as the worst of them, is raised with the first and clears with the last. Pure: the
 * same transitions of the same series give the same transitions of the alert.
 */
public final class Folding {
    private Folding() {}

    /** @param member whose transition it is */
    public record Of<M>(M member, Transition transition) {}

    /**
     * Folds what happened to the members of one group.
     *
     * @param levels  what each member that is up stood at before; members that are not up need not be there
     * @param happened in order of time
     * @return what happened to the alert of them all, each with the member that caused it
     */
    public static <M> List<Of<M>> fold(Map<M, Severity> levels, List<Of<M>> happened) {
        var now = new HashMap<>(levels);
        var told = new ArrayList<Of<M>>();
        for (var one : happened) {
            var change = one.transition();
            var before = worst(now);
            var level = change.level();
            if (level == null) now.remove(one.member());
            else now.put(one.member(), level);
            var after = worst(now);
            if (change.kind() == Transition.Kind.FLAPS && after != null) told.add(one);
            else if (before == null && after != null) told.add(changed(one, Transition.Kind.RAISED, after));
            else if (before != null && after == null) told.add(changed(one, Transition.Kind.CLEARED, null));
            else if (before != null && after != null && after != before) {
                var kind = after.worseThan(before) ? Transition.Kind.ROSE : Transition.Kind.EASED;
                told.add(changed(one, kind, after));
            }
        }
        return told;
    }

    private static <M> Of<M> changed(Of<M> one, Transition.Kind kind, @Nullable Severity level) {
        var change = one.transition();
        Instant at = change.at();
        return new Of<>(one.member(), new Transition(kind, at, level, change.value(), change.worst()));
    }

    private static <M> @Nullable Severity worst(Map<M, Severity> levels) {
        return levels.values().stream().max(Severity::compareTo).orElse(null);
    }
}
