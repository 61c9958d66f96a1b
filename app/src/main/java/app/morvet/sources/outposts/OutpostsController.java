package app.morvet.sources.outposts;

import app.morvet.core.guard.Spans;
import app.morvet.core.outposts.Ask;
import app.morvet.core.outposts.Brief;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
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

/** Services, Outposts: what each is asked and who asks it, whether that is in force there, and how it does. */
@Controller
class OutpostsController {
    /**
     * @param state   in a word or two
     * @param force   what is said of its brief
     * @param trouble of its clock and what it keeps, and what it cannot do; empty where there is none
     */
    record Row(
            long id,
            String name,
            String hostKey,
            String host,
            String mark,
            String state,
            String heard,
            String force,
            String program,
            String system,
            String spool,
            String clock,
            List<String> trouble) {}

    /** @param over who else asks, and what of it does not hold */
    record LineRow(String what, String every, String whence, String over) {}

    /** @param of whom it is asked */
    record AskRow(long id, String of, String what, String every) {}

    private final Outposts outposts;
    private final List<OutpostView> views;
    private final MorvetSettings settings;
    private final Estate estate;
    private final Groups groups;
    private final Times times;

    OutpostsController(
            Outposts outposts,
            List<OutpostView> views,
            MorvetSettings settings,
            Estate estate,
            Groups groups,
            Times times) {
        this.outposts = outposts;
        this.views = views;
        this.settings = settings;
        this.estate = estate;
        this.groups = groups;
        this.times = times;
    }

    @GetMapping("/services/outposts")
    String list(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        fill(model);
        return "outpost-rows".equals(target) ? "outposts :: rows" : "outposts";
    }

    private void fill(Model model) {
        var now = times.now();
        model.addAttribute(
                "rows", outposts.all().stream().map(one -> row(one, now)).toList());
        model.addAttribute("address", settings.address());
        model.addAttribute("groups", estate.groups());
        model.addAttribute("asks", outposts.asks().stream().map(this::askRow).toList());
        model.addAttribute("measures", offered());
    }

    /** What can be measured somewhere: what each host has, as its outpost says. */
    private List<String> offered() {
        var all = new TreeSet<>(Ask.MEASURES);
        for (var one : outposts.standing())
            if (one.said() != null) all.addAll(one.said().offers());
        return List.copyOf(all);
    }

    private Row row(Outpost one, Instant now) {
        var host = estate.component(one.component());
        var said = one.said();
        boolean revoked = one.revokedAt() != null;
        boolean silent = one.isSilent(now);
        return new Row(
                one.id(),
                one.name(),
                host.key(),
                host.name(),
                revoked ? "nodata" : silent ? "critical" : one.inForce() && !one.isClockOff() ? "steady" : "warning",
                revoked ? "its key is revoked" : said == null ? "not heard yet" : silent ? "silent" : "heard",
                said == null ? "" : times.of(said.at()),
                said == null ? "" : force(one, said),
                said == null ? "" : said.program(),
                said == null ? "" : said.system(),
                said == null || said.waiting() == 0 ? "" : "%,d waiting".formatted(said.waiting()),
                said == null ? "" : clock(said.skew()),
                said == null ? List.of() : trouble(one, said));
    }

    private String force(Outpost one, Outpost.Said said) {
        var saved = one.wantedAt() == null ? "" : "saved " + times.of(one.wantedAt());
        if (one.wanted().isEmpty()) return "nothing asked yet";
        if (!one.inForce()) return saved + ", not in force yet";
        return said.briefAt() == null ? saved : saved + ", in force since " + times.of(said.briefAt());
    }

    private static String clock(Duration skew) {
        if (skew.abs().compareTo(Duration.ofSeconds(1)) < 0) return "right";
        return Spans.words(Duration.ofSeconds(skew.abs().toSeconds())) + (skew.isNegative() ? " behind" : " ahead");
    }

    private static List<String> trouble(Outpost one, Outpost.Said said) {
        var trouble = new java.util.ArrayList<String>();
        if (one.isClockOff()) trouble.add("Its clock is " + clock(said.skew()) + ".");
        if (said.dropped() > 0)
            trouble.add("%,d things that it saw were given up, since its spool was full.".formatted(said.dropped()));
        trouble.addAll(said.faults());
        return trouble;
    }

    private AskRow askRow(OutpostStore.Kept kept) {
        var group = kept.group();
        var outpost = kept.outpost();
        var of = group != null
                ? "group " + groups.find(group).map(Groups.Group::name).orElse("?")
                : outpost != null ? outposts.find(outpost).map(Outpost::name).orElse("?") : "all";
        return new AskRow(kept.id(), of, words(kept.ask()), every(kept.ask()));
    }

    private static String words(Ask ask) {
        return ask.what() + (ask.of().isEmpty() ? "" : " of " + ask.of());
    }

    private static String every(Ask ask) {
        return ask.active() ? "every " + Spans.words(ask.every()) : "not measured";
    }

    @GetMapping("/services/outposts/{id:\\d{1,18}}")
    String one(
            @PathVariable long id,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var one = find(id);
        model.addAttribute("one", one);
        model.addAttribute("row", row(one, times.now()));
        model.addAttribute(
                "lines",
                outposts.measures(one).lines().stream()
                        .map(OutpostsController::line)
                        .toList());
        model.addAttribute(
                "parts", views.stream().flatMap(view -> view.of(one).stream()).toList());
        model.addAttribute("measures", Ask.MEASURES.stream().sorted().toList());
        return "outpost-one".equals(target) ? "outpost :: one" : "outpost";
    }

    private static LineRow line(Brief.Line line) {
        return new LineRow(
                words(line.ask()),
                every(line.ask()),
                line.ask().words(),
                line.over().stream().map(one -> one.words() + ": " + every(one)).collect(Collectors.joining(", ")));
    }

    @PostMapping("/services/outposts")
    String make(
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String host,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            model.addAttribute("made", outposts.make(name.strip(), host, by));
            model.addAttribute("madeFor", name.strip());
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", wrong.getMessage());
            model.addAttribute("typedName", name);
            model.addAttribute("typedHost", host);
        }
        fill(model);
        return "outposts";
    }

    @PostMapping("/services/outposts/{id:\\d{1,18}}/revoke")
    String revoke(@PathVariable long id, @AuthenticationPrincipal Person by) {
        outposts.revoke(id, by);
        return "redirect:/services/outposts/" + id;
    }

    @PostMapping("/services/outposts/{id:\\d{1,18}}/rekey")
    String rekey(@PathVariable long id, @AuthenticationPrincipal Person by, Model model) {
        model.addAttribute("madeFor", find(id).name());
        model.addAttribute("made", outposts.rekey(id, by));
        fill(model);
        return "outposts";
    }

    @PostMapping("/services/outposts/{id:\\d{1,18}}/again")
    String again(@PathVariable long id) {
        outposts.lookAgain(find(id).id());
        return "redirect:/services/outposts/" + id;
    }

    @PostMapping("/services/outposts/asks")
    String ask(
            @RequestParam(defaultValue = "all") String whom,
            @RequestParam(defaultValue = "") String what,
            @RequestParam(defaultValue = "") String of,
            @RequestParam(defaultValue = "30 s") String every,
            @RequestParam(defaultValue = "") String not,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            Long group = number(whom, "group-");
            Long outpost = number(whom, "one-");
            var whence = outpost != null ? Ask.Whence.ONE : group != null ? Ask.Whence.GROUP : Ask.Whence.ALL;
            // As it is offered: disks of /data.
            var chosen = what.strip().split(" of ", 2);
            boolean offer = of.isBlank() && chosen.length == 2 && Ask.MEASURES.contains(chosen[0]);
            outposts.ask(
                    group,
                    outpost,
                    new Ask(
                            whence,
                            "",
                            offer ? chosen[0] : what.strip(),
                            offer ? chosen[1] : of.strip(),
                            Spans.read(every),
                            not.isEmpty()),
                    by);
            return "redirect:/services/outposts" + (outpost == null ? "" : "/" + outpost);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("askRefusal", Sentence.of(wrong));
            fill(model);
            return "outposts";
        }
    }

    private static @Nullable Long number(String whom, String begin) {
        return whom.matches(begin + "\\d{1,18}") ? Long.valueOf(whom.substring(begin.length())) : null;
    }

    @PostMapping("/services/outposts/asks/{id:\\d{1,18}}/delete")
    String unask(@PathVariable long id, @AuthenticationPrincipal Person by) {
        outposts.unask(id, by);
        return "redirect:/services/outposts";
    }

    private Outpost find(long id) {
        return outposts.find(id)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no outpost " + id + "."));
    }
}
