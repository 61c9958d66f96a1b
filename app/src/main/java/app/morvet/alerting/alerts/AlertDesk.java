package app.morvet.alerting.alerts;

import app.morvet.core.alert.AlertLife;
import app.morvet.core.alert.Finding;
import app.morvet.core.alert.Move;
import app.morvet.core.alert.Raised;
import app.morvet.core.alert.Transition;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Where all that is found wrong becomes alerts, whatever finds it: stores what moved and passes it on, in the transaction of
 * who found it. Rules are judged by threads of their own, on any node; what they make of alerts comes one after the other,
 * since two alerts at once may belong into one case.
 */
@Service
public class AlertDesk {
    private final AlertStore store;
    private final Origins origins;
    private final ObjectProvider<Holding> holding;
    private final ApplicationEventPublisher events;

    AlertDesk(AlertStore store, Origins origins, ObjectProvider<Holding> holding, ApplicationEventPublisher events) {
        this.store = store;
        this.origins = origins;
        this.holding = holding;
        this.events = events;
    }

    /** Until the end of the running transaction no alert changes, and none is put into another case. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void lock() {
        store.lock();
    }

    /** The alerts that are up of all origins of a kind. To be asked in the transaction that then says what is found. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Raised> raised(String kind) {
        store.lock();
        return store.raised(kind);
    }

    /**
     * All that the origins of one kind find now: what is new is raised, what is not found any more is over.
     *
     * @return how many alerts moved
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public int found(String kind, Collection<Finding> findings, Instant now) {
        return moved(AlertLife.moves(raised(kind), findings, now, (origin, one, other) -> origins.of(origin)
                .worse(origin, one, other)));
    }

    /**
     * What has moved, told by those that know the transitions themselves, in order of time. What is told of an alert that is
     * not up is passed over, and one that is up is not raised again.
     *
     * @return how many alerts moved
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public int moved(List<Move> moves) {
        if (moves.isEmpty()) return 0;
        store.lock();
        var moved = new ArrayList<AlertsMoved.Moved>();
        for (var move : moves) keep(move).ifPresent(moved::add);
        if (!moved.isEmpty()) events.publishEvent(new AlertsMoved(List.copyOf(moved)));
        return moved.size();
    }

    private Optional<AlertsMoved.Moved> keep(Move move) {
        var change = move.transition();
        var up = store.up(move.origin(), move.key());
        if (up.isPresent()) {
            var alert = up.get();
            // Raised by another node a moment ago, when what is judged here was just dealt out anew.
            if (change.kind() == Transition.Kind.RAISED)
                change = Transition.between(alert.level(), change.level(), change.at(), change.value(), change.worst());
            var after = store.change(alert, changed(alert, move));
            var why = after.held() && after.up() ? letsGo(after, move) : Optional.<String>empty();
            if (why.isPresent()) return Optional.of(released(after, change.at(), why.get()));
            return Optional.of(new AlertsMoved.Moved(after, change));
        }
        if (change.kind() != Transition.Kind.RAISED) return Optional.empty();
        boolean held = holding.stream().anyMatch(one -> one.covers(move));
        var raised = store.raise(move, held);
        if (held) holding.forEach(one -> one.holds(raised));
        return Optional.of(new AlertsMoved.Moved(raised, change));
    }

    private Optional<String> letsGo(Alert held, Move move) {
        return holding.stream().flatMap(one -> one.letsGo(held, move).stream()).findFirst();
    }

    private AlertsMoved.Moved released(Alert held, Instant at, String why) {
        var after = store.release(held);
        var change = new Transition(Transition.Kind.RELEASED, at, after.level(), after.value(), after.worst());
        return new AlertsMoved.Moved(after, change, why);
    }

    /** One that is to be released, and why it was held until now, in a sentence. */
    public record Release(long alert, String why) {}

    /** Those that are held and up. To be asked in the transaction that then releases some. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Alert> held() {
        store.lock();
        return store.heldUp();
    }

    /** What was held is somebody's work from now on, the worst first; what is over or was released meanwhile is passed over. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void release(List<Release> some, Instant now) {
        if (some.isEmpty()) return;
        store.lock();
        var why = new HashMap<Long, String>();
        some.forEach(one -> why.put(one.alert(), one.why()));
        var moved = store.byIds(why.keySet()).stream()
                .filter(one -> one.held() && one.up())
                .sorted(Comparator.comparing(Alert::level).reversed().thenComparing(Alert::raisedAt))
                .map(one -> released(one, now, why.getOrDefault(one.id(), "")))
                .toList();
        if (!moved.isEmpty()) events.publishEvent(new AlertsMoved(moved));
    }

    private Alert changed(Alert alert, Move move) {
        var change = move.transition();
        boolean over = change.kind() == Transition.Kind.CLEARED;
        // What was worst stays so, though the series that was at its worst may be back before others of its alert.
        double worst = origins.of(alert).worse(alert.origin(), alert.worst(), change.worst());
        boolean worse = Double.compare(worst, alert.worst()) != 0;
        // One that only says another value stays as severe as it was.
        var level = change.kind() == Transition.Kind.SAYS ? null : change.level();
        return new Alert(
                alert.id(),
                alert.origin(),
                alert.about(),
                move.subject() == null ? alert.subject() : move.subject(),
                level == null ? alert.level() : level,
                change.value(),
                worse ? change.worst() : alert.worst(),
                alert.raisedAt(),
                over ? change.at() : null,
                alert.flaps() || change.kind() == Transition.Kind.FLAPS,
                alert.held(),
                over ? alert.words() : move.words(),
                worse && move.worstWords() != null ? move.worstWords() : alert.worstWords());
    }
}
