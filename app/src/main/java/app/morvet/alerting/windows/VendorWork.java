package app.morvet.alerting.windows;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.vendors.StoredBulletin;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What vendors plan becomes a proposed window over their instance: accepted by hand, or by itself where that is agreed. An accepted
 * one moves when the vendor moves its work, and is withdrawn when that is.
 */
@Service
public class VendorWork {
    /** What became of planned work. */
    public enum State {
        PROPOSED("proposed"),
        ACCEPTED("accepted"),
        DECLINED("declined"),
        WITHDRAWN("withdrawn");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** @param window the one that it became, or null */
    public record Work(long bulletin, State state, @Nullable Long window) {}

    private static final int MOST_PLANNED = 1000;

    private final JdbcClient jdbc;
    private final Windows windows;
    private final Vendors vendors;
    private final Estate estate;
    private final Audit audit;
    private final MorvetSettings settings;
    private final Clock clock;

    VendorWork(
            JdbcClient jdbc,
            Windows windows,
            Vendors vendors,
            Estate estate,
            Audit audit,
            MorvetSettings settings,
            Clock clock) {
        this.jdbc = jdbc;
        this.windows = windows;
        this.vendors = vendors;
        this.estate = estate;
        this.audit = audit;
        this.settings = settings;
        this.clock = clock;
    }

    private static Work work(ResultSet row, int number) throws SQLException {
        return new Work(
                row.getLong("bulletin_id"),
                State.valueOf(row.getString("state")),
                row.getObject("window_id", Long.class));
    }

    /** What became of some bulletins, by their ids. */
    public Map<Long, Work> of(Collection<Long> bulletins) {
        var found = new HashMap<Long, Work>();
        jdbc.sql("select * from vendor_work where bulletin_id = any(:ids::bigint[])")
                .param("ids", bulletins.toArray(Long[]::new))
                .query(VendorWork::work)
                .list()
                .forEach(one -> found.put(one.bulletin(), one));
        return found;
    }

    /** Planned work that is no window, with when it is to be. */
    public record Undecided(StoredBulletin bulletin, State state, Plan.Span span) {}

    /** What nobody has made a window of, of work that is planned within a span and stands. */
    public List<Undecided> undecided(Instant from, Instant to) {
        var planned = vendors.open(clock.instant(), MOST_PLANNED).stream()
                .filter(one -> one.said().planned())
                .toList();
        var works = of(planned.stream().map(StoredBulletin::id).toList());
        var found = new ArrayList<Undecided>();
        for (var one : planned) {
            var work = works.get(one.id());
            if (work == null || work.state() == State.ACCEPTED) continue;
            span(one)
                    .filter(span -> span.meets(from, to))
                    .ifPresent(span -> found.add(new Undecided(one, work.state(), span)));
        }
        found.sort(Comparator.comparing((Undecided one) -> one.span().from()));
        return found;
    }

    private Optional<Work> of(long bulletin) {
        return jdbc.sql("select * from vendor_work where bulletin_id = :id for update")
                .param("id", bulletin)
                .query(VendorWork::work)
                .optional();
    }

    @EventListener
    @Transactional(propagation = Propagation.MANDATORY)
    public void on(Vendors.BulletinMoved moved) {
        var bulletin = moved.bulletin();
        if (!bulletin.said().planned()) return;
        var now = clock.instant();
        var known = of(bulletin.id());
        boolean stands = bulletin.isOpen(now) && span(bulletin).isPresent();
        if (known.isEmpty()) {
            if (stands) propose(bulletin);
            return;
        }
        var work = known.get();
        switch (work.state()) {
            case PROPOSED -> {
                if (!stands && before(bulletin, now)) keep(new Work(bulletin.id(), State.WITHDRAWN, null), null);
            }
            case ACCEPTED -> {
                if (stands) move(bulletin, work);
                else if (before(bulletin, now) || bulletin.said().over()) withdraw(bulletin, work);
            }
            case WITHDRAWN -> {
                if (stands) propose(bulletin);
            }
            case DECLINED -> {
                // Whoever declined it does not want to be asked again.
            }
        }
    }

    /** Whether it had not come to its end when it vanished: what is past leaves feeds as a matter of course. */
    private static boolean before(StoredBulletin bulletin, Instant now) {
        var to = bulletin.said().to();
        return to == null || to.isAfter(now);
    }

    private Optional<Plan.Span> span(StoredBulletin bulletin) {
        var from = bulletin.said().from();
        var to = bulletin.said().to();
        if (from == null || to == null) return Optional.empty();
        var length = Duration.between(from, to);
        boolean fits = length.compareTo(Duration.ofMinutes(1)) >= 0 && length.compareTo(Plan.LONGEST) <= 0;
        return fits ? Optional.of(new Plan.Span(from, to)) : Optional.empty();
    }

    private void propose(StoredBulletin bulletin) {
        keep(new Work(bulletin.id(), State.PROPOSED, null), null);
        boolean byItself = vendors.instance(bulletin.component())
                .map(VendorInstance::byItself)
                .orElse(false);
        if (byItself) accept(bulletin, null);
    }

    private void keep(Work work, @Nullable Person by) {
        jdbc.sql(
                        """
                        insert into vendor_work (bulletin_id, state, window_id, decided_by, decided_at)
                        values (:bulletin, :state, :window, :by, :at)
                            on conflict (bulletin_id) do update
                           set state = excluded.state, window_id = coalesce(excluded.window_id, vendor_work.window_id),
                               decided_by = excluded.decided_by, decided_at = excluded.decided_at""")
                .param("bulletin", work.bulletin())
                .param("state", work.state().name())
                .param("window", work.window())
                .param("by", by == null ? null : by.id())
                .param("at", Stamp.of(clock.instant()))
                .update();
    }

    private MaintenanceWindow window(StoredBulletin bulletin) {
        var instance = estate.component(bulletin.component());
        var vendor = vendors.instance(instance.id()).map(VendorInstance::vendor).orElse(instance.name());
        var name = "%s: %s".formatted(vendor, bulletin.said().title());
        var span = span(bulletin)
                .orElseThrow(() -> new IllegalArgumentException(
                        "this planned work does not say from when to when, or is longer than 14 days"));
        return new MaintenanceWindow(
                name.length() > 100 ? name.substring(0, 100) : name,
                Scope.ALL.named(instance.key()).withAllOnIt(),
                Plan.once(span.from(), span.to(), settings.zone()),
                MaintenanceWindow.Effect.HOLD,
                MaintenanceWindow.Jobs.AS_EVER,
                "%s plans this".formatted(vendor));
    }

    private void accept(StoredBulletin bulletin, @Nullable Person by) {
        var told =
                vendors.instance(bulletin.component()).map(VendorInstance::told).orElse(null);
        long id = windows.set(
                StoredWindow.fresh(window(bulletin)).toldBefore(told).madeBy(by == null ? null : by.id()));
        keep(new Work(bulletin.id(), State.ACCEPTED, id), by);
    }

    /**
     * Accepts proposed work: it becomes a window.
     *
     * @throws IllegalArgumentException where it cannot be
     */
    @Transactional
    public void accept(long id, Person by) {
        var bulletin = proposed(id);
        accept(bulletin, by);
        audit.record(
                by,
                "planned work accepted",
                "bulletin " + bulletin.said().title(),
                null,
                windows.sentence(window(bulletin)));
    }

    @Transactional
    public void decline(long id, Person by) {
        var bulletin = proposed(id);
        keep(new Work(id, State.DECLINED, null), by);
        audit.record(by, "planned work declined", "bulletin " + bulletin.said().title(), null, null);
    }

    private StoredBulletin proposed(long id) {
        var bulletin =
                vendors.bulletin(id).orElseThrow(() -> new IllegalArgumentException("there is no bulletin " + id));
        var state = of(id).map(Work::state).orElse(null);
        if (state != State.PROPOSED && state != State.DECLINED)
            throw new IllegalArgumentException(
                    state == null ? "this is no planned work" : "this work is " + state.words() + " already");
        return bulletin;
    }

    private Optional<StoredWindow> standing(Work work) {
        var id = work.window();
        return id == null
                ? Optional.empty()
                : windows.all().stream()
                        .filter(one -> one.id() == id)
                        .findFirst()
                        .map(one -> windows.stored(id));
    }

    private void move(StoredBulletin bulletin, Work work) {
        standing(work)
                .filter(one -> !one.window().plan().equals(window(bulletin).plan()))
                .ifPresent(one -> windows.set(
                        one.with(one.window().during(window(bulletin).plan()))));
    }

    /** What is on ends now; what had not begun is taken away. */
    private void withdraw(StoredBulletin bulletin, Work work) {
        keep(new Work(bulletin.id(), State.WITHDRAWN, null), null);
        standing(work).ifPresent(one -> windows.takeBack(one));
    }
}
