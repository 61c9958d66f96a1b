package app.morvet.ground.page;

import java.time.Instant;
import java.util.List;

/** A feature of which the log of the shift tells. */
public interface Logged {
    /**
     * What happened in a half-open span, the latest first.
     *
     * @param words only what has them, in whatever letters; empty for all
     * @param most  how many lines at most
     */
    List<Line> logged(Instant from, Instant to, String words, int most);

    /**
     * @param who  by name; empty where it was Morvet
     * @param kind in a word: {@code case}, {@code call-out}, {@code window}, {@code change}, {@code note}, {@code handover}
     */
    record Line(Instant at, String who, String kind, String words, String link) {}

    /** A text as a pattern of SQL's {@code ilike} that has it anywhere. */
    static String anywhere(String words) {
        return "%" + words.strip().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }
}
