package app.morvet.core.messages;

import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * In which order failed messages are sent again: the oldest first. Messages of one business key tell of the same thing, so a
 * later one must not overtake an earlier one: once one of a key does not arrive, those after it are held back.
 */
public final class SendOrder {
    /**
     * A message that is to be sent again.
     *
     * @param id  tells two of the same instant apart, the earlier one smaller
     * @param key business key; messages with an empty one have nothing to do with each other
     */
    public record Waiting(Instant at, long id, String key) {}

    private final Set<String> held = new HashSet<>();

    /** @param held business keys of which one has not arrived already */
    public SendOrder(Collection<String> held) {
        held.stream().filter(key -> !key.isEmpty()).forEach(this.held::add);
    }

    public static <T> List<T> oldestFirst(Collection<T> messages, java.util.function.Function<T, Waiting> of) {
        return messages.stream()
                .sorted(Comparator.comparing((T one) -> of.apply(one).at())
                        .thenComparing(one -> of.apply(one).id()))
                .toList();
    }

    /** Whether a message of this key must wait for a person, since an earlier one did not arrive. */
    public boolean holdsBack(String key) {
        return held.contains(key);
    }

    /** One of this key did not arrive. */
    public void didNotArrive(String key) {
        if (!key.isEmpty()) held.add(key);
    }
}
