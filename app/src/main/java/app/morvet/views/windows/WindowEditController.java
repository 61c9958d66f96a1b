package app.morvet.views.windows;

import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.RhythmText;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** How a window is made and changed: as its sentence, with what it would do said beside it; or at once, from where the trouble is. */
@Controller
class WindowEditController {
    private static final Duration LONGEST_AT_ONCE = MaintenanceWindow.ANALYSTS;

    /** The form, typed text and all. */
    record Typed(
            long id,
            String name,
            String effect,
            String jobs,
            String kind,
            String from,
            String to,
            String again,
            String lasting,
            String until,
            String calendar,
            String quiet,
            String told,
            String reason,
            int version) {
        Typed {
            name = given(name);
            effect = given(effect);
            jobs = given(jobs);
            kind = given(kind);
            from = given(from);
            to = given(to);
            again = given(again);
            lasting = given(lasting);
            until = given(until);
            calendar = given(calendar);
            quiet = given(quiet);
            told = given(told);
            reason = given(reason);
        }

        private static String given(@Nullable String typed) {
            return typed == null ? "" : typed.strip();
        }

        public boolean recurs() {
            return kind.equals("again");
        }
    }

    private final Windows windows;
    private final WindowPreview preview;
    private final JobBook jobs;
    private final Scopes scopes;
    private final Estate estate;
    private final Times times;

    WindowEditController(
            Windows windows, WindowPreview preview, JobBook jobs, Scopes scopes, Estate estate, Times times) {
        this.windows = windows;
        this.preview = preview;
        this.jobs = jobs;
        this.scopes = scopes;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/windows/new")
    String fresh(@RequestParam(defaultValue = "") String component, Model model) {
        return fresh(component, null, model);
    }

    private String fresh(String component, @Nullable String refusal, Model model) {
        var from = local(times.now()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        var typed = new Typed(
                0,
                "",
                "HOLD",
                "",
                "once",
                from.toString(),
                from.plusHours(1).toString(),
                "every Tuesday at 22:40",
                "50 min",
                "",
                "",
                "",
                "",
                "",
                0);
        return page(typed, ScopeForm.fields(Scope.ALL.named(component)), refusal, model);
    }

    private LocalDateTime local(Instant at) {
        return LocalDateTime.ofInstant(at, times.zone());
    }

    @GetMapping("/windows/{id:\\d{1,18}}/edit")
    String edit(@PathVariable long id, Model model) {
        var one = windows.find(id).orElseThrow(() -> missing(id));
        var window = one.window();
        var plan = window.plan();
        var first = plan.first();
        var next = local(times.now()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        var typed = new Typed(
                id,
                window.name(),
                window.effect().name(),
                window.jobs() == MaintenanceWindow.Jobs.NOT_EXPECTED ? "yes" : "",
                first == null ? "again" : "once",
                (first == null ? next : local(first)).toString(),
                (first == null ? next.plusHours(1) : local(first.plus(plan.length()))).toString(),
                plan.again() == null ? "every Tuesday at 22:40" : RhythmText.of(plan.again()),
                Spans.words(plan.length()),
                plan.until() == null ? "" : plan.until().toString(),
                one.calendar(),
                one.quiet() ? "yes" : "",
                Spans.wordsOrNone(one.told()),
                window.reason(),
                one.version());
        return page(typed, ScopeForm.fields(window.scope()), null, model);
    }

    private String page(Typed typed, Map<String, String> sent, @Nullable String refusal, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("refusal", refusal);
        scopes.fill(ScopeForm.typed(sent::get), model);
        model.addAttribute("effects", MaintenanceWindow.Effect.values());
        model.addAttribute(
                "calendars", jobs.calendars().stream().map(one -> one.name()).toList());
        model.addAttribute("zone", times.zone().getId());
        means(typed, sent, model);
        return "window-edit";
    }

    private void means(Typed typed, Map<String, String> sent, Model model) {
        try {
            model.addAttribute("means", preview.of(read(typed, sent)));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("cannot", Sentence.of(bad));
        }
    }

    /** @throws IllegalArgumentException saying what cannot be */
    private StoredWindow read(Typed typed, Map<String, String> sent) {
        var before = typed.id() == 0 ? null : windows.find(typed.id()).orElse(null);
        var plan = typed.recurs()
                ? recurring(typed, before)
                : Plan.once(at("its begin", typed.from()), at("its end", typed.to()), times.zone());
        var window = new MaintenanceWindow(
                typed.name().isEmpty() ? "it" : typed.name(),
                ScopeForm.read(sent::get),
                plan,
                effect(typed.effect()),
                typed.jobs().equals("yes") ? MaintenanceWindow.Jobs.NOT_EXPECTED : MaintenanceWindow.Jobs.AS_EVER,
                typed.reason());
        return new StoredWindow(
                typed.id(),
                window,
                typed.calendar(),
                typed.quiet().equals("yes"),
                Spans.readOrNone(typed.told()),
                before == null ? null : before.madeBy(),
                typed.version());
    }

    /** Single times that are otherwise stay so, as long as the rhythm is the same. */
    private Plan recurring(Typed typed, @Nullable StoredWindow before) {
        var rhythm = RhythmText.read(typed.again(), windows.calendarOf(typed.calendar()));
        var plan = Plan.again(rhythm, times.zone(), Spans.read(typed.lasting()))
                .until(typed.until().isEmpty() ? null : day(typed.until()));
        var was = before == null ? null : before.window().plan();
        if (was == null || !rhythm.equals(was.again())) return plan;
        return new Plan(null, rhythm, plan.zone(), plan.length(), plan.until(), was.skipped(), was.altered());
    }

    private static MaintenanceWindow.Effect effect(String typed) {
        for (var one : MaintenanceWindow.Effect.values()) if (one.name().equals(typed)) return one;
        throw new IllegalArgumentException("say what becomes of alerts inside");
    }

    private Instant at(String what, String typed) {
        try {
            return LocalDateTime.parse(typed).atZone(times.zone()).toInstant();
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException(what + " must be a day and a time, was \"" + typed + "\"", bad);
        }
    }

    private static LocalDate day(String typed) {
        try {
            return LocalDate.parse(typed);
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException("the last day of the series must be a day, was \"" + typed + "\"", bad);
        }
    }

    /** Recomputed as it is edited. */
    @PostMapping("/windows/sentence")
    String sentence(Typed typed, @RequestParam Map<String, String> sent, Model model) {
        model.addAttribute("typed", typed);
        means(typed, sent, model);
        return "window-edit :: means";
    }

    @PostMapping("/windows/save")
    String save(
            Typed typed,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        String refusal;
        try {
            if (typed.name().isEmpty())
                throw new IllegalArgumentException("a window has a name of at most 100 letters");
            return "redirect:/windows/" + windows.keep(read(typed, sent), by);
        } catch (Windows.Overtaken overtaken) {
            refusal = overtaken.getMessage() + " What you typed stands below.";
        } catch (IllegalArgumentException bad) {
            refusal = Sentence.of(bad);
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, sent, refusal, model);
    }

    /** Opens one right now, from a component or a case: so many minutes on it, with all that stands on it. */
    @PostMapping("/windows/now")
    String now(
            @RequestParam(defaultValue = "") String component,
            @RequestParam(defaultValue = "30 min") String lasting,
            @RequestParam(defaultValue = "") String reason,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var one = estate.byKey(component)
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + component + "."));
        var from = times.now().truncatedTo(ChronoUnit.SECONDS);
        try {
            var length = Spans.read(lasting);
            if (length.compareTo(LONGEST_AT_ONCE) > 0)
                throw new IllegalArgumentException("at once a window is opened for 8 hours at most");
            var window = new MaintenanceWindow(
                    "Work on %s, %s".formatted(one.name(), times.of(from)),
                    Scope.ALL.named(one.key()).withAllOnIt(),
                    Plan.once(from, from.plus(length), times.zone()),
                    MaintenanceWindow.Effect.HOLD,
                    MaintenanceWindow.Jobs.AS_EVER,
                    reason);
            return "redirect:/windows/" + windows.keep(StoredWindow.fresh(window), by);
        } catch (IllegalArgumentException bad) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return fresh(component, Sentence.of(bad), model);
        }
    }

    private static ResponseStatusException missing(long id) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no window " + id + ".");
    }
}
