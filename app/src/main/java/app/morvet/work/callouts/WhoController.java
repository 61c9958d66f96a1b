package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.guard.Spans;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Who would be told right now of anything, and why. */
@Controller
class WhoController {
    /** @param at how long after it happened, in words */
    record Call(String at, List<String> who, List<String> missing) {}

    /** @param why why this rule is asked */
    record Answer(long rule, String name, String sentence, List<Call> calls) {}

    private final CallOutRules rules;
    private final Recipients recipients;
    private final Windows windows;
    private final Estate estate;
    private final Times times;

    WhoController(CallOutRules rules, Recipients recipients, Windows windows, Estate estate, Times times) {
        this.rules = rules;
        this.recipients = recipients;
        this.windows = windows;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/callouts/who")
    String who(
            @RequestParam(name = "pattern", defaultValue = "") String component,
            @RequestParam(defaultValue = "CRITICAL") String severity,
            @RequestParam(defaultValue = "OPENED") String when,
            Model model) {
        var level = pick(Severity.values(), severity, Severity.CRITICAL);
        var what = pick(Happening.ofCases().toArray(Happening[]::new), when, Happening.OPENED);
        model.addAttribute("component", component);
        model.addAttribute("severity", level.name());
        model.addAttribute("when", what.name());
        model.addAttribute("severities", List.of(Severity.CRITICAL, Severity.WARNING, Severity.NOTICE));
        model.addAttribute("happenings", Happening.ofCases());
        if (component.isBlank()) return "callout-who";
        var wanted = component.strip();
        var found = estate.byKey(wanted).or(() -> estate.components().stream()
                .filter(one -> one.name().equalsIgnoreCase(wanted))
                .findFirst());
        if (found.isEmpty()) {
            model.addAttribute(
                    "refusal", "There is no component \"" + wanted + "\". Choose one of those that are offered.");
            return "callout-who";
        }
        answer(found.get(), level, what, model);
        return "callout-who";
    }

    private void answer(Estate.Component one, Severity level, Happening what, Model model) {
        var now = times.now();
        var owner = estate.ownerOf(one).orElse(null);
        var occasion = new CallOutRule.Occasion(what, level, null, List.of(windows.factsOf(one)), now);
        var known = recipients.now();
        var answers = new ArrayList<Answer>();
        for (var rule : CallOutRule.taking(rules.all(), CallOutRules.Stored::rule, occasion)) {
            var calls = new ArrayList<Call>();
            var after = Duration.ZERO;
            for (var step : rule.rule().steps()) {
                after = after.plus(step.after());
                var meant = known.of(step, owner, now);
                calls.add(new Call(
                        after.isZero() ? "at once" : "after " + Spans.words(after),
                        meant.reached().stream().map(WhoController::words).toList(),
                        meant.missing()));
            }
            answers.add(new Answer(rule.id(), rule.rule().name(), rules.sentence(rule.rule()), calls));
        }
        model.addAttribute("about", one);
        model.addAttribute("owner", owner == null ? "no team yet" : owner.name());
        model.addAttribute("answers", answers);
        model.addAttribute(
                "held",
                windows.covering(one.id(), now)
                        .map(it -> "A window holds call-outs for it now, so nobody would be told until it ends.")
                        .orElse(""));
    }

    private static String words(Recipients.Recipient one) {
        var hops = one.hops().stream()
                .map(hop -> hop.way().words() + (hop.address().equals(one.name()) ? "" : " to " + hop.address()))
                .toList();
        return one.name() + " by " + String.join(", else ", hops);
    }

    private static <E extends Enum<E>> E pick(E[] all, String name, E otherwise) {
        return Arrays.stream(all)
                .filter(it -> it.name().equals(name))
                .findFirst()
                .orElse(otherwise);
    }
}
