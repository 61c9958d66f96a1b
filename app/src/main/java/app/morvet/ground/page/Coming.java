package app.morvet.ground.page;

import java.time.Instant;
import java.util.List;

/** A feature that knows what is coming. */
public interface Coming {
    /** What comes in a half-open span. */
    List<Item> coming(Instant from, Instant to);

    /**
     * @param mark  relief mark: how bad it looks; {@code steady} where nothing is wrong with it
     * @param words what it is, with what can be said of how it will go
     */
    record Item(Instant at, String mark, String words, String link) {}
}
