package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Jobs and nights for tests, in UTC. */
final class Jobs {
    static final ZoneId UTC = ZoneId.of("UTC");

    private Jobs() {}

    static Instant at(String time) {
        return Instant.parse("2026-03-18T" + time + ":00Z");
    }

    static Timetable daily(String cron) {
        return new Timetable(
                cron.isEmpty()
                        ? List.of()
                        : List.of(new Schedule.Cron(CronExpression.of(cron), Schedule.OnHoliday.STARTS)),
                UTC,
                HolidayCalendar.NONE,
                ClockChange.ONCE);
    }

    static Job job(String key, String cron, String... waits) {
        return due(key, cron, null, waits);
    }

    static Job due(String key, String cron, @Nullable String deadline, String... waits) {
        return new Job(
                key,
                "chain",
                daily(cron),
                List.of(waits),
                List.of(),
                null,
                Duration.ofMinutes(10),
                Duration.ofHours(3),
                deadline == null ? null : LocalTime.parse(deadline),
                0,
                ExitCodes.USUAL,
                Duration.ofSeconds(5),
                10);
    }

    private static long ids;

    static Run running(String from) {
        return run(at(from), null, null, null);
    }

    static Run ran(String from, String to, Run.End end) {
        return run(at(from), at(to), end, end == Run.End.FAILED ? 12 : 0);
    }

    static Run run(Instant from, @Nullable Instant to, Run.@Nullable End end, @Nullable Integer code) {
        return new Run(++ids, from, to, end, null, Run.Trigger.SCHEDULE, code, null, null, null);
    }

    /** What is known of a night: runs by job, and that every job lasts as long as is said. */
    static final class Known implements Night.Known {
        private final Map<String, List<Run>> runs = new HashMap<>();
        private final Map<String, Spread> usual = new HashMap<>();
        private final List<Night.Arrival> files = new ArrayList<>();

        Known with(String job, Run... some) {
            runs.put(job, List.of(some));
            return this;
        }

        Known lasting(String job, Spread spread) {
            usual.put(job, spread);
            return this;
        }

        Known file(String name, String at) {
            files.add(new Night.Arrival(name, Jobs.at(at)));
            return this;
        }

        @Override
        public List<Run> runs(String job) {
            return runs.getOrDefault(job, List.of());
        }

        @Override
        public Spread usual(Job job, Instant at) {
            return usual.getOrDefault(job.key(), minutes(20, 30, 40));
        }

        @Override
        public List<Night.Arrival> files() {
            return files;
        }
    }

    /** Learned from many runs. */
    static Spread minutes(double low, double middle, double high) {
        return new Spread(new double[] {60 * low, 60 * middle, 60 * high}, 30, "");
    }
}
