package app.morvet.cases;

import app.morvet.core.guard.CountCurve;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.guards.Guards;
import app.morvet.guards.StandingGuard;
import app.morvet.page.Times;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** The curve of an alert against its limits: as figures for the chart, as a table, as CSV. */
@Controller
class CurveController {
    /** How many points a curve has, about; enough for a pixel or two each. */
    private static final int POINTS = 288;

    /**
     * A curve for the chart.
     *
     * @param times    seconds since 1970
     * @param warning  the warning limit, or null
     * @param critical the critical limit, or null
     * @param zone     in which times are shown
     */
    record Curve(
            List<Double> times,
            List<Double> values,
            @Nullable Double warning,
            @Nullable Double critical,
            String zone,
            String name) {}

    record Figure(String at, String value, String level) {}

    private record Drawn(StandingGuard guard, List<CountCurve.Point> points) {}

    private final CaseStore store;
    private final Guards guards;
    private final Times times;

    CurveController(CaseStore store, Guards guards, Times times) {
        this.store = store;
        this.guards = guards;
        this.times = times;
    }

    @GetMapping("/cases/{id}/curves/{alert}")
    @ResponseBody
    Curve figures(@PathVariable long id, @PathVariable long alert) {
        var drawn = draw(id, alert);
        var limits = limits(drawn.guard());
        return new Curve(
                drawn.points().stream()
                        .map(point -> point.at().toEpochMilli() / 1000.0)
                        .toList(),
                drawn.points().stream().map(CountCurve.Point::value).toList(),
                limits.warning(),
                limits.critical(),
                times.zone().getId(),
                "failed " + window(drawn.guard()));
    }

    @GetMapping("/cases/{id}/curves/{alert}/table")
    String table(@PathVariable long id, @PathVariable long alert, Model model) {
        var drawn = draw(id, alert);
        model.addAttribute(
                "figures",
                drawn.points().reversed().stream()
                        .map(point -> new Figure(
                                times.exact(point.at()),
                                Limits.number(point.value()),
                                level(drawn.guard(), point.value())))
                        .toList());
        return "case-parts :: figures";
    }

    @GetMapping("/cases/{id}/curves/{alert}.csv")
    ResponseEntity<byte[]> csv(@PathVariable long id, @PathVariable long alert) {
        var drawn = draw(id, alert);
        var lines = new StringBuilder("at,failed " + window(drawn.guard()) + ",over\r\n");
        for (var point : drawn.points()) {
            lines.append(point.at())
                    .append(',')
                    .append(Limits.number(point.value()))
                    .append(',')
                    .append(level(drawn.guard(), point.value()))
                    .append("\r\n");
        }
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "text/csv; charset=utf-8")
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"case-" + id + "-curve.csv\"")
                .body(lines.toString().getBytes(StandardCharsets.UTF_8));
    }

    /** From a while before the trouble to its end, or to now: a day at most, for a case that runs longer its last day. */
    private Drawn draw(long id, long alert) {
        var one = store.byId(id).orElseThrow(CurveController::unknown);
        var found = store.alert(alert).filter(it -> it.caseId() == id).orElseThrow(CurveController::unknown);
        var guard = guards.byId(found.guard());
        var now = times.now();
        var cleared = found.clearedAt();
        var to = cleared == null ? now : min(now, cleared.plus(Duration.ofHours(1)));
        var from =
                max(min(one.firstSeen(), found.raisedAt()).minus(Duration.ofHours(2)), to.minus(Duration.ofHours(24)));
        var step = Duration.ofSeconds(Math.max(15, Duration.between(from, to).toSeconds() / POINTS));
        return new Drawn(guard, guards.curve(guard.rule(), one.component(), from, to, step));
    }

    private static ResponseStatusException unknown() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such curve.");
    }

    private static Instant min(Instant a, Instant b) {
        return a.isBefore(b) ? a : b;
    }

    private static Instant max(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    private static Limits limits(StandingGuard guard) {
        return switch (guard.rule()) {
            case LimitGuard limit -> limit.limits();
        };
    }

    private static String window(StandingGuard guard) {
        return switch (guard.rule()) {
            case LimitGuard limit -> limit.window().words();
        };
    }

    private static String level(StandingGuard guard, double value) {
        return limits(guard)
                .breachedBy(value)
                .map(app.morvet.core.alert.Severity::word)
                .orElse("");
    }
}
