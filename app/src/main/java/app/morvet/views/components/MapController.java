package app.morvet.views.components;

import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.alert.Severity;
import app.morvet.core.estate.StandingMap;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.EstateLinks;
import app.morvet.ground.page.Times;
import app.morvet.views.nights.NightsAhead;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What stands on what around a component, as a map, and what would be hurt if it stopped. */
@Controller
class MapController {
    private static final int FARTHEST = 4;
    private static final int MOST = 300;
    private static final int ROW = 24;
    private static final int BOX = 172;
    private static final int GAP = 64;
    private static final int HEAD = 26;
    private static final int LETTERS = 22;
    private static final int NAMED = 6;
    private static final Duration NIGHT = Duration.ofHours(24);

    record Node(String key, String name, String whole, String mark, double x, double y, boolean centre) {}

    /** @param path as SVG has it */
    record Line(String path, boolean stands) {}

    record Head(String words, double x) {}

    record Drawing(double width, double height, List<Head> heads, List<Node> nodes, List<Line> lines, int more) {}

    /** What of one application would be hurt. */
    record Hurt(String name, int tier, String environment, int count, String named) {}

    record Deadline(String job, String key, String by, String mark) {}

    private final Estate estate;
    private final EstateLinks links;
    private final Alerts alerts;
    private final NightsAhead nights;
    private final Times times;

    MapController(Estate estate, EstateLinks links, Alerts alerts, NightsAhead nights, Times times) {
        this.estate = estate;
        this.links = links;
        this.alerts = alerts;
        this.nights = nights;
        this.times = times;
    }

    @GetMapping("/estate/map")
    String map(@RequestParam(defaultValue = "") String centre, Model model) {
        var up = worst();
        var one = centre.isEmpty() ? telling(up) : Optional.of(find(centre));
        model.addAttribute("one", one.orElse(null));
        one.ifPresent(it -> {
            model.addAttribute("map", draw(it, up));
            fillHurt(it, model);
        });
        return "estate-map";
    }

    private Estate.Component find(String key) {
        return estate.byKey(key.strip())
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }

    /** The worst that is up on each component. */
    private Map<Long, Severity> worst() {
        var worst = new HashMap<Long, Severity>();
        for (var alert : alerts.up())
            worst.merge(alert.about().component(), alert.level(), (one, other) -> other.worseThan(one) ? other : one);
        return worst;
    }

    /** Of what is in trouble, or else of all, the one on which most depends. */
    private Optional<Estate.Component> telling(Map<Long, Severity> up) {
        var some = up.isEmpty()
                ? estate.components()
                : up.keySet().stream().map(estate::component).toList();
        return some.stream()
                .max(Comparator.comparing(one -> links.dependents(one.id()).size()));
    }

    private Drawing draw(Estate.Component centre, Map<Long, Severity> up) {
        var map = StandingMap.around(centre.id(), links, FARTHEST, MOST);
        int most =
                map.columns().stream().mapToInt(one -> one.nodes().size()).max().orElse(1);
        var nodes = new ArrayList<Node>();
        var heads = new ArrayList<Head>();
        var places = new HashMap<Long, Node>();
        for (int column = 0; column < map.columns().size(); column++) {
            var it = map.columns().get(column);
            double x = column * (BOX + GAP);
            heads.add(new Head(words(it.steps()), x));
            double top = HEAD + (most - it.nodes().size()) * ROW / 2.0;
            for (int row = 0; row < it.nodes().size(); row++) {
                var one = estate.component(it.nodes().get(row));
                var node = new Node(
                        one.key(),
                        cut(one.name()),
                        one.name() + ", " + one.kind() + runsIn(one),
                        Optional.ofNullable(up.get(one.id()))
                                .map(Severity::word)
                                .orElse("steady"),
                        x,
                        top + row * ROW,
                        one.id() == centre.id());
                nodes.add(node);
                places.put(one.id(), node);
            }
        }
        var lines = map.links().stream()
                .map(link -> new Line(path(places.get(link.lower()), places.get(link.upper())), link.stands()))
                .toList();
        return new Drawing(
                map.columns().size() * (BOX + GAP) - GAP / 2.0, HEAD + most * ROW, heads, nodes, lines, map.more());
    }

    private String runsIn(Estate.Component one) {
        return estate.applicationOf(one)
                .map(it -> " of " + it.name() + ", tier " + it.tier().number())
                .orElse("");
    }

    private static String words(int steps) {
        if (steps == 0) return "";
        if (steps == -1) return "needs or stands on";
        if (steps == 1) return "depends on it";
        return Math.abs(steps) + " steps away";
    }

    private static String cut(String name) {
        return name.length() <= LETTERS ? name : name.substring(0, LETTERS - 1) + "…";
    }

    /** From the right of what is needed to the left of what needs it; within a column around its right side. */
    private static String path(Node lower, Node upper) {
        double y1 = lower.y() + ROW / 2.0 - 1;
        double y2 = upper.y() + ROW / 2.0 - 1;
        boolean forward = lower.x() < upper.x();
        double x1 = lower.x() + (lower.x() > upper.x() ? 0 : BOX);
        double x2 = upper.x() + (forward ? 0 : BOX);
        double bend = lower.x() == upper.x() ? GAP * 0.6 : (x2 - x1) / 2;
        double first = x1 + bend;
        double second = lower.x() == upper.x() ? x2 + bend : x2 - bend;
        return "M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f".formatted(x1, y1, first, y1, second, y2, x2, y2);
    }

    private void fillHurt(Estate.Component one, Model model) {
        var dependents = StandingMap.dependents(one.id(), links);
        var byApplication = new TreeMap<String, List<Estate.Component>>();
        for (long id : dependents) {
            var it = estate.component(id);
            byApplication
                    .computeIfAbsent(
                            estate.applicationOf(it)
                                    .map(Estate.Application::key)
                                    .orElse(""),
                            none -> new ArrayList<>())
                    .add(it);
        }
        model.addAttribute(
                "hurt",
                byApplication.entrySet().stream()
                        .map(it -> hurt(estate.application(it.getKey()), it.getValue()))
                        .sorted(Comparator.comparing(Hurt::tier).thenComparing(Hurt::name))
                        .toList());
        model.addAttribute("count", dependents.size());
        var all = new HashSet<>(dependents);
        all.add(one.id());
        var now = times.now();
        model.addAttribute(
                "deadlines",
                nights.dueBehind(all, now, now.plus(NIGHT)).stream()
                        .map(it -> new Deadline(it.job(), it.key(), times.of(it.by()), it.mark()))
                        .toList());
    }

    private static Hurt hurt(Optional<Estate.Application> whose, List<Estate.Component> some) {
        var names = some.stream().limit(NAMED).map(Estate.Component::name).toList();
        var rest = some.size() - names.size();
        return new Hurt(
                whose.map(Estate.Application::name).orElse("Not assigned"),
                whose.map(it -> it.tier().number()).orElse(9),
                whose.map(Estate.Application::environment).orElse(""),
                some.size(),
                String.join(", ", names) + (rest > 0 ? " and " + rest + " more" : ""));
    }
}
