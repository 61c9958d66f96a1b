package app.morvet.alerting.windows;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import java.time.Clock;
import java.time.Duration;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Windows as deployment tools open, extend and end them. A tool calls each by a name of its own, under which it opens one, however
 * often it asks; nothing that its key does not cover can be quietened with it, nor for longer.
 */
@Service
class OpenedWindows {
    /** @param fresh whether it was opened by this call */
    record Opened(StoredWindow window, boolean fresh) {}

    private final Windows windows;
    private final WindowKeys keys;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Clock clock;

    OpenedWindows(Windows windows, WindowKeys keys, Estate estate, MorvetSettings settings, Clock clock) {
        this.windows = windows;
        this.keys = keys;
        this.estate = estate;
        this.settings = settings;
        this.clock = clock;
    }

    Optional<StoredWindow> find(WindowKeys.Key key, String as) {
        return keys.opened(key, as).map(windows::stored);
    }

    /** @throws IllegalArgumentException saying what cannot be */
    @Transactional
    Opened open(
            WindowKeys.Key key,
            String as,
            String name,
            Scope scope,
            Duration length,
            MaintenanceWindow.Effect effect,
            String reason) {
        keys.inTurn(key);
        var known = find(key, as);
        if (known.isPresent()) return new Opened(known.get(), false);
        within(key, length);
        covered(key, scope);
        var from = clock.instant().truncatedTo(ChronoUnit.SECONDS);
        var window = new MaintenanceWindow(
                name.isBlank() ? "%s: %s".formatted(key.name(), as) : name,
                scope,
                Plan.once(from, from.plus(length), settings.zone()),
                effect,
                MaintenanceWindow.Jobs.AS_EVER,
                reason);
        long id = windows.set(StoredWindow.fresh(window));
        keys.opened(id, key, as);
        return new Opened(windows.stored(id), true);
    }

    private static void within(WindowKeys.Key key, Duration length) {
        if (length.compareTo(Duration.ofMinutes(1)) < 0 || length.compareTo(key.longest()) > 0)
            throw new IllegalArgumentException("with this key a window is open for 1 to %d minutes"
                    .formatted(key.longest().toMinutes()));
    }

    private void covered(WindowKeys.Key key, Scope scope) {
        var wanted = estate.components().stream()
                .filter(one -> scope.takes(windows.factsOf(one)))
                .toList();
        if (wanted.isEmpty())
            throw new IllegalArgumentException("nothing in the estate is %s".formatted(scope.words(estate::nameOf)));
        for (var one : wanted)
            if (!key.scope().takes(windows.factsOf(one)))
                throw new IllegalArgumentException("this key is for %s, and does not cover %s"
                        .formatted(key.scope().words(estate::nameOf), one.key()));
    }

    /** Has one end later, as long as the whole of it is not longer than the key allows. */
    @Transactional
    StoredWindow extend(WindowKeys.Key key, StoredWindow one, Duration by) {
        var span = span(one);
        if (!span.to().isAfter(clock.instant())) throw new IllegalArgumentException("this window is over");
        if (by.isNegative() || by.isZero())
            throw new IllegalArgumentException("a window is extended by a minute at least");
        var to = span.to().plus(by);
        within(key, Duration.between(span.from(), to));
        return during(one, new Plan.Span(span.from(), to));
    }

    /** Ends one now; one that is over stays as it is. */
    @Transactional
    StoredWindow end(StoredWindow one) {
        var span = span(one);
        var now = clock.instant();
        if (!span.to().isAfter(now)) return one;
        return during(one, span.endedAt(now));
    }

    static Plan.Span span(StoredWindow one) {
        var plan = one.window().plan();
        var from = java.util.Objects.requireNonNull(plan.first());
        return new Plan.Span(from, from.plus(plan.length()));
    }

    private StoredWindow during(StoredWindow one, Plan.Span span) {
        windows.set(one.with(one.window()
                .during(Plan.once(span.from(), span.to(), one.window().plan().zone()))));
        return windows.stored(one.id());
    }
}
