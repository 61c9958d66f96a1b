package app.morvet.views.nights;

import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.HolidayFile;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import java.io.IOException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.server.ResponseStatusException;

/** Calendars of holidays, read from and written to iCalendar. */
@Controller
class CalendarController {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM yyyy", Locale.ENGLISH);
    private static final int YEARS_BACK = 1;
    private static final int YEARS_AHEAD = 6;

    record Holiday(String day, String name, boolean past) {}

    record Shown(String name, int count, List<Holiday> next, String jobs) {}

    private final JobBook jobs;
    private final Times times;

    CalendarController(JobBook jobs, Times times) {
        this.jobs = jobs;
        this.times = times;
    }

    @GetMapping("/batch/calendars")
    String page(Model model) {
        var today = LocalDate.ofInstant(times.now(), times.zone());
        model.addAttribute(
                "calendars",
                jobs.calendars().stream()
                        .map(one -> new Shown(
                                one.name(),
                                one.holidays().size(),
                                one.holidays().tailMap(today).entrySet().stream()
                                        .limit(8)
                                        .map(day -> new Holiday(DAY.format(day.getKey()), day.getValue(), false))
                                        .toList(),
                                String.join(
                                        ", ",
                                        jobs.all().stream()
                                                .filter(job ->
                                                        job.spec().calendar().equals(one.name()))
                                                .map(job -> job.name())
                                                .toList())))
                        .toList());
        return "calendars";
    }

    @GetMapping("/batch/calendars/calendar.ics")
    ResponseEntity<byte[]> out(@RequestParam String name) {
        var calendar = jobs.calendars().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no calendar " + name + "."));
        return Files.out("holidays.ics", "text/calendar", HolidayFile.write(calendar));
    }

    @PostMapping("/batch/calendars")
    String in(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(required = false) @Nullable MultipartFile upload,
            @RequestParam(defaultValue = "false") boolean keep,
            @AuthenticationPrincipal Person by,
            Model model)
            throws IOException {
        var whole = Files.text(text, upload);
        var today = LocalDate.ofInstant(times.now(), times.zone());
        model.addAttribute("typedName", name);
        model.addAttribute("typed", whole);
        try {
            if (name.isBlank() || name.length() > 100)
                throw new IllegalArgumentException("a calendar has a name of at most 100 letters");
            var read = HolidayFile.read(
                    name.strip(),
                    whole,
                    today.minusYears(YEARS_BACK).withDayOfYear(1),
                    today.plusYears(YEARS_AHEAD).withDayOfYear(1));
            var calendar = read.calendar();
            if (calendar.holidays().isEmpty())
                throw new IllegalArgumentException(
                        read.leftOut().isEmpty()
                                ? "there is no holiday in it"
                                : "there is no holiday in it: all its events have a time of day, a holiday has none");
            if (keep) {
                jobs.keep(calendar, by);
                return "redirect:/batch/calendars?saved";
            }
            model.addAttribute("read", shown(calendar, today));
            model.addAttribute("readCount", calendar.holidays().size());
            model.addAttribute("leftOut", String.join(", ", read.leftOut()));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("refusal", Sentence.of(bad));
        }
        return page(model);
    }

    private static List<Holiday> shown(HolidayCalendar calendar, LocalDate today) {
        return calendar.holidays().entrySet().stream()
                .map(day -> new Holiday(
                        DAY.format(day.getKey()), day.getValue(), day.getKey().isBefore(today)))
                .limit(60)
                .toList();
    }

    @PostMapping("/batch/calendars/delete")
    String delete(@RequestParam String name, @AuthenticationPrincipal Person by, Model model) {
        try {
            jobs.deleteCalendar(name, by);
            return "redirect:/batch/calendars";
        } catch (IllegalArgumentException used) {
            model.addAttribute("refusal", Sentence.of(used));
            return page(model);
        }
    }
}
