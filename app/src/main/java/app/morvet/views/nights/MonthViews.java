package app.morvet.views.nights;

import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.Recurrence;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.batch.StoredJob;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Months of runs: what became of the starts of each day. */
@Component
class MonthViews {
    /**
     * A day of a month.
     *
     * @param mark  the worst of its starts; empty where nothing was to start
     * @param words how many starts, and what was not as it should be
     * @param link  to the plan of that day
     */
    record Day(int number, String mark, String words, String link, boolean today) {}

    /** @param blanks days before the first, so that it stands under its weekday */
    record Month(String name, int blanks, List<Day> days) {}

    record Row(String key, String name, List<Day> days) {}

    private final Runs runs;
    private final Times times;

    MonthViews(Runs runs, Times times) {
        this.runs = runs;
        this.times = times;
    }

    /** Some months of a job, the last of them last. */
    List<Month> of(StoredJob job, YearMonth last, int count) {
        var zone = job.job().timetable().zone();
        var first = last.minusMonths(count - 1);
        var byDay = byDay(runs.starts(job.component().id(), begin(first, zone), begin(last.plusMonths(1), zone)), zone);
        var months = new ArrayList<Month>();
        for (var month = first; !month.isAfter(last); month = month.plusMonths(1))
            months.add(new Month(
                    month.getMonth().getDisplayName(TextStyle.FULL, Locale.ENGLISH) + " " + month.getYear(),
                    month.atDay(1).getDayOfWeek().getValue() - 1,
                    days(month, byDay, zone)));
        return months;
    }

    /** One month of many jobs. */
    List<Row> of(List<StoredJob> jobs, YearMonth month) {
        var zone = times.zone();
        var all = runs.starts(begin(month, zone), begin(month.plusMonths(1), zone));
        return jobs.stream()
                .map(job -> new Row(
                        job.key(),
                        job.name(),
                        days(month, byDay(all.getOrDefault(job.component().id(), List.of()), zone), zone)))
                .toList();
    }

    /** What the days of failures have in common; empty where nothing. */
    String pattern(StoredJob job, Instant from, Instant to) {
        var zone = job.job().timetable().zone();
        var days = new TreeSet<LocalDate>();
        for (var start : runs.starts(job.component().id(), from, to))
            if (start.outcome() == Outcome.FAILED
                    || start.outcome() == Outcome.RECOVERED
                    || start.outcome() == Outcome.DID_NOT_START)
                days.add(start.cycle().atZone(zone).toLocalDate());
        if (days.isEmpty()) return "It has not failed once.";
        var shared = Recurrence.of(days).map(words -> ": " + words).orElse("");
        return "Failed, or did not start, on %d day%s%s.".formatted(days.size(), days.size() == 1 ? "" : "s", shared);
    }

    private static Instant begin(YearMonth month, ZoneId zone) {
        return month.atDay(1).atStartOfDay(zone).toInstant();
    }

    private static Map<LocalDate, List<Outcome>> byDay(List<Runs.Start> starts, ZoneId zone) {
        var byDay = new HashMap<LocalDate, List<Outcome>>();
        for (var start : starts)
            byDay.computeIfAbsent(start.cycle().atZone(zone).toLocalDate(), none -> new ArrayList<>())
                    .add(start.outcome());
        return byDay;
    }

    private List<Day> days(YearMonth month, Map<LocalDate, List<Outcome>> byDay, ZoneId zone) {
        var today = times.now().atZone(zone).toLocalDate();
        var days = new ArrayList<Day>();
        for (int number = 1; number <= month.lengthOfMonth(); number++) {
            var day = month.atDay(number);
            var some = byDay.getOrDefault(day, List.of());
            days.add(new Day(
                    number,
                    mark(some),
                    words(day, some),
                    "/batch?zoom=day&from=" + day.atStartOfDay(zone).toInstant(),
                    day.equals(today)));
        }
        return days;
    }

    private static String mark(List<Outcome> some) {
        if (some.isEmpty()) return "";
        return some.stream()
                .map(Marks::of)
                .min(Comparator.comparing(Marks::rank))
                .orElse("");
    }

    private static String words(LocalDate day, List<Outcome> some) {
        if (some.isEmpty()) return day + ": nothing was to start";
        var counts = new HashMap<Outcome, Integer>();
        some.forEach(one -> counts.merge(one, 1, Integer::sum));
        var told = new ArrayList<String>();
        counts.entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(entry -> told.add(
                        some.size() == 1
                                ? entry.getKey().words()
                                : entry.getValue() + " " + entry.getKey().words()));
        return day + ": " + String.join(", ", told);
    }
}
