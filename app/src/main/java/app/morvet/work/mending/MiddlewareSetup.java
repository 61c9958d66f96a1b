package app.morvet.work.mending;

import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Service;

/** Where the middleware behind feeds take the order to send a message again. */
@Service
public class MiddlewareSetup {
    static final String SORT = "middleware";
    static final String PATH = "sendPath";

    private final Connections connections;

    MiddlewareSetup(Connections connections) {
        this.connections = connections;
    }

    /** Connects one from code, where an installation brings its own; all as in the settings of a connection, see Setup. */
    public void connect(long feed, String name, String url, String sendPath, String headers) {
        connections.keep(connection(feed, name, url, sendPath, headers, 0));
    }

    static Connection connection(long feed, String name, String url, String sendPath, String headers, int version) {
        return new Connection(0, SORT, "feed-" + feed, feed, name, url, headers, "", Map.of(PATH, sendPath), version);
    }

    /** The feeds whose middleware sends messages again. */
    Long[] feeds() {
        return connections.of(SORT).stream()
                .map(Connection::feed)
                .filter(Objects::nonNull)
                .toArray(Long[]::new);
    }
}
