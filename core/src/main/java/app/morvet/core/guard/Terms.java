package app.morvet.core.guard;

import org.jspecify.annotations.Nullable;

/**
 * What all kinds of guards have beside their condition.
 *
 * @param clearing how an alert ends
 * @param noData   what silence means
 * @param grouping what has one alert together
 * @param hours    when the guard applies; null for always. An alert that is up when they end is over then.
 * @param damping  when an alert counts as flapping; null for never
 */
public record Terms(
        Clearing clearing, NoData noData, Grouping grouping, @Nullable Hours hours, @Nullable Damping damping) {
    public static Terms clearing(double margin, java.time.Duration time) {
        return new Terms(new Clearing(margin, time), NoData.NOTHING, Grouping.EACH_SUBJECT, null, null);
    }

    public Terms withNoData(NoData other) {
        return new Terms(clearing, other, grouping, hours, damping);
    }

    public Terms withDamping(@Nullable Damping other) {
        return new Terms(clearing, noData, grouping, hours, other);
    }
}
