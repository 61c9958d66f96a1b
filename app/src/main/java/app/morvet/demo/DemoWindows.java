package app.morvet.demo;

import app.morvet.alerting.windows.CalendarRules.Meaning;
import app.morvet.alerting.windows.CalendarRules.Rule;
import app.morvet.alerting.windows.OutsideCalendars;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import app.morvet.core.windows.MaintenanceWindow.Jobs;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.connections.Connection;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The planned work of Sundrava Ferries, past and to come. */
@Component
@Profile("demo")
class DemoWindows {
    private static final String HARBOUR = "Works in the harbour";

    private final Windows windows;
    private final MorvetSettings settings;
    private final Clock clock;
    private final OutsideCalendars calendars;
    private final DemoSettings demo;

    DemoWindows(Windows windows, MorvetSettings settings, OutsideCalendars calendars, DemoSettings demo, Clock clock) {
        this.windows = windows;
        this.calendars = calendars;
        this.demo = demo;
        this.settings = settings;
        this.clock = clock;
    }

    void add() {
        var today = LocalDate.ofInstant(clock.instant(), settings.zone());
        var tuesday = today.minusWeeks(4).with(TemporalAdjusters.nextOrSame(DayOfWeek.TUESDAY));
        once(
                "Tank sensors are calibrated",
                Scope.ofJob("weigh-fuel-stores"),
                today,
                "06:30",
                180,
                Effect.HOLD,
                Jobs.NOT_EXPECTED,
                "the yard calibrates the sensors of all tanks; what they tell meanwhile is of no use");
        again(
                "Archive is tidied up",
                Scope.ALL.ofKind("job").ofApplication("sailing-archive"),
                "every Sunday at 00:00",
                360,
                Effect.NONE,
                Jobs.NOT_EXPECTED,
                "");
        again(
                "Gate firmware",
                Scope.ALL.named("quay-05").withAllOnIt(),
                "every 2 weeks on Tuesday from %s at 22:40".formatted(tuesday),
                50,
                Effect.HOLD,
                Jobs.AS_EVER,
                "new firmware for the boarding gates");
        again(
                "Month end of the ledger",
                Scope.ALL.ofApplication("settlement-ledger"),
                "on the last working day of the month at 19:00",
                120,
                Effect.HOLD,
                Jobs.AS_EVER,
                "Finance closes the month by hand");
        again(
                "Database copies",
                Scope.ALL.ofApplication("report-warehouse"),
                "every day at 02:15",
                45,
                Effect.HOLD,
                Jobs.AS_EVER,
                "the warehouse is copied, and slow while it is");
        told("Gate firmware", Duration.ofDays(1));
        addCalendar();
        var now = clock.instant().truncatedTo(ChronoUnit.MINUTES);
        around(
                "Gangway 3 is restarted",
                "gangway-3",
                now.minus(Duration.ofMinutes(31 * 60 + 30)),
                120,
                "a patch of its container");
        around(
                "Gangway 2 gets more memory",
                "gangway-2",
                now.minus(Duration.ofHours(58)),
                120,
                "it answers slowly in the evening");
        around(
                "Sextant is upgraded",
                "sextant-1",
                now.minus(Duration.ofMinutes(30)),
                150,
                "the new charts need the new version");
        once(
                "Harbour network is rebuilt",
                Scope.ALL.named("quay-03").withAllOnIt(),
                today.plusDays(2),
                "01:00",
                240,
                Effect.PAUSE,
                Jobs.AS_EVER,
                "new switches in the harbour; nothing there can be reached");
    }

    /** The harbour's own people plan in a calendar of theirs. */
    private void addCalendar() {
        calendars.set(
                new Connection(
                        0,
                        OutsideCalendars.SORT,
                        HARBOUR,
                        null,
                        HARBOUR,
                        demo.desk() + "/works/harbour.ics",
                        "",
                        "",
                        Map.of(OutsideCalendars.EVERY, "60"),
                        0),
                List.of(over("quay-03", Duration.ofDays(1)), over("quay-04", null)));
    }

    private static Rule over(String quay, @Nullable Duration told) {
        return new Rule(quay, new Meaning(Scope.ALL.named(quay).withAllOnIt(), Effect.HOLD, told));
    }

    private void around(String name, String component, Instant from, int minutes, String reason) {
        var plan = Plan.once(from, from.plus(Duration.ofMinutes(minutes)), settings.zone());
        set(name, Scope.ALL.named(component).withAllOnIt(), plan, Effect.HOLD, Jobs.AS_EVER, reason);
    }

    private void once(
            String name, Scope scope, LocalDate day, String at, int minutes, Effect effect, Jobs jobs, String reason) {
        var from = day.atTime(LocalTime.parse(at)).atZone(settings.zone()).toInstant();
        set(
                name,
                scope,
                Plan.once(from, from.plus(Duration.ofMinutes(minutes)), settings.zone()),
                effect,
                jobs,
                reason);
    }

    private void told(String name, Duration before) {
        windows.all().stream()
                .filter(one -> one.window().name().equals(name))
                .forEach(one -> windows.set(one.toldBefore(before)));
    }

    private void again(String name, Scope scope, String when, int minutes, Effect effect, Jobs jobs, String reason) {
        var rhythm = RhythmText.read(when, HolidayCalendar.NONE);
        set(name, scope, Plan.again(rhythm, settings.zone(), Duration.ofMinutes(minutes)), effect, jobs, reason);
    }

    private void set(String name, Scope scope, Plan plan, Effect effect, Jobs jobs, String reason) {
        windows.set(StoredWindow.fresh(new MaintenanceWindow(name, scope, plan, effect, jobs, reason)));
    }
}
