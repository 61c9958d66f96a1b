package app.morvet.views.shift;

import java.util.ArrayList;
import java.util.List;

/**
 * The estate at a look: a sentence over all, and a row for each application.
 *
 * @param rows those that need eyes, in their order
 * @param fits how many applications there are at all that fit what is asked for
 */
record Look(List<Part> sentence, List<Row> rows, List<Row> quiet, int fits, List<Tick> ticks, double now, int width) {
    /** More than a screen holds; the rest comes when somebody asks for it. */
    static final int SHOWN = 50;

    /** From so many on rows stand closer, each on one line, so that forty fit a screen of 1280 by 800. */
    private static final int MANY = 15;

    /** After all tiers. */
    static final int NO_TIER = 9;

    private static final int NAMED_QUIET = 12;

    /** A part of the sentence over all. */
    record Part(String key, String words, String mark, boolean chosen) {}

    /** What is wrong with an application, once however many of its components have it. */
    record Phrase(String mark, String words, String since, String who, String link) {}

    record Step(double x, double width, String mark, String words) {}

    /** @param css {@code hold}, {@code pause}, {@code none} or {@code vendor} */
    record Bar(double x, double width, String css, String words) {}

    record Flag(double x, String mark, String words, String link) {}

    /** @param more how many phrases there are besides those that are shown */
    record Row(
            String key,
            String name,
            int tier,
            String mark,
            List<Phrase> phrases,
            int more,
            List<Step> steps,
            List<Bar> bars,
            List<Flag> flags) {}

    record OfTier(int tier, List<Row> rows) {
        public String words() {
            return tier == NO_TIER ? "no tier" : "tier " + tier;
        }
    }

    record Tick(double x, String words) {}

    /** Whether rows stand closer, each on one line. */
    public boolean packed() {
        return rows.size() >= MANY;
    }

    /** Those that are shown at once, by tier. */
    public List<OfTier> tiers() {
        return byTier(rows.subList(0, Math.min(SHOWN, rows.size())));
    }

    /** The rest, in the order of the first. */
    public List<OfTier> rest() {
        return byTier(rows.subList(Math.min(SHOWN, rows.size()), rows.size()));
    }

    /** How many the rest are. */
    public int more() {
        return Math.max(0, rows.size() - SHOWN);
    }

    private static List<OfTier> byTier(List<Row> rows) {
        var tiers = new ArrayList<OfTier>();
        for (var row : rows) {
            if (tiers.isEmpty() || tiers.getLast().tier() != row.tier())
                tiers.add(new OfTier(row.tier(), new ArrayList<>()));
            tiers.getLast().rows().add(row);
        }
        return tiers;
    }

    /** Those that are named. */
    public List<Row> firstQuiet() {
        return quiet.subList(0, Math.min(NAMED_QUIET, quiet.size()));
    }
}
