package app.morvet.views.nights;

import app.morvet.core.batch.JobWindow;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Named;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.ScopeForm;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobWindows;
import app.morvet.sources.batch.StoredJob;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
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

/** Maintenance windows over jobs: which there are, which starts fall inside, and how they are made. */
@Controller
class WindowController {
    private static final Duration LOOKS_AHEAD = Duration.ofDays(35);
    private static final int SPANS = 3;
    private static final int NAMED = 8;

    /**
     * @param when    its next times, in words
     * @param state   {@code now}, {@code to come} or {@code over}
     * @param begins  the first of those times; far ahead where there is none
     */
    record Row(long id, String name, String sentence, String reason, String state, Instant begins, List<String> when) {}

    /** The form, typed text and all. */
    record Typed(
            long id,
            String name,
            String kind,
            String from,
            String to,
            String cron,
            String minutes,
            String reason,
            int version) {
        Typed {
            name = JobForm.given(name);
            kind = JobForm.given(kind);
            from = JobForm.given(from);
            to = JobForm.given(to);
            cron = JobForm.given(cron);
            minutes = JobForm.given(minutes);
            reason = JobForm.given(reason);
        }

        public boolean again() {
            return kind.equals("again");
        }
    }

    private final JobWindows windows;
    private final JobBook jobs;
    private final Scopes scopes;
    private final Times times;

    WindowController(JobWindows windows, JobBook jobs, Scopes scopes, Times times) {
        this.windows = windows;
        this.jobs = jobs;
        this.scopes = scopes;
        this.times = times;
    }

    @GetMapping("/batch/windows")
    String list(Model model) {
        var now = times.now();
        model.addAttribute(
                "windows",
                windows.all().stream()
                        .map(one -> row(one, now))
                        .sorted(Comparator.comparing((Row row) -> row.state().equals("over"))
                                .thenComparing(Row::begins))
                        .toList());
        return "windows";
    }

    private Row row(JobWindows.Stored one, Instant now) {
        var spans = one.window().spans(now, now.plus(LOOKS_AHEAD));
        boolean over = spans.isEmpty() && one.once() != null && one.once().isBefore(now);
        boolean going = !spans.isEmpty() && spans.getFirst().has(now);
        return new Row(
                one.id(),
                one.name(),
                windows.sentence(one),
                one.reason(),
                over ? "over" : going ? "now" : "to come",
                spans.isEmpty() ? Instant.MAX : spans.getFirst().from(),
                spans.stream()
                        .limit(SPANS)
                        .map(span -> times.of(span.from()) + " to " + times.of(span.to()))
                        .toList());
    }

    /** What its next time skips: asked for after the list is there, since it looks at each job. */
    @GetMapping("/batch/windows/{id:\\d+}/inside")
    String inside(@PathVariable long id, Model model) {
        model.addAttribute("inside", inside(windows.find(id).orElseThrow(() -> missing("" + id))));
        return "windows :: inside";
    }

    private String inside(JobWindows.Stored one) {
        var now = times.now();
        var spans = one.window().spans(now, now.plus(LOOKS_AHEAD));
        if (spans.isEmpty()) return "";
        var within = jobs.all().stream()
                .map(StoredJob::job)
                .filter(job -> windows.takes(one.scope(), job))
                .toList();
        var found = JobWindow.inside(spans.getFirst(), within);
        if (found.isEmpty()) return "No start of a job falls inside.";
        int starts = found.stream().mapToInt(JobWindow.Inside::starts).sum();
        var named = found.stream()
                .limit(NAMED)
                .map(it -> jobs.nameOf(it.job()) + (it.starts() == 1 ? "" : " (%d times)".formatted(it.starts())))
                .toList();
        return "%s inside: %s%s."
                .formatted(
                        starts == 1 ? "1 start falls" : starts + " starts fall",
                        String.join(", ", named),
                        found.size() > NAMED ? " and %d more jobs".formatted(found.size() - NAMED) : "");
    }

    @GetMapping("/batch/windows/{id}/edit")
    String edit(@PathVariable String id, Model model) {
        if (id.equals("new")) {
            var from = times.now()
                    .atZone(times.zone())
                    .truncatedTo(ChronoUnit.HOURS)
                    .plusHours(1)
                    .toLocalDateTime();
            return page(
                    new Typed(0, "", "once", "" + from, "" + from.plusHours(2), "0 22 * * sat", "120", "", 0),
                    Map.of(),
                    null,
                    model);
        }
        if (!id.matches("\\d{1,18}")) throw missing(id);
        var one = windows.find(Long.parseLong(id)).orElseThrow(() -> missing(id));
        var once = one.once() == null ? null : one.once().atZone(times.zone()).toLocalDateTime();
        return page(
                new Typed(
                        one.id(),
                        one.name(),
                        once == null ? "again" : "once",
                        once == null ? "" : once.toString(),
                        once == null
                                ? ""
                                : one.once()
                                        .plus(Duration.ofMinutes(one.minutes()))
                                        .atZone(times.zone())
                                        .toLocalDateTime()
                                        .toString(),
                        one.cron(),
                        "" + one.minutes(),
                        one.reason(),
                        one.version()),
                ScopeForm.fields(one.scope()),
                null,
                model);
    }

    private String page(Typed typed, Map<String, String> sent, @Nullable String refusal, Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("refusal", refusal);
        scopes.fill(ScopeForm.typed(sent::get), model);
        model.addAttribute("zone", times.zone().getId());
        means(typed, sent, model);
        return "window-edit";
    }

    private void means(Typed typed, Map<String, String> sent, Model model) {
        try {
            var scope = ScopeForm.read(sent::get);
            var one = standing(typed, scope);
            model.addAttribute("means", row(one, times.now()));
            model.addAttribute("inside", inside(one));
            model.addAttribute(
                    "over",
                    Named.of(jobs.all().stream()
                            .filter(job -> windows.takes(scope, job.job()))
                            .map(StoredJob::name)
                            .toList()));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("cannot", Sentence.of(bad));
        }
    }

    /** @throws IllegalArgumentException saying what cannot be read */
    private JobWindows.Stored standing(Typed typed, Scope scope) {
        Instant once = null;
        long minutes;
        if (typed.again()) {
            if (!typed.minutes().matches("\\d{1,6}"))
                throw new IllegalArgumentException(
                        "how long it is must be a whole number of minutes, was \"" + typed.minutes() + "\"");
            minutes = Long.parseLong(typed.minutes());
        } else {
            once = instant("its begin", typed.from());
            minutes = Duration.between(once, instant("its end", typed.to())).toMinutes();
        }
        var one = new JobWindows.Stored(
                typed.id(),
                typed.name().isEmpty() ? "it" : typed.name(),
                scope,
                once,
                typed.again() ? typed.cron() : "",
                times.zone(),
                Math.clamp(minutes, -1, 1_000_000),
                typed.reason(),
                typed.version());
        one.window();
        return one;
    }

    private Instant instant(String what, String typed) {
        try {
            return LocalDateTime.parse(typed).atZone(times.zone()).toInstant();
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException(what + " must be a day and a time, was \"" + typed + "\"", bad);
        }
    }

    /** Recomputed as it is edited. */
    @PostMapping("/batch/windows/sentence")
    String sentence(Typed typed, @RequestParam Map<String, String> sent, Model model) {
        model.addAttribute("typed", typed);
        means(typed, sent, model);
        return "window-edit :: means";
    }

    @PostMapping("/batch/windows/save")
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
            if (typed.reason().length() > 1000)
                throw new IllegalArgumentException("the reason has at most 1000 letters");
            windows.keep(standing(typed, ScopeForm.read(sent::get)), by);
            return "redirect:/batch/windows?saved";
        } catch (JobBook.Overtaken overtaken) {
            refusal = String.valueOf(overtaken.getMessage());
        } catch (IllegalArgumentException bad) {
            refusal = Sentence.of(bad);
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(typed, sent, refusal, model);
    }

    @PostMapping("/batch/windows/{id:\\d+}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        windows.delete(id, by);
        return "redirect:/batch/windows";
    }

    private static ResponseStatusException missing(String id) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no window " + id + ".");
    }
}
