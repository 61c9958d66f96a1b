package app.morvet.sources.readings;

import app.morvet.core.readings.Buckets;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.PackedReadings;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import app.morvet.core.readings.StateWords;
import app.morvet.ground.base.DayPartitions;
import app.morvet.ground.base.Stamp;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.LongFunction;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * The SQL by which readings are stored and sealed. They come in by binary COPY into a table of the connection's own, and from there into the hot table
 * without what is known already: of several readings of one series at one instant the first that was heard stands, so a
 * sender may send again whatever was not answered.
 */
@Repository
class ReadingStore {
    private static final int REGISTERING = 0x6d6f7278;

    private static final long POSTGRES_EPOCH_MICROS = 946_684_800_000_000L;
    private static final byte[] COPY_HEAD = "PGCOPY\n\377\r\n\0\0\0\0\0\0\0\0\0".getBytes(StandardCharsets.ISO_8859_1);

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final DataSource dataSource;
    private final DayPartitions partitions;
    private final HistoryStore history;
    private final JsonMapper json;

    ReadingStore(
            JdbcClient jdbc,
            JdbcTemplate template,
            DataSource dataSource,
            DayPartitions partitions,
            HistoryStore history,
            JsonMapper json) {
        this.jdbc = jdbc;
        this.template = template;
        this.dataSource = dataSource;
        this.partitions = partitions;
        this.history = history;
        this.json = json;
    }

    List<Measure> measures() {
        return jdbc.sql("select id, name, sort, unit, help from measure")
                .query((row, number) -> new Measure(
                        row.getLong("id"),
                        row.getString("name"),
                        Sort.valueOf(row.getString("sort")),
                        row.getString("unit"),
                        row.getString("help")))
                .list();
    }

    List<Series> series(long after, LongFunction<Measure> measures) {
        return jdbc.sql(
                        "select id, component_id, measure_id, labels, feed_id, told_on_change, promised from series where id > :after order by id")
                .param("after", after)
                .query((row, number) -> new Series(
                        row.getLong("id"),
                        row.getLong("component_id"),
                        measures.apply(row.getLong("measure_id")),
                        labels(row.getString("labels")),
                        row.getObject("feed_id", Long.class),
                        row.getBoolean("told_on_change"),
                        seconds(row.getObject("promised", Integer.class))))
                .list();
    }

    private Map<String, String> labels(String text) {
        return "{}".equals(text) ? Map.of() : json.readValue(text, new TypeReference<TreeMap<String, String>>() {});
    }

    /**
     * Until the end of the transaction, no other registers series: so their ids are seen in the order in which they were given
     * out, and whoever has read up to one has missed none before it.
     */
    void registerInTurn() {
        jdbc.sql("select 1 from (select pg_advisory_xact_lock(:lock)) as locked")
                .param("lock", REGISTERING)
                .query(Integer.class)
                .single();
    }

    void addMeasure(String name, Sort sort, String unit, String help) {
        jdbc.sql(
                        """
                        insert into measure (name, sort, unit, help) values (:name, :sort, :unit, left(:help, 500))
                            on conflict (name) do nothing""")
                .param("name", name)
                .param("sort", sort.name())
                .param("unit", unit)
                .param("help", help)
                .update();
    }

    private static @Nullable Duration seconds(@Nullable Integer seconds) {
        return seconds == null ? null : Duration.ofSeconds(seconds);
    }

    void promise(long series, Duration every) {
        jdbc.sql("update series set promised = :seconds where id = :id")
                .param("seconds", (int) every.toSeconds())
                .param("id", series)
                .update();
    }

    /** Those that are over. */
    Set<Long> ended() {
        return Set.copyOf(jdbc.sql("select id from series where ended_at is not null")
                .query(Long.class)
                .list());
    }

    /**
     * In the running transaction.
     *
     * @param at null where they are heard again
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void end(Collection<Long> series, @Nullable Instant at) {
        jdbc.sql("update series set ended_at = :at::timestamptz where id = any(:series::bigint[])")
                .param("at", at == null ? null : Stamp.of(at))
                .param("series", series.toArray(Long[]::new))
                .update();
    }

    void keepWords(long measure, StateWords words) {
        jdbc.sql("update measure set unit = :words where id = :id")
                .param("words", words.text())
                .param("id", measure)
                .update();
    }

    void addSeries(SeriesBook.Newcomer one, long measure, @Nullable Long feed, Instant at) {
        jdbc.sql(
                        """
                        insert into series (component_id, measure_id, labels, feed_id, told_on_change, promised, first_seen)
                        values (:component, :measure, :labels::jsonb, :feed::bigint, :onChange, :promised::int, :at)
                            on conflict (component_id, measure_id, labels) do nothing""")
                .param("component", one.component())
                .param("measure", measure)
                .param("labels", json.writeValueAsString(new TreeMap<>(one.labels())))
                .param("feed", feed)
                .param("onChange", one.toldOnChange())
                .param(
                        "promised",
                        one.promised() == null ? null : (int) one.promised().toSeconds())
                .param("at", Stamp.of(at))
                .update();
    }

    /** Every interface has a series of its failed messages. Tells how many were added. */
    int addFailedSeries(Instant at) {
        return jdbc.sql(
                        """
                        insert into series (component_id, measure_id, labels, first_seen)
                        select c.id, m.id, '{}', :at from component c, measure m
                         where c.kind = 'interface' and m.name = 'failed_messages'
                           and not exists (select 1 from series s where s.component_id = c.id and s.measure_id = m.id)
                            on conflict (component_id, measure_id, labels) do nothing""")
                .param("at", Stamp.of(at))
                .update();
    }

    /** Makes the days of readings that are about to be stored; before the transaction that stores them. */
    void prepare(long[] times) {
        partitions.ensure("reading", days(times));
    }

    /** Stores readings, in the running transaction, and tells which of them are new. */
    ReadingsRecorded add(long[] series, long[] times, double[] values) {
        var connection = DataSourceUtils.getConnection(dataSource);
        try (var statement = connection.createStatement()) {
            statement.execute(
                    "create temp table if not exists fresh_reading (series_id bigint, at timestamptz, value float8) on commit delete rows");
            var copy = connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy fresh_reading (series_id, at, value) from stdin (format binary)");
            var bytes = rows(series, times, values);
            copy.writeToCopy(bytes, 0, bytes.length);
            copy.endCopy();
        } catch (SQLException failed) {
            throw new org.springframework.jdbc.UncategorizedSQLException("copying readings", "copy", failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
        int added = template.update(
                "insert into reading (series_id, at, value) select series_id, at, value from fresh_reading on conflict do nothing");
        return added == series.length
                ? new ReadingsRecorded(series, times, values)
                : onlyNew(series, times, values, added);
    }

    /**
     * Which of the rows are those that were inserted just now. Rare (a batch that is sent again), so it may cost a look at
     * each: a row is new when this transaction wrote it.
     */
    private ReadingsRecorded onlyNew(long[] series, long[] times, double[] values, int added) {
        var keptSeries = new long[added];
        var keptTimes = new long[added];
        var keptValues = new double[added];
        if (added > 0) {
            int[] at = {0};
            template.query(
                    """
                    select r.series_id, r.at, r.value
                      from (select distinct series_id, at from fresh_reading) f
                      join reading r using (series_id, at)
                     where r.xmin = pg_current_xact_id()::xid""",
                    row -> {
                        keptSeries[at[0]] = row.getLong(1);
                        keptTimes[at[0]] = Micros.of(row.getTimestamp(2).toInstant());
                        keptValues[at[0]++] = row.getDouble(3);
                    });
        }
        return new ReadingsRecorded(keptSeries, keptTimes, keptValues);
    }

    private static List<Instant> days(long[] times) {
        long day = 86_400_000_000L;
        return java.util.Arrays.stream(times)
                .map(at -> Math.floorDiv(at, day) * day)
                .distinct()
                .mapToObj(Micros::instant)
                .toList();
    }

    private static byte[] rows(long[] series, long[] times, double[] values) {
        var bytes = new ByteArrayOutputStream(32 + series.length * 38);
        try (var out = new DataOutputStream(bytes)) {
            out.write(COPY_HEAD);
            for (int i = 0; i < series.length; i++) {
                out.writeShort(3);
                out.writeInt(8);
                out.writeLong(series[i]);
                out.writeInt(8);
                out.writeLong(times[i] - POSTGRES_EPOCH_MICROS);
                out.writeInt(8);
                out.writeDouble(values[i]);
            }
            out.writeShort(-1);
        } catch (IOException never) {
            throw new UncheckedIOException(never);
        }
        return bytes.toByteArray();
    }

    /** Days whose hot rows are not sealed yet. */
    List<LocalDate> hotDays() {
        return partitions.days("reading").stream()
                .filter(day -> jdbc.sql("select exists (select 1 from " + DayPartitions.name("reading", day) + ")")
                        .query(Boolean.class)
                        .single())
                .toList();
    }

    /** Moves the hot rows of a day into packed rows, in the running transaction. Tells how many readings it packed. */
    int seal(LocalDate day) {
        var hot = DayPartitions.name("reading", day);
        var start = day.atStartOfDay(ZoneOffset.UTC).toInstant();
        // Whoever brings a late reading of this day waits until the day is packed, and then writes into the empty
        // table.
        jdbc.sql("lock table " + hot + " in exclusive mode").update();
        var packing = new Packing(start);
        template.query(
                connection -> {
                    var statement = connection.prepareStatement(
                            "select series_id, round(date_part('epoch', at) * 1000000)::bigint, value from " + hot
                                    + " order by series_id, at");
                    statement.setFetchSize(20_000);
                    return statement;
                },
                row -> {
                    packing.take(row.getLong(1), row.getLong(2), row.getDouble(3));
                });
        packing.done();
        jdbc.sql("truncate " + hot).update();
        return packing.count;
    }

    private final class Packing {
        private static final int BATCH = 500;
        private final Instant day;
        private final List<Object[]> rows = new ArrayList<>();
        private ReadingRing ring = new ReadingRing();
        private long series = -1;
        private int count;

        Packing(Instant day) {
            this.day = day;
        }

        void take(long of, long at, double value) {
            if (of != series) finish();
            series = of;
            ring.add(at, value);
            count++;
        }

        private void finish() {
            if (series < 0 || ring.size() == 0) return;
            var readings = history.withSealed(series, day, ring.all());
            rows.add(new Object[] {series, Stamp.of(day), readings.size(), PackedReadings.pack(readings)});
            ring = new ReadingRing();
            if (rows.size() >= BATCH) store();
        }

        void done() {
            finish();
            store();
        }

        private void store() {
            template.batchUpdate(
                    """
                    insert into sealed_day (series_id, day, readings, packed) values (?, ?, ?, ?)
                        on conflict (series_id, day) do update set readings = excluded.readings, packed = excluded.packed""",
                    rows);
            rows.clear();
        }
    }

    /** Whether the buckets of a histogram were told before. */
    boolean knows(String histogram) {
        return jdbc.sql("select exists (select 1 from histogram_base where series_key = :key)")
                .param("key", histogram)
                .query(Boolean.class)
                .single();
    }

    /** The buckets of the last page, and these in their place. */
    Optional<Buckets> exchange(String key, Buckets next) {
        var before = jdbc.sql("select bounds, counts from histogram_base where series_key = :key for update")
                .param("key", key)
                .query((row, number) ->
                        new Buckets(doubles((Double[]) row.getArray("bounds").getArray()), doubles((Double[])
                                row.getArray("counts").getArray())))
                .optional();
        jdbc.sql(
                        """
                        insert into histogram_base (series_key, bounds, counts) values (:key, :bounds, :counts)
                            on conflict (series_key) do update set bounds = excluded.bounds, counts = excluded.counts""")
                .param("key", key)
                .param("bounds", java.util.Arrays.stream(next.bounds()).boxed().toArray(Double[]::new))
                .param("counts", java.util.Arrays.stream(next.counts()).boxed().toArray(Double[]::new))
                .update();
        return before;
    }

    private static double[] doubles(Double[] boxed) {
        return java.util.Arrays.stream(boxed).mapToDouble(Double::doubleValue).toArray();
    }
}
