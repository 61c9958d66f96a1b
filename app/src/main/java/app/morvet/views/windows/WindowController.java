package app.morvet.views.windows;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.windows.HeldView;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.guard.Spans;
import app.morvet.core.windows.Plan;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.Mails;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** One window: its times, what it held in each, and what can be done to it while it is on. */
@Controller
class WindowController {
    private static final int TIMES = 20;
    private static final int MOST_HELD = 200;
    private static final int MAILS = 20;

    /**
     * One alert that was held.
     *
     * @param fate {@code came and went inside}, {@code held until 23:30}, {@code became a case at its end} and the like
     */
    record Held(String mark, String component, String key, String words, String raised, String fate, boolean work) {}

    /** A time that has begun. */
    record Past(String when, boolean on, List<Held> held) {}

    record Version(String at, String by, String sentence) {}

    /** A mail about it. */
    record Mail(String at, String team, String subject, String state) {}

    private final Windows windows;
    private final HeldView held;
    private final WindowPreview preview;
    private final Mails mails;
    private final People people;
    private final Estate estate;
    private final Times times;

    WindowController(
            Windows windows,
            HeldView held,
            WindowPreview preview,
            Mails mails,
            People people,
            Estate estate,
            Times times) {
        this.windows = windows;
        this.held = held;
        this.preview = preview;
        this.mails = mails;
        this.people = people;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/windows/{id:\\d{1,18}}")
    String one(
            @PathVariable long id,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        return page(find(id), null, "window-one".equals(target) ? "window-parts :: one" : "window", model);
    }

    private String page(StoredWindow one, @Nullable String refusal, String view, Model model) {
        var now = times.now();
        var plan = one.window().plan();
        var next = plan.next(now, 1);
        boolean on = !next.isEmpty() && next.getFirst().span().has(now);
        model.addAttribute("one", one);
        model.addAttribute("refusal", refusal);
        model.addAttribute("gone", windows.all().stream().noneMatch(it -> it.id() == one.id()));
        model.addAttribute("on", on);
        model.addAttribute("until", on ? times.of(next.getFirst().span().to()) : "");
        model.addAttribute("over", next.isEmpty());
        model.addAttribute("recurs", plan.recurs());
        model.addAttribute("effect", WindowsController.effect(one.window()));
        model.addAttribute("leads", one.window().isLeads());
        model.addAttribute("means", preview.of(one));
        model.addAttribute(
                "past", windows.times(one.id(), TIMES).stream().map(this::past).toList());
        model.addAttribute(
                "mails",
                mails.ofWindow(one.id(), MAILS).stream().map(this::mail).toList());
        model.addAttribute(
                "versions",
                windows.versions(one.id()).stream()
                        .map(it -> new Version(
                                times.of(it.at()),
                                it.by() == null
                                        ? "Morvet"
                                        : people.byId(it.by()).map(Person::name).orElse("somebody"),
                                it.sentence()))
                        .toList());
        return view;
    }

    private Mail mail(Delivery one) {
        return new Mail(
                times.of(one.madeAt()),
                Optional.ofNullable(one.to().team())
                        .flatMap(estate::team)
                        .map(Estate.Team::name)
                        .orElse(one.recipient()),
                one.subject(),
                one.state().words());
    }

    private Past past(Windows.Time time) {
        var end = time.ended() == null ? time.to() : time.ended();
        return new Past(
                times.span(time.from(), end),
                time.ended() == null,
                held.in(time, MOST_HELD).stream().map(this::held).toList());
    }

    private Held held(HeldView.Held one) {
        Alert alert = one.alert();
        var component = estate.component(alert.about().component());
        return new Held(
                one.work() ? alert.level().word() : "held",
                component.name(),
                component.key(),
                alert.worstWords(),
                times.of(alert.raisedAt()),
                fate(one),
                one.work());
    }

    private String fate(HeldView.Held one) {
        if (one.released() != null) return "became work " + times.of(one.released());
        var cleared = one.alert().clearedAt();
        if (cleared != null)
            return cleared.isAfter(one.until())
                    ? "over " + times.of(cleared) + ", on what had happened inside alone"
                    : "came and went inside, over " + times.of(cleared);
        return one.rests()
                ? "stands on what happened inside, is work once it grows"
                : "held until " + times.of(one.until());
    }

    private interface Act {
        void on(StoredWindow one);
    }

    private String act(long id, Act act, HttpServletResponse response, Model model) {
        var one = find(id);
        String refusal;
        try {
            act.on(one);
            return "redirect:/windows/" + id;
        } catch (Windows.Overtaken | IllegalArgumentException refused) {
            refusal = Sentence.of(String.valueOf(refused.getMessage()));
        }
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(find(id), refusal, "window", model);
    }

    @PostMapping("/windows/{id:\\d{1,18}}/end")
    String end(
            @PathVariable long id,
            @RequestParam int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(id, one -> windows.end(id, version, by), response, model);
    }

    @PostMapping("/windows/{id:\\d{1,18}}/longer")
    String longer(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam(defaultValue = "30 min") String lasting,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(id, one -> windows.lengthen(id, version, Spans.read(lasting), by), response, model);
    }

    @PostMapping("/windows/{id:\\d{1,18}}/skip")
    String skip(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam String meant,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(id, one -> windows.skip(id, version, local(meant), by), response, model);
    }

    @PostMapping("/windows/{id:\\d{1,18}}/move")
    String move(
            @PathVariable long id,
            @RequestParam int version,
            @RequestParam String meant,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        return act(
                id,
                one -> windows.move(id, version, local(meant), new Plan.Span(instant(from), instant(to)), by),
                response,
                model);
    }

    @PostMapping("/windows/{id:\\d{1,18}}/delete")
    String delete(
            @PathVariable long id, @AuthenticationPrincipal Person by, HttpServletResponse response, Model model) {
        var done = act(id, one -> windows.delete(id, by), response, model);
        return done.startsWith("redirect:") ? "redirect:/windows" : done;
    }

    private static LocalDateTime local(String typed) {
        try {
            return LocalDateTime.parse(typed);
        } catch (DateTimeException bad) {
            throw new IllegalArgumentException("\"" + typed + "\" is no day and time", bad);
        }
    }

    private Instant instant(String typed) {
        return local(typed).atZone(times.zone()).toInstant();
    }

    private StoredWindow find(long id) {
        return windows.find(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no window " + id + "."));
    }
}
