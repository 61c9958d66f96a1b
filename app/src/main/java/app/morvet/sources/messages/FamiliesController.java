package app.morvet.sources.messages;

import app.morvet.core.alert.Severity;
import app.morvet.core.messages.Fingerprint;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Failure families: the few causes behind the many failed messages. */
@Controller
class FamiliesController {
    private static final int MOST = 100;
    private static final int SAMPLE = 300;
    private static final int MESSAGES = 40;
    private static final int PLACES = 12;
    private static final int VALUES = 6;
    private static final int HOURS = 24;
    private static final int TALLEST = 14;

    /**
     * @param fresh  whether it was first seen today
     * @param rhythm heights of 24 bars, one an hour, the latest last
     */
    record Row(
            long id,
            String firstLine,
            long count,
            long open,
            String first,
            String last,
            String interfaces,
            String rules,
            String mark,
            boolean fresh,
            List<Bar> rhythm) {}

    /** A bar of the rhythm: where it stands, and how high. */
    record Bar(int x, int height, int y) {}

    /** A piece of the skeleton: what stays, or a place where something varies. */
    record Piece(String text, boolean varies) {}

    /** What stood at one place, the most frequent first. */
    record Place(String mark, int different, List<Value> values) {}

    record Value(String text, long count) {}

    record MessageRow(String id, String at, String interfaceName, String businessKey) {}

    private final FamilyStore store;
    private final SortingRules rules;
    private final Masks masks;
    private final Estate estate;
    private final Times times;

    FamiliesController(FamilyStore store, SortingRules rules, Masks masks, Estate estate, Times times) {
        this.store = store;
        this.rules = rules;
        this.masks = masks;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/messages/families")
    String list(
            @RequestParam(name = "interface", defaultValue = "") String key,
            @RequestParam(defaultValue = "1") int days,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var subject = key.isEmpty()
                ? null
                : estate.byKey(key)
                        .orElseThrow(() -> new ResponseStatusException(
                                HttpStatus.NOT_FOUND, "There is no interface " + key + "."));
        int span = Math.clamp(days, 1, 90);
        var now = times.now();
        var midnight = now.atZone(times.zone())
                .toLocalDate()
                .atStartOfDay(times.zone())
                .toInstant();
        var from = span == 1 ? midnight : now.minus(Duration.ofDays(span));
        var tallies = store.tallies(
                subject == null ? MessageScope.ALL : MessageScope.of(subject.id()),
                from,
                now.plus(Duration.ofHours(1)),
                MOST);
        var rhythms = rhythms(tallies, now);
        var hidden = masks.anywhere();
        model.addAttribute("subject", subject);
        model.addAttribute("days", span);
        model.addAttribute(
                "total", tallies.stream().mapToLong(FamilyStore.Tally::count).sum());
        model.addAttribute(
                "rows",
                tallies.stream()
                        .map(one -> new Row(
                                one.family().id(),
                                hidden.text(Families.firstLine(one.family().skeleton()))
                                        .text(),
                                one.count(),
                                one.open(),
                                times.of(one.first()),
                                times.of(one.last()),
                                interfaces(one.components()),
                                rules(one.rules()),
                                mark(one),
                                !one.family().firstSeen().isBefore(midnight),
                                rhythms.getOrDefault(one.family().id(), List.of())))
                        .toList());
        return "family-rows".equals(target) ? "family-parts :: rows" : "families";
    }

    private String rules(List<Long> ids) {
        if (ids.size() > 2) return ids.size() + " rules";
        return ids.stream().map(id -> rules.byId(id).name()).collect(Collectors.joining(", "));
    }

    private String mark(FamilyStore.Tally one) {
        if (one.open() == 0) return "steady";
        return one.rules().stream()
                .map(rules::byId)
                .filter(StoredRule::alerts)
                .map(StoredRule::severity)
                .max(Comparator.naturalOrder())
                .map(Severity::word)
                .orElse("steady");
    }

    private String interfaces(List<Long> components) {
        if (components.size() > 3) return components.size() + " interfaces";
        return String.join(
                ", ", components.stream().map(id -> estate.component(id).name()).toList());
    }

    private Map<Long, List<Bar>> rhythms(List<FamilyStore.Tally> tallies, Instant now) {
        var start = now.truncatedTo(java.time.temporal.ChronoUnit.HOURS).minus(Duration.ofHours(HOURS - 1));
        var counts = new HashMap<Long, long[]>();
        for (var hour :
                store.hours(tallies.stream().map(one -> one.family().id()).toList(), start)) {
            int at = (int) Duration.between(start, hour.hour()).toHours();
            if (at >= 0 && at < HOURS)
                counts.computeIfAbsent(hour.family(), none -> new long[HOURS])[at] = hour.count();
        }
        var rhythms = new HashMap<Long, List<Bar>>();
        counts.forEach((family, hours) -> {
            // By the logarithm, so that a storm does not hide that it trickled all night.
            double most = Math.log1p(java.util.Arrays.stream(hours).max().orElse(1));
            var bars = new ArrayList<Bar>();
            for (int i = 0; i < HOURS; i++) {
                int height = hours[i] == 0 ? 0 : (int) Math.max(2, Math.round(TALLEST * Math.log1p(hours[i]) / most));
                bars.add(new Bar(i * 4, height, TALLEST + 1 - height));
            }
            rhythms.put(family, bars);
        });
        return rhythms;
    }

    @GetMapping("/messages/families/{id:\\d+}")
    String one(@PathVariable long id, Model model) {
        var family = store.byId(id)
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no failure family " + id + "."));
        var since = times.now().minus(Duration.ofDays(90));
        var latest = store.latest(id, since, SAMPLE);
        var tally = store.tallies(
                new MessageScope(null, id, null), since, times.now().plus(Duration.ofHours(1)), 1);
        model.addAttribute("open", tally.isEmpty() ? 0 : tally.getFirst().open());
        model.addAttribute("count", tally.isEmpty() ? 0 : tally.getFirst().count());
        model.addAttribute(
                "took",
                tally.isEmpty()
                        ? List.of()
                        : tally.getFirst().rules().stream().map(rules::byId).toList());
        model.addAttribute("family", family);
        model.addAttribute("firstSeen", times.of(family.firstSeen()));
        model.addAttribute(
                "pieces", pieces(masks.anywhere().text(family.skeleton()).text()));
        model.addAttribute("varying", places(family.skeleton(), latest));
        model.addAttribute("sample", latest.size());
        model.addAttribute("interfaces", touched(latest));
        model.addAttribute(
                "rows",
                latest.stream()
                        .limit(MESSAGES)
                        .map(line -> new MessageRow(
                                line.id().toString(),
                                times.of(line.at()),
                                estate.component(line.component()).name(),
                                masks.on(line.component())
                                        .text(line.businessKey())
                                        .text()))
                        .toList());
        return "family";
    }

    private static List<Piece> pieces(String skeleton) {
        var pieces = new ArrayList<Piece>();
        int at = 0;
        while (at < skeleton.length()) {
            int open = skeleton.indexOf('⟨', at);
            int close = open < 0 ? -1 : skeleton.indexOf('⟩', open);
            if (close < 0) {
                pieces.add(new Piece(skeleton.substring(at), false));
                break;
            }
            if (open > at) pieces.add(new Piece(skeleton.substring(at, open), false));
            pieces.add(new Piece(skeleton.substring(open + 1, close), true));
            at = close + 1;
        }
        return pieces;
    }

    /** What stood at each place of the skeleton in the latest messages; places where it is always the same come last. */
    private List<Place> places(String skeleton, List<MessageStore.Line> latest) {
        var counts = new ArrayList<Map<String, Long>>();
        for (var line : latest) {
            var masking = masks.on(line.component());
            var values = Fingerprint.of(line.error()).values();
            for (int i = 0; i < values.size(); i++) {
                if (counts.size() <= i) counts.add(new LinkedHashMap<>());
                counts.get(i).merge(masking.text(values.get(i)).text(), 1L, Long::sum);
            }
        }
        var marks =
                pieces(skeleton).stream().filter(Piece::varies).map(Piece::text).toList();
        var places = new ArrayList<Place>();
        for (int i = 0; i < Math.min(counts.size(), marks.size()); i++)
            places.add(new Place(
                    marks.get(i),
                    counts.get(i).size(),
                    counts.get(i).entrySet().stream()
                            .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                            .limit(VALUES)
                            .map(one -> new Value(one.getKey(), one.getValue()))
                            .toList()));
        places.sort(Comparator.comparing(place -> place.different() == 1));
        return places.stream().limit(PLACES).toList();
    }

    private List<Value> touched(List<MessageStore.Line> latest) {
        var counts = new LinkedHashMap<String, Long>();
        latest.forEach(line -> counts.merge(estate.component(line.component()).name(), 1L, Long::sum));
        return counts.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                .map(one -> new Value(one.getKey(), one.getValue()))
                .toList();
    }
}
