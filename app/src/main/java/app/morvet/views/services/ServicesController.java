package app.morvet.views.services;

import app.morvet.core.readings.Micros;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Csv;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Times;
import app.morvet.rules.guards.GuardsOver;
import app.morvet.rules.guards.StateGuards;
import app.morvet.sources.changes.ChangeViews;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import app.morvet.views.windows.WindowsHere;
import app.morvet.work.actions.Actions;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** The Services place, and one service. */
@Controller
class ServicesController {
    private static final List<Integer> DAYS = List.of(1, 7, 30, 90);
    private static final int LATEST = 30;
    private static final int LONGEST_SAID = 20_000;
    private static final int CHANGES = 8;
    private static final int POINTS = 400;

    /**
     * @param id   tells it from others on the page
     * @param said what it said beside its word; may be empty
     */
    record Told(String id, String at, String word, String mark, String lasted, String said) {}

    /**
     * One state of the component at hand.
     *
     * @param ended  whether it was taken off
     * @param canEnd whether somebody can: what Morvet tells itself ends with what it asks
     */
    record StateOf(long series, String name, String word, String mark, boolean ended, boolean canEnd) {}

    private final ServiceRows rows;
    private final SeriesBook series;
    private final States states;
    private final StateGuards marks;
    private final GuardsOver guards;
    private final CaseBook cases;
    private final Changes changes;
    private final ChangeViews changeViews;
    private final Masks masks;
    private final Actions actions;
    private final WindowsHere windows;
    private final Estate estate;
    private final Times times;

    ServicesController(
            ServiceRows rows,
            SeriesBook series,
            States states,
            StateGuards marks,
            GuardsOver guards,
            CaseBook cases,
            Changes changes,
            ChangeViews changeViews,
            Masks masks,
            Actions actions,
            WindowsHere windows,
            Estate estate,
            Times times) {
        this.rows = rows;
        this.series = series;
        this.states = states;
        this.marks = marks;
        this.guards = guards;
        this.cases = cases;
        this.changes = changes;
        this.changeViews = changeViews;
        this.masks = masks;
        this.actions = actions;
        this.windows = windows;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/services")
    String list(
            @RequestParam(defaultValue = "") String q,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        model.addAttribute("q", q.strip());
        // Who looks for something wants to see what is found, well or not.
        model.addAttribute("overview", rows.overview(q, !q.isBlank()));
        return "service-rows".equals(target) ? "service-parts :: rows" : "services";
    }

    /** Those that are as they should be; asked for when somebody unfolds their lines. */
    @GetMapping("/services/quiet")
    String quiet(
            @RequestParam(defaultValue = "") String q,
            @RequestHeader(name = "HX-Request", required = false) @Nullable String htmx,
            Model model) {
        model.addAttribute("q", q.strip());
        model.addAttribute("overview", rows.overview(q, true));
        return htmx == null ? "services" : "service-parts :: quiet";
    }

    @GetMapping("/services.csv")
    ResponseEntity<byte[]> csv(@RequestParam(defaultValue = "") String q) {
        var text = new StringBuilder();
        try (var csv = new Csv(text)) {
            csv.line("key", "name", "state of", "kind", "application", "tier", "stands on", "state", "mark", "since");
            for (var row : rows.list(q))
                csv.line(
                        row.key(),
                        row.name(),
                        row.of(),
                        row.kind(),
                        row.application(),
                        row.tier() == 9 ? "" : row.tier(),
                        row.hostKey(),
                        row.word(),
                        row.mark(),
                        row.since());
        }
        return Files.out("services.csv", "text/csv", text.toString());
    }

    @GetMapping("/services/{key}")
    String one(
            @PathVariable String key,
            @RequestParam(defaultValue = "7") String days,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            @AuthenticationPrincipal Person who,
            Model model) {
        var one = find(key);
        var all = statesOf(one);
        int span = DAYS.stream().filter(it -> days.equals("" + it)).findFirst().orElse(7);
        model.addAttribute("one", one);
        model.addAttribute("row", rows.of(all).orElse(null));
        model.addAttribute("days", span);
        model.addAttribute("spans", DAYS);
        model.addAttribute("states", stateRows(all));
        model.addAttribute("latest", latest(one, all));
        model.addAttribute("owner", estate.ownerOf(one).map(Estate.Team::name).orElse(""));
        model.addAttribute("carried", estate.standingOn(one.id()));
        model.addAttribute("needs", estate.needsOf(one.id()));
        model.addAttribute("needing", estate.needing(one.id()));
        model.addAttribute("infos", changes.said(one.id()));
        model.addAttribute("on", actions.on(one, 0, who));
        model.addAttribute("window", windows.of(one));
        model.addAttribute("guards", guards.over(one.id()));
        model.addAttribute("cases", cases.openOn(one.id()));
        var now = times.now();
        model.addAttribute(
                "changes",
                changeViews.rows(changes.of(
                        List.of(one.id()), now.minus(Duration.ofDays(400)), now.plusSeconds(3600), CHANGES)));
        return "service-one".equals(target) ? "service-parts :: one" : "service";
    }

    /** What one state was in, for the chart of it. */
    @GetMapping("/services/{key}/track/{id:\\d{1,18}}")
    @ResponseBody
    Curve track(@PathVariable String key, @PathVariable long id, @RequestParam(defaultValue = "7") String days) {
        var one = statesOf(find(key)).stream()
                .filter(it -> it.id() == id)
                .findFirst()
                .orElseThrow(() -> missing("a state " + id + " of " + key));
        int span = DAYS.stream().filter(it -> days.equals("" + it)).findFirst().orElse(7);
        var to = times.now();
        var from = to.minus(Duration.ofDays(span));
        var now = states.of(List.of(id)).get(id);
        if (now == null) return Curve.nothing(times.zone().getId());
        var told = states.changes(List.of(id), from, to).getOrDefault(id, List.of());
        var over = marks.over(List.of(one)).get(id);
        var stretches =
                ServiceRows.stretches(one, told, from, to, ServiceRows.knownTo(one, now, rows.cadences())).stream()
                        .map(it -> new Curve.Stretch(
                                seconds(it.from()),
                                seconds(it.to()),
                                it.word() == null ? "not known" : it.word(),
                                ServiceRows.mark(it.word(), over)))
                        .toList();
        return Curve.track(
                stretches,
                seconds(from),
                seconds(to),
                POINTS,
                times.zone().getId(),
                one.measure().words());
    }

    private static double seconds(Instant at) {
        return at.toEpochMilli() / 1000.0;
    }

    private List<Series> statesOf(Estate.Component one) {
        return series.ofComponent(one.id()).stream()
                .filter(it -> it.measure().isState())
                .toList();
    }

    private List<StateOf> stateRows(List<Series> all) {
        var now = states.of(all.stream().map(Series::id).toList());
        var over = marks.over(all);
        return all.stream()
                .map(it -> {
                    var heard = now.get(it.id());
                    var word = heard == null ? null : it.measure().stateWords().word(heard.place());
                    return new StateOf(
                            it.id(),
                            (it.measure().words() + " " + it.labelWords()).strip(),
                            series.ended(it.id()) ? "taken off" : word == null ? "nothing told" : word,
                            ServiceRows.mark(word, over.get(it.id())),
                            series.ended(it.id()),
                            it.feed() != null && !series.ended(it.id()));
                })
                .toList();
    }

    private List<Told> latest(Estate.Component one, List<Series> all) {
        var byId = new HashMap<Long, Series>();
        all.forEach(it -> byId.put(it.id(), it));
        var over = marks.over(all);
        var masking = masks.on(one.id());
        var until = new HashMap<Long, Instant>();
        var told = new ArrayList<Told>();
        for (var change : states.latest(byId.keySet(), LONGEST_SAID, LATEST)) {
            var of = byId.get(change.series());
            var word = of.measure().stateWords().word(change.place());
            var end = until.getOrDefault(change.series(), times.now());
            if (change.changed()) until.put(change.series(), change.at());
            told.add(new Told(
                    "told-%d-%d".formatted(change.series(), Micros.of(change.at())),
                    times.of(change.at()),
                    word,
                    ServiceRows.mark(word, over.get(change.series())),
                    change.changed() ? ServiceRows.lasted(Duration.between(change.at(), end)) : "",
                    masking.text(change.said()).text()));
        }
        return told;
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .filter(one -> !statesOf(one).isEmpty() || one.kind().equals("service"))
                .orElseThrow(() -> missing("a service " + key));
    }

    private static ResponseStatusException missing(String what) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is not " + what + ".");
    }
}
