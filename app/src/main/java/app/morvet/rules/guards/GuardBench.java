package app.morvet.rules.guards;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.Hindsight;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Proposal;
import app.morvet.core.guard.Replay;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.Spans;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The bench: what a guard that is being edited would have done over real history, and the limits that history proposes. */
@Controller
class GuardBench {
    private static final int DRAWN = 50;
    private static final int ALERTS_SHOWN = 60;

    /**
     * An alert as the bench lists it.
     *
     * @param held the window that would have held it; empty where none would
     */
    record AlertRow(
            String subject,
            String start,
            String end,
            String lasted,
            String level,
            String worst,
            boolean flapped,
            double from,
            double to,
            long series,
            String held) {}

    /** What a guard would have done, in figures. */
    record Tally(
            String alertsAWeek,
            long alerts,
            long critical,
            String timeInAlert,
            long flaps,
            int caught,
            int missed,
            int falseCalls,
            int unjudged,
            List<TroubleRow> missedOnes) {}

    record TroubleRow(long id, String words) {}

    record Drawn(long series, String name, Curve curve, List<ReplayedWindows.Hatched> windows) {}

    /** The bench as a picture: figures for the scripts of the page. */
    record Picture(
            boolean readable,
            List<Drawn> drawn,
            List<AlertRow> alerts,
            long more,
            @Nullable Tally edited,
            @Nullable Tally inForce,
            List<String> doubts,
            String left,
            String unit,
            String side,
            boolean draggable) {}

    private final Guards guards;
    private final GuardStore store;
    private final Matching matching;
    private final Replays replays;
    private final Curves curves;
    private final Doubts doubts;
    private final Windows windows;
    private final Times times;

    GuardBench(
            Guards guards,
            GuardStore store,
            Matching matching,
            Replays replays,
            Curves curves,
            Doubts doubts,
            Windows windows,
            Times times) {
        this.guards = guards;
        this.store = store;
        this.matching = matching;
        this.replays = replays;
        this.curves = curves;
        this.doubts = doubts;
        this.windows = windows;
        this.times = times;
    }

    private record Span(Instant from, Instant to) {}

    /** The days that the bench looks at, ending where the page was opened. */
    private Span span(GuardForm form) {
        var now = times.now();
        var to = now;
        try {
            var asked = Instant.ofEpochSecond(Long.parseLong(form.get("until")));
            if (asked.isBefore(now) && asked.isAfter(now.minus(Duration.ofDays(2)))) to = asked;
        } catch (NumberFormatException | java.time.DateTimeException none) {
            // now will do
        }
        int days = form.get("days").matches("\\d{1,3}") ? Math.clamp(Integer.parseInt(form.get("days")), 1, 400) : 14;
        return new Span(to.minus(Duration.ofDays(days)), to);
    }

    /** What the guard as edited would have done, and its curves. */
    @PostMapping("/guards/picture")
    @ResponseBody
    Picture picture(@RequestParam Map<String, String> fields) {
        var form = new GuardForm(fields);
        var read = GuardFormReader.read(form, times.zone());
        var rule = read.rule();
        if (rule == null) return new Picture(false, List.of(), List.of(), 0, null, null, List.of(), "", "", "", false);
        var span = span(form);
        var taken = replays.take(rule, read.watch(), span.from(), span.to());
        var outcome = replays.run(rule, taken);
        var known = replays.troubles(taken);
        var planned = new ReplayedWindows(windows, matching, span.from(), span.to());
        boolean withCurves = !form.has("curves", "no")
                || rule instanceof TrendGuard
                || rule instanceof app.morvet.core.guard.BandGuard;
        return new Picture(
                true,
                withCurves ? drawn(rule, taken, outcome, form, planned) : List.of(),
                rows(rule, read.watch(), taken, outcome, planned),
                Math.max(0, outcome.alerts().size() - ALERTS_SHOWN),
                tally(outcome, taken, known),
                inForce(form, span, known),
                doubts.shown(rule, taken),
                taken.left() == 0 ? "" : "%d more subjects are left out of the replay".formatted(taken.left()),
                unit(rule, read.watch()),
                rule instanceof TrendGuard trend
                        ? trend.side().name()
                        : rule.limits().side().name(),
                !(rule instanceof CombinationGuard || rule instanceof StateGuard));
    }

    private String unit(Guard rule, Watch watch) {
        return GuardSentence.unit(
                rule,
                matching.measure(watch.measure()).map(one -> one.unitWords()).orElse(""));
    }

    private List<Drawn> drawn(
            Guard rule, Replays.Taken taken, Replay.Outcome outcome, GuardForm form, ReplayedWindows planned) {
        if (rule instanceof CombinationGuard || taken.measured().isEmpty()) return List.of();
        boolean many = form.has("show", "all");
        var all = taken.measured();
        var some = many ? all.stream().limit(DRAWN).toList() : List.of(chosen(all, outcome, form.get("subject")));
        return some.stream()
                .map(one -> new Drawn(
                        one.subject().series().id(),
                        one.subject().name(),
                        curves.of(
                                rule,
                                one.subject(),
                                one.heard(),
                                one.course(),
                                taken.from(),
                                taken.to(),
                                many ? 110 : 560),
                        planned.over(one.subject())))
                .toList();
    }

    /** The subject that was chosen; until one is, that of the latest alert. */
    private static Replays.Measured chosen(List<Replays.Measured> all, Replay.Outcome outcome, String series) {
        var latest = outcome.alerts().isEmpty() ? 0 : outcome.alerts().getLast().series();
        return all.stream()
                .filter(one ->
                        series.equals(Long.toString(one.subject().series().id())))
                .findFirst()
                .or(() -> all.stream()
                        .filter(one -> one.subject().series().id() == latest)
                        .findFirst())
                .orElse(all.getFirst());
    }

    private List<AlertRow> rows(
            Guard rule, Watch watch, Replays.Taken taken, Replay.Outcome outcome, ReplayedWindows planned) {
        var names = new HashMap<Long, String>();
        taken.measured()
                .forEach(one ->
                        names.put(one.subject().series().id(), one.subject().name()));
        var unit = unit(rule, watch);
        return outcome.alerts().reversed().stream()
                .limit(ALERTS_SHOWN)
                .map(alert -> {
                    var over = alert.end() == null ? taken.to() : alert.end();
                    var worst = Double.isNaN(alert.worst()) || rule instanceof CombinationGuard
                            ? ""
                            : GuardSentence.value(rule, alert.worst(), unit);
                    return new AlertRow(
                            names.getOrDefault(alert.series(), ""),
                            times.of(alert.start()),
                            alert.end() == null ? "still up" : times.of(alert.end()),
                            Spans.words(Duration.between(alert.start(), over)),
                            alert.level().word(),
                            worst,
                            alert.flapped(),
                            alert.start().toEpochMilli() / 1000.0,
                            over.toEpochMilli() / 1000.0,
                            alert.series(),
                            planned.holding(alert.series(), alert.start()));
                })
                .toList();
    }

    private Tally tally(Replay.Outcome outcome, Replays.Taken taken, List<Hindsight.Trouble> known) {
        var hindsight = replays.hindsight(outcome, taken, known);
        return new Tally(
                Numbers.rounded(Math.round(outcome.alertsAWeek() * 10) / 10.0),
                outcome.alerts().size(),
                outcome.critical(),
                outcome.alerts().isEmpty() ? "none" : Spans.words(outcome.timeInAlert()),
                outcome.flaps(),
                hindsight.caught().size(),
                hindsight.missed().size(),
                hindsight.falseCalls(),
                hindsight.unjudged(),
                hindsight.missed().stream()
                        .limit(5)
                        .map(one -> new TroubleRow(one.id(), "case " + one.id() + ", " + times.of(one.from())))
                        .toList());
    }

    /** The same figures for the version in force, where there is one. */
    private @Nullable Tally inForce(GuardForm form, Span span, List<Hindsight.Trouble> known) {
        if (!form.get("id").matches("[1-9]\\d{0,17}")) return null;
        var standing = store.byId(Long.parseLong(form.get("id"))).filter(one -> !one.deleted());
        if (standing.isEmpty()) return null;
        var rule = standing.get().rule();
        var taken = replays.take(rule, standing.get().watch(), span.from(), span.to());
        return tally(replays.run(rule, taken), taken, replays.troubles(taken));
    }

    record Named(long id, String name) {}

    /** The subjects that the sentence as edited matches, for choosing one to look at. */
    @PostMapping("/guards/subjects")
    @ResponseBody
    List<Named> subjects(@RequestParam Map<String, String> fields) {
        var read = GuardFormReader.read(new GuardForm(fields), times.zone());
        var rule = read.rule();
        var subjects = rule == null ? matching.of(read.watch()) : guards.matches(rule, read.watch());
        return subjects.stream()
                .limit(Replays.MOST)
                .map(one -> new Named(one.series().id(), one.name()))
                .toList();
    }

    /** Limits found by replay, within a budget of alerts. */
    @PostMapping("/guards/propose")
    String propose(@RequestParam Map<String, String> fields, Model model) {
        var form = new GuardForm(fields);
        var read = GuardFormReader.read(form, times.zone());
        // A form without limits yet is just what a proposal is for.
        var rule = read.rule() != null
                ? read.rule()
                : GuardFormReader.read(
                                form.with("warning", form.has("side", "below") ? "-1e6" : "1e6")
                                        .with("critical", ""),
                                times.zone())
                        .rule();
        double budget = form.get("budget").matches("\\d{1,4}([.,]\\d)?")
                ? Double.parseDouble(form.get("budget").replace(',', '.'))
                : 0;
        var refusal = refusal(rule, budget);
        model.addAttribute("refusal", refusal);
        if (refusal == null && rule != null) fillProposal(rule, read.watch(), span(form), budget, model);
        return "guard-parts :: proposal";
    }

    private static @Nullable String refusal(@Nullable Guard rule, double budget) {
        if (rule == null) return "The sentence cannot be read yet; mend it first.";
        if (!(budget > 0)) return "Give a budget of alerts a week above 0.";
        if (rule instanceof StateGuard) return "A state has words and no limits, so there are none to propose.";
        if (rule instanceof CombinationGuard)
            return "A combination has no limits of its own; propose those of its members.";
        if (rule.limits().side() != Side.ABOVE && rule.limits().side() != Side.BELOW)
            return "Limits are proposed above or below a value.";
        return null;
    }

    /** One limit that was tried, for the table of reasons. */
    record TrialRow(
            String limit, String alertsAWeek, int caught, int missed, int falseCalls, String why, boolean chosen) {}

    private void fillProposal(Guard rule, Watch watch, Span span, double budget, Model model) {
        var taken = replays.take(rule, watch, span.from(), span.to());
        var known = replays.troubles(taken);
        var proposal = Proposal.of(
                rule,
                taken.runs(rule.terms().grouping()),
                budget,
                span.from(),
                span.to(),
                outcome -> replays.hindsight(outcome, taken, known));
        var unit = unit(rule, watch);
        var limits = proposal.limits();
        model.addAttribute("proposed", limits == null ? "" : limits.words(unit));
        model.addAttribute(
                "warning",
                limits == null || limits.warning() == null
                        ? ""
                        : field(rule, limits.warning().low()));
        model.addAttribute(
                "critical",
                limits == null || limits.critical() == null
                        ? ""
                        : field(rule, limits.critical().low()));
        model.addAttribute("names", fieldNames(rule));
        model.addAttribute("budget", Numbers.exact(budget));
        model.addAttribute(
                "known", known.stream().filter(Hindsight.Trouble::real).count());
        model.addAttribute("chosen", proposal.chosen());
        model.addAttribute("trials", trials(proposal, budget, unit));
        model.addAttribute("tried", proposal.tried().size());
    }

    private static String field(Guard rule, double value) {
        return rule instanceof TrendGuard
                ? Spans.words(Duration.ofSeconds(Math.round(value * 3600)))
                : Numbers.exact(value);
    }

    /** The fields of the sentence that hold the limits. */
    static List<String> fieldNames(Guard rule) {
        return switch (rule.kind()) {
            case "silence" -> List.of("missedWarning", "missedCritical");
            case "trend" -> List.of("ahead", "aheadCritical");
            case "band" -> List.of("width", "widthCritical");
            default -> List.of("warning", "critical");
        };
    }

    /** Around the chosen one, and the tightest and widest of all: enough to see why. */
    private static List<TrialRow> trials(Proposal proposal, double budget, String unit) {
        var rows = new ArrayList<TrialRow>();
        var tried = proposal.tried();
        int at = proposal.chosen() == null ? tried.size() - 1 : tried.indexOf(proposal.chosen());
        for (int i = 0; i < tried.size(); i++) {
            boolean near = Math.abs(i - at) <= 3;
            boolean sample = tried.size() > 8 && i % (tried.size() / 6) == 0;
            if (!near && !sample) continue;
            var one = tried.get(i);
            boolean chosen = one.equals(proposal.chosen());
            rows.add(new TrialRow(
                    Numbers.with(Numbers.exact(one.limit()), unit),
                    Numbers.rounded(Math.round(one.alertsAWeek() * 10) / 10.0),
                    one.caught(),
                    one.missed(),
                    one.falseCalls(),
                    chosen
                            ? "proposed"
                            : one.alertsAWeek() > budget
                                    ? "over the budget"
                                    : one.alertsAWeek() == 0
                                            ? "would never call"
                                            : proposal.chosen() != null
                                                            && one.caught()
                                                                    < proposal.chosen()
                                                                            .caught()
                                                    ? "misses more"
                                                    : "no better",
                    chosen));
        }
        return rows;
    }
}
