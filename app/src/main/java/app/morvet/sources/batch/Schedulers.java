package app.morvet.sources.batch;

import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** The schedulers that report runs: where they take orders, and how many jobs they run at once. */
@Service
public class Schedulers {
    public static final String SORT = "scheduler";
    /** The settings: where orders are posted to, and how many jobs it runs at once; 0 where that is not limited. */
    public static final String PATH = "path";

    public static final String SLOTS = "slots";

    private final Connections connections;

    Schedulers(Connections connections) {
        this.connections = connections;
    }

    public static Connection connection(
            long feed, String name, String url, String path, String headers, int slots, int version) {
        return new Connection(
                0, SORT, "feed-" + feed, feed, name, url, headers, "", Map.of(PATH, path, SLOTS, "" + slots), version);
    }

    public List<Connection> all() {
        return connections.of(SORT);
    }

    public Optional<Connection> of(long feed) {
        return connections.ofFeed(SORT, feed);
    }

    public static int slots(Connection one) {
        return one.get(SLOTS).isEmpty() ? 0 : Integer.parseInt(one.get(SLOTS));
    }

    /** The limited slots, as pools: which feed has which place in the list. */
    record Pools(List<Integer> slots, Map<Long, Integer> place) {}

    Pools pools() {
        var slots = new ArrayList<Integer>();
        var place = new HashMap<Long, Integer>();
        for (var one : all())
            if (slots(one) > 0 && one.feed() != null) {
                place.put(one.feed(), slots.size());
                slots.add(slots(one));
            }
        return new Pools(slots, place);
    }
}
