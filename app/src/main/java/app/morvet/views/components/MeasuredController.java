package app.morvet.views.components;

import app.morvet.core.guard.Numbers;
import app.morvet.core.readings.Micros;
import app.morvet.core.tracks.Axis;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** All that is measured on a component, or some of it side by side, on one axis of time. */
@Controller
class MeasuredController {
    private static final int MOST_COMPARED = 40;
    private static final int MOST_FOUND = 30;

    record Figure(String at, String least, String mean, String greatest) {}

    /** A series that can be put beside the others. */
    record Choice(long id, String words) {}

    private final Estate estate;
    private final SeriesBook series;
    private final SeriesCurves curves;
    private final Measured measured;
    private final Times times;

    MeasuredController(Estate estate, SeriesBook series, SeriesCurves curves, Measured measured, Times times) {
        this.estate = estate;
        this.series = series;
        this.curves = curves;
        this.measured = measured;
        this.times = times;
    }

    @GetMapping("/estate/components/{key}/time")
    String time(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        var one = estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
        model.addAttribute("time", measured.picture(one, TimePictures.asked(from, to)));
        return "time-parts :: picture";
    }

    @GetMapping("/estate/compare/time")
    String comparedTime(
            @RequestParam(name = "series", defaultValue = "") List<Long> ids,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        model.addAttribute("time", measured.compared(known(ids), TimePictures.asked(from, to)));
        return "time-parts :: picture";
    }

    /** Any measures of any components under one another. */
    @GetMapping("/estate/compare")
    String compare(
            @RequestParam(name = "series", defaultValue = "") List<Long> ids,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        var shown = known(ids);
        model.addAttribute("time", measured.compared(shown, TimePictures.asked(from, to)));
        model.addAttribute("rows", measured.rows(shown, true));
        model.addAttribute("ids", shown.stream().map(Series::id).toList());
        model.addAttribute("find", find);
        model.addAttribute("found", find.isBlank() ? List.of() : found(find, shown));
        return "compare";
    }

    private List<Series> known(List<Long> ids) {
        return new LinkedHashSet<>(ids)
                .stream()
                        .limit(MOST_COMPARED)
                        .map(this::find)
                        .filter(one -> !one.measure().isState())
                        .toList();
    }

    /** Those in whose component and measure all the words stand. */
    private List<Choice> found(String find, List<Series> but) {
        var words = List.of(find.toLowerCase(Locale.ROOT).strip().split("\\s+"));
        var found = new ArrayList<Choice>();
        for (var measure : series.measures()) {
            if (measure.isState()) continue;
            for (var one : series.ofMeasure(measure.name())) {
                var name = measured.name(one);
                var all = (name + " " + estate.component(one.component()).key()).toLowerCase(Locale.ROOT);
                if (words.stream().allMatch(all::contains) && !but.contains(one) && !series.ended(one.id()))
                    found.add(new Choice(one.id(), name));
            }
        }
        return found.stream()
                .sorted(Comparator.comparing(Choice::words))
                .limit(MOST_FOUND)
                .toList();
    }

    @GetMapping("/estate/curves/{id}")
    @ResponseBody
    SeriesCurves.Drawn curve(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            @RequestParam(defaultValue = "false") boolean week) {
        return curves.of(find(id), axis(from, to), week);
    }

    @GetMapping("/estate/curves/{id}/table")
    String table(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        var outline = curves.outline(find(id), axis(from, to));
        var figures = new ArrayList<Figure>();
        for (int i = outline.at().length - 1; i >= 0; i--) {
            if (!Double.isFinite(outline.mean()[i])) continue;
            figures.add(new Figure(
                    times.exact(Micros.instant(outline.at()[i])),
                    Numbers.rounded(outline.least()[i]),
                    Numbers.rounded(outline.mean()[i]),
                    Numbers.rounded(outline.greatest()[i])));
        }
        model.addAttribute("figures", figures);
        return "measured-parts :: figures";
    }

    @GetMapping("/estate/curves/{id}.csv")
    ResponseEntity<byte[]> csv(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to) {
        var one = find(id);
        var outline = curves.outline(one, axis(from, to));
        var lines = new StringBuilder("at,least,mean,greatest\r\n");
        for (int i = 0; i < outline.at().length; i++) {
            if (!Double.isFinite(outline.mean()[i])) continue;
            lines.append(Micros.instant(outline.at()[i]))
                    .append(',')
                    .append(Numbers.exact(outline.least()[i]))
                    .append(',')
                    .append(Numbers.exact(outline.mean()[i]))
                    .append(',')
                    .append(Numbers.exact(outline.greatest()[i]))
                    .append("\r\n");
        }
        var name = estate.component(one.component()).key() + "-" + one.measure().name();
        return Files.out(name + ".csv", "text/csv", lines.toString());
    }

    private Axis axis(String from, String to) {
        return TimePictures.asked(from, to).orElseGet(measured::lastDay);
    }

    private Series find(long id) {
        return series.series(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no series " + id + "."));
    }
}
