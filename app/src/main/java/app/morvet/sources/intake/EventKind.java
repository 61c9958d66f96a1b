package app.morvet.sources.intake;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import tools.jackson.databind.JsonNode;

/**
 * A sort of events that intake takes, of one type or of several. A feature that takes some gives it as a bean; what is common
 * to all events is read before it is asked, and what is good is passed to it in the transaction that acknowledges it.
 *
 * @param <T> what the data of such an event says
 */
public interface EventKind<T> {
    /** The types of its events, each of one kind only. */
    List<String> types();

    /** The kind of component whose key the {@code subject} is; empty where that is no component. */
    Optional<String> about();

    /**
     * @param at   when it happened
     * @param data a JSON object
     * @throws EventRefused             where it is not as it should be
     * @throws IllegalArgumentException likewise; what core says
     */
    T read(String type, JsonNode data, Instant at) throws EventRefused;

    /**
     * Makes ready for what has arrived: what must be there before anything is stored, such as partitions of tables, and what
     * takes time to find out. It does so in transactions of its own, since who has one connection may not wait for a second.
     *
     * @return stores it; run in the transaction that acknowledges it
     */
    Runnable arriving(long feed, List<Arrived<T>> events);

    /**
     * An event that was judged good.
     *
     * @param id        the sender's id of it
     * @param component the id of what it is about; 0 where its subject is no component
     */
    record Arrived<T>(String id, String subject, long component, Instant at, T said) {}
}
