package app.morvet.views.windows;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.windows.OutsideCalendars;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.VendorWork;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WindowTrack;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.NowSource;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.StoredJob;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The calendar of windows: weeks or a month as tracks, by what the windows are over. */
@Controller
class WindowsController implements NowSource {
    private static final int WIDTH = 840;
    /** So many jobs may wait for one another. */
    private static final int DEEPEST = 50;

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d", Locale.ENGLISH);
    private static final DateTimeFormatter SPAN = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final String WHOLE = "The whole estate";

    /** How much of the calendar is seen. */
    enum Zoom {
        WEEK("week", 7, "1 week"),
        WEEKS("weeks", 14, "2 weeks"),
        MONTH("month", 35, "5 weeks");

        private final String key;
        private final int days;
        private final String words;

        Zoom(String key, int days, String words) {
            this.key = key;
            this.days = days;
            this.words = words;
        }

        public String key() {
            return key;
        }

        public String words() {
            return words;
        }

        static Zoom of(String key) {
            for (var one : values()) if (one.key.equals(key)) return one;
            return WEEKS;
        }
    }

    /** A day at the head of the calendar. */
    record DayMark(String words, double x, double width, boolean weekend) {}

    /** @param css {@code hold}, {@code pause} or {@code none}, and {@code over} where it is */
    record BarMark(double x, double width, String css, String words) {}

    /** A deadline of a job of an application. */
    record Flag(double x, String words) {}

    /** @param state {@code on}, {@code to come} or {@code over} */
    record Row(long id, String name, String effect, String sentence, String state, String when, List<BarMark> bars) {}

    record Group(String name, List<Row> rows, List<Flag> flags) {}

    /** What a vendor plans that is no window: nobody has decided on it, or it was declined. */
    record Planned(String key, String title, String instance, String when, String state, List<BarMark> bars) {}

    record Calendar(
            List<DayMark> days,
            List<Group> groups,
            List<Planned> planned,
            List<Row> others,
            double now,
            String words,
            String earlier,
            String later,
            int width) {
        public boolean isEmpty() {
            return groups.isEmpty() && planned.isEmpty();
        }
    }

    private final Windows windows;
    private final WindowReach reach;
    private final Alerts alerts;
    private final JobBook jobs;
    private final VendorWork work;
    private final OutsideCalendars outside;
    private final Estate estate;
    private final Times times;

    WindowsController(
            Windows windows,
            WindowReach reach,
            Alerts alerts,
            JobBook jobs,
            VendorWork work,
            OutsideCalendars outside,
            Estate estate,
            Times times) {
        this.windows = windows;
        this.reach = reach;
        this.alerts = alerts;
        this.jobs = jobs;
        this.work = work;
        this.outside = outside;
        this.estate = estate;
        this.times = times;
    }

    @Override
    public List<NowItem> now() {
        long on = windows.on(times.now()).stream()
                .filter(one -> one.window().holds())
                .count();
        if (on == 0) return List.of();
        int held = alerts.heldUp().size();
        return List.of(new NowItem(
                "held",
                (on == 1 ? "1 window is on" : on + " windows are on") + (held == 0 ? "" : ", " + held + " held"),
                "/windows"));
    }

    @Override
    public List<String> topics() {
        return List.of("now", Windows.TOPIC);
    }

    @GetMapping("/windows")
    String calendar(
            @RequestParam(defaultValue = "weeks") String zoom,
            @RequestParam(defaultValue = "") String from,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var seen = Zoom.of(zoom);
        var today = times.now().atZone(times.zone()).toLocalDate();
        var first = day(from, today);
        model.addAttribute("calendar", calendar(seen, first));
        model.addAttribute("zoom", seen);
        model.addAttribute("zooms", Zoom.values());
        model.addAttribute("from", from.isEmpty() ? "" : first.toString());
        model.addAttribute("waiting", outside.waiting());
        model.addAttribute("any", !windows.all().isEmpty());
        return "window-rows".equals(target) ? "window-parts :: rows" : "windows";
    }

    private static LocalDate day(String typed, LocalDate today) {
        try {
            if (!typed.isEmpty()) return LocalDate.parse(typed);
        } catch (DateTimeException unreadable) {
            // An address that says nothing of use shows this week.
        }
        return today.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    }

    private Calendar calendar(Zoom zoom, LocalDate first) {
        var zone = times.zone();
        var from = first.atStartOfDay(zone).toInstant();
        var to = first.plusDays(zoom.days).atStartOfDay(zone).toInstant();
        var track = new WindowTrack(from, to, WIDTH);
        var now = times.now();
        var groups = new TreeMap<String, List<Row>>(String.CASE_INSENSITIVE_ORDER);
        var others = new ArrayList<Row>();
        for (var one : windows.all()) {
            var spans = spans(one, from, to);
            var row = row(one, spans, track, now);
            if (spans.isEmpty()) others.add(row);
            else groups.computeIfAbsent(groupOf(one), none -> new ArrayList<>()).add(row);
        }
        var rows = groups.entrySet().stream()
                .sorted(Comparator.comparing(one -> !one.getKey().equals(WHOLE)))
                .map(one -> new Group(one.getKey(), one.getValue(), flags(one.getKey(), from, to, track)))
                .toList();
        others.sort(
                Comparator.comparing((Row one) -> one.state().equals("over")).thenComparing(Row::name));
        return new Calendar(
                track.days(zone).stream()
                        .map(it -> new DayMark(
                                zoom == Zoom.MONTH ? "" + it.day().getDayOfMonth() : DAY.format(it.day()),
                                it.x(),
                                it.width(),
                                it.weekend()))
                        .toList(),
                rows,
                planned(from, to, track),
                others,
                now.isBefore(from) || now.isAfter(to) ? -1 : track.x(now),
                SPAN.format(first) + " to " + SPAN.format(first.plusDays(zoom.days - 1L)),
                first.minusDays(zoom.days).toString(),
                first.plusDays(zoom.days).toString(),
                WIDTH);
    }

    private List<Planned> planned(Instant from, Instant to, WindowTrack track) {
        return work.undecided(from, to).stream()
                .map(one -> {
                    var instance = estate.component(one.bulletin().component());
                    var when = times.span(one.span().from(), one.span().to());
                    return new Planned(
                            instance.key(),
                            one.bulletin().said().title(),
                            instance.name(),
                            when,
                            one.state().words(),
                            track.bars(List.of(one.span())).stream()
                                    .map(bar -> new BarMark(bar.x(), bar.width(), "none", when))
                                    .toList());
                })
                .toList();
    }

    private static List<Plan.Span> spans(StoredWindow one, Instant from, Instant to) {
        return one.window().plan().occurrences(from, to).stream()
                .map(Plan.Occurrence::span)
                .toList();
    }

    /** What names one application or one component says where it belongs; of all else it is looked for what it takes in. */
    private String groupOf(StoredWindow one) {
        var scope = one.window().scope();
        if (!scope.application().isEmpty()) return reach.nameOf(scope.application());
        if (scope.isOne()) return reach.applicationOf(scope.name()).orElse("Nothing in the estate");
        var applications = reach.of(one).applications();
        if (applications.size() == 1) return applications.iterator().next();
        if (applications.isEmpty()) return "Nothing in the estate";
        return scope.equals(Scope.ALL) ? WHOLE : "Several applications";
    }

    private Row row(StoredWindow one, List<Plan.Span> spans, WindowTrack track, Instant now) {
        var window = one.window();
        var next = window.plan().next(now, 1);
        boolean on = !next.isEmpty() && next.getFirst().span().has(now);
        var when = next.isEmpty()
                ? "over"
                : (on
                        ? "until " + times.of(next.getFirst().span().to())
                        : times.of(next.getFirst().span().from()));
        return new Row(
                one.id(),
                window.name(),
                effect(window),
                windows.sentence(window),
                on ? "on" : next.isEmpty() ? "over" : "to come",
                when,
                track.bars(spans).stream()
                        .map(bar -> new BarMark(
                                bar.x(), bar.width(), css(window, bar.span(), now), words(window, bar.span())))
                        .toList());
    }

    static String effect(MaintenanceWindow window) {
        return window.holds() ? window.effect().words() : "jobs not expected";
    }

    private static String css(MaintenanceWindow window, Plan.Span span, Instant now) {
        var effect = window.pauses() ? "pause" : window.holds() ? "hold" : "none";
        return effect + (span.to().isAfter(now) ? "" : " over");
    }

    private String words(MaintenanceWindow window, Plan.Span span) {
        return "%s, %s".formatted(window.name(), times.span(span.from(), span.to()));
    }

    /** The deadlines of the jobs of an application that has windows. */
    private List<Flag> flags(String application, Instant from, Instant to, WindowTrack track) {
        var flags = new ArrayList<Flag>();
        for (var job : jobs.all()) {
            var by = job.job().deadline();
            if (by == null || !ofApplication(job, application)) continue;
            for (var start : starts(job, from.minusSeconds(86_400), to, 0)) {
                var at = start.atZone(times.zone()).with(by);
                var due = (at.toInstant().isBefore(start) ? at.plusDays(1) : at).toInstant();
                if (!due.isBefore(from) && due.isBefore(to))
                    flags.add(new Flag(track.x(due), job.name() + " is due " + times.of(due)));
            }
        }
        return flags;
    }

    /** When it starts; what waits for others starts with the first of those that has times of its own. */
    private List<Instant> starts(StoredJob job, Instant from, Instant to, int depth) {
        if (!job.job().timetable().schedules().isEmpty())
            return job.job().timetable().starts(from, to);
        if (depth == DEEPEST) return List.of();
        return job.job().waits().stream()
                .flatMap(key -> jobs.byKey(key).stream())
                .map(before -> starts(before, from, to, depth + 1))
                .filter(some -> !some.isEmpty())
                .findFirst()
                .orElse(List.of());
    }

    private boolean ofApplication(StoredJob job, String application) {
        return reach.applicationOf(job.component()).equals(application);
    }
}
