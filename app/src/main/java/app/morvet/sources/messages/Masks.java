package app.morvet.sources.messages;

import app.morvet.core.messages.Mask;
import app.morvet.core.messages.Masking;
import app.morvet.core.sorting.Faulty;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.DayPartitions;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Notices;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is hidden in messages: the masks, kept in memory and looked at again every few seconds. */
@Service
public class Masks implements Errand {
    private static final String CHANGED = "masks";
    private static final String READ_ANEW = "words-anew";
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(5);

    /** A mask as it stands: either a path or a pattern, the other empty. */
    record Stored(long id, String name, Set<String> interfaces, String path, String pattern) {
        Mask mask() {
            return pattern.isEmpty() ? Mask.ofPath(interfaces, path) : Mask.ofPattern(interfaces, pattern);
        }

        /** What was stored before and is not taken any more hides all there is: in doubt nothing is shown. */
        Mask inForce() {
            try {
                return mask();
            } catch (Faulty refused) {
                return Mask.ofPattern(interfaces, "(?s).");
            }
        }
    }

    private final JdbcClient jdbc;
    private final Estate estate;
    private final Audit audit;
    private final DayPartitions partitions;
    private final Errands errands;
    private final Notices notices;
    private final Clock clock;
    private volatile List<Mask> kept = List.of();
    private volatile Instant lookedAt = Instant.MIN;
    private final ConcurrentHashMap<String, Masking> byInterface = new ConcurrentHashMap<>();

    Masks(
            JdbcClient jdbc,
            Estate estate,
            Audit audit,
            DayPartitions partitions,
            Errands errands,
            Notices notices,
            Clock clock) {
        this.jdbc = jdbc;
        this.estate = estate;
        this.audit = audit;
        this.partitions = partitions;
        this.errands = errands;
        this.notices = notices;
        this.clock = clock;
        notices.hear(CHANGED, none -> forgetNow());
    }

    List<Stored> all() {
        return jdbc.sql("select * from mask order by name, id")
                .query((row, number) -> new Stored(
                        row.getLong("id"),
                        row.getString("name"),
                        new TreeSet<>(Arrays.asList(
                                (String[]) row.getArray("interfaces").getArray())),
                        row.getString("path"),
                        row.getString("pattern")))
                .list();
    }

    /** What is hidden on an interface. */
    public Masking on(String interfaceKey) {
        if (lookedAt.plus(LOOKED_AT_EVERY).isBefore(clock.instant())) {
            var now = all().stream().map(Stored::inForce).toList();
            if (!now.toString().equals(kept.toString())) byInterface.clear();
            kept = now;
            lookedAt = clock.instant();
        }
        return byInterface.computeIfAbsent(interfaceKey, key -> Masking.of(kept, key));
    }

    /** What is hidden anywhere: for texts that belong to no one interface, such as what stays of a family's error. */
    public Masking anywhere() {
        on("");
        return Masking.ofAll(kept);
    }

    public Masking on(long component) {
        return on(estate.component(component).key());
    }

    /**
     * Adds a mask, or changes the one of an id.
     *
     * @throws IllegalArgumentException where the path or pattern cannot be used; says why
     */
    @Transactional
    public void put(@Nullable Long id, String name, Set<String> interfaces, String path, String pattern, Person by) {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("Give the mask a name of at most 100 characters.");
        var standing = new Stored(0, name.strip(), interfaces, path.strip(), pattern);
        standing.mask();
        var before = all().stream()
                .filter(one -> Long.valueOf(one.id()).equals(id))
                .map(this::words)
                .findFirst()
                .orElse(null);
        if (id != null)
            jdbc.sql("delete from mask where id = :id").param("id", id).update();
        add(standing);
        readAnew();
        audit.record(by, "mask " + (before == null ? "made" : "changed"), "mask " + name, before, words(standing));
        forget();
    }

    @Transactional
    public void delete(long id, Person by) {
        var before = all().stream().filter(one -> one.id() == id).findFirst();
        if (before.isEmpty()) return;
        jdbc.sql("delete from mask where id = :id").param("id", id).update();
        readAnew();
        audit.record(by, "mask deleted", "mask " + before.get().name(), words(before.get()), null);
        forget();
    }

    /** For what is set up by the application itself. */
    public void set(String name, Set<String> interfaces, String path, String pattern) {
        add(new Stored(0, name, interfaces, path, pattern));
        forget();
    }

    private void add(Stored mask) {
        jdbc.sql(
                        "insert into mask (name, interfaces, path, pattern) values (:name, :interfaces::text[], :path, :pattern)")
                .param("name", mask.name())
                .param("interfaces", mask.interfaces().toArray(String[]::new))
                .param("path", mask.path())
                .param("pattern", mask.pattern())
                .update();
    }

    /** {@code On Customer updates, hide whatever stands at contact.} */
    String words(Stored mask) {
        var where = mask.interfaces().isEmpty()
                ? "everywhere"
                : "on " + mask.interfaces().stream().map(estate::nameOf).collect(Collectors.joining(", "));
        return mask.pattern().isEmpty()
                ? "Hide what stands at %s, %s".formatted(mask.path(), where)
                : "Hide what looks like /%s/, %s".formatted(mask.pattern(), where);
    }

    /** What masks hide must not be found either, so all that can be found is read again, a day at a time. */
    private void readAnew() {
        errands.at(clock.instant(), READ_ANEW, "all");
    }

    @Override
    public String name() {
        return READ_ANEW;
    }

    @Override
    public Optional<Instant> run(String id) {
        for (var day : partitions.days("message_words").reversed())
            jdbc.sql(
                            """
                            with gone as (delete from message_words where at >= :day and at < :next returning at, id)
                            insert into unread_failure (at, id, anew) select at, id, true from gone""")
                    .param("day", day.atStartOfDay().atOffset(ZoneOffset.UTC))
                    .param("next", day.plusDays(1).atStartOfDay().atOffset(ZoneOffset.UTC))
                    .update();
        return Optional.empty();
    }

    /** Here at once; everywhere, and here once more, when it is committed. */
    private void forget() {
        forgetNow();
        notices.tell(CHANGED);
    }

    private void forgetNow() {
        lookedAt = Instant.MIN;
        byInterface.clear();
    }
}
