package app.morvet.intake;

import app.morvet.estate.Estate;
import app.morvet.page.Live;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.springframework.context.ApplicationEventPublisher;
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
    private final ApplicationEventPublisher events;
    private final TransactionTemplate transaction;
    private final Live live;
    private final Clock clock;

    Intake(
            Estate estate,
            RejectStore rejects,
            TimelessStore timeless,
            ApplicationEventPublisher events,
            TransactionTemplate transaction,
            Live live,
            Clock clock) {
        this.estate = estate;
        this.rejects = rejects;
        this.timeless = timeless;
        this.events = events;
        this.transaction = transaction;
        this.live = live;
        this.clock = clock;
    }

    Outcome take(long feed, List<JsonNode> batch) {
        var now = clock.instant();
        var told = new ArrayList<EventReader.Told>(batch.size());
        var rejected = new ArrayList<Rejected>();
        var arrivals = arrivals(feed, batch, now);
        var remarks = new ArrayList<Remark>();
        for (int index = 0; index < batch.size(); index++) {
            var event = batch.get(index);
            try {
                var one = EventReader.read(event, arrivals, now);
                told.add(one);
                if (EventReader.isTimeless(event))
                    remarks.add(new Remark(
                            index,
                            one.id(),
                            "it bears no time; taken as of its arrival, " + arrivals.get(EventReader.identity(event))));
            } catch (EventReader.Refused refused) {
                rejected.add(new Rejected(index, event.path("id").asString(""), String.valueOf(refused.getMessage())));
            }
        }
        var messages = told.stream().filter(one -> !ofBatch(one)).toList();
        var batches = told.stream().filter(Intake::ofBatch).toList();
        var arrived = arrived(feed, messages);
        var runs = runs(feed, batches);
        estate.heard(feed);
        transaction.executeWithoutResult(status -> {
            if (!messages.isEmpty()) events.publishEvent(arrived);
            if (!batches.isEmpty()) events.publishEvent(runs);
            rejects.keep(
                    feed,
                    now,
                    rejected,
                    rejected.stream()
                            .map(bad -> cut(batch.get(bad.index()).toString()))
                            .toList());
            if (!rejected.isEmpty()) live.changed("now");
        });
        return new Outcome(told.size(), rejected, remarks);
    }

    private Map<String, Instant> arrivals(long feed, List<JsonNode> batch, Instant now) {
        var without = batch.stream()
                .filter(EventReader::isTimeless)
                .map(EventReader::identity)
                .filter(identity -> identity.length() <= LONGEST_IDENTITY)
                .toList();
        return timeless.firstArrivals(feed, without, now);
    }

    private static boolean ofBatch(EventReader.Told one) {
        return one instanceof EventReader.ToldRun || one instanceof EventReader.ToldFile;
    }

    private RunsArrived runs(long feed, List<EventReader.Told> told) {
        var components = components(
                told.stream().filter(one -> one instanceof EventReader.ToldRun).toList(), Estate.JOB);
        var runs = new ArrayList<RunsArrived.Told>();
        var files = new ArrayList<RunsArrived.File>();
        for (var one : told) {
            if (one instanceof EventReader.ToldRun(var id, var subject, var said))
                runs.add(new RunsArrived.Told(components.get(subject), said));
            if (one instanceof EventReader.ToldFile(var id, var subject, var at))
                files.add(new RunsArrived.File(subject, at));
        }
        return new RunsArrived(feed, runs, files);
    }

    private MessagesArrived arrived(long feed, List<EventReader.Told> told) {
        var components = components(told, Estate.INTERFACE);
        var failed = new ArrayList<MessagesArrived.Failed>();
        var carried = new ArrayList<MessagesArrived.Carried>();
        var states = new ArrayList<MessagesArrived.Stands>();
        for (var one : told) {
            long component = components.get(one.subject());
            switch (one) {
                case EventReader.ToldFailed(var id, var subject, var message) ->
                    failed.add(new MessagesArrived.Failed(id, component, subject, message));
                case EventReader.ToldCarried(var id, var subject, var from, var to, var delivered, var delays) ->
                    carried.add(new MessagesArrived.Carried(id, component, from, to, delivered, delays));
                case EventReader.ToldState(var id, var subject, var state) ->
                    states.add(new MessagesArrived.Stands(id, component, state));
                case EventReader.ToldRun run -> throw new IllegalStateException("no message: " + run.id());
                case EventReader.ToldFile file -> throw new IllegalStateException("no message: " + file.id());
            }
        }
        return new MessagesArrived(feed, failed, carried, states);
    }

    /** What events are about, by key; what is unknown is registered and waits to be assigned. */
    private Map<String, Long> components(List<EventReader.Told> told, String kind) {
        var ids = new HashMap<String, Long>();
        var unknown = new HashSet<String>();
        for (var one : told) {
            if (ids.containsKey(one.subject())) continue;
            estate.byKey(one.subject())
                    .ifPresentOrElse(known -> ids.put(one.subject(), known.id()), () -> unknown.add(one.subject()));
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
