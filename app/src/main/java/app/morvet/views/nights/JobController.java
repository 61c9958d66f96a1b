package app.morvet.views.nights;

import app.morvet.core.batch.OutputComparison;
import app.morvet.core.batch.ScheduleWords;
import app.morvet.core.batch.Spread;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobWindows;
import app.morvet.sources.batch.Nights;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.batch.StoredJob;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.orders.Orders;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** The jobs: all of them, one, its months, and its last failure beside its last success. */
@Controller
class JobController {
    private static final int RUNS = 20;
    private static final int STARTS = 10;
    private static final int PAGE = 60;
    private static final int MONTHS = 3;
    private static final Duration CURVES = Duration.ofDays(90);

    record Row(
            String key,
            String name,
            String mark,
            String stands,
            String application,
            String chain,
            String schedule,
            String next,
            boolean agreed,
            boolean held) {}

    /** Another job that this one has to do with, and how it stands with it. */
    record Neighbour(String key, String name, String mark, String stands) {}

    record Change(String at, String who, String words) {}

    private final JobBook jobs;
    private final Nights nights;
    private final JobWindows windows;
    private final Runs runs;
    private final RunViews views;
    private final JobStands stands;
    private final MonthViews months;
    private final Orders orders;
    private final CaseBook cases;
    private final Estate estate;
    private final People people;
    private final FixNotes fixNotes;
    private final Times times;

    JobController(
            JobBook jobs,
            Nights nights,
            JobWindows windows,
            Runs runs,
            RunViews views,
            JobStands stands,
            MonthViews months,
            Orders orders,
            CaseBook cases,
            Estate estate,
            People people,
            FixNotes fixNotes,
            Times times) {
        this.jobs = jobs;
        this.nights = nights;
        this.windows = windows;
        this.runs = runs;
        this.views = views;
        this.stands = stands;
        this.months = months;
        this.orders = orders;
        this.cases = cases;
        this.estate = estate;
        this.people = people;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/batch/jobs")
    String list(@RequestParam(defaultValue = "") String q, @RequestParam(defaultValue = "0") int after, Model model) {
        var words = q.strip().toLowerCase(Locale.ROOT);
        var look = stands.of(nights.now());
        var found = jobs.all().stream()
                .filter(job -> words.isEmpty() || text(job).contains(words))
                .sorted(look.troubledFirst())
                .toList();
        var page = found.stream().skip(Math.max(0, after)).limit(PAGE).toList();
        model.addAttribute("typed", q);
        model.addAttribute("count", found.size());
        model.addAttribute("after", after);
        model.addAttribute("next", after + page.size() < found.size() ? after + page.size() : 0);
        model.addAttribute("rows", page.stream().map(job -> row(job, look)).toList());
        return "jobs";
    }

    private String text(StoredJob job) {
        return String.join(
                        " ",
                        job.key(),
                        job.name(),
                        job.job().chain(),
                        estate.applicationOf(job.component())
                                .map(Estate.Application::name)
                                .orElse(""),
                        job.agreed() ? "" : "not agreed")
                .toLowerCase(Locale.ROOT);
    }

    private Row row(StoredJob job, JobStands.Look look) {
        var stand = look.stand(job);
        var next =
                job.job().timetable().next(times.now(), 1).stream().findFirst().orElse(look.likelyStart(job));
        return new Row(
                job.key(),
                job.name(),
                stand.mark(),
                stand.words(),
                estate.applicationOf(job.component())
                        .map(Estate.Application::name)
                        .orElse("not assigned"),
                job.job().chain(),
                jobs.scheduleWords(job.job()),
                next == null ? "" : times.of(next),
                job.agreed(),
                job.heldSince() != null);
    }

    @GetMapping("/batch/jobs/{key}")
    String one(@PathVariable String key, @RequestParam(required = false) @Nullable String month, Model model) {
        var job = find(key);
        var standing = nights.now();
        var now = times.now();
        var look = stands.of(standing);
        var current = look.current(job);
        var ahead = current == null ? null : standing.forecast().of(current);
        var usual = nights.usual(job, now);
        model.addAttribute("job", row(job, look));
        model.addAttribute("standing", job);
        model.addAttribute("spec", job.spec());
        model.addAttribute("runsIn", estate.applicationOf(job.component()).orElse(null));
        model.addAttribute(
                "owner", estate.ownerOf(job.component()).map(Estate.Team::name).orElse("nobody yet"));
        model.addAttribute(
                "findings",
                standing.findings().stream()
                        .filter(one -> one.job().equals(key) || one.cause().equals(key))
                        .toList());
        model.addAttribute(
                "caseId", cases.openByComponent().getOrDefault(job.component().id(), 0L));
        model.addAttribute(
                "likely",
                ahead == null
                        ? ""
                        : "likely done %s, between %s and %s"
                                .formatted(
                                        times.of(ahead.end().likely()),
                                        times.of(ahead.end().low()),
                                        times.of(ahead.end().high())));
        model.addAttribute(
                "margin",
                ahead == null || current.job().chain().isEmpty()
                        ? ""
                        : ahead.margin().toMinutes() == 0
                                ? "it decides when its chain ends"
                                : "margin "
                                        + Spans.words(Duration.ofMinutes(
                                                ahead.margin().toMinutes())));
        model.addAttribute("usual", usual.known() ? usualWords(usual) : "nothing is known yet: no run was done");
        model.addAttribute("starts", starts(job, now));
        model.addAttribute("doubts", job.job().timetable().doubts(now));
        model.addAttribute(
                "waitsFor",
                job.job().waits().stream().map(it -> neighbour(it, look)).toList());
        model.addAttribute(
                "waiting",
                jobs.graph().waitingFor(key).stream()
                        .map(it -> neighbour(it, look))
                        .toList());
        model.addAttribute("runs", views.rows(job, runs.latest(job.component().id(), now.plusSeconds(600), RUNS)));
        model.addAttribute("fixNote", job.fixNote().isBlank() ? "" : fixNotes.html(job.fixNote()));
        model.addAttribute("proposal", proposal(job, now));
        model.addAttribute("changes", changes(job));
        model.addAttribute("orders", orders.of(job));
        model.addAttribute("takesOrders", orders.takenFor(job));
        var last = current == null ? null : current.last();
        model.addAttribute("running", last != null && last.running() ? last.id() : 0L);
        var shown = month(month, job);
        model.addAttribute("months", months.of(job, shown, MONTHS));
        model.addAttribute("monthBefore", shown.minusMonths(MONTHS).toString());
        model.addAttribute("pattern", months.pattern(job, now.minus(CURVES), now));
        model.addAttribute(
                "hasBoth",
                runs.lastWithOutput(job.component().id(), true, now).isPresent()
                        && runs.lastWithOutput(job.component().id(), false, now).isPresent());
        return "job";
    }

    /** The next ones by its timetable, with those that a window skips. */
    private List<String> starts(StoredJob job, Instant now) {
        var next = job.job().timetable().next(now, STARTS);
        if (next.isEmpty()) return List.of();
        var within = windows.within(now, next.getLast().plusSeconds(1));
        return next.stream()
                .map(at -> times.of(at) + (within.has(job.job(), at) ? " (in a window)" : ""))
                .toList();
    }

    private static String usualWords(Spread usual) {
        return "%s to %s, in the middle %s%s, of %d runs"
                .formatted(
                        spoken(usual.quantile(0.05)),
                        spoken(usual.quantile(0.95)),
                        spoken(usual.median()),
                        usual.because().isEmpty() ? "" : " " + usual.because(),
                        usual.runs());
    }

    private static String spoken(double seconds) {
        var span = Duration.ofSeconds(Math.round(seconds));
        return Spans.words(span.toHours() >= 1 ? Duration.ofMinutes(span.toMinutes()) : span);
    }

    private YearMonth month(@Nullable String asked, StoredJob job) {
        try {
            return asked == null
                    ? YearMonth.from(times.now().atZone(job.job().timetable().zone()))
                    : YearMonth.parse(asked);
        } catch (DateTimeException bad) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "month must be such as 2026-11", bad);
        }
    }

    private String proposal(StoredJob job, Instant now) {
        if (job.agreed()) return "";
        return runs.proposal(job, now)
                .map(one -> "%s; that explains %.0f %% of its runs"
                        .formatted(ScheduleWords.of(one.schedule()), 100 * one.explains()))
                .orElse("");
    }

    private Neighbour neighbour(String key, JobStands.Look look) {
        var stand = jobs.byKey(key).map(look::stand).orElse(new JobStands.Stand("nodata", "not known"));
        return new Neighbour(key, jobs.nameOf(key), stand.mark(), stand.words());
    }

    private List<Change> changes(StoredJob job) {
        var versions = jobs.versions(job.component().id());
        var rows = new ArrayList<Change>();
        for (var one : versions) {
            String words;
            try {
                words = jobs.words(one.spec().job(job.key(), jobs::calendar), one.spec());
            } catch (IllegalArgumentException gone) {
                words = "what was agreed then cannot be read any more: " + gone.getMessage();
            }
            rows.add(new Change(
                    times.of(one.at()),
                    one.by() == null
                            ? "Morvet"
                            : people.byId(one.by()).map(Person::name).orElse("Somebody"),
                    words));
        }
        return rows;
    }

    /** How long its runs took, against what was usual. */
    @GetMapping("/batch/jobs/{key}/durations")
    @ResponseBody
    Curve durations(@PathVariable String key) {
        var job = find(key);
        var now = times.now();
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var low = new ArrayList<@Nullable Double>();
        var high = new ArrayList<@Nullable Double>();
        var nothing = new ArrayList<@Nullable Double>();
        for (var run : runs.between(job.component().id(), now.minus(CURVES), now)) {
            if (run.started() == null) continue;
            var usual = nights.usual(job, run.started());
            // What runs has no duration yet; once it is longer than usual, that is known already.
            boolean over = run.lasted(now).toSeconds() > usual.quantile(0.95);
            if (run.running() && !over) continue;
            at.add(run.started().toEpochMilli() / 1000.0);
            values.add(run.lasted(now).toMillis() / 60_000.0);
            low.add(usual.known() ? usual.quantile(0.05) / 60 : null);
            high.add(usual.known() ? usual.quantile(0.95) / 60 : null);
            nothing.add(null);
        }
        var longest = job.job().longest();
        return new Curve(
                at,
                values,
                low,
                high,
                nothing,
                longest == null ? List.of() : List.of((double) longest.toMinutes()),
                List.of(),
                times.zone().getId(),
                "ran for",
                "min",
                "Shaded: what is usual, nine of ten runs."
                        + (longest == null ? "" : " Line: the longest that is allowed."));
    }

    @GetMapping("/batch/jobs/{key}/compare")
    String compare(@PathVariable String key, Model model) {
        var job = find(key);
        var now = times.now();
        var failed = runs.lastWithOutput(job.component().id(), true, now).orElse(null);
        var done = runs.lastWithOutput(job.component().id(), false, now).orElse(null);
        model.addAttribute("job", row(job, stands.of(nights.now())));
        model.addAttribute(
                "failed",
                failed == null ? null : views.rows(job, List.of(failed)).getFirst());
        model.addAttribute(
                "done", done == null ? null : views.rows(job, List.of(done)).getFirst());
        model.addAttribute(
                "lines", failed == null || done == null ? List.of() : OutputComparison.of(text(failed), text(done)));
        return "job-compare";
    }

    private String text(Runs.Told told) {
        return runs.output(told).map(Runs.Output::text).orElse("");
    }

    /** A month of all jobs, a row each. */
    @GetMapping("/batch/month")
    String month(
            @RequestParam(required = false) @Nullable String month,
            @RequestParam(defaultValue = "0") int after,
            Model model) {
        YearMonth shown;
        try {
            shown = month == null ? YearMonth.from(times.now().atZone(times.zone())) : YearMonth.parse(month);
        } catch (DateTimeException bad) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "month must be such as 2026-11", bad);
        }
        var all = jobs.all();
        var page = all.stream().skip(Math.max(0, after)).limit(PAGE).toList();
        model.addAttribute("rows", months.of(page, shown));
        model.addAttribute(
                "shown", shown.getMonth().getDisplayName(TextStyle.FULL, Locale.ENGLISH) + " " + shown.getYear());
        model.addAttribute("before", shown.minusMonths(1).toString());
        model.addAttribute("later", shown.plusMonths(1).toString());
        model.addAttribute("month", shown.toString());
        model.addAttribute("next", after + page.size() < all.size() ? after + page.size() : 0);
        return "month";
    }

    private StoredJob find(String key) {
        return jobs.byKey(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no job " + key + "."));
    }
}
