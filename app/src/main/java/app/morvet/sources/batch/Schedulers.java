package app.morvet.sources.batch;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The schedulers that report runs: where they take orders, and how many jobs they run at once. */
@Repository
public class Schedulers {
    /**
     * @param url     where it is reached
     * @param path    where orders are posted to
     * @param headers a line each; may bear a secret
     * @param slots   how many jobs it runs at once; 0 where that is not limited
     * @param version counts its changes
     */
    public record Connection(long feed, String url, String path, String headers, int slots, int version) {
        public String address() {
            return url.replaceAll("/+$", "") + path;
        }
    }

    private final JdbcClient jdbc;

    Schedulers(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public List<Connection> all() {
        return jdbc.sql("select * from scheduler order by feed_id")
                .query((row, number) -> new Connection(
                        row.getLong("feed_id"),
                        row.getString("url"),
                        row.getString("path"),
                        row.getString("headers"),
                        row.getInt("slots"),
                        row.getInt("version")))
                .list();
    }

    public Optional<Connection> of(long feed) {
        return all().stream().filter(one -> one.feed() == feed).findFirst();
    }

    /** Writes a connection, where its version is still the one given; version 0 where it is new. */
    public boolean keep(Connection one) {
        return jdbc.sql(
                                """
                        insert into scheduler (feed_id, url, path, headers, slots) values (:feed, :url, :path, :headers, :slots)
                            on conflict (feed_id) do update
                           set url = excluded.url, path = excluded.path, headers = excluded.headers, slots = excluded.slots,
                               version = scheduler.version + 1
                         where scheduler.version = :version""")
                        .param("feed", one.feed())
                        .param("url", one.url())
                        .param("path", one.path())
                        .param("headers", one.headers())
                        .param("slots", one.slots())
                        .param("version", one.version())
                        .update()
                == 1;
    }

    /** The limited slots, as pools: which feed has which place in the list. */
    record Pools(List<Integer> slots, Map<Long, Integer> place) {}

    Pools pools() {
        var slots = new ArrayList<Integer>();
        var place = new HashMap<Long, Integer>();
        for (var one : all())
            if (one.slots() > 0) {
                place.put(one.feed(), slots.size());
                slots.add(one.slots());
            }
        return new Pools(slots, place);
    }
}
