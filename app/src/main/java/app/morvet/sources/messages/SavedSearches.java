package app.morvet.sources.messages;

import app.morvet.core.readings.Sort;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.SeriesBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Searches that were given a name. One that feeds a guard is counted: each failed message that it finds, as it comes in, is
 * one in a measure of its own, on the interface on which it failed.
 */
@Service
public class SavedSearches {
    private static final int MOST = 200;
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(5);

    /**
     * @param asks    the parameters of the search, as its address has them
     * @param measure the name of the measure that it feeds, or null
     */
    record Saved(long id, String name, Map<String, String> asks, @Nullable String measure) {}

    private static final String CHANGED = "saved-searches";

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final SearchStore search;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final Estate estate;
    private final Audit audit;
    private final Notices notices;
    private final Clock clock;
    private volatile List<Saved> feeding = List.of();
    private volatile Instant lookedAt = Instant.MIN;

    SavedSearches(
            JdbcClient jdbc,
            JsonMapper json,
            SearchStore search,
            SeriesBook series,
            ReadingBook readings,
            Estate estate,
            Audit audit,
            Notices notices,
            Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.search = search;
        this.series = series;
        this.readings = readings;
        this.estate = estate;
        this.audit = audit;
        this.notices = notices;
        this.clock = clock;
        notices.hear(CHANGED, none -> lookedAt = Instant.MIN);
    }

    List<Saved> all() {
        return jdbc.sql("select * from saved_search order by name limit :most")
                .param("most", MOST)
                .query((row, number) -> new Saved(
                        row.getLong("id"),
                        row.getString("name"),
                        json.readValue(row.getString("query"), new TypeReference<TreeMap<String, String>>() {}),
                        row.getString("measure")))
                .list();
    }

    /**
     * Keeps a search under a name; one of the same name is replaced.
     *
     * @param counted whether a guard can watch it
     * @throws IllegalArgumentException where it has no name
     */
    @Transactional
    void save(String name, MessageQuery query, String interfaceKey, boolean counted, Person by) {
        var called = name.strip();
        if (called.isEmpty() || called.length() > 60)
            throw new IllegalArgumentException("Give the search a name of at most 60 characters.");
        var kept = query.kept(interfaceKey);
        if (kept.isEmpty()) throw new IllegalArgumentException("This search asks for nothing that could be kept.");
        var measure = counted ? measureName(called) : null;
        all().stream()
                .filter(one -> measure != null
                        && measure.equals(one.measure())
                        && !one.name().equals(called))
                .findFirst()
                .ifPresent(other -> {
                    throw new IllegalArgumentException(
                            "The search \"%s\" feeds the measure %s already; choose another name."
                                    .formatted(other.name(), measure));
                });
        jdbc.sql(
                        """
                        insert into saved_search (name, person_id, query, measure)
                        values (:name, :person, :query::jsonb, :measure)
                            on conflict (name) do update set query = excluded.query, measure = excluded.measure""")
                .param("name", called)
                .param("person", by.id())
                .param("query", json.writeValueAsString(kept))
                .param("measure", measure)
                .update();
        audit.record(by, "search saved", "search " + called, null, kept + (counted ? ", counted as " + measure : ""));
        notices.tell(CHANGED);
        if (measure != null) register(measure, called, kept);
    }

    @Transactional
    void delete(long id, Person by) {
        var gone = all().stream().filter(one -> one.id() == id).findFirst();
        if (gone.isEmpty()) return;
        boolean own = jdbc.sql("select person_id = :person from saved_search where id = :id")
                .param("person", by.id())
                .param("id", id)
                .query(Boolean.class)
                .single();
        if (!own && !by.may("TUNE"))
            throw new AccessDeniedException("It is somebody else's search; a lead can delete it.");
        jdbc.sql("delete from saved_search where id = :id").param("id", id).update();
        audit.record(
                by,
                "search deleted",
                "search " + gone.get().name(),
                gone.get().asks().toString(),
                null);
        notices.tell(CHANGED);
    }

    private static String measureName(String name) {
        var plain = java.text.Normalizer.normalize(name, java.text.Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "_")
                .replaceAll("^_|_$", "");
        return "search_" + (plain.isEmpty() ? "unnamed" : plain);
    }

    /** The series are there at once, so that a guard can be made before anything is found. */
    private void register(String measure, String name, Map<String, String> asks) {
        var key = asks.get("interface");
        series.registerOwn(estate.interfaces().stream()
                .filter(one -> key == null || one.key().equals(key))
                .map(one -> newcomer(one.id(), measure, name))
                .toList());
    }

    private static SeriesBook.Newcomer newcomer(long component, String measure, String name) {
        return new SeriesBook.Newcomer(
                component, measure, Sort.COUNT, "", "Failed messages found by the search " + name + ".", Map.of());
    }

    /** Counts what has come in, in the transaction that makes it findable. */
    void feed(List<MessageId> messages) {
        if (lookedAt.plus(LOOKED_AT_EVERY).isBefore(clock.instant())) {
            feeding = all().stream().filter(one -> one.measure() != null).toList();
            lookedAt = clock.instant();
        }
        if (feeding.isEmpty() || messages.isEmpty()) return;
        var first = messages.stream().map(MessageId::at).min(Instant::compareTo).orElseThrow();
        var last = messages.stream().map(MessageId::at).max(Instant::compareTo).orElseThrow();
        for (var one : feeding) {
            var query = query(one.asks(), first, last.plusNanos(1000));
            if (query.isPresent()) count(one, search.among(query.get(), messages));
        }
    }

    private Optional<MessageQuery> query(Map<String, String> asks, Instant from, Instant to) {
        var key = asks.getOrDefault("interface", "");
        var subject = key.isEmpty() ? Optional.<Estate.Component>empty() : estate.byKey(key);
        if (!key.isEmpty() && subject.isEmpty()) return Optional.empty();
        return Optional.of(new MessageQuery(
                subject.map(Estate.Component::id).orElse(null),
                number(asks.get("family")),
                number(asks.get("rule")),
                MessageQuery.State.ANY,
                asks.getOrDefault("key", ""),
                asks.getOrDefault("q", ""),
                from,
                to));
    }

    private static @Nullable Long number(@Nullable String text) {
        return text == null ? null : Long.valueOf(text);
    }

    private void count(Saved one, List<SearchStore.Hit> found) {
        var measure = java.util.Objects.requireNonNull(one.measure());
        var missing = found.stream()
                .map(SearchStore.Hit::component)
                .distinct()
                .filter(component -> series.find(component, measure, Map.of()).isEmpty())
                .map(component -> newcomer(component, measure, one.name()))
                .toList();
        if (!missing.isEmpty()) series.registerOwn(missing);
        var ids = new long[found.size()];
        var times = new long[found.size()];
        var values = new double[found.size()];
        for (int i = 0; i < ids.length; i++) {
            var hit = found.get(i);
            ids[i] = series.find(hit.component(), measure, Map.of())
                    .orElseThrow()
                    .id();
            // Their number keeps two of the same millisecond apart, so that each is counted, and only once.
            times[i] = ChronoUnit.MICROS.between(Instant.EPOCH, hit.id().at())
                    + hit.id().id() % 1000;
            values[i] = 1;
        }
        readings.prepare(times);
        readings.add(ids, times, values);
    }
}
