package app.morvet.core.batch;

import app.morvet.core.guard.Spans;
import java.time.LocalTime;
import java.util.List;
import java.util.stream.Collectors;

/** A schedule as people say it. */
public final class ScheduleWords {
    private static final int MOST_TIMES = 4;

    private ScheduleWords() {}

    /** {@code every day at 01:00}, {@code every 20 min from 06:00 to 22:00}, {@code on the last working day of the month at 18:00}. */
    public static String of(Schedule schedule) {
        return switch (schedule) {
            case Schedule.Cron(var expression, var holiday) -> cron(expression) + holiday(holiday);
            case Schedule.Every(var every, LocalTime from, LocalTime to) -> {
                boolean all = from.equals(LocalTime.MIDNIGHT) && to.isAfter(LocalTime.of(23, 0));
                yield "every " + Spans.words(every) + (all ? "" : " from " + from + " to " + to);
            }
            case Schedule.WorkingDay(int nth, LocalTime at) ->
                "on the %s working day of the month at %s".formatted(nth(nth), at);
        };
    }

    /** All schedules of a job, and what it starts after. */
    public static String of(Job job, java.util.function.UnaryOperator<String> names) {
        var times = job.timetable().schedules().stream().map(ScheduleWords::of).collect(Collectors.joining(", and "));
        var waits = job.waits().stream().map(names).collect(Collectors.joining(", "));
        var files = String.join(", ", job.files());
        var text = new StringBuilder(times.isEmpty() ? waits.isEmpty() ? "not scheduled" : "after " + waits : times);
        if (!times.isEmpty() && !waits.isEmpty()) text.append(", after ").append(waits);
        if (!files.isEmpty()) text.append(", when ").append(files).append(" is there");
        if (job.notBefore() != null) text.append(", not before ").append(job.notBefore());
        return text.toString();
    }

    private static String nth(int nth) {
        if (nth == -1) return "last";
        return nth > 0 ? ordinal(nth) : ordinal(-nth) + " from last";
    }

    private static String ordinal(int n) {
        var small =
                List.of("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth");
        return n <= small.size() ? small.get(n - 1) : n + "th";
    }

    private static String holiday(Schedule.OnHoliday holiday) {
        return switch (holiday) {
            case STARTS -> "";
            case LEFT_OUT -> ", not on holidays";
            case NEXT_WORKING_DAY -> ", on the next working day if a holiday";
        };
    }

    private static String cron(CronExpression expression) {
        var text = expression.toString();
        if (text.startsWith("@"))
            return text.substring(1).replace("midnight", "daily").replace("annually", "yearly");
        var field = text.strip().split("\\s+");
        var when = times(field[0], field[1], expression.times());
        if (when.isEmpty()) return "by " + text;
        boolean plain = field[2].matches("[*?]") && field[3].equals("*");
        if (plain && field[4].matches("[*?]")) return when.startsWith("at ") ? "every day " + when : when;
        if (plain && field[4].matches("(?i)[a-z]{3}|[0-7]")) return "every " + day(field[4]) + " " + when;
        if (plain && field[4].matches("(?i)mon-fri|1-5")) return "Monday to Friday " + when;
        if (field[2].equalsIgnoreCase("L") && field[3].equals("*") && field[4].matches("[*?]"))
            return "on the last day of the month " + when;
        if (field[2].matches("\\d+") && field[3].equals("*") && field[4].matches("[*?]"))
            return "on day " + field[2] + " of the month " + when;
        return when + " on the days of \"" + String.join(" ", field[2], field[3], field[4]) + "\"";
    }

    private static String times(String minute, String hour, List<LocalTime> times) {
        if (times.size() <= MOST_TIMES)
            return "at " + times.stream().map(LocalTime::toString).collect(Collectors.joining(", "));
        if (hour.equals("*") && minute.equals("*")) return "every minute";
        if (hour.equals("*") && minute.matches("\\*/\\d+") && 60 % Integer.parseInt(minute.substring(2)) == 0)
            return "every " + minute.substring(2) + " min";
        if (hour.equals("*") && minute.matches("\\d+")) return "every hour at minute " + minute;
        if (minute.matches("\\d+") && hour.matches("\\*/\\d+"))
            return "every " + hour.substring(2) + " h at minute " + minute;
        if (minute.matches("\\d+") && hour.matches("\\d+-\\d+(/\\d+)?")) {
            int step = hour.contains("/") ? Integer.parseInt(hour.substring(hour.indexOf('/') + 1)) : 1;
            return "every %sfrom %s to %s"
                    .formatted(step == 1 ? "hour " : step + " h ", times.getFirst(), times.getLast());
        }
        return "";
    }

    private static String day(String field) {
        var names = List.of("Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday");
        if (field.matches("[0-7]")) return names.get(Integer.parseInt(field) % 7);
        return names.stream()
                .filter(name -> name.regionMatches(true, 0, field, 0, 3))
                .findFirst()
                .orElse(field);
    }
}
