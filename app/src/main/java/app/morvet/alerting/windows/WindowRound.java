package app.morvet.alerting.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.AlertDesk;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.readings.Reading;
import app.morvet.core.windows.Cover;
import app.morvet.core.windows.HeldAlert;
import app.morvet.core.windows.Telling;
import app.morvet.ground.base.PastRound;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.page.Live;
import app.morvet.sources.readings.ReadingHistory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Notes which windows begin and end, and lets go what none covers any more. Each round reckons both from what is stored and from
 * the windows as they stand, so that nothing hangs on having seen one end.
 */
@Component
@Order(4)
class WindowRound extends Rounds implements PastRound {
    private static final Duration LOOKED_AT_EVERY = Duration.ofSeconds(1);
    private static final Duration TOLD_EVERY = Duration.ofSeconds(5);

    private final Windows windows;
    private final HeldAlerts held;
    private final HeldStore store;
    private final AlertDesk desk;
    private final Alerts alerts;
    private final Origins origins;
    private final ReadingHistory history;
    private final Estate estate;
    private final Live live;
    private final Leases.Share share;
    private final TransactionTemplate transaction;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private volatile Instant toldAt = Instant.EPOCH;

    WindowRound(
            Windows windows,
            HeldAlerts held,
            HeldStore store,
            AlertDesk desk,
            Alerts alerts,
            Origins origins,
            ReadingHistory history,
            Estate estate,
            Live live,
            Leases leases,
            TransactionTemplate transaction,
            ApplicationEventPublisher events,
            Clock clock) {
        super(
                "windows",
                new Undone("Windows neither begin nor end", "Windows begin and end late", "/windows"),
                LOOKED_AT_EVERY);
        this.windows = windows;
        this.held = held;
        this.store = store;
        this.desk = desk;
        this.alerts = alerts;
        this.origins = origins;
        this.history = history;
        this.estate = estate;
        this.live = live;
        this.share = leases.share("windows", 1);
        this.transaction = transaction;
        this.events = events;
        this.clock = clock;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    void on(Windows.WindowsChanged changed) {
        toldAt = Instant.EPOCH;
        wake();
    }

    @Override
    protected boolean round() {
        var mine = share.held();
        if (mine.none()) return false;
        var now = clock.instant();
        round(now, mine);
        if (Duration.between(toldAt, now).abs().compareTo(TOLD_EVERY) >= 0) {
            toldAt = now;
            tell(store.told(), now, mine);
        }
        return false;
    }

    @Override
    public Duration step() {
        return Duration.ofMinutes(5);
    }

    @Override
    public PastRound.Walk walk(Instant from, Instant to) {
        if (isRunning()) throw new IllegalStateException("rounds are running");
        return new Walk();
    }

    /** Through the long times in which nothing is on nobody need look. */
    private final class Walk implements PastRound.Walk {
        private boolean anything = true;
        private Map<Long, List<Telling.Told>> told = store.told();

        @Override
        public void goTo(Instant now) {
            if (tell(new HashMap<>(told), now, null)) told = store.told();
            if (!anything && windows.on(now).isEmpty()) return;
            round(now, null);
            anything = !store.open().isEmpty() || !alerts.heldUp().isEmpty();
        }
    }

    /** @param mine what the node holds; null where nobody else works */
    private void round(Instant now, Leases.@Nullable Held mine) {
        var on = windows.on(now);
        var open = store.open();
        var begun = on.stream()
                .map(one -> new Windows.Time(one.id(), one.occurrence().meant(), one.from(), one.to(), null))
                .filter(one -> !open.contains(one))
                .toList();
        var ended = open.stream()
                .filter(time -> on.stream()
                        .noneMatch(one -> one.id() == time.window()
                                && one.occurrence().meant().equals(time.meant())))
                .toList();
        if (begun.isEmpty() && ended.isEmpty() && alerts.heldUp().isEmpty()) return;
        transaction.executeWithoutResult(status -> {
            if (mine != null) mine.sure();
            for (var one : begun)
                if (store.begun(one)) events.publishEvent(new WindowMoved.Begun(find(one.window()), one));
            for (var one : ended) end(one, now);
            if (!begun.isEmpty() || !ended.isEmpty()) live.changed(Windows.TOPIC);
            letGo(now);
        });
    }

    /**
     * Teams that are to be told of a window hear of each of its times, once for each thing that there is to say.
     *
     * @param told what they have been told, by window; what is dealt with is taken out of it
     * @return whether there was anything to say
     */
    private boolean tell(Map<Long, List<Telling.Told>> told, Instant now, Leases.@Nullable Held mine) {
        var due = new LinkedHashMap<Long, List<Telling.Told>>();
        for (var one : windows.all()) {
            var before = one.told();
            if (before == null) continue;
            var said = Telling.due(one.window().plan(), before, told.getOrDefault(one.id(), List.of()), now);
            if (!said.isEmpty()) due.put(one.id(), said);
            told.remove(one.id());
        }
        if (due.isEmpty() && told.isEmpty()) return false;
        transaction.executeWithoutResult(status -> {
            if (mine != null) mine.sure();
            // What is left was told of windows that are gone, or of which nobody is told any more.
            told.forEach((id, all) -> {
                var one = find(id);
                if (one.told() == null) all.forEach(it -> store.forgetTold(id, it.meant()));
                else Telling.due(null, Duration.ZERO, all, now).forEach(it -> tell(one, it, now));
            });
            due.forEach((id, all) -> all.forEach(it -> tell(find(id), it, now)));
        });
        return true;
    }

    private void tell(StoredWindow one, Telling.Told told, Instant now) {
        store.told(one.id(), told);
        events.publishEvent(new WindowTold(one, told, now));
    }

    private StoredWindow find(long id) {
        return windows.find(id).orElseThrow();
    }

    private void end(Windows.Time one, Instant now) {
        // What is noticed late ended when it was meant to; what was ended or taken away ends now.
        store.ended(one, one.to().isBefore(now) ? one.to() : now);
        events.publishEvent(new WindowMoved.Ended(find(one.window()), one));
    }

    private void letGo(Instant now) {
        var all = desk.held();
        if (all.isEmpty()) return;
        var rows = store.of(all.stream().map(Alert::id).toList());
        var cover = windows.cover(now);
        var released = new ArrayList<AlertDesk.Release>();
        for (var alert : all) {
            var row = rows.get(alert.id());
            var on = held.covering(alert.about(), now).orElse(null);
            if (on != null) {
                if (row == null || !sameAs(row, on)) held.hold(alert.id(), on);
                continue;
            }
            if (row == null) {
                // Whatever held it, it is no window that is known.
                released.add(new AlertDesk.Release(alert.id(), ""));
                continue;
            }
            if (row.restsAt() != null) continue;
            var until = row.until().isAfter(now) ? now : row.until();
            if (!until.equals(row.until())) store.over(alert.id(), until);
            switch (fate(alert, row, until, cover, now)) {
                case HELD, LOOKED_AT -> {}
                case RESTS -> store.rests(alert.id(), alert.value());
                case RELEASED -> {
                    store.released(alert.id(), now);
                    released.add(new AlertDesk.Release(alert.id(), held.began(alert, row)));
                }
            }
        }
        desk.release(released, now);
    }

    private static boolean sameAs(HeldStore.Row row, Cover.On on) {
        return row.window() == on.id()
                && row.meant().equals(on.occurrence().meant())
                && row.until().equals(on.to())
                && row.restsAt() == null
                && (row.paused() || !on.window().pauses());
    }

    private HeldAlert.Fate fate(Alert alert, HeldStore.Row row, Instant until, Cover cover, Instant now) {
        var component = windows.factsOf(estate.component(alert.about().component()));
        return new HeldAlert(
                        component,
                        until,
                        row.paused(),
                        origins.of(alert).standsOnPast(alert),
                        row.paused() ? heardAt(alert, until, now) : null)
                .fate(cover, now);
    }

    /** When what it is about was last heard of; what has no series of its own needs no waiting for one. */
    private Instant heardAt(Alert alert, Instant until, Instant now) {
        var series = origins.of(alert).series(alert);
        if (series.isEmpty()) return now;
        return history.newest(series.get(), until).map(Reading::at).orElse(Instant.EPOCH);
    }
}
