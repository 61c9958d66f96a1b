package app.morvet.sources.outposts;

import java.time.Instant;
import java.util.List;
import tools.jackson.databind.JsonNode;

/** Something that outposts do for a feature, which says what, and takes what comes of it. */
public interface OutpostPart {
    /** As it stands in a brief, and in what is told: {@code checks}. */
    String name();

    /** What one outpost is to do, for its brief. */
    default List<? extends JsonNode> brief(long outpost) {
        return List.of();
    }

    /** A text that differs whenever that does. */
    default String stamp(long outpost) {
        return "";
    }

    /** What it is to do once and at once. Asked for whenever it is heard. */
    default List<? extends JsonNode> now(Outpost outpost, Instant now) {
        return List.of();
    }

    /**
     * Takes one thing that it tells. What was taken before may come again, and changes nothing then.
     *
     * @throws IllegalArgumentException where it may not tell that, or it means nothing; says why
     */
    void take(Outpost outpost, JsonNode told, Instant now);
}
