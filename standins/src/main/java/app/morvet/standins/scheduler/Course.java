package app.morvet.standins.scheduler;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.SplittableRandom;

/**
 * How a run goes when nobody meddles with it: the same for the same seed, job and start. Settling takes longer at the turn of
 * the month and loading the warehouse on Mondays; importing fuel prices fails every second Tuesday, when the supplier sends its
 * long list; and once in a while anything takes much longer or fails.
 *
 * @param length   how long it takes
 * @param exitCode 0 where it is done
 */
record Course(Duration length, int exitCode, long records) {
    static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final long FORTNIGHT = 14;

    /** @param story the start of the demo, whose night has a tale of its own; see {@link #told} */
    static Course of(Task task, Instant meant, int attempt, long seed, Instant story) {
        var random = new SplittableRandom(seed ^ task.key().hashCode() * 31L ^ meant.getEpochSecond() * 17 ^ attempt);
        var day = meant.atZone(ZONE).toLocalDate();
        double factor = Math.exp(0.09 * gaussian(random));
        boolean turn = day.getDayOfMonth() == 1 || day.getDayOfMonth() == day.lengthOfMonth();
        if (task.key().equals("settle-bookings") && turn) factor *= 1.45;
        if (task.key().equals("load-warehouse") && day.getDayOfWeek() == DayOfWeek.MONDAY) factor *= 1.4;
        if (random.nextInt(150) == 0) factor *= 1.6;
        int code = 0;
        if (attempt == 1 && random.nextInt(160) == 0) code = 1;
        if (attempt == 1 && task.key().equals("import-fuel-prices") && longList(day.toEpochDay(), day.getDayOfWeek()))
            code = 12;
        long records = Math.round(task.records() * (0.85 + 0.3 * random.nextDouble()));
        double seconds = 60 * task.minutes() * factor;
        return told(
                task,
                meant,
                attempt,
                story,
                new Course(
                        Duration.ofMillis(
                                (long) (1000 * (code == 0 ? seconds : seconds * (0.2 + 0.6 * random.nextDouble())))),
                        code,
                        code == 0 ? records : records / 3));
    }

    private static boolean longList(long epochDay, DayOfWeek weekday) {
        return weekday == DayOfWeek.TUESDAY && Math.floorMod(epochDay, FORTNIGHT) < 7;
    }

    /** The night in which the demo starts: archiving fails, and settling takes much longer than usual. */
    private static Course told(Task task, Instant meant, int attempt, Instant story, Course plain) {
        boolean tonight = !meant.isAfter(story) && meant.isAfter(story.minus(Duration.ofHours(23)));
        if (!tonight || attempt > 1) return plain;
        if (task.key().equals("archive-manifests")) return new Course(Duration.ofMinutes(21), 28, 1_480);
        if (task.key().equals("settle-bookings"))
            return new Course(Duration.ofSeconds((long) (60 * task.minutes() * 2.1)), 0, plain.records());
        return plain;
    }

    private static double gaussian(SplittableRandom random) {
        return Math.sqrt(-2 * Math.log(1 - random.nextDouble())) * Math.cos(2 * Math.PI * random.nextDouble());
    }
}
