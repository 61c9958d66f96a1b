package app.morvet.sources.intake;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What states said beside their words. Published in the transaction that stores the states, behind them.
 *
 * @param feed that told it; null for what Morvet found itself
 */
public record StatesSaid(@Nullable Long feed, List<Said> all) {
    /**
     * @param at    microseconds since 1970
     * @param place of the word beside which it was said
     */
    public record Said(long series, long at, int place, String text) {}
}
