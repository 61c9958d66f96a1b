package app.morvet.work.handoffs;

import app.morvet.ground.connections.Connections;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** The ticket desks that are connected. */
@Service
public class Desks {
    private final Connections connections;

    Desks(Connections connections) {
        this.connections = connections;
    }

    /** Whether there is one to which a case can be handed off. */
    public boolean connected() {
        return !connections.of(DeskConnection.SORT).isEmpty();
    }

    List<DeskConnection> all() {
        return connections.of(DeskConnection.SORT).stream()
                .map(DeskConnection::of)
                .toList();
    }

    Optional<DeskConnection> byId(long id) {
        return connections.byId(id).map(DeskConnection::of);
    }

    Optional<DeskConnection> byKey(String key) {
        return connections.byKey(DeskConnection.SORT, key).map(DeskConnection::of);
    }

    boolean keep(DeskConnection desk) {
        return connections.keep(desk.connection());
    }

    /** Connects one from code, where an installation brings its own; all as in the settings of a connection, see Setup. */
    public void connect(
            String key,
            String name,
            String url,
            String createPath,
            String readPath,
            String pagePath,
            String headers,
            String template,
            String numberPath,
            String statePath,
            String reasonPath,
            String states,
            String secret,
            int pollSeconds) {
        keep(new DeskConnection(
                0,
                key,
                name,
                url,
                createPath,
                readPath,
                headers,
                template,
                numberPath,
                statePath,
                reasonPath,
                states,
                pagePath,
                secret,
                pollSeconds,
                0));
    }
}
