package app.morvet.core.batch;

import java.util.Arrays;

/** How far tasks can slip before anything is done later than it would be. */
final class Margins {
    /** Seconds that are nothing but rounding. */
    private static final double HAIR = 1e-6;

    private Margins() {}

    /** How far each task's end could slip before the last end of any chain moves. */
    static double[] of(PlannedTasks plan, PlayedNight trial, double[] lengths, PlayedNight pass) {
        int n = plan.n;
        var chain = new int[n];
        for (int i = 0; i < n; i++) {
            chain[i] = i;
            for (int wait : plan.waits[i]) chain[root(chain, wait)] = root(chain, i);
        }
        for (int i = 0; i < n; i++) chain[i] = root(chain, i);
        var last = lastEnds(chain, pass.end);
        var latest = new double[n];
        for (int i = 0; i < n; i++) latest[i] = last[chain[i]];
        var margin = new double[n];
        for (int i = n - 1; i >= 0; i--) {
            margin[i] = Math.max(0, latest[i] - pass.end[i]);
            double start = latest[i] - (pass.end[i] - pass.start[i]);
            for (int wait : plan.waits[i]) latest[wait] = Math.min(latest[wait], start);
        }
        if (trial.slots.length > 0)
            for (int i = 0; i < n; i++)
                if (margin[i] > 0 && plan.pool[i] >= 0) margin[i] = tried(i, margin[i], trial, lengths, chain, last);
        return margin;
    }

    private static double[] lastEnds(int[] chain, double[] ends) {
        var last = new double[ends.length];
        Arrays.fill(last, Double.NEGATIVE_INFINITY);
        for (int i = 0; i < ends.length; i++) last[chain[i]] = Math.max(last[chain[i]], ends[i]);
        return last;
    }

    /** A slip takes a slot from others for longer, so it is played: what the waits alone allow, or what of it does no harm. */
    private static double tried(int i, double most, PlayedNight trial, double[] lengths, int[] chain, double[] last) {
        if (unmoved(i, most, trial, lengths, chain, last)) return most;
        double harmless = 0;
        double harms = most;
        while (harms - harmless > 1) {
            double middle = (harmless + harms) / 2;
            if (unmoved(i, middle, trial, lengths, chain, last)) harmless = middle;
            else harms = middle;
        }
        return harmless;
    }

    private static boolean unmoved(
            int i, double slip, PlayedNight trial, double[] lengths, int[] chain, double[] last) {
        double usual = lengths[i];
        lengths[i] = usual + slip;
        trial.play(lengths);
        lengths[i] = usual;
        var ends = lastEnds(chain, trial.end);
        for (int k = 0; k < ends.length; k++) if (ends[k] > last[k] + HAIR) return false;
        return true;
    }

    private static int root(int[] together, int of) {
        int at = of;
        while (together[at] != at) {
            together[at] = together[together[at]];
            at = together[at];
        }
        return at;
    }
}
