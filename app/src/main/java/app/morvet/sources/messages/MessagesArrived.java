package app.morvet.sources.messages;

import app.morvet.core.messages.Delays;
import app.morvet.core.messages.FailedMessage;
import app.morvet.core.messages.InterfaceState;
import java.time.Instant;
import java.util.List;

/**
 * Events about messages that were judged good.
 *
 * @param feed    the feed that sent them
 * @param failed  failed messages
 * @param carried counts of delivered ones
 * @param states  how interfaces stand at their middleware
 */
public record MessagesArrived(long feed, List<Failed> failed, List<Carried> carried, List<Stands> states) {

    /**
     * @param eventId   the sender's id of the event; the same id at the same time counts once
     * @param component id of the interface
     * @param key       key of the interface
     */
    public record Failed(String eventId, long component, String key, FailedMessage message) {}

    /**
     * @param from      start of the span, included
     * @param to        end of the span, not included
     * @param delivered how many were delivered in it, 0 or more
     * @param delays    how long some of them took, from entry to delivery
     */
    public record Carried(String eventId, long component, Instant from, Instant to, int delivered, Delays delays) {}

    /** How an interface stands. */
    public record Stands(String eventId, long component, InterfaceState state) {}
}
