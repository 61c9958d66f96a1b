package app.morvet.work.channels;

import app.morvet.core.callouts.Way;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Unanswered;
import java.util.Map;
import java.util.Set;

/** A kind of what is told outside, where no person is meant: a bean for each. */
public interface Outside {
    /** What may stand in what is sent. {@code state} is {@code open} or {@code over}; {@code id} is what the item is called there. */
    Set<String> FACTS = Set.of(
            "title",
            "text",
            "state",
            "severity",
            "case",
            "component",
            "application",
            "team",
            "link",
            "key",
            "id",
            "test");

    /** The sort of its connections. */
    String kind();

    Way way();

    /**
     * @param values by {@link #FACTS}
     * @param key    the same for each try
     * @param id     what the item is called there by now; empty for a new one
     * @return what it is called there; empty where it has no name there
     */
    String send(Connection to, Map<String, String> values, String key, String id)
            throws Unanswered, InterruptedException;
}
