package app.morvet.views.nights;

import app.morvet.core.batch.Job;
import app.morvet.core.batch.Schedule;
import app.morvet.core.estate.ComponentKey;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.batch.StoredJob;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What is agreed about a job, edited as its sentence, with what it means right now under it. */
@Controller
class JobEditController {
    private static final int STARTS = 10;

    private final JobBook jobs;
    private final Runs runs;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    JobEditController(JobBook jobs, Runs runs, Estate estate, MorvetSettings settings, Times times) {
        this.jobs = jobs;
        this.runs = runs;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    @GetMapping("/batch/jobs/{key}/edit")
    String edit(@PathVariable String key, @RequestParam(defaultValue = "false") boolean proposed, Model model) {
        if (key.equals("new")) {
            var fresh = JobForm.of("", "", null, JobSpec.unknown(settings.zone()), "", 0, jobs);
            fresh.addStart();
            return page(fresh, null, model);
        }
        var job = find(key);
        var spec = job.spec();
        if (proposed)
            spec = runs.proposal(job, times.now())
                    .map(one -> with(job, one.schedule()))
                    .orElse(spec);
        var form =
                JobForm.of(key, job.name(), job.component().applicationId(), spec, job.fixNote(), job.version(), jobs);
        return page(form, job, model);
    }

    private static JobSpec with(StoredJob job, Schedule schedule) {
        return job.spec()
                .withSchedules(List.of(
                        switch (schedule) {
                            case Schedule.Cron(var expression, var holiday) ->
                                JobSpec.Start.cron(expression.toString(), holiday);
                            case Schedule.Every(var every, var from, var to) ->
                                JobSpec.Start.every((int) every.toMinutes(), from.toString(), to.toString());
                            case Schedule.WorkingDay(int nth, var at) -> JobSpec.Start.workingDay(nth, at.toString());
                        }));
    }

    private String page(JobForm form, @Nullable StoredJob job, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("fresh", job == null);
        model.addAttribute("title", job == null ? "A new job" : job.name());
        model.addAttribute("apps", estate.applications());
        model.addAttribute("calendars", jobs.calendars());
        model.addAttribute("jobs", jobs.all());
        model.addAttribute(
                "chains",
                jobs.all().stream()
                        .map(one -> one.job().chain())
                        .filter(one -> !one.isEmpty())
                        .distinct()
                        .toList());
        means(form, model);
        return "job-edit";
    }

    /** What is typed, put into words, with its next starts and what is doubtful about it. */
    private @Nullable Job means(JobForm form, Model model) {
        var spec = form.spec(jobs);
        try {
            var job = jobs.check(form.get("key").isBlank() ? "new job" : form.get("key"), spec);
            model.addAttribute("sentence", "It " + jobs.words(job, spec) + ".");
            var now = times.now();
            model.addAttribute(
                    "next",
                    job.timetable().next(now, STARTS).stream().map(times::of).toList());
            model.addAttribute("doubts", job.timetable().doubts(now));
            return job;
        } catch (IllegalArgumentException bad) {
            form.wrong("", Sentence.of(bad));
            return null;
        }
    }

    /** Recomputed as it is edited. */
    @PostMapping("/batch/jobs/sentence")
    String sentence(@RequestParam MultiValueMap<String, String> typed, Model model) {
        var form = new JobForm(typed);
        model.addAttribute("form", form);
        means(form, model);
        return "job-parts :: means";
    }

    /** One more, or one less, rule by which it starts. */
    @PostMapping("/batch/jobs/starts")
    String starts(
            @RequestParam MultiValueMap<String, String> typed,
            @RequestParam(defaultValue = "-1") int remove,
            Model model) {
        var form = new JobForm(typed);
        if (remove >= 0) form.removeStart(remove);
        else form.addStart();
        model.addAttribute("form", form);
        return "job-parts :: starts";
    }

    @PostMapping("/batch/jobs/save")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var form = new JobForm(typed);
        var name = form.get("name").strip();
        var key = form.get("key").strip();
        boolean fresh = key.isEmpty();
        if (fresh) {
            if (name.isEmpty()) form.wrong("name", "A job has a name.");
            key = ComponentKey.of(name);
            if (!key.isEmpty() && estate.byKey(key).isPresent())
                form.wrong("name", "There is a component " + key + " already.");
        }
        var job = fresh ? null : jobs.byKey(key).orElse(null);
        means(form, model);
        if (form.errors().isEmpty()) {
            try {
                var application = form.get("application");
                jobs.agree(
                        List.of(new JobBook.Agreement(
                                key,
                                name,
                                application.isBlank() ? null : Long.valueOf(application),
                                form.spec(jobs),
                                form.get("fixNote").replace("\r\n", "\n"),
                                Integer.parseInt(form.get("version").isBlank() ? "0" : form.get("version")))),
                        by);
                return "redirect:/batch/jobs/" + key + "?saved";
            } catch (JobBook.Overtaken | IllegalArgumentException refused) {
                form.wrong("", String.valueOf(refused.getMessage()));
            }
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(form, job, model);
    }

    @PostMapping("/batch/jobs/{key}/forget")
    String forget(
            @PathVariable String key,
            @RequestParam int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var job = find(key);
        try {
            jobs.forget(key, version, by);
            return "redirect:/batch/jobs/" + key;
        } catch (JobBook.Overtaken | IllegalArgumentException refused) {
            var form = JobForm.of(
                    key, job.name(), job.component().applicationId(), job.spec(), job.fixNote(), job.version(), jobs);
            form.wrong("", Sentence.of(new IllegalArgumentException(refused.getMessage())));
            response.setStatus(HttpStatus.CONFLICT.value());
            return page(form, job, model);
        }
    }

    private StoredJob find(String key) {
        return jobs.byKey(key)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no job " + key + "."));
    }
}
