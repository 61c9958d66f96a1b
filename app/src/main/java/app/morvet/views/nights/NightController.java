package app.morvet.views.nights;

import app.morvet.core.batch.Concurrency;
import app.morvet.core.batch.Forecast;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.RunWatch;
import app.morvet.core.batch.WhatIf;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.Nights;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Batch as it opens: the plan of the night, what needs eyes in words, and what something done about it would change. */
@Controller
class NightController {
    /** How much of time is shown, and how much of it lies before now. */
    enum Zoom {
        HOUR("hour", Duration.ofHours(1), Duration.ofMinutes(20)),
        SIX("six hours", Duration.ofHours(6), Duration.ofHours(2)),
        NIGHT("night", Duration.ofHours(12), Duration.ofHours(5)),
        DAY("day", Duration.ofHours(24), Duration.ofHours(12));

        private final String words;
        private final Duration length;
        private final Duration before;

        Zoom(String words, Duration length, Duration before) {
            this.words = words;
            this.length = length;
            this.before = before;
        }

        public String words() {
            return words;
        }

        public String key() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }

        static Zoom of(String key) {
            for (var zoom : values()) if (zoom.key().equals(key)) return zoom;
            return NIGHT;
        }
    }

    /** @param caseId the open case about it, or 0 */
    record Eye(String mark, String words, String link, long caseId, String path) {}

    /**
     * A deadline, as it stands and as it would stand.
     *
     * @param risk the mark of what is found about it, or empty
     */
    record Deadline(
            String job,
            String key,
            String at,
            String likely,
            String range,
            String chance,
            String risk,
            @Nullable String likelyThen,
            @Nullable String chanceThen,
            boolean better) {}

    /** @param without the address without it */
    record Change(String words, String without) {}

    private static final Duration THIS_NIGHT = Duration.ofHours(12);
    private static final Duration WORTH_TELLING = Duration.ofMinutes(5);

    private final Nights nights;
    private final PlanDrawing drawing;
    private final JobBook jobs;
    private final JobStands stands;
    private final CaseBook cases;
    private final Times times;

    NightController(Nights nights, PlanDrawing drawing, JobBook jobs, JobStands stands, CaseBook cases, Times times) {
        this.nights = nights;
        this.drawing = drawing;
        this.jobs = jobs;
        this.stands = stands;
        this.cases = cases;
        this.times = times;
    }

    @GetMapping("/batch")
    String plan(
            @RequestParam(defaultValue = "night") String zoom,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String path,
            @RequestParam(defaultValue = "false") boolean whole,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var standing = nights.now();
        var chosen = Zoom.of(zoom);
        draw(standing, standing.forecast(), chosen, from, path, whole, model);
        model.addAttribute("eyes", eyes(standing));
        model.addAttribute("deadlines", deadlines(standing, null));
        model.addAttribute("shortages", shortages(standing));
        return "night-plan".equals(target) ? "night-parts :: plan" : "night";
    }

    @GetMapping("/batch/what-if")
    String whatIf(
            @RequestParam(name = "do", required = false) @Nullable List<String> asked,
            @RequestParam(defaultValue = "") String add,
            @RequestParam(defaultValue = "") String job,
            @RequestParam(defaultValue = "night") String zoom,
            Model model) {
        var chosen = new ArrayList<>(asked == null ? List.<String>of() : asked);
        if (!add.isEmpty()) chosen.add(add.equals("slots") ? "slots:1" : add + ":" + job);
        var standing = nights.now();
        String refusal = null;
        Forecast then = null;
        try {
            var changes = chosen.stream().map(NightController::change).toList();
            if (!changes.isEmpty()) then = nights.whatIf(changes);
        } catch (IllegalArgumentException wrong) {
            refusal = "That cannot be played through: " + wrong.getMessage() + ".";
        }
        draw(standing, then == null ? standing.forecast() : then, Zoom.of(zoom), "", "", false, model);
        model.addAttribute("refusal", refusal);
        model.addAttribute("deadlines", deadlines(standing, then));
        model.addAttribute("asked", chosen);
        model.addAttribute(
                "chosen", chosen.stream().map(one -> shown(one, chosen, zoom)).toList());
        model.addAttribute("all", choices(standing));
        model.addAttribute("job", job);
        model.addAttribute("nightsPlayed", standing.forecast().nights());
        return "what-if";
    }

    record Choice(String key, String name) {}

    /** Jobs that are part of what is still to come, those in trouble first. */
    private List<Choice> choices(Nights.View standing) {
        // What puts a deadline at risk comes first, since that is what somebody wants to play with.
        var troubled = standing.findings().stream()
                .filter(one -> one.trouble() == RunTrouble.DEADLINE_AT_RISK)
                .map(RunWatch.Finding::cause)
                .collect(Collectors.toSet());
        var keys = new LinkedHashMap<String, Boolean>();
        for (var ahead : standing.forecast().ahead()) {
            var key = ahead.occurrence().job().key();
            keys.putIfAbsent(key, troubled.contains(key));
        }
        return keys.entrySet().stream()
                .sorted(Comparator.comparing((Map.Entry<String, Boolean> one) -> !one.getValue())
                        .thenComparing(one -> jobs.nameOf(one.getKey())))
                .map(one -> new Choice(one.getKey(), jobs.nameOf(one.getKey())))
                .toList();
    }

    static WhatIf change(String asked) {
        var parts = asked.split(":", 2);
        var what = parts.length == 2 ? parts[1] : "";
        return switch (parts[0]) {
            case "rerun" -> new WhatIf.Rerun(what);
            case "skip" -> new WhatIf.Skip(what);
            case "start" -> new WhatIf.StartNow(what);
            case "slots" -> {
                if (!what.matches("\\d{1,4}")) throw new IllegalArgumentException("say how many slots to add");
                yield new WhatIf.MoreSlots(Integer.parseInt(what));
            }
            default -> throw new IllegalArgumentException("\"" + asked + "\" is not known");
        };
    }

    private Change shown(String asked, List<String> all, String zoom) {
        var rest = new ArrayList<>(all);
        rest.remove(asked);
        var parts = asked.split(":", 2);
        var name = parts.length == 2 ? jobs.nameOf(parts[1]) : "";
        var words =
                switch (parts[0]) {
                    case "rerun" -> name + " is run again from now, and all after it";
                    case "skip" -> name + " is skipped";
                    case "start" -> name + " is started now";
                    case "slots" -> name + " more slot" + (name.equals("1") ? "" : "s");
                    default -> asked;
                };
        return new Change(
                words,
                "/batch/what-if?zoom=" + Zoom.of(zoom).key()
                        + rest.stream()
                                .map(one -> "&do="
                                        + java.net.URLEncoder.encode(one, java.nio.charset.StandardCharsets.UTF_8))
                                .collect(Collectors.joining()));
    }

    private void draw(
            Nights.View standing,
            Forecast forecast,
            Zoom zoom,
            String fromAsked,
            String path,
            boolean whole,
            Model model) {
        var now = standing.madeAt();
        var from = fromAsked.isEmpty() ? now.minus(zoom.before) : instant(fromAsked);
        var to = from.plus(zoom.length);
        boolean near = !from.isBefore(standing.night().from())
                && !to.isAfter(standing.night().to());
        var troubled = standing.findings().stream()
                .flatMap(one -> java.util.stream.Stream.of(one.job(), one.cause()))
                .collect(Collectors.toSet());
        model.addAttribute(
                "plan",
                near
                        ? drawing.of(
                                forecast.night(),
                                forecast,
                                standing.jobs(),
                                troubled,
                                from,
                                to,
                                path.isEmpty() ? null : path,
                                whole)
                        : drawing.of(nights.between(from, to), null, standing.jobs(), Set.of(), from, to, null, whole));
        model.addAttribute("zooms", Zoom.values());
        model.addAttribute("zoom", zoom);
        model.addAttribute("from", fromAsked.isEmpty() ? "" : from.toString());
        model.addAttribute("earlier", from.minus(zoom.length.dividedBy(2)).toString());
        model.addAttribute("later", from.plus(zoom.length.dividedBy(2)).toString());
        model.addAttribute("spanWords", times.of(from) + " to " + times.of(to));
        model.addAttribute("litJob", path);
        model.addAttribute("whole", whole);
    }

    private static Instant instant(String text) {
        try {
            return OffsetDateTime.parse(text).toInstant();
        } catch (DateTimeParseException bad) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "from must be a time such as 2026-11-24T22:00:00Z", bad);
        }
    }

    private List<Eye> eyes(Nights.View standing) {
        var open = cases.openByComponent();
        var stands = this.stands.of(standing);
        return standing.findings().stream()
                .map(one -> {
                    var cause = standing.jobs().get(one.cause());
                    long caseId = cause == null
                            ? 0
                            : open.getOrDefault(cause.component().id(), 0L);
                    return new Eye(
                            stands.mark(one),
                            one.words(),
                            one.run() != null && one.job().equals(one.cause())
                                    ? "/batch/runs/" + one.run()
                                    : "/batch/jobs/" + one.cause(),
                            caseId,
                            one.trouble() == RunTrouble.DEADLINE_AT_RISK ? one.job() : "");
                })
                .sorted(Comparator.comparing(eye -> Marks.rank(eye.mark())))
                .toList();
    }

    private List<Deadline> deadlines(Nights.View standing, @Nullable Forecast then) {
        var found = new ArrayList<Deadline>();
        var risks = stands.of(standing).risks();
        for (var ahead : standing.forecast().ahead()) {
            var one = ahead.occurrence();
            if (one.deadline() == null
                    || one.deadline().isAfter(standing.madeAt().plus(Duration.ofHours(20)))) continue;
            var later = then == null ? null : then.of(one);
            boolean skipped = then != null && later == null;
            found.add(new Deadline(
                    jobs.nameOf(one.job().key()),
                    one.job().key(),
                    times.near(one.deadline()),
                    times.near(ahead.end().likely()),
                    times.of(ahead.end().low()) + " to " + times.of(ahead.end().high()),
                    percent(ahead.makes()),
                    risks.getOrDefault(one.job().key(), ""),
                    later == null
                            ? skipped ? "skipped" : null
                            : times.near(later.end().likely()),
                    later == null ? null : percent(later.makes()),
                    later != null && later.makes() > ahead.makes() + 0.005));
        }
        return found;
    }

    static String percent(double share) {
        if (share > 0 && share < 0.01) return "under 1 %";
        if (share < 1 && share > 0.99) return "over 99 %";
        return "%.0f %%".formatted(100 * share);
    }

    /** When there are fewer slots than jobs that would run if there were enough. */
    private List<String> shortages(Nights.View standing) {
        var words = new ArrayList<String>();
        var until = standing.madeAt().plus(THIS_NIGHT);
        for (var shortage : Concurrency.shortages(standing.forecast(), until))
            if (Duration.between(shortage.from(), shortage.to()).compareTo(WORTH_TELLING) >= 0)
                words.add("From %s to %s up to %d want to run, of %d slots"
                        .formatted(
                                times.of(shortage.from()), times.of(shortage.to()), shortage.most(), shortage.slots()));
        return words.size() <= 3 ? words : List.copyOf(words.subList(0, 3));
    }
}
