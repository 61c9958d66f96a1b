package app.morvet.views.interfaces;

import app.morvet.core.messages.InterfaceMap;
import app.morvet.core.messages.InterfaceState;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.InterfaceEnds;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.messages.MessageViews;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
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
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** The Messages place as it opens, the map, and one interface. */
@Controller
class InterfacesController {
    private static final int FAMILIES = 8;
    private static final int MESSAGES = 15;
    private static final int STATES = 20;
    private static final Duration CURVES = Duration.ofDays(7);

    /** @param change what became different, in words */
    record StateRow(String at, String change, String reason, String node) {}

    private final InterfaceRows standings;
    private final InterfaceStore store;
    private final Usuals usuals;
    private final MapDrawing drawing;
    private final MessageStore messages;
    private final MessageViews views;
    private final Families families;
    private final CaseBook cases;
    private final Estate estate;
    private final InterfaceEnds interfaceEnds;
    private final Audit audit;
    private final Times times;

    InterfacesController(
            InterfaceRows standings,
            InterfaceStore store,
            Usuals usuals,
            MapDrawing drawing,
            MessageStore messages,
            MessageViews views,
            Families families,
            CaseBook cases,
            Estate estate,
            InterfaceEnds interfaceEnds,
            Audit audit,
            Times times) {
        this.standings = standings;
        this.store = store;
        this.usuals = usuals;
        this.drawing = drawing;
        this.messages = messages;
        this.views = views;
        this.families = families;
        this.cases = cases;
        this.estate = estate;
        this.interfaceEnds = interfaceEnds;
        this.audit = audit;
        this.times = times;
    }

    @GetMapping("/messages")
    String overview(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        model.addAttribute("overview", standings.overview());
        return "interface-rows".equals(target) ? "interface-parts :: rows" : "interfaces";
    }

    /** Those that need eyes and are not among the first; asked for when somebody unfolds their line. */
    @GetMapping("/messages/others")
    String others(@RequestHeader(name = "HX-Request", required = false) @Nullable String htmx, Model model) {
        model.addAttribute("others", standings.others());
        return htmx == null ? "interface-others" : "interface-parts :: others";
    }

    /** Those that carry as usual; asked for when somebody unfolds their line. */
    @GetMapping("/messages/rest")
    String rest(@RequestHeader(name = "HX-Request", required = false) @Nullable String htmx, Model model) {
        model.addAttribute("quiet", standings.quiet());
        return htmx == null ? "interface-rest" : "interface-parts :: rest";
    }

    @GetMapping("/messages/map")
    String map(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        var ends = interfaceEnds.all();
        var flows = new ArrayList<InterfaceMap.Flow>();
        for (var one : estate.interfaces()) {
            var between = ends.get(one.id());
            if (between != null) flows.add(new InterfaceMap.Flow(one.key(), between.from(), between.to()));
        }
        model.addAttribute("drawing", drawing.of(flows, standings.onMap()));
        model.addAttribute(
                "apart",
                estate.interfaces().stream()
                        .filter(one -> !ends.containsKey(one.id()))
                        .toList());
        return "interface-map".equals(target) ? "interface-parts :: map" : "interface-map";
    }

    @GetMapping("/messages/interfaces/{key}")
    String one(@PathVariable String key, Model model) {
        var subject = find(key);
        var now = times.now();
        var states = store.states(subject.id(), STATES);
        model.addAttribute("one", standings.of(subject));
        model.addAttribute("cases", cases.openOn(subject.id()));
        model.addAttribute("state", states.isEmpty() ? null : states.getFirst());
        model.addAttribute("stateWords", states.isEmpty() ? "" : standings.stateWords(states.getFirst()));
        model.addAttribute("changes", changes(states));
        var ends = interfaceEnds.of(subject.id());
        model.addAttribute("ends", ends.orElse(null));
        model.addAttribute("applications", estate.applications());
        model.addAttribute(
                "fromName", ends.map(one -> estate.nameOf(one.from())).orElse(""));
        model.addAttribute("toName", ends.map(one -> estate.nameOf(one.to())).orElse(""));
        model.addAttribute("needs", estate.needsOf(subject.id()));
        var standsOn = subject.standsOn();
        model.addAttribute("standsOn", standsOn == null ? null : estate.component(standsOn));
        model.addAttribute(
                "families",
                families.shares(
                        MessageScope.of(subject.id()),
                        now.minus(Duration.ofDays(7)),
                        now.plus(Duration.ofHours(1)),
                        FAMILIES));
        model.addAttribute(
                "messages",
                messages
                        .page(
                                MessageScope.of(subject.id()),
                                now.minus(Duration.ofDays(90)),
                                now.plus(Duration.ofHours(1)),
                                MessageId.NEWEST,
                                MESSAGES)
                        .stream()
                        .map(views::row)
                        .toList());
        return "interface";
    }

    private List<StateRow> changes(List<InterfaceState> states) {
        var rows = new ArrayList<StateRow>();
        for (int i = 0; i < states.size(); i++) {
            var state = states.get(i);
            var before = i + 1 < states.size() ? states.get(i + 1) : null;
            var words = new ArrayList<String>();
            if (before == null || before.state() != state.state())
                words.add(state.state().words());
            if (before == null || !before.version().equals(state.version()))
                words.add(before == null ? "version " + state.version() : before.version() + " → " + state.version());
            if (before != null && !before.node().equals(state.node()))
                words.add("moved from " + before.node() + " to " + state.node());
            rows.add(new StateRow(times.of(state.at()), String.join(", ", words), state.reason(), state.node()));
        }
        return rows;
    }

    @GetMapping("/messages/interfaces/{key}/carried")
    @ResponseBody
    Curve carried(@PathVariable String key) {
        var subject = find(key);
        var usual = usuals.of(subject.id());
        return curve(
                subject,
                "carried an hour",
                "",
                "Dashed: what is usual for the hour.",
                hour -> (double) (hour.delivered() + hour.failed()),
                at -> {
                    double expected = usual.expected(at, at.plus(1, ChronoUnit.HOURS));
                    return Double.isNaN(usual.byHour()[0]) ? null : expected;
                },
                false);
    }

    @GetMapping("/messages/interfaces/{key}/delays")
    @ResponseBody
    Curve delays(@PathVariable String key) {
        var subject = find(key);
        double usual = usuals.of(subject.id()).p95();
        return curve(
                subject,
                "95 % delivered within",
                "s",
                "Dashed: what is usual.",
                hour -> hour.delays().quantile(0.95).isPresent()
                        ? hour.delays().quantile(0.95).getAsDouble()
                        : null,
                at -> Double.isNaN(usual) || usual <= 0 ? null : usual,
                true);
    }

    private interface OfHour {
        @Nullable
        Double value(InterfaceStore.Hour hour);
    }

    private interface OfInstant {
        @Nullable
        Double value(Instant at);
    }

    private Curve curve(
            Estate.Component subject,
            String name,
            String unit,
            String note,
            OfHour value,
            OfInstant usual,
            boolean gaps) {
        var now = times.now();
        var from = now.minus(CURVES).truncatedTo(ChronoUnit.HOURS);
        Map<Instant, InterfaceStore.Hour> told = store.hours(subject.id(), from, now).stream()
                .collect(Collectors.toMap(InterfaceStore.Hour::hour, Function.identity()));
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var expected = new ArrayList<@Nullable Double>();
        var nothing = new ArrayList<@Nullable Double>();
        // The hour that is not over yet would look like a fall.
        for (var hour = from; hour.isBefore(now.truncatedTo(ChronoUnit.HOURS)); hour = hour.plus(1, ChronoUnit.HOURS)) {
            at.add((double) hour.getEpochSecond());
            var one = told.get(hour);
            values.add(one == null ? gaps ? null : Double.valueOf(0) : value.value(one));
            expected.add(usual.value(hour));
            nothing.add(null);
        }
        return new Curve(
                at,
                values,
                nothing,
                nothing,
                expected,
                List.of(),
                List.of(),
                times.zone().getId(),
                name,
                unit,
                note);
    }

    /** Says between whom an interface carries. */
    @PostMapping("/messages/interfaces/{key}/ends")
    String ends(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @AuthenticationPrincipal Person by) {
        var subject = find(key);
        var before = interfaceEnds.of(subject.id()).orElse(null);
        var next = new InterfaceEnds.Ends(party(from), party(to));
        interfaceEnds.set(subject.id(), next);
        audit.record(
                by,
                "interface changed",
                "interface " + subject.name(),
                before == null ? null : before.from() + " to " + before.to(),
                next.from().isBlank() || next.to().isBlank() ? null : next.from() + " to " + next.to());
        return "redirect:/messages/interfaces/" + key;
    }

    /** The key of an application that is named, or the name of somebody outside. */
    private String party(String typed) {
        var name = typed.strip();
        if (name.length() > 100) name = name.substring(0, 100);
        var wanted = name;
        return estate.applications().stream()
                .filter(one -> one.name().equalsIgnoreCase(wanted) || one.key().equals(wanted))
                .map(Estate.Application::key)
                .findFirst()
                .orElse(name);
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .filter(one -> one.kind().equals(Estate.INTERFACE))
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no interface " + key + "."));
    }
}
