package app.morvet.views.upkeep;

import app.morvet.core.guard.Numbers;
import app.morvet.core.tracks.Axis;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Leaf;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import app.morvet.rules.guards.GuardsOver;
import app.morvet.sources.changes.ChangeViews;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.views.windows.WindowsHere;
import app.morvet.work.actions.Actions;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What the estate is made of: components, and what stands on what. */
@Controller
class EstateController {
    private static final int PAGE = 50;
    private static final int MOST_IN_A_TREE = 2000;
    private static final Duration CHANGES_BACK = Duration.ofDays(90);
    private static final int CHANGES_SHOWN = 10;

    /** @param values in the order of the columns shown */
    record Line(String key, boolean unassigned, List<String> values) {}

    record SeriesRow(String measure, String labels, String value, String at, String sort, @Nullable String feed) {}

    /** A component and how deep it stands in the tree. */
    record Placed(Estate.Component component, int depth, String needs) {}

    record Tree(String application, String key, List<Placed> standing) {}

    private final ComponentTime around;
    private final Actions actions;
    private final WindowsHere windows;
    private final Estate estate;
    private final EstateSearch search;
    private final Upkeep upkeep;
    private final SeriesBook series;
    private final ReadingHistory history;
    private final Changes changes;
    private final ChangeViews changeViews;
    private final GuardsOver guards;
    private final CaseBook cases;
    private final Times times;

    EstateController(
            ComponentTime around,
            Actions actions,
            WindowsHere windows,
            Estate estate,
            EstateSearch search,
            Upkeep upkeep,
            SeriesBook series,
            ReadingHistory history,
            Changes changes,
            ChangeViews changeViews,
            GuardsOver guards,
            CaseBook cases,
            Times times) {
        this.around = around;
        this.actions = actions;
        this.windows = windows;
        this.estate = estate;
        this.search = search;
        this.upkeep = upkeep;
        this.series = series;
        this.history = history;
        this.changes = changes;
        this.changeViews = changeViews;
        this.guards = guards;
        this.cases = cases;
        this.times = times;
    }

    private List<String> chosen(List<String> columns) {
        var chosen = search.columns().stream().filter(columns::contains).toList();
        return chosen.isEmpty() ? EstateSearch.usual() : chosen;
    }

    @GetMapping("/estate")
    String components(
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "") List<String> columns,
            @RequestParam(defaultValue = "0") int from,
            Model model) {
        var found = search.find(q);
        var shown = chosen(columns);
        model.addAttribute("find", q);
        model.addAttribute("columns", search.columns());
        model.addAttribute("shown", shown);
        model.addAttribute("count", found.size());
        model.addAttribute("waiting", estate.unassigned());
        Leaf.of(found, from, PAGE).show(model, one -> line(search.row(one), shown));
        model.addAttribute("applications", estate.applications());
        return "estate";
    }

    private Line line(EstateSearch.Row row, List<String> shown) {
        return new Line(
                row.component().key(),
                row.component().applicationId() == null,
                shown.stream()
                        .map(column -> column.equals("first seen")
                                ? times.of(row.component().firstSeen())
                                : row.get(column))
                        .toList());
    }

    @GetMapping("/estate.csv")
    ResponseEntity<byte[]> csv(
            @RequestParam(defaultValue = "") String q, @RequestParam(defaultValue = "") List<String> columns) {
        var shown = new ArrayList<>(chosen(columns));
        if (!shown.contains("key")) shown.addFirst("key");
        var rows = search.find(q).stream()
                .map(search::row)
                .map(row -> shown.stream()
                        .map(column ->
                                column.equals("application") && row.component().applicationId() == null
                                        ? ""
                                        : row.get(column))
                        .toList())
                .toList();
        return Files.out("estate.csv", "text/csv", EstateFile.write(shown, rows));
    }

    @GetMapping("/estate/components/{key}")
    String component(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @AuthenticationPrincipal Person who,
            Model model) {
        var one = find(key);
        fillComponent(one, TimePictures.asked(from, to), who, model);
        model.addAttribute("typed", one);
        return "component";
    }

    private void fillComponent(Estate.Component one, Optional<Axis> asked, Person who, Model model) {
        around.fill(one, asked, model);
        model.addAttribute("on", actions.on(one, 0, who));
        model.addAttribute("window", windows.of(one));
        model.addAttribute("one", one);
        model.addAttribute("runsIn", estate.applicationOf(one).orElse(null));
        model.addAttribute("owner", estate.ownerOf(one).map(Estate.Team::name).orElse("nobody yet"));
        model.addAttribute("kinds", Estate.KINDS);
        model.addAttribute("applications", estate.applications());
        model.addAttribute("standsOn", one.standsOn() == null ? null : estate.component(one.standsOn()));
        model.addAttribute("carried", estate.standingOn(one.id()));
        model.addAttribute("needs", estate.needsOf(one.id()));
        model.addAttribute("needing", estate.needing(one.id()));
        model.addAttribute("firstSeen", times.of(one.firstSeen()));
        var since = times.now().minus(Duration.ofDays(2));
        var feeds = estate.feeds();
        model.addAttribute(
                "series",
                series.ofComponent(one.id()).stream()
                        .map(it -> {
                            var newest = history.newest(it.id(), since);
                            var unit = it.measure().unitWords();
                            return new SeriesRow(
                                    it.measure().words(),
                                    it.labelWords(),
                                    newest.map(reading -> it.measure().isState()
                                                    ? it.measure().stateWords().word(reading.value())
                                                    : Numbers.with(Numbers.rounded(reading.value()), unit))
                                            .orElse(""),
                                    newest.map(reading -> times.of(reading.at()))
                                            .orElse(
                                                    it.measure().countsFailures()
                                                            ? "counted from messages"
                                                            : "nothing in two days"),
                                    it.measure().sort().word(),
                                    it.feed() == null
                                            ? "Morvet"
                                            : feeds.stream()
                                                    .filter(feed -> feed.id() == it.feed())
                                                    .findFirst()
                                                    .map(Estate.Feed::name)
                                                    .orElse(""));
                        })
                        .toList());
        model.addAttribute("infos", changes.said(one.id()));
        model.addAttribute(
                "changes",
                changeViews.rows(changes.of(
                        List.of(one.id()),
                        times.now().minus(CHANGES_BACK),
                        times.now().plus(Duration.ofHours(1)),
                        CHANGES_SHOWN)));
        model.addAttribute("guards", guards.over(one.id()));
        model.addAttribute("cases", cases.openOn(one.id()));
    }

    /** Names and assigns a component where it stands. */
    @PostMapping("/estate/components/{key}")
    String change(
            @PathVariable String key,
            @RequestParam String name,
            @RequestParam(required = false) @Nullable String kind,
            @RequestParam(defaultValue = "") String application,
            @RequestParam(required = false) @Nullable String standsOn,
            @RequestParam(defaultValue = "") String back,
            @AuthenticationPrincipal Person by,
            RedirectAttributes flash) {
        var before = find(key);
        try {
            var next = new Estate.Component(
                    before.id(),
                    key,
                    name.strip(),
                    kind == null ? before.kind() : kind,
                    application.isBlank()
                            ? null
                            : Long.valueOf(named(application.strip()).id()),
                    standsOn == null
                            ? before.standsOn()
                            : standsOn.isBlank()
                                    ? null
                                    : Long.valueOf(estate.byKey(standsOn.strip())
                                            .map(Estate.Component::id)
                                            .orElseThrow(() ->
                                                    new IllegalArgumentException("There is no component with the key \""
                                                            + standsOn + "\" to stand on."))),
                    before.firstSeen());
            upkeep.change(next, by);
        } catch (IllegalArgumentException wrong) {
            flash.addFlashAttribute("refusal", key + ": " + wrong.getMessage());
        }
        return "redirect:"
                + (back.startsWith("/estate?") || back.equals("/estate") ? back : "/estate/components/" + key);
    }

    /** By its key, as a list of choices has it, or by its name, as people type it. */
    private Estate.Application named(String typed) {
        return estate.application(typed)
                .or(() -> estate.applications().stream()
                        .filter(one -> one.name().equalsIgnoreCase(typed))
                        .findFirst())
                .orElseThrow(() -> new IllegalArgumentException("There is no application \"" + typed
                        + "\". Type its name or its key, or add it under Applications."));
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }

    @GetMapping("/estate/standing")
    String standing(@RequestParam(defaultValue = "") String application, Model model) {
        var chosen =
                application.isEmpty() ? estate.applications().stream().findFirst() : estate.application(application);
        model.addAttribute("applications", estate.applications());
        model.addAttribute("chosen", chosen.map(Estate.Application::key).orElse(""));
        model.addAttribute("tree", chosen.map(this::tree).orElse(null));
        return "estate-standing";
    }

    /** From the ground up: first what an application's components stand on, wherever that belongs, then what stands there. */
    private Tree tree(Estate.Application application) {
        var own = estate.components().stream()
                .filter(one -> Long.valueOf(application.id()).equals(one.applicationId()))
                .limit(MOST_IN_A_TREE)
                .toList();
        var shown = new HashSet<Long>();
        own.forEach(one -> {
            for (@Nullable Long id = one.id();
                    id != null && shown.add(id);
                    id = estate.component(id).standsOn())
                ;
        });
        var standing = new ArrayList<Placed>();
        for (var one : estate.components()) {
            if (shown.contains(one.id()) && one.standsOn() == null) climb(one, 0, shown, new HashSet<>(), standing);
        }
        return new Tree(application.name(), application.key(), standing);
    }

    private void climb(Estate.Component one, int depth, Set<Long> shown, Set<Long> seen, List<Placed> standing) {
        if (!seen.add(one.id())) return;
        var needs =
                estate.needsOf(one.id()).stream().map(Estate.Component::name).toList();
        standing.add(new Placed(one, depth, needs.isEmpty() ? "" : "needs " + String.join(", ", needs)));
        for (var on : estate.standingOn(one.id()))
            if (shown.contains(on.id())) climb(on, depth + 1, shown, seen, standing);
    }
}
