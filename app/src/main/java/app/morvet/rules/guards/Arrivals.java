package app.morvet.rules.guards;

import app.morvet.core.readings.Micros;
import app.morvet.ground.base.Snapshot;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.messages.FailuresRecorded;
import app.morvet.sources.readings.ReadingsRecorded;
import app.morvet.sources.readings.SeriesBook;
import java.nio.ByteBuffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;
import java.util.function.LongUnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What was taken in and is to be judged, on whatever node it was taken in: a queue in the store, written in the transaction that
 * stores readings or failed messages, and read by all nodes, each of which has its own place in it. Places are those of
 * PostgreSQL's snapshots, so what is committed late is not missed, and nothing comes twice. Where there are several nodes it is put
 * down in {@linkplain Slice slices}, so that each reads what falls to it and little else.
 */
@Component
class Arrivals {
    private static final String NOTICE = "arrivals";
    private static final Duration KEPT = Duration.ofMinutes(2);
    /** Well within that. */
    private static final Duration MOST_BEHIND = Duration.ofMinutes(1);

    /** By one node or another. */
    private static final Duration CLEANED_EVERY = Duration.ofSeconds(15);
    /** Others hear of what arrives at most so often. */
    private static final Duration BREATH = Duration.ofMillis(50);

    /** In bytes: of what, and when. */
    private static final int A_FAILURE = 16;
    /** The same, and its value. */
    private static final int A_READING = 24;

    /** What one transaction stored: readings of series, or failed messages of components, which have no value. */
    record Arrived(long transaction, boolean failures, long[] of, long[] at, double[] values) {}

    /**
     * What is new.
     *
     * @param upTo the next place
     */
    record Some(List<Arrived> all, Place upTo) {}

    /** How far somebody has read. */
    record Place(Snapshot seen, String text, long nanos) {}

    private final JdbcClient jdbc;
    private final Notices notices;
    private final Leases leases;
    /** The bits of slices that others have yet to be told of. */
    private final AtomicLong toTell = new AtomicLong();

    private final SeriesBook book;
    private volatile LongConsumer wake = bits -> {};
    private volatile LongUnaryOperator sliceOf = component -> Slice.ALL;
    private volatile boolean lost;
    private long cleanedAt;

    Arrivals(JdbcClient jdbc, Notices notices, Leases leases, SeriesBook book) {
        this.book = book;
        this.jdbc = jdbc;
        this.notices = notices;
        this.leases = leases;
        notices.hearOthers(NOTICE, what -> wake.accept(bits(what)));
        notices.connectedAgain(() -> lost = true);
    }

    /**
     * Somebody hears of what arrives.
     *
     * @param who   is told when something has: the bits of the slices that it is in, and perhaps of more
     * @param slice gives the slice of all components that one is in, as a bit; the same on all nodes
     */
    void hear(LongConsumer who, LongUnaryOperator slice) {
        wake = who;
        sliceOf = slice;
    }

    @EventListener
    void on(ReadingsRecorded recorded) {
        put(false, recorded.series(), recorded.times(), recorded.values(), this::sliceOfSeries);
    }

    @EventListener
    void on(FailuresRecorded recorded) {
        var failures = recorded.failures();
        put(
                true,
                failures.stream().mapToLong(FailuresRecorded.Failure::component).toArray(),
                failures.stream().mapToLong(one -> Micros.of(one.at())).toArray(),
                new double[0],
                sliceOf);
    }

    /** It was looked up before it was stored, so it is known, or anybody's. */
    private long sliceOfSeries(long id) {
        var series = book.known(id);
        return series == null ? Slice.ALL : sliceOf.applyAsLong(series.component());
    }

    private void put(boolean failures, long[] of, long[] at, double[] values, LongUnaryOperator slice) {
        var slices =
                leases.nodes() < 2 ? List.of(new Slice(Slice.ALL, of, at, values)) : Slice.cut(of, at, values, slice);
        jdbc.sql(
                        """
                        insert into arrival (failures, slices, told)
                        select :failures, s.slices, s.told from unnest(:slices::bigint[], :told::bytea[]) s (slices, told)""")
                .param("failures", failures)
                .param("slices", slices.stream().map(Slice::bits).toArray(Long[]::new))
                .param("told", slices.stream().map(Arrivals::bytes).toArray(byte[][]::new))
                .update();
        long bits = slices.stream().mapToLong(Slice::bits).reduce(0, (one, other) -> one | other);
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                wake.accept(bits);
                tellOthers(bits);
            }
        });
    }

    /** Outside of the transaction, since notices put transactions in turn; a node that hears none looks now and then. */
    private void tellOthers(long bits) {
        if (leases.nodes() < 2 || bits == 0 || toTell.getAndUpdate(before -> before | bits) != 0) return;
        Thread.ofVirtual().name("arrivals").start(() -> {
            try {
                Thread.sleep(BREATH);
            } catch (InterruptedException stop) {
                Thread.currentThread().interrupt();
            }
            notices.tell(NOTICE, Long.toHexString(toTell.getAndSet(0)));
        });
    }

    /** Those of a notice; of one that was lost nothing is known. */
    static long bits(String what) {
        return what.isEmpty() ? Slice.ALL : Long.parseUnsignedLong(what, 16);
    }

    /** The place of who has just begun, and reads from the store what was before. */
    Place now() {
        lost = false;
        return place(jdbc.sql("select pg_current_snapshot()::text")
                .query(String.class)
                .single());
    }

    private static Place place(String text) {
        return new Place(Snapshot.parse(text), text, System.nanoTime());
    }

    /**
     * What has arrived since a place; null where something may be gone from the queue, so that the store must be read.
     *
     * @param wanted the bits of the slices that are wanted; of others there may be some
     */
    @Nullable
    Some since(Place before, long wanted) {
        var text = new String[1];
        var all = new ArrayList<Arrived>();
        jdbc.sql(
                        """
                        select pg_current_snapshot()::text as place, a.tx::text as tx, a.failures, a.told
                          from (values (1)) always
                          left join (select tx, failures, string_agg(told, '' order by slices) as told from arrival
                                      where tx >= :from::xid8 and not pg_visible_in_snapshot(tx, :before::pg_snapshot)
                                        and slices & :wanted <> 0
                                      group by tx, failures) a on true
                         order by a.tx""")
                .param("from", Long.toString(before.seen().from()))
                .param("before", before.text())
                .param("wanted", wanted)
                .query(row -> {
                    text[0] = row.getString("place");
                    var told = row.getBytes("told");
                    if (told != null) all.add(arrived(row.getLong("tx"), row.getBoolean("failures"), told));
                });
        var place = place(text[0]);
        if (lost || place.nanos() - before.nanos() > MOST_BEHIND.toNanos()) return null;
        clean(place.nanos());
        return new Some(all, place);
    }

    private void clean(long now) {
        if (now - cleanedAt < CLEANED_EVERY.multipliedBy(leases.nodes()).toNanos()) return;
        cleanedAt = now;
        jdbc.sql("delete from arrival where at < clock_timestamp() - :kept * interval '1 s'")
                .param("kept", KEPT.toSeconds())
                .update();
    }

    /** One after the other, so that slices put behind each other are the same as one. */
    private static byte[] bytes(Slice one) {
        boolean failures = one.values().length == 0;
        var bytes = ByteBuffer.allocate(one.of().length * (failures ? A_FAILURE : A_READING));
        for (int i = 0; i < one.of().length; i++) {
            bytes.putLong(one.of()[i]).putLong(one.at()[i]);
            if (!failures) bytes.putDouble(one.values()[i]);
        }
        return bytes.array();
    }

    private static Arrived arrived(long transaction, boolean failures, byte[] told) {
        int count = told.length / (failures ? A_FAILURE : A_READING);
        var of = new long[count];
        var at = new long[count];
        var values = new double[failures ? 0 : count];
        var bytes = ByteBuffer.wrap(told);
        for (int i = 0; i < count; i++) {
            of[i] = bytes.getLong();
            at[i] = bytes.getLong();
            if (!failures) values[i] = bytes.getDouble();
        }
        return new Arrived(transaction, failures, of, at, values);
    }
}
