package app.morvet.bench;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.Cover;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** What 500 windows cost a round in which each of 20,000 components raises an alert at once, beside one without any. */
final class WindowsBench {
    private static final int COMPONENTS = 20_000;
    private static final int WINDOWS = 500;
    private static final Instant NOW = Instant.parse("2027-03-18T04:40:00Z");
    private volatile long kept;

    void run() throws Exception {
        var facts = facts();
        var windows = windows();
        var begun = System.nanoTime();
        var cover = Cover.within(windows, NOW.minus(Duration.ofHours(2)), NOW.plus(Duration.ofHours(2)));
        double once = (System.nanoTime() - begun) / 1e6;
        var found = InTurn.of(
                5,
                InTurn.millis(() -> kept += round(facts, cover)),
                InTurn.millis(() -> kept += round(facts, Cover.NONE)));
        System.out.printf(
                "%nwindows: %d of them, %d on; what is on within four hours reckoned in %.0f ms, once in two hours%n",
                WINDOWS, cover.at(NOW).size(), once);
        System.out.printf(
                "a round in which %,d components raise at once: %.1f ms, without a window %.2f ms, %s; %.2f µs an alert%n",
                COMPONENTS, found.measured(), found.limit(), found.words(), 1000 * found.measured() / COMPONENTS);
    }

    /** Each alert is asked for, and looked at otherwise as cheaply as can be. */
    private static long round(List<Scope.Facts> facts, Cover cover) {
        long sum = 0;
        for (var one : facts) sum += one.key().hashCode() + (cover.of(one, NOW).isPresent() ? 1 : 0);
        return sum;
    }

    private static List<Scope.Facts> facts() {
        var all = new ArrayList<Scope.Facts>();
        for (int i = 0; i < COMPONENTS; i++) {
            var host = new Scope.Facts(
                    "p%03d-host".formatted(i % 200),
                    "",
                    "host",
                    "app-" + i % 40,
                    1 + i % 4,
                    "production",
                    Set.of(),
                    "",
                    null);
            all.add(new Scope.Facts(
                    "p%03d-%d".formatted(i % 200, i),
                    "Component " + i,
                    "service",
                    "app-" + i % 40,
                    1 + i % 4,
                    "production",
                    Set.of(),
                    "",
                    host));
        }
        return all;
    }

    private static List<Cover.Known> windows() {
        var all = new ArrayList<Cover.Known>();
        var zone = ZoneId.of("Europe/Helsinki");
        for (int i = 0; i < WINDOWS; i++) {
            var at = "every day at %02d:%02d".formatted(i % 24, 7 * i % 60);
            var scope = i % 3 == 0
                    ? Scope.ALL.named("p%03d-host".formatted(i % 200)).withAllOnIt()
                    : i % 3 == 1
                            ? Scope.ALL.ofApplication("app-" + i % 40).ofKind("host")
                            : Scope.ALL.named("p%03d-*".formatted(i % 200));
            all.add(new Cover.Known(
                    i,
                    new MaintenanceWindow(
                            "window " + i,
                            scope,
                            Plan.again(RhythmText.read(at, HolidayCalendar.NONE), zone, Duration.ofMinutes(90)),
                            MaintenanceWindow.Effect.HOLD,
                            MaintenanceWindow.Jobs.AS_EVER,
                            "")));
        }
        return all;
    }
}
