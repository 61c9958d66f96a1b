package app.morvet.ground.nodes;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;

/** All SQL of nodes and leases, as one node says it. */
final class LeaseStore {
    private final JdbcClient jdbc;
    private final String node;

    LeaseStore(JdbcClient jdbc, String node) {
        this.jdbc = jdbc;
        this.node = node;
    }

    /** Says that this node lives; tells how many do. */
    int live() {
        jdbc.sql(
                        """
                        insert into live_node (id, until) values (:node, clock_timestamp() + :lasts * interval '1 s')
                            on conflict (id) do update set until = excluded.until""")
                .param("node", node)
                .param("lasts", Leases.LAST.toSeconds())
                .update();
        jdbc.sql("delete from live_node where until < clock_timestamp() - interval '1 hour'")
                .update();
        return jdbc.sql("select count(*) from live_node where until > clock_timestamp()")
                .query(Integer.class)
                .single();
    }

    void gone() {
        jdbc.sql("delete from live_node where id = :node").param("node", node).update();
    }

    void make(String name, int parts) {
        jdbc.sql(
                        """
                        insert into lease (name, part) select :name, part from generate_series(0, :parts - 1) part
                            on conflict do nothing""")
                .param("name", name)
                .param("parts", parts)
                .update();
    }

    /**
     * Takes free parts. One that is being written under at this moment, by a node that was late to renew, is left for the next
     * time.
     *
     * @return their epochs
     */
    Map<Integer, Long> take(String name, int most) {
        var taken = new HashMap<Integer, Long>();
        jdbc.sql(
                        """
                        with free as materialized (
                            select part from lease where name = :name and until <= clock_timestamp()
                             order by part limit :most for update skip locked)
                        update lease l
                           set holder = :node, epoch = l.epoch + 1, until = clock_timestamp() + :lasts * interval '1 s'
                          from free where l.name = :name and l.part = free.part
                        returning l.part, l.epoch""")
                .param("name", name)
                .param("most", most)
                .param("node", node)
                .param("lasts", Leases.LAST.toSeconds())
                .query(row -> {
                    taken.put(row.getInt("part"), row.getLong("epoch"));
                });
        return taken;
    }

    void giveBack(String name, int part, long epoch) {
        jdbc.sql(
                        """
                        update lease set holder = '', until = '-infinity'
                         where name = :name and part = :part and holder = :node and epoch = :epoch""")
                .param("name", name)
                .param("part", part)
                .param("node", node)
                .param("epoch", epoch)
                .update();
    }

    /** Keeps what is held of some work for longer; tells what that is: by part, its epoch. */
    Map<Integer, Long> renew(String name) {
        var held = new HashMap<Integer, Long>();
        jdbc.sql(
                        """
                        update lease set until = clock_timestamp() + :lasts * interval '1 s'
                         where name = :name and holder = :node
                        returning part, epoch""")
                .param("name", name)
                .param("node", node)
                .param("lasts", Leases.LAST.toSeconds())
                .query(row -> {
                    held.put(row.getInt("part"), row.getLong("epoch"));
                });
        return held;
    }

    /** How many of some parts are held with some epochs; they stay so to the end of the transaction. */
    int stillHeld(String name, List<Integer> parts, List<Long> epochs) {
        // Renewing goes on beside this lock; taking does not.
        return jdbc.sql(
                        """
                        select l.part from lease l
                          join unnest(:parts::int[], :epochs::bigint[]) as wanted(part, epoch)
                            on wanted.part = l.part and wanted.epoch = l.epoch
                         where l.name = :name and l.holder = :node
                           for key share of l""")
                .param("parts", parts.toArray(Integer[]::new))
                .param("epochs", epochs.toArray(Long[]::new))
                .param("name", name)
                .param("node", node)
                .query(Integer.class)
                .list()
                .size();
    }
}
