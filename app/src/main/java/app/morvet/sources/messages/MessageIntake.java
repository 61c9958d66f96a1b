package app.morvet.sources.messages;

import app.morvet.core.messages.FailedMessage;
import app.morvet.core.sorting.Candidate;
import app.morvet.ground.base.DayPartitions;
import app.morvet.ground.page.Live;
import app.morvet.sources.messages.FailuresRecorded.Failure;
import app.morvet.sources.sorting.SortingRules;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Sorts and stores what arrived, in the transaction that acknowledges it, and passes on which failures are new. */
@Component
public class MessageIntake {
    /** Rules had to be stopped while a batch was sorted. Told after it is stored, so that no batch waits for another. */
    record RulesStopped(Map<Long, Long> times) {}

    /** What comes in for an hour that began so long before the running one is late: sums of the past may have been made without it. */
    public static final Duration LATE = Duration.ofHours(1);

    /** What is told of then. */
    public static final String LATE_TOPIC = "late-messages";

    private final ArrivalStore store;
    private final Families families;
    private final SortingRules rules;
    private final DayPartitions partitions;
    private final ApplicationEventPublisher events;
    private final Live live;
    private final Clock clock;

    MessageIntake(
            ArrivalStore store,
            Families families,
            SortingRules rules,
            DayPartitions partitions,
            ApplicationEventPublisher events,
            Live live,
            Clock clock) {
        this.store = store;
        this.families = families;
        this.rules = rules;
        this.partitions = partitions;
        this.events = events;
        this.live = live;
        this.clock = clock;
    }

    /**
     * Makes the days and families of what has arrived, so that the transaction that stores it need not.
     *
     * @return stores it, in the transaction in which it is run
     */
    public Runnable arriving(MessagesArrived arriving) {
        partitions.ensure(
                "carried_count",
                arriving.carried().stream().map(MessagesArrived.Carried::from).toList());
        var messages =
                arriving.failed().stream().map(MessagesArrived.Failed::message).toList();
        var days = messages.stream().map(FailedMessage::at).toList();
        for (var table : List.of("failed_message", "message_attachment", "message_words"))
            partitions.ensure(table, days);
        var familyOf = families.of(messages.stream()
                .map(one -> new Families.Seen(one.error(), one.at()))
                .toList());
        var byMessage = new IdentityHashMap<FailedMessage, Long>();
        for (int i = 0; i < familyOf.length; i++) byMessage.put(messages.get(i), familyOf[i]);
        return () -> store(arriving, byMessage);
    }

    private void store(MessagesArrived arrived, Map<FailedMessage, Long> families) {
        var carried = arrived.carried().isEmpty()
                ? List.<MessagesArrived.Carried>of()
                : store.addCarried(arrived.feed(), arrived.carried());
        var added = addFailed(arrived.feed(), withoutRepeats(arrived), families);
        arrived.states().forEach(store::addState);
        if (!added.isEmpty())
            events.publishEvent(new FailuresRecorded(added.stream()
                    .map(one -> new Failure(one.component(), one.id().at()))
                    .toList()));
        // Last, since other batches of the same interfaces wait for these rows until this one is stored.
        store.addToHours(carried, added).filter(this::isLate).ifPresent(hour -> live.changed(LATE_TOPIC));
        live.changed("messages");
    }

    private boolean isLate(Instant hour) {
        return hour.isBefore(clock.instant().truncatedTo(ChronoUnit.HOURS).minus(LATE));
    }

    /** A message that was sent again and failed anew is the same message. */
    private List<MessagesArrived.Failed> withoutRepeats(MessagesArrived arrived) {
        var references = arrived.failed().stream()
                .map(one -> one.message().reference())
                .filter(reference -> !reference.isEmpty())
                .distinct()
                .toList();
        var known = store.sentAgain(arrived.feed(), references);
        if (known.isEmpty()) return arrived.failed();
        var fresh = new ArrayList<MessagesArrived.Failed>();
        for (var one : arrived.failed()) {
            var before = known.get(one.message().reference());
            if (before == null) fresh.add(one);
            else store.failedAgain(before, one);
        }
        return fresh;
    }

    private List<ArrivalStore.Added> addFailed(
            long feed, List<MessagesArrived.Failed> failed, Map<FailedMessage, Long> families) {
        if (failed.isEmpty()) return List.of();
        var list = rules.current();
        var stopped = new HashMap<Long, Long>();
        var sorted = new ArrayList<ArrivalStore.Sorted>(failed.size());
        for (var one : failed) {
            var message = one.message();
            var taken = list.sort(new Candidate(
                    one.key(),
                    message.step(),
                    message.error(),
                    message.attributes(),
                    message.payloadType(),
                    message.payload()));
            taken.stopped().forEach(rule -> stopped.merge(rule.id(), 1L, Long::sum));
            sorted.add(new ArrivalStore.Sorted(
                    one,
                    Objects.requireNonNull(families.get(message)),
                    taken.by().id(),
                    taken.by().alerts()));
        }
        if (!stopped.isEmpty()) events.publishEvent(new RulesStopped(stopped));
        return store.addFailed(feed, sorted);
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
    void on(RulesStopped told) {
        Thread.startVirtualThread(() -> told.times().forEach(rules::stopped));
    }
}
