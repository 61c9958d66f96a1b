package app.morvet.messages;

import app.morvet.base.DayPartitions;
import app.morvet.intake.MessagesArrived;
import app.morvet.page.Live;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Stores what arrived, in the transaction that acknowledges it, and passes on which failures are new. */
@Component
class MessageIntake {
    private final MessageStore store;
    private final Families families;
    private final DayPartitions partitions;
    private final ApplicationEventPublisher events;
    private final Live live;

    MessageIntake(
            MessageStore store,
            Families families,
            DayPartitions partitions,
            ApplicationEventPublisher events,
            Live live) {
        this.store = store;
        this.families = families;
        this.partitions = partitions;
        this.events = events;
        this.live = live;
    }

    @EventListener
    void on(MessagesArrived arrived) {
        if (!arrived.carried().isEmpty()) {
            partitions.ensure(
                    "carried_count",
                    arrived.carried().stream()
                            .map(MessagesArrived.Carried::from)
                            .toList());
            store.addCarried(arrived.feed(), arrived.carried());
        }
        if (!arrived.failed().isEmpty()) {
            partitions.ensure(
                    "failed_message",
                    arrived.failed().stream()
                            .map(failed -> failed.message().at())
                            .toList());
            var added = store.addFailed(
                    arrived.feed(),
                    arrived.failed(),
                    families.of(arrived.failed().stream()
                            .map(failed -> new Families.Seen(
                                    failed.message().error(), failed.message().at()))
                            .toList()));
            if (!added.isEmpty()) events.publishEvent(new FailuresRecorded(added));
        }
        live.changed("messages");
    }
}
