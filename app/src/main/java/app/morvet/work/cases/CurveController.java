package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.guard.Numbers;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.Times;
import java.time.Instant;
import java.util.ArrayList;
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
    record Figure(String at, String value, String level) {}

    private record Drawn(Alert alert, Curve curve) {}

    private final CaseStore store;
    private final Alerts alerts;
    private final Origins origins;
    private final Times times;

    CurveController(CaseStore store, Alerts alerts, Origins origins, Times times) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
        this.times = times;
    }

    @GetMapping("/cases/{id}/curves/{alert}")
    @ResponseBody
    Curve figures(@PathVariable long id, @PathVariable long alert) {
        return draw(id, alert).curve();
    }

    @GetMapping("/cases/{id}/curves/{alert}/table")
    String table(@PathVariable long id, @PathVariable long alert, Model model) {
        var drawn = draw(id, alert);
        var figures = new ArrayList<Figure>();
        var curve = drawn.curve();
        for (int i = curve.times().size() - 1; i >= 0; i--) {
            if (!curve.track().isEmpty()) break;
            var value = curve.values().get(i);
            if (value != null)
                figures.add(new Figure(times.exact(at(curve, i)), Numbers.rounded(value), level(drawn, value)));
        }
        // What something was in is told once for each time that it was.
        for (var one : curve.track().reversed())
            figures.add(new Figure(times.exact(instant(one.from())), one.word(), marked(one.mark())));
        model.addAttribute("figures", figures);
        return "case-parts :: figures";
    }

    @GetMapping("/cases/{id}/curves/{alert}.csv")
    ResponseEntity<byte[]> csv(@PathVariable long id, @PathVariable long alert) {
        var drawn = draw(id, alert);
        var curve = drawn.curve();
        var lines = new StringBuilder("at,\"" + curve.name().replace("\"", "'") + "\",over\r\n");
        for (var one : curve.track())
            lines.append(instant(one.from()))
                    .append(",\"")
                    .append(one.word().replace("\"", "'"))
                    .append("\",")
                    .append(marked(one.mark()))
                    .append("\r\n");
        for (int i = 0; i < curve.times().size(); i++) {
            var value = curve.values().get(i);
            if (value == null || !curve.track().isEmpty()) continue;
            lines.append(at(curve, i))
                    .append(',')
                    .append(Numbers.exact(value))
                    .append(',')
                    .append(level(drawn, value))
                    .append("\r\n");
        }
        return Files.out("case-" + id + "-curve.csv", "text/csv", lines.toString());
    }

    private static String marked(String mark) {
        return mark.equals("warning") || mark.equals("critical") ? mark : "";
    }

    private static Instant instant(double seconds) {
        return Instant.ofEpochMilli(Math.round(seconds * 1000));
    }

    private static Instant at(Curve curve, int index) {
        return Instant.ofEpochMilli(Math.round(curve.times().get(index) * 1000));
    }

    private Drawn draw(long id, long alert) {
        var one = store.byId(id).orElseThrow(CurveController::unknown);
        if (store.belongs(alert).filter(it -> it.caseId() == id).isEmpty()) throw unknown();
        var found = alerts.byId(alert).orElseThrow(CurveController::unknown);
        var kind = origins.of(found);
        return new Drawn(
                found,
                kind.drawn(found)
                        ? kind.curve(found, one.firstSeen())
                        : Curve.nothing(times.zone().getId()));
    }

    private static ResponseStatusException unknown() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such curve.");
    }

    /** What a value breaches, where the curve is of the value that is judged. */
    private String level(Drawn drawn, double value) {
        boolean judged =
                !drawn.curve().warning().isEmpty() || !drawn.curve().critical().isEmpty();
        return judged ? origins.of(drawn.alert()).breached(drawn.alert(), value) : "";
    }
}
