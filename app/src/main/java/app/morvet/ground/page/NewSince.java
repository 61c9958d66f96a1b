package app.morvet.ground.page;

import java.time.Instant;
import java.util.List;

/** A feature that can say what is new to whoever has been away. Says nothing of what there was none of. */
public interface NewSince {
    List<Line> since(Instant since);

    /** @param words such as {@code 4 cases opened}; {@code link} to just these */
    record Line(String words, String link) {}

    /** {@code 1 case opened}, {@code 4 cases opened} */
    static String words(long count, String one, String many) {
        return count + " " + (count == 1 ? one : many);
    }
}
