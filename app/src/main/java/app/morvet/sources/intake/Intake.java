package app.morvet.sources.intake;

import app.morvet.ground.estate.Estate;
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

/** Judges a batch item by item and stores what is good; what is refused is kept beside it. */
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

    private final Estate estate;
    private final RejectStore rejects;
    private final TimelessStore timeless;
    private final EventReader reader;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Intake(
            Estate estate,
            RejectStore rejects,
            TimelessStore timeless,
            EventReader reader,
            TransactionTemplate transaction,
            Clock clock) {
        this.estate = estate;
        this.rejects = rejects;
        this.timeless = timeless;
        this.reader = reader;
        this.transaction = transaction;
        this.clock = clock;
    }

    /** An event, and its place in the batch. */
    private record Placed(int index, JsonNode event) {}

    private record Good(Placed from, EventReader.Read<?> read) {}

    Outcome take(long feed, List<JsonNode> batch) {
        var now = clock.instant();
        var good = new ArrayList<Good>(batch.size());
        var refusals = new Refusals();
        var arrivals = arrivals(feed, batch, now);
        var remarks = new ArrayList<Remark>();
        for (int index = 0; index < batch.size(); index++) {
            var one = new Placed(index, batch.get(index));
            try {
                var read = reader.read(one.event(), arrivals, now);
                good.add(new Good(one, read));
                if (EventReader.isTimeless(one.event()))
                    remarks.add(new Remark(
                            index,
                            read.id(),
                            "it bears no time; taken as of its arrival, "
                                    + arrivals.get(EventReader.identity(one.event()))));
            } catch (EventRefused refused) {
                refuse(one, String.valueOf(refused.getMessage()), refusals);
            }
        }
        estate.heard(feed);
        var stored = new int[1];
        BadItems.storeAll(
                good,
                some -> {
                    store(feed, some);
                    stored[0] += some.size();
                },
                (one, why) -> refuse(one.from(), why, refusals));
        rejects.keep(feed, now, refusals);
        return new Outcome(stored[0], refusals.rejected(), remarks);
    }

    private static void refuse(Placed one, String why, Refusals refusals) {
        refusals.add(one.index(), one.event().path("id").asString(""), why, one.event()::toString);
    }

    private void store(long feed, List<Good> some) {
        if (some.isEmpty()) return;
        var storing = batches(some.stream().map(Good::read).toList()).stream()
                .map(one -> one.arriving(feed))
                .toList();
        transaction.executeWithoutResult(status -> storing.forEach(Runnable::run));
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

    private List<Batch<?>> batches(List<? extends EventReader.Read<?>> read) {
        var kinds = new LinkedHashSet<EventKind<?>>();
        read.forEach(one -> kinds.add(one.kind()));
        return kinds.stream().<Batch<?>>map(kind -> batch(kind, read)).toList();
    }

    private <T> Batch<T> batch(EventKind<T> kind, List<? extends EventReader.Read<?>> all) {
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
}
