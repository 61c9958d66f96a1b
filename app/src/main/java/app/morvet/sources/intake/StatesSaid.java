package app.morvet.sources.intake;

import java.util.List;

/** What states said beside their words. Published in the transaction that stores the states, behind them. */
public record StatesSaid(long feed, List<Said> all) {
    /**
     * @param at    microseconds since 1970
     * @param place of the word beside which it was said
     */
    public record Said(long series, long at, int place, String text) {}
}
