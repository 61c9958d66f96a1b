package app.morvet.standins.scheduler;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * A job of the company.
 *
 * @param on      on which days it starts by itself
 * @param times   at which times of those days; none where it starts after others only
 * @param after   keys of the jobs that must be done before, in the same night
 * @param minutes how long it usually takes
 * @param records how many it usually works on
 * @param steps   what it does, for its output
 */
record Task(
        String key,
        String name,
        Predicate<LocalDate> on,
        List<LocalTime> times,
        List<String> after,
        double minutes,
        long records,
        List<String> steps) {

    private static final int LOOKED_FOR = 40;
    private static final Predicate<LocalDate> DAILY = day -> true;
    private static final Set<MonthDay> HOLIDAYS =
            Set.of(MonthDay.of(1, 1), MonthDay.of(6, 21), MonthDay.of(12, 6), MonthDay.of(12, 24), MonthDay.of(12, 25));
    private static final Predicate<LocalDate> WEEKDAYS =
            day -> day.getDayOfWeek().getValue() <= 5;

    static final List<Task> ALL = List.of(
            daily(
                    "collect-sailings",
                    "Collect sailings",
                    "01:00",
                    40,
                    420,
                    "read sailings",
                    "check berths",
                    "write day"),
            after(
                    "rate-fares",
                    "Rate fares",
                    "collect-sailings",
                    55,
                    18_400,
                    "load fares",
                    "rate bookings",
                    "write fares"),
            after(
                    "settle-bookings",
                    "Settle bookings",
                    "rate-fares",
                    85,
                    18_400,
                    "match payments",
                    "settle",
                    "write journal"),
            after(
                    "post-to-ledger",
                    "Post to ledger",
                    "settle-bookings",
                    60,
                    18_400,
                    "open period",
                    "post journal",
                    "close day"),
            after(
                    "bank-file",
                    "Bank file",
                    "post-to-ledger",
                    35,
                    312,
                    "collect payments",
                    "write file",
                    "hand to bank"),
            after("load-warehouse", "Load warehouse", "bank-file", 35, 96_000, "stage", "load facts", "refresh marts"),
            after("morning-figures", "Morning figures", "load-warehouse", 15, 36, "sum up", "render", "send"),
            daily("publish-crew-roster", "Publish crew roster", "04:00", 12, 640, "read roster", "publish"),
            new Task(
                    "import-fuel-prices",
                    "Import fuel prices",
                    WEEKDAYS,
                    at("05:15"),
                    List.of(),
                    6,
                    58,
                    List.of("fetch", "import")),
            daily("archive-manifests", "Archive manifests", "02:15", 45, 5_200, "select", "pack", "move"),
            new Task(
                    "rebuild-timetable-search",
                    "Rebuild timetable search",
                    DAILY,
                    every(30, "00:10", "23:40"),
                    List.of(),
                    4,
                    9_800,
                    List.of("read", "index")),
            daily("rotate-gate-keys", "Rotate gate keys", "03:30", 2, 14, "make keys", "send to gates"),
            new Task(
                    "weigh-fuel-stores",
                    "Weigh fuel stores",
                    DAILY,
                    every(120, "00:45", "22:45"),
                    List.of(),
                    3,
                    22,
                    List.of("ask tanks", "write levels")),
            daily("back-up-ledger", "Back up ledger", "23:00", 50, 1, "freeze", "copy", "verify"),
            daily("refresh-customer-groups", "Refresh customer groups", "22:30", 30, 41_000, "read customers", "group"),
            new Task(
                    "print-boarding-lists",
                    "Print boarding lists",
                    DAILY,
                    every(60, "05:20", "21:20"),
                    List.of(),
                    5,
                    800,
                    List.of("collect", "print")),
            new Task(
                    "purge-sea-state",
                    "Purge sea-state readings",
                    day -> day.getDayOfWeek() == DayOfWeek.SUNDAY,
                    at("03:00"),
                    List.of(),
                    70,
                    1_900_000,
                    List.of("find", "purge", "compact")),
            new Task(
                    "invoices-to-markentide",
                    "Invoices to Markentide",
                    Task::lastWorkingDay,
                    at("18:00"),
                    List.of(),
                    25,
                    210,
                    List.of("collect", "send")),
            new Task(
                    "payroll-to-pellaroo",
                    "Payroll to Pellaroo",
                    Task::thirdWorkingDay,
                    at("10:00"),
                    List.of(),
                    18,
                    640,
                    List.of("collect hours", "send")));

    private static Task daily(String key, String name, String time, double minutes, long records, String... steps) {
        return new Task(key, name, DAILY, at(time), List.of(), minutes, records, List.of(steps));
    }

    private static Task after(String key, String name, String after, double minutes, long records, String... steps) {
        return new Task(key, name, DAILY, List.of(), List.of(after), minutes, records, List.of(steps));
    }

    private static List<LocalTime> at(String time) {
        return List.of(LocalTime.parse(time));
    }

    private static List<LocalTime> every(int minutes, String from, String to) {
        var times = new ArrayList<LocalTime>();
        int last = LocalTime.parse(to).toSecondOfDay() / 60;
        for (int at = LocalTime.parse(from).toSecondOfDay() / 60; at <= last; at += minutes)
            times.add(LocalTime.of(at / 60, at % 60));
        return List.copyOf(times);
    }

    /** By the office days of Sundrava. */
    private static boolean isWorkingDay(LocalDate day) {
        return day.getDayOfWeek().getValue() <= 5 && !HOLIDAYS.contains(MonthDay.from(day));
    }

    private static boolean lastWorkingDay(LocalDate day) {
        var last = day.withDayOfMonth(day.lengthOfMonth());
        while (!isWorkingDay(last)) last = last.minusDays(1);
        return day.equals(last);
    }

    private static boolean thirdWorkingDay(LocalDate day) {
        int found = 0;
        for (int i = 1; i <= day.lengthOfMonth(); i++)
            if (isWorkingDay(day.withDayOfMonth(i)) && ++found == 3) return day.getDayOfMonth() == i;
        return false;
    }

    /** When it last was due by its own times, within forty days. */
    Optional<Instant> lastDue(Instant at) {
        return dues(at, -LOOKED_FOR, 0).filter(due -> !due.isAfter(at)).reduce((one, later) -> later);
    }

    /** When it is next due by its own times, within forty days. */
    Optional<Instant> nextDue(Instant at) {
        return dues(at, 0, LOOKED_FOR).filter(due -> due.isAfter(at)).findFirst();
    }

    private Stream<Instant> dues(Instant at, int fromDays, int toDays) {
        var today = at.atZone(Course.ZONE).toLocalDate();
        return today.plusDays(fromDays)
                .datesUntil(today.plusDays(toDays + 1))
                .filter(on)
                .flatMap(day -> times.stream()
                        .map(time -> day.atTime(time).atZone(Course.ZONE).toInstant()));
    }

    static Task of(String key) {
        return ALL.stream()
                .filter(one -> one.key().equals(key))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no job " + key));
    }

    List<Task> followers() {
        return ALL.stream().filter(one -> one.after().contains(key)).toList();
    }
}
