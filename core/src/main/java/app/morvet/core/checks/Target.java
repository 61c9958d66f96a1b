package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/** What a check asks, and what it expects. Each kind of check has one of its own, which says so in a sentence. */
public interface Target {
    /** How long it is waited for at most. */
    Duration patience();

    /** As {@code call https://fares.example and expect 200 within 800 ms}. */
    String words();

    /** The machines that are asked over the network, each with its port: what may be reached, and is not asked too often at once. */
    default List<String> hosts() {
        return List.of();
    }
}
