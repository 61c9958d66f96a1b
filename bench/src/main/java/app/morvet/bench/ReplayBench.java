package app.morvet.bench;

import app.morvet.core.guard.Amount;
import app.morvet.core.guard.GuardEvaluator;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Heard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Measuring;
import app.morvet.core.guard.Replay;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.DoubleSupplier;

/** Guards over history, and one round over a large estate, each beside a plain pass over the same arrays. */
final class ReplayBench {
    private static final Duration MINUTE = Duration.ofMinutes(1);
    private static final Instant START = Instant.parse("2026-08-01T00:00:00Z");
    private static final int WINDOW = 15;
    private static final int REPLAYED_BEFORE = 15;
    /** A node goes round for weeks: it is not its first quarter of an hour, still being compiled, that is asked for. */
    private static final int ROUNDS_BEFORE = 120;

    private volatile double kept;

    void run() throws Exception {
        ninetyDays();
        dragging();
        round();
    }

    private static Readings readings(int days, long seed) {
        var random = new SplittableRandom(seed);
        int size = days * 1440;
        var times = new long[size];
        var values = new double[size];
        for (int i = 0; i < size; i++) {
            times[i] = START.getEpochSecond() * 1_000_000 + i * 60_000_000L;
            values[i] = Math.rint((45 + 25 * Math.sin(i / 229.0) + 5 * random.nextDouble()) * 10) / 10;
        }
        return new Readings(times, values);
    }

    private static LimitGuard guard(double warning) {
        return new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(WINDOW)),
                Amount.of(Amount.Fold.MEAN),
                Limits.above(warning, warning + 15),
                Terms.clearing(0.9, Duration.ofMinutes(5)));
    }

    /** The mean of each window and whether it is above a limit: what no replay can do without. */
    private double plainPass(Readings readings, double limit) {
        double above = 0;
        var values = readings.values();
        for (int i = WINDOW; i < values.length; i++) {
            double sum = 0;
            for (int j = i - WINDOW; j < i; j++) sum += values[j];
            if (sum / WINDOW > limit) above++;
        }
        return above;
    }

    private InTurn inTurn(int warmUps, DoubleSupplier measured, DoubleSupplier plain) throws Exception {
        return InTurn.of(
                warmUps,
                InTurn.millis(() -> kept += measured.getAsDouble()),
                InTurn.millis(() -> kept += plain.getAsDouble()));
    }

    private void ninetyDays() throws Exception {
        var readings = readings(90, 1);
        var end = START.plus(Duration.ofDays(90));
        var heard = Heard.of(readings, Sort.GAUGE, MINUTE);
        var guard = guard(68);
        var found = inTurn(
                REPLAYED_BEFORE,
                () -> Replay.of(
                                guard,
                                List.of(new Replay.Run(1, "one", Measuring.course(guard, heard, START, end))),
                                START,
                                end)
                        .alerts()
                        .size(),
                () -> plainPass(readings, 68));
        System.out.printf(
                "%nreplay of 90 days at a reading a minute: %.1f ms, a plain pass over the same array %.1f ms, %s (aim 8)%n",
                found.measured(), found.limit(), found.words());
    }

    /** What a drag of a limit costs: 14 days of 50 subjects, measured once. */
    private void dragging() throws Exception {
        var end = START.plus(Duration.ofDays(14));
        var runs = new ArrayList<Replay.Run>();
        var all = new ArrayList<Readings>();
        for (int i = 0; i < 50; i++) {
            var readings = readings(14, i);
            all.add(readings);
            runs.add(new Replay.Run(
                    i, "c" + i, Measuring.course(guard(68), Heard.of(readings, Sort.GAUGE, MINUTE), START, end)));
        }
        var found = inTurn(
                REPLAYED_BEFORE,
                () -> Replay.of(guard(66), runs, START, end).alerts().size(),
                () -> all.stream().mapToDouble(one -> plainPass(one, 66)).sum());
        System.out.printf(
                "a limit dragged, 14 days of 50 subjects at a reading a minute: %.1f ms (aim 300), a plain pass %.1f ms, %s%n",
                found.measured(), found.limit(), found.words());
    }

    /** One round: 20,000 series with a new reading each, 2,000 guards over ten of them each. */
    private void round() throws Exception {
        int count = 20_000;
        var rings = new ArrayList<ReadingRing>(count);
        var states = new GuardState[count];
        var arrays = new double[count][WINDOW + 1];
        var guards = new LimitGuard[2000];
        for (int i = 0; i < guards.length; i++) guards[i] = guard(75 + i % 10);
        var random = new SplittableRandom(3);
        for (int i = 0; i < count; i++) {
            var ring = new ReadingRing();
            for (int minute = 0; minute <= WINDOW; minute++) {
                double value = 40 + random.nextInt(300) / 10.0;
                ring.add(START.plus(Duration.ofMinutes(minute)), value);
                arrays[i][minute] = value;
            }
            rings.add(ring);
            states[i] = GuardState.startingAt(START.plus(Duration.ofMinutes(WINDOW)));
        }
        DoubleSupplier plain = () -> {
            double above = 0;
            for (var array : arrays) {
                double sum = 0;
                for (double value : array) sum += value;
                if (sum / array.length > 75) above++;
            }
            return above;
        };
        int[] minute = {WINDOW};
        DoubleSupplier round = () -> {
            minute[0]++;
            var now = START.plus(Duration.ofMinutes(minute[0]));
            long heard = Micros.of(now);
            long forgotten = Micros.of(now.minus(Duration.ofMinutes(WINDOW + 1)));
            double moved = 0;
            for (int i = 0; i < count; i++) {
                var guard = guards[i / 10];
                var ring = rings.get(i);
                ring.add(heard, 40 + (i * 31 + minute[0] * 7) % 300 / 10.0);
                var step = GuardEvaluator.glance(guard, states[i], ring, Sort.GAUGE, now);
                if (step == null) step = GuardEvaluator.step(guard, states[i], heard(ring, states[i]), now);
                states[i] = step.state();
                moved += step.transitions().size();
                ring.forgetBefore(forgotten);
            }
            return moved;
        };
        var found = inTurn(ROUNDS_BEFORE, round, plain);
        System.out.printf(
                "one round over 20,000 series and 2,000 guards at a reading a minute: %.1f ms, a plain pass over the same arrays %.2f ms, %s (aim 8); one core %.2f %% busy%n",
                found.measured(), found.limit(), found.words(), found.measured() / 600);
    }

    private static Heard heard(ReadingRing ring, GuardState state) {
        var reach = Duration.ofMinutes(WINDOW).plusSeconds(1);
        return Heard.of(ring.since(Micros.of(state.evaluatedTo().minus(reach))), Sort.GAUGE, MINUTE);
    }
}
