package app.morvet.core.alert;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The life of alerts whose origins say what they find now: what is found for the first time is raised, what is found worse or
 * milder rises or eases, what is found no longer is over. (Guards walk from instant to instant and so know their
 * transitions themselves.)
 */
public final class AlertLife {
    /** Which of two values of an origin is the worse; NaN is none. */
    public interface Worse {
        double of(Origin origin, double one, double other);
    }

    private record Fold(Origin origin, String key) {}

    private AlertLife() {}

    /**
     * What happened, over before raised where both are of one alert.
     *
     * @param raised   the alerts of these origins that are up
     * @param findings all that these origins find now; the worst counts where there is more than one of an alert
     */
    public static List<Move> moves(Collection<Raised> raised, Collection<Finding> findings, Instant now, Worse worse) {
        var gone = new LinkedHashMap<Fold, Raised>();
        raised.forEach(one -> gone.put(new Fold(one.origin(), one.key()), one));
        var found = new LinkedHashMap<Fold, Finding>();
        for (var one : findings)
            found.merge(
                    new Fold(one.origin(), one.key()), one, (a, b) -> b.level().worseThan(a.level()) ? b : a);
        var moves = new ArrayList<Move>();
        found.forEach((fold, finding) -> {
            var before = gone.remove(fold);
            if (before != null && !before.occasion().equals(finding.occasion())) {
                moves.add(over(before, now));
                before = null;
            }
            var move = move(before, finding, now, worse);
            if (move != null) moves.add(move);
        });
        gone.values().forEach(one -> moves.add(over(one, now)));
        return moves;
    }

    private static @Nullable Move move(@Nullable Raised before, Finding finding, Instant now, Worse worse) {
        if (before != null
                && before.level() == finding.level()
                && before.words().equals(finding.words())) return null;
        double value = finding.value();
        double worst = before == null ? value : worse.of(finding.origin(), before.worst(), value);
        var raisedAt = finding.since().isBefore(now) ? finding.since() : now;
        var transition = Transition.between(
                before == null ? null : before.level(), finding.level(), before == null ? raisedAt : now, value, worst);
        return new Move(
                finding.origin(),
                finding.key(),
                finding.about(),
                null,
                transition,
                finding.words(),
                Double.compare(worst, value) == 0 ? finding.words() : null,
                finding.occasion());
    }

    private static Move over(Raised one, Instant now) {
        var transition = Transition.between(one.level(), null, now, one.value(), one.worst());
        return new Move(one.origin(), one.key(), one.about(), null, transition, one.words(), null, one.occasion());
    }
}
