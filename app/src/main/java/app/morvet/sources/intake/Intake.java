package app.morvet.sources.intake;

import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;

/** Judges a batch item by item and stores what is good and what is refused in one transaction. */
@Service
class Intake {
    /**
     * @param index  place in the batch, from 0
     * @param id     the event's id where it has one
     * @param reason what is wrong with it, and how it should be
     */
    record Rejected(int index, String id, String reason) {}

    /**
     * @param index place in the batch, from 0
     * @param words what Morvet made of an event that it took
     */
    record Remark(int index, String id, String words) {}

    /**
     * @param accepted how many are stored, counting those that were stored before
     * @param remarks  on events that were taken otherwise than they may be meant
     */
    record Outcome(int accepted, List<Rejected> rejected, List<Remark> remarks) {}

    private static final int LONGEST_IDENTITY = 1000;
    private static final int LONGEST_KEPT = 16_384;

    private final Estate estate;
    private final RejectStore rejects;
    private final TimelessStore timeless;
    private final EventReader reader;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Clock clock;

    Intake(
            Estate estate,
            RejectStore rejects,
            TimelessStore timeless,
            EventReader reader,
            TransactionTemplate transaction,
            Live live,
            Clock clock) {
        this.estate = estate;
        this.rejects = rejects;
        this.timeless = timeless;
        this.reader = reader;
        this.transaction = transaction;
        this.live = live;
        this.clock = clock;
    }

    Outcome take(long feed, List<JsonNode> batch) {
        var now = clock.instant();
        var read = new ArrayList<EventReader.Read<?>>(batch.size());
        var rejected = new ArrayList<Rejected>();
        var arrivals = arrivals(feed, batch, now);
        var remarks = new ArrayList<Remark>();
        for (int index = 0; index < batch.size(); index++) {
            var event = batch.get(index);
            try {
                var one = reader.read(event, arrivals, now);
                read.add(one);
                if (EventReader.isTimeless(event))
                    remarks.add(new Remark(
                            index,
                            one.id(),
                            "it bears no time; taken as of its arrival, " + arrivals.get(EventReader.identity(event))));
            } catch (EventRefused refused) {
                rejected.add(new Rejected(index, event.path("id").asString(""), String.valueOf(refused.getMessage())));
            }
        }
        var batches = batches(read);
        estate.heard(feed);
        var storing = batches.stream().map(one -> one.arriving(feed)).toList();
        transaction.executeWithoutResult(status -> {
            storing.forEach(Runnable::run);
            rejects.keep(
                    feed,
                    now,
                    rejected,
                    rejected.stream()
                            .map(bad -> cut(batch.get(bad.index()).toString()))
                            .toList());
            if (!rejected.isEmpty()) live.changed("now");
        });
        return new Outcome(read.size(), rejected, remarks);
    }

    private Map<String, Instant> arrivals(long feed, List<JsonNode> batch, Instant now) {
        var without = batch.stream()
                .filter(EventReader::isTimeless)
                .map(EventReader::identity)
                .filter(identity -> identity.length() <= LONGEST_IDENTITY)
                .toList();
        return timeless.firstArrivals(feed, without, now);
    }

    /** The events of one kind, which it is given together. */
    private record Batch<T>(EventKind<T> kind, List<EventKind.Arrived<T>> events) {
        Runnable arriving(long feed) {
            return kind.arriving(feed, events);
        }
    }

    private List<Batch<?>> batches(List<EventReader.Read<?>> read) {
        var kinds = new LinkedHashSet<EventKind<?>>();
        read.forEach(one -> kinds.add(one.kind()));
        return kinds.stream().<Batch<?>>map(kind -> batch(kind, read)).toList();
    }

    private <T> Batch<T> batch(EventKind<T> kind, List<EventReader.Read<?>> all) {
        var own = all.stream()
                .filter(one -> one.kind() == kind)
                .map(Intake::<T>own)
                .toList();
        var components = kind.about()
                .map(about ->
                        components(own.stream().map(EventReader.Read::subject).toList(), about))
                .orElse(Map.of());
        return new Batch<>(
                kind,
                own.stream()
                        .map(one -> one.about(components.getOrDefault(one.subject(), 0L)))
                        .toList());
    }

    /** What a kind has read is of the type that it reads. */
    @SuppressWarnings("unchecked")
    private static <T> EventReader.Read<T> own(EventReader.Read<?> one) {
        return (EventReader.Read<T>) one;
    }

    /** What events are about, by key; what is unknown is registered and waits to be assigned. */
    private Map<String, Long> components(List<String> keys, String kind) {
        var ids = new HashMap<String, Long>();
        var unknown = new LinkedHashSet<String>();
        for (var key : keys) {
            if (ids.containsKey(key)) continue;
            estate.byKey(key).ifPresentOrElse(known -> ids.put(key, known.id()), () -> unknown.add(key));
        }
        if (!unknown.isEmpty()) {
            estate.register(
                    unknown.stream().map(key -> new Estate.Newcomer(key, kind)).toList());
            unknown.forEach(key -> ids.put(key, estate.byKey(key).orElseThrow().id()));
        }
        return ids;
    }

    static String cut(String body) {
        var clean = body.replace("\\u0000", "\uFFFD").replace('\0', '\uFFFD');
        return clean.length() <= LONGEST_KEPT ? clean : clean.substring(0, LONGEST_KEPT) + "…";
    }
}
