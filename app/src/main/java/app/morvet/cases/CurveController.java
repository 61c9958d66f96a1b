package app.morvet.cases;

import app.morvet.alerts.AlertSource;
import app.morvet.alerts.Alerts;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Spans;
import app.morvet.guards.Curve;
import app.morvet.guards.Curves;
import app.morvet.guards.Guards;
import app.morvet.guards.Matching;
import app.morvet.guards.StandingGuard;
import app.morvet.messages.MessageScope;
import app.morvet.messages.MessageStore;
import app.morvet.page.Files;
import app.morvet.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
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

    record Figure(String at, String value, String level) {}

    private record Drawn(@Nullable StandingGuard guard, Curve curve) {}

    private final CaseStore store;
    private final Guards guards;
    private final Curves curves;
    private final Matching matching;
    private final Alerts alerts;
    private final MessageStore messages;
    private final Times times;

    CurveController(
            CaseStore store,
            Guards guards,
            Curves curves,
            Matching matching,
            Alerts alerts,
            MessageStore messages,
            Times times) {
        this.store = store;
        this.guards = guards;
        this.curves = curves;
        this.matching = matching;
        this.alerts = alerts;
        this.messages = messages;
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
            var value = curve.values().get(i);
            if (value != null)
                figures.add(new Figure(times.exact(at(curve, i)), Numbers.rounded(value), level(drawn, value)));
        }
        model.addAttribute("figures", figures);
        return "case-parts :: figures";
    }

    @GetMapping("/cases/{id}/curves/{alert}.csv")
    ResponseEntity<byte[]> csv(@PathVariable long id, @PathVariable long alert) {
        var drawn = draw(id, alert);
        var curve = drawn.curve();
        var lines = new StringBuilder("at,\"" + curve.name().replace("\"", "'") + "\",over\r\n");
        for (int i = 0; i < curve.times().size(); i++) {
            var value = curve.values().get(i);
            if (value == null) continue;
            lines.append(at(curve, i))
                    .append(',')
                    .append(Numbers.exact(value))
                    .append(',')
                    .append(level(drawn, value))
                    .append("\r\n");
        }
        return Files.out("case-" + id + "-curve.csv", "text/csv", lines.toString());
    }

    private static Instant at(Curve curve, int index) {
        return Instant.ofEpochMilli(Math.round(curve.times().get(index) * 1000));
    }

    /** From a while before the trouble to its end, or to now: a day at most, for a case that runs longer its last day. */
    private Drawn draw(long id, long alert) {
        var one = store.byId(id).orElseThrow(CurveController::unknown);
        var found = store.alert(alert).filter(it -> it.caseId() == id).orElseThrow(CurveController::unknown);
        if (!(found.source() instanceof AlertSource.OfGuard(long guardId))) return ofMessages(one, found);
        var guard = guards.byId(guardId);
        var now = times.now();
        var cleared = found.clearedAt();
        var to = cleared == null ? now : min(now, cleared.plus(Duration.ofHours(1)));
        var longest = guard.rule() instanceof app.morvet.core.guard.TrendGuard trend
                ? trend.lookback()
                : Duration.ofHours(24);
        var before = guard.rule() instanceof app.morvet.core.guard.TrendGuard ? longest : Duration.ofHours(2);
        var from = max(min(one.firstSeen(), found.raisedAt()).minus(before), to.minus(longest));
        var subject = alerts.seriesOf(alert)
                .flatMap(matching::subject)
                .or(() -> guards.matches(guard.rule(), guard.watch()).stream()
                        .filter(it -> it.component().id() == one.component())
                        .findFirst());
        if (subject.isEmpty() || guard.rule() instanceof CombinationGuard)
            return new Drawn(guard, Curve.nothing(times.zone().getId()));
        return new Drawn(guard, curves.of(guard.rule(), subject.get(), from, to, POINTS));
    }

    /** What failed of the case's messages, counted in equal stretches of time. */
    private Drawn ofMessages(WorkCase one, CaseAlert alert) {
        var now = times.now();
        var cleared = alert.clearedAt();
        var to = cleared == null ? now : min(now, cleared.plus(Duration.ofHours(1)));
        var from =
                max(min(one.firstSeen(), alert.raisedAt()).minus(Duration.ofHours(1)), to.minus(Duration.ofHours(24)));
        var step = Duration.ofMinutes(Math.max(1, Duration.between(from, to).toMinutes() / 96));
        var scope = one.rule() == null && alert.source() instanceof AlertSource.OfRule of
                ? new MessageScope(alert.component(), of.family(), null)
                : one.scope();
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var nothing = new ArrayList<@Nullable Double>();
        var counts = messages.counts(scope, from, to, step);
        for (int i = 0; i < counts.length; i++) {
            at.add(from.plus(step.multipliedBy(i)).toEpochMilli() / 1000.0);
            values.add((double) counts[i]);
            nothing.add(null);
        }
        return new Drawn(
                null,
                new Curve(
                        at,
                        values,
                        nothing,
                        nothing,
                        nothing,
                        List.of(),
                        List.of(),
                        times.zone().getId(),
                        "failed in " + Spans.words(step),
                        "",
                        ""));
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

    /** What a value breaches, where the curve is of the value that is judged. */
    private static String level(Drawn drawn, double value) {
        boolean judged =
                !drawn.curve().warning().isEmpty() || !drawn.curve().critical().isEmpty();
        var guard = drawn.guard();
        if (!judged || guard == null || guard.rule() instanceof app.morvet.core.guard.TrendGuard) return "";
        var level = guard.rule().limits().breachedBy(value);
        return level == null ? "" : level.word();
    }
}
