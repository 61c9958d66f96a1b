package app.morvet.work.callouts;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Leaf;
import app.morvet.ground.page.Times;
import app.morvet.rules.guards.Guards;
import app.morvet.sources.sorting.SortingRules;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Who would be told right now of anything, and why. */
@Controller
class WhoController {
    /** @param at how long after it happened, in words */
    record Call(String at, List<String> who, List<String> missing) {}

    /** @param why why this rule is asked */
    record Answer(long rule, String name, String sentence, List<Call> calls) {}

    /** @param names of the first few */
    record Group(String team, int count, String names, List<Answer> answers) {}

    private static final int NAMED = 6;
    private static final int PAGE = 20;

    private final CallOutRules rules;
    private final Guards guards;
    private final SortingRules sorting;
    private final Recipients recipients;
    private final Windows windows;
    private final Estate estate;
    private final Times times;

    WhoController(
            CallOutRules rules,
            Guards guards,
            SortingRules sorting,
            Recipients recipients,
            Windows windows,
            Estate estate,
            Times times) {
        this.rules = rules;
        this.guards = guards;
        this.sorting = sorting;
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
        var about = found.get();
        var now = times.now();
        model.addAttribute("about", about);
        model.addAttribute("owner", estate.ownerOf(about).map(Estate.Team::name).orElse("no team yet"));
        model.addAttribute(
                "answers", answers(about, estate.ownerOf(about).orElse(null), level, what, now, recipients.now()));
        model.addAttribute(
                "held",
                windows.covering(about.id(), now)
                        .map(it -> "A window holds call-outs for it now, so nobody would be told until it ends.")
                        .orElse(""));
        return "callout-who";
    }

    /**
     * What is asked of: what it is about, and whose that is.
     *
     * @param owner the team that owns all of it, in place of each component's own; null for those
     * @param level of its alerts; null where they may be of any
     */
    private record Asked(
            String title, Predicate<Estate.Component> about, Estate.@Nullable Team owner, @Nullable Severity level) {}

    private Asked asked(Scope scope, String title) {
        return new Asked(title, one -> scope.takes(windows.factsOf(one)), null, null);
    }

    private Optional<Asked> ofGuard(long guard) {
        return guards.byIds(List.of(guard)).values().stream()
                .filter(one -> !one.deleted())
                .findFirst()
                .map(one -> asked(one.watch().scope(), "the guard " + one.name()));
    }

    private Optional<Asked> ofSorting(long rule) {
        return sorting.current()
                .byId(rule)
                .map(one -> new Asked(
                        "the sorting rule " + one.name(),
                        it -> it.kind().equals(Estate.INTERFACE)
                                && one.criteria().mayTakeOn(it.key()),
                        sorting.owner(one).orElse(null),
                        one.severity()));
    }

    /** Whom alerts of an application, a guard or a sorting rule reach: components of which the same people would be told stand together. */
    @GetMapping("/callouts/reach")
    String reach(
            @RequestParam(defaultValue = "") String application,
            @RequestParam(defaultValue = "0") long guard,
            @RequestParam(defaultValue = "0") long sorting,
            @RequestParam(defaultValue = "") String severity,
            @RequestParam(defaultValue = "0") int from,
            Model model) {
        var asked = ofGuard(guard)
                .or(() -> ofSorting(sorting))
                .or(() -> estate.application(application)
                        .map(one -> asked(Scope.ALL.ofApplication(one.key()), one.name())))
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no such application, guard or sorting rule."));
        var level = pick(Severity.values(), severity, asked.level() == null ? Severity.CRITICAL : asked.level());
        model.addAttribute("application", application);
        model.addAttribute("guard", guard);
        model.addAttribute("sorting", sorting);
        model.addAttribute("severity", level.name());
        model.addAttribute("severities", List.of(Severity.CRITICAL, Severity.WARNING, Severity.NOTICE));
        model.addAttribute("whose", asked.title());
        var now = times.now();
        var known = recipients.now();
        Leaf.of(alike(asked, level, now), from, PAGE).show(model, some -> group(some, asked, level, now, known));
        return "callout-reach";
    }

    /** Components of which the same people would be told, the most of them first. */
    private List<List<Estate.Component>> alike(Asked asked, Severity level, Instant now) {
        record Same(List<Long> rules, @Nullable Long team) {}
        var found = new LinkedHashMap<Same, List<Estate.Component>>();
        for (var one : estate.components()) {
            if (!asked.about().test(one)) continue;
            var taking = taking(windows.factsOf(one), level, Happening.OPENED, now).stream()
                    .map(CallOutRules.Stored::id)
                    .toList();
            var team = owner(one, asked).map(Estate.Team::id).orElse(null);
            found.computeIfAbsent(new Same(taking, team), none -> new ArrayList<>())
                    .add(one);
        }
        return found.values().stream()
                .sorted(Comparator.comparing((List<Estate.Component> some) -> some.size())
                        .reversed())
                .toList();
    }

    private Group group(List<Estate.Component> some, Asked asked, Severity level, Instant now, Recipients.Now known) {
        var owner = owner(some.getFirst(), asked);
        return new Group(
                owner.map(Estate.Team::name).orElse("no team yet"),
                some.size(),
                some.stream().limit(NAMED).map(Estate.Component::name).collect(Collectors.joining(", ")),
                answers(some.getFirst(), owner.orElse(null), level, Happening.OPENED, now, known));
    }

    private Optional<Estate.Team> owner(Estate.Component one, Asked asked) {
        return Optional.ofNullable(asked.owner()).or(() -> estate.ownerOf(one));
    }

    private List<CallOutRules.Stored> taking(Scope.Facts facts, Severity level, Happening what, Instant now) {
        return CallOutRule.taking(
                rules.all(),
                CallOutRules.Stored::rule,
                new CallOutRule.Occasion(what, level, null, List.of(facts), now));
    }

    private List<Answer> answers(
            Estate.Component one,
            Estate.@Nullable Team owner,
            Severity level,
            Happening what,
            Instant now,
            Recipients.Now known) {
        var called = new Recipients.Called(estate.tierOf(one), level);
        var answers = new ArrayList<Answer>();
        for (var rule : taking(windows.factsOf(one), level, what, now)) {
            var calls = new ArrayList<Call>();
            var after = Duration.ZERO;
            for (var step : rule.rule().steps()) {
                after = after.plus(step.after());
                var meant = known.of(step, owner, called, now);
                calls.add(new Call(
                        after.isZero() ? "at once" : "after " + Spans.words(after),
                        meant.reached().stream().map(WhoController::words).toList(),
                        meant.missing()));
            }
            answers.add(new Answer(rule.id(), rule.rule().name(), rules.sentence(rule.rule()), calls));
        }
        return answers;
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
