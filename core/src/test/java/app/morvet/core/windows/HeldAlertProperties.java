package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.HeldAlert.Fate;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is held is never lost, whatever becomes of the windows over it. */
class HeldAlertProperties {
    private static final Instant START = Instant.parse("2027-03-18T00:00:00Z");
    private static final List<String> NAMES = List.of("quay-03", "quay-05", "hub-carrier");

    private static Instant at(int minute) {
        return START.plus(Duration.ofMinutes(minute));
    }

    private static Scope.Facts facts(String name) {
        return new Scope.Facts(name, name, "host", "", 0, "", Set.of(), "", null);
    }

    private static MaintenanceWindow window(String name, int from, int to, MaintenanceWindow.Effect effect) {
        return new MaintenanceWindow(
                "w",
                Scope.ALL.named(name),
                Plan.once(at(from), at(to), ZoneOffset.UTC),
                effect,
                MaintenanceWindow.Jobs.NOT_EXPECTED,
                "");
    }

    private static Cover cover(Instant now, Cover.Known... all) {
        return Cover.within(List.of(all), now, now.plusNanos(1));
    }

    @ParameterizedTest
    @CsvSource({
        "59, false, false, -1, HELD",
        "60, false, false, -1, RELEASED",
        "60, false, true, -1, RESTS",
        // Where nothing was asked, it is looked at first.
        "60, true, false, 59, LOOKED_AT",
        "60, true, true, -1, LOOKED_AT",
        "61, true, false, 61, RELEASED",
        "64, true, false, 30, LOOKED_AT",
        "65, true, false, 30, RELEASED",
        "65, true, true, 30, RESTS"
    })
    void whatBecomesOfItAtTheEnd(int minute, boolean paused, boolean standsOnPast, int heard, Fate fate) {
        var alert = new HeldAlert(facts("quay-05"), at(60), paused, standsOnPast, heard < 0 ? null : at(heard));
        var windows = cover(at(minute), new Cover.Known(1, window("quay-05", 10, 60, MaintenanceWindow.Effect.HOLD)));
        assertThat(alert.fate(windows, at(minute))).isEqualTo(fate);
    }

    @Test
    void ofSeveralTheStrongestCountsAndTheLastToEndLetsGo() {
        var short1 = new Cover.Known(1, window("quay-05", 10, 40, MaintenanceWindow.Effect.PAUSE));
        var long2 = new Cover.Known(2, window("quay-*", 20, 60, MaintenanceWindow.Effect.HOLD));
        var longer3 = new Cover.Known(3, window("quay-*", 20, 70, MaintenanceWindow.Effect.HOLD));
        var jobs4 = new Cover.Known(4, window("quay-*", 0, 90, MaintenanceWindow.Effect.NONE));
        var all = Cover.within(List.of(short1, long2, longer3, jobs4), at(0), at(90));
        assertThat(all.of(facts("quay-05"), at(30)).orElseThrow().id()).isEqualTo(1);
        assertThat(all.pauses(facts("quay-05"), at(30))).isTrue();
        assertThat(all.pauses(facts("quay-03"), at(30))).isFalse();
        assertThat(all.of(facts("quay-05"), at(50)).orElseThrow().id()).isEqualTo(3);
        assertThat(all.of(facts("quay-05"), at(70))).isEmpty();
        assertThat(all.of(facts("stores-meter"), at(30))).isEmpty();
    }

    /** An alert of the story, and what is stored of its holding. */
    private static final class Told {
        final String on;
        final boolean counts;
        boolean held;
        boolean rests;
        boolean work;
        boolean paused;

        @Nullable
        Instant until;

        Told(String on, boolean counts) {
            this.on = on;
            this.counts = counts;
        }
    }

    /**
     * Windows are made, moved, ended, lengthened and taken away at random, alerts are raised, and rounds come when they come: after
     * each round an alert is work, or a window covers it, or it stands on what happened inside, or it is looked at for some minutes.
     */
    @Property(tries = 300)
    void nothingThatIsHeldIsLost(@ForAll long seed) {
        var random = new Random(seed);
        var windows = new ArrayList<Cover.Known>();
        var alerts = new ArrayList<Told>();
        for (int minute = 0; minute < 240; minute++) {
            var now = at(minute);
            if (random.nextInt(8) == 0) change(random, windows, minute);
            if (random.nextInt(5) == 0) {
                var alert = new Told(NAMES.get(random.nextInt(NAMES.size())), random.nextInt(4) == 0);
                var on = Cover.within(windows, now, now.plusNanos(1)).of(facts(alert.on), now);
                alert.held = on.isPresent();
                alert.work = on.isEmpty();
                alert.paused = on.filter(it -> it.window().pauses()).isPresent();
                alert.until = on.map(Cover.On::to).orElse(null);
                alerts.add(alert);
            }
            // No round for a while is a crash: the next one reckons from what is stored.
            if (random.nextInt(3) > 0) round(alerts, Cover.within(windows, now, now.plusNanos(1)), now);
        }
        windows.clear();
        round(alerts, Cover.NONE, at(240));
        round(alerts, Cover.NONE, at(246));
        assertThat(alerts).allMatch(one -> one.work || one.rests && one.counts);
    }

    private static void change(Random random, List<Cover.Known> windows, int minute) {
        var effect = MaintenanceWindow.Effect.values()[random.nextInt(3)];
        int from = Math.max(0, minute + random.nextInt(40) - 20);
        var fresh = window(
                random.nextBoolean() ? "*" : NAMES.get(random.nextInt(NAMES.size())),
                from,
                from + 1 + random.nextInt(60),
                effect);
        int which = random.nextInt(windows.size() + 1);
        if (which == windows.size()) windows.add(new Cover.Known(minute, fresh));
        else if (random.nextBoolean()) windows.remove(which);
        else windows.set(which, new Cover.Known(windows.get(which).id(), fresh));
    }

    private static void round(List<Told> alerts, Cover cover, Instant now) {
        for (var one : alerts) {
            if (one.work) continue;
            var on = cover.of(facts(one.on), now).orElse(null);
            if (on != null) {
                one.until = on.to();
                one.paused |= on.window().pauses();
                one.rests = false;
            } else if (!one.rests) {
                if (one.until.isAfter(now)) one.until = now;
                var fate = new HeldAlert(facts(one.on), one.until, one.paused, one.counts, null).fate(cover, now);
                one.work = fate == Fate.RELEASED;
                one.rests = fate == Fate.RESTS;
                if (fate == Fate.LOOKED_AT)
                    assertThat(one.paused && now.isBefore(one.until.plus(Duration.ofMinutes(5))))
                            .isTrue();
                else assertThat(one.work || one.rests).isTrue();
            }
        }
    }
}
