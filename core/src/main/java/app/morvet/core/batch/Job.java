package app.morvet.core.batch;

import java.time.Duration;
import java.time.LocalTime;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What is agreed about a scheduled job.
 *
 * @param key         by which it is known everywhere
 * @param chain       the name of the chain that it belongs to; empty where it stands alone
 * @param timetable   when it starts by itself
 * @param waits       jobs that must be done before it starts, by key
 * @param files       names of files that must have come before it starts; {@code *} stands for anything
 * @param notBefore   a time of day before which it does not start even when all it waits for is there, or null
 * @param latestStart how long after its start, or after what it waits for is there, it must have started
 * @param longest     how long it may run, or null
 * @param deadline    the time of day by which it must be done, or null; the first such time after its start
 * @param retries     how many failed runs are normal before one succeeds
 * @param exitCodes   what they mean
 * @param leastRun    a success in less is suspicious; zero for none
 * @param leastRecords a success with fewer records is suspicious; 0 for none
 */
public record Job(
        String key,
        String chain,
        Timetable timetable,
        List<String> waits,
        List<String> files,
        @Nullable LocalTime notBefore,
        Duration latestStart,
        @Nullable Duration longest,
        @Nullable LocalTime deadline,
        int retries,
        ExitCodes exitCodes,
        Duration leastRun,
        long leastRecords) {
    /** How long after its start a job must have started where nothing else is agreed. */
    public static final Duration USUAL_LATEST = Duration.ofMinutes(10);

    public Job {
        waits = List.copyOf(waits);
        files = List.copyOf(files);
        if (latestStart.isNegative())
            throw new IllegalArgumentException("the latest start must not lie before the start");
        if (longest != null && (longest.isNegative() || longest.isZero()))
            throw new IllegalArgumentException("the longest run must be more than nothing");
        if (retries < 0 || retries > 100) throw new IllegalArgumentException("normal retries are 0 to 100");
        if (leastRun.isNegative() || leastRecords < 0)
            throw new IllegalArgumentException("what is suspicious must not be less than nothing");
        if (waits.contains(key)) throw new IllegalArgumentException(key + " cannot wait for itself");
    }

    /** Without any agreement: what a job is that was first heard of by a run of it. */
    public static Job unknown(String key, Timetable timetable) {
        return new Job(
                key,
                "",
                timetable,
                List.of(),
                List.of(),
                null,
                USUAL_LATEST,
                null,
                null,
                0,
                ExitCodes.USUAL,
                Duration.ZERO,
                0);
    }

    /** Whether it starts only when something else is done. */
    public boolean onlyAfterOthers() {
        return timetable.schedules().isEmpty() && !waits.isEmpty();
    }

    /** Whether it is known when it should run. */
    public boolean planned() {
        return !timetable.schedules().isEmpty() || !waits.isEmpty();
    }

    /** Whether a file's name is one of a pattern with {@code *} for anything. */
    static boolean fits(String pattern, String name) {
        var parts = new StringBuilder();
        for (var piece : pattern.split("\\*", -1))
            parts.append(Pattern.quote(piece)).append(".*");
        parts.setLength(parts.length() - 2);
        return Pattern.compile(parts.toString(), Pattern.DOTALL).matcher(name).matches();
    }
}
