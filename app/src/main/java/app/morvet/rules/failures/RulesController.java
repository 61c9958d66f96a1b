package app.morvet.rules.failures;

import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.core.sorting.Proposing;
import app.morvet.core.sorting.Reach;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.sorting.RuleList;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Sorting rules: the ordered list, one rule, its form with what it would do, and the order. */
@Controller
class RulesController {
    static final List<String> EXPLAINING =
            List.of("endpoint", "certificate", "host", "instance", "service", "queue", "licence", "vendor instance");

    /** @param doubts what is wrong with it, in words */
    record Row(
            long id,
            int number,
            String mark,
            String name,
            String sentence,
            long today,
            List<String> doubts,
            boolean last) {}

    private final SortingRules rules;
    private final RuleTrial trial;
    private final ReSorting resorting;
    private final StoredFailures stored;
    private final MessageStore messages;
    private final Masks masks;
    private final Families families;
    private final Estate estate;
    private final FixNotes fixNotes;
    private final Times times;

    RulesController(
            SortingRules rules,
            RuleTrial trial,
            ReSorting resorting,
            StoredFailures stored,
            MessageStore messages,
            Masks masks,
            Families families,
            Estate estate,
            FixNotes fixNotes,
            Times times) {
        this.rules = rules;
        this.trial = trial;
        this.resorting = resorting;
        this.stored = stored;
        this.messages = messages;
        this.masks = masks;
        this.families = families;
        this.estate = estate;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/messages/rules")
    String list(Model model) {
        var list = rules.fresh();
        fillList(list, model);
        // Where both fit, the first stands open beside the list.
        fillRule(list, list.rules().getFirst(), model);
        return "rules";
    }

    @GetMapping("/messages/rules/{id:\\d+}")
    String one(@PathVariable long id, Model model) {
        var list = rules.fresh();
        var rule = list.byId(id).orElseThrow(() -> unknown(id));
        fillList(list, model);
        fillRule(list, rule, model);
        model.addAttribute("chosen", true);
        return "rules";
    }

    private void fillRule(RuleList list, StoredRule rule, Model model) {
        model.addAttribute("rule", rule);
        model.addAttribute("sentence", rules.sentence(rule));
        model.addAttribute("mark", rule.alerts() ? rule.severity().word() : "steady");
        model.addAttribute("fixNote", fixNotes.html(rule.fixNote()));
        model.addAttribute("owner", rules.owner(rule).map(Estate.Team::name).orElse("the application's team"));
        model.addAttribute("lastTook", times.of(rule.lastTook()));
        fillOutcome(trial.of(list, list, list.rules().indexOf(rule)), model);
    }

    private void fillList(RuleList list, Model model) {
        var midnight = times.now()
                .atZone(times.zone())
                .toLocalDate()
                .atStartOfDay(times.zone())
                .toInstant();
        var today = stored.taken(midnight);
        var reach = list.reach();
        var made = rules.madeAt();
        var rows = new ArrayList<Row>();
        for (int i = 0; i < list.rules().size(); i++) {
            var rule = list.rules().get(i);
            rows.add(new Row(
                    rule.id(),
                    i + 1,
                    rule.alerts() ? rule.severity().word() : "steady",
                    rule.name(),
                    rules.sentence(rule),
                    today.getOrDefault(rule.id(), 0L),
                    doubts(list, rule, reach.get(i), made.get(rule.id())),
                    i == list.rules().size() - 1));
        }
        model.addAttribute("rows", rows);
        model.addAttribute("version", list.version());
    }

    /** What is to be said of a rule that has taken nothing for long, or nothing yet. */
    private Optional<String> lately(StoredRule rule, @Nullable Instant madeAt) {
        var longAgo = times.now().minus(StoredFailures.LOOKED_BACK);
        var took = rule.lastTook();
        if (took != null && !took.isBefore(longAgo)) return Optional.empty();
        return Optional.of(
                took == null && madeAt != null && madeAt.isAfter(longAgo)
                        ? "It has taken nothing since it was made, " + times.of(madeAt) + "."
                        : "It took nothing in 30 days.");
    }

    private List<String> doubts(RuleList list, StoredRule rule, Reach.Finding reach, @Nullable Instant madeAt) {
        var doubts = new ArrayList<String>();
        if (reach.byItself()) doubts.add("It can never take anything: its conditions exclude each other.");
        if (!reach.takenBy().isEmpty())
            doubts.add("It is never reached: "
                    + String.join(
                            " and ",
                            reach.takenBy().stream()
                                    .map(place -> "\"" + list.rules().get(place).name() + "\"")
                                    .toList())
                    + (reach.takenBy().size() == 1 ? " takes" : " take") + " all of it before.");
        else if (!rule.criteria().takesEverything()) lately(rule, madeAt).ifPresent(doubts::add);
        if (rule.stopped() > 0)
            doubts.add("Its pattern had to be stopped %,d times, last %s; of those messages it took none."
                    .formatted(rule.stopped(), times.of(rule.stoppedAt())));
        return doubts;
    }

    @GetMapping("/messages/rules/{id:\\d+}/edit")
    String edit(@PathVariable long id, Model model) {
        trial.begin();
        var list = rules.fresh();
        var rule = list.byId(id).orElseThrow(() -> unknown(id));
        return form(RuleForm.of(rule, list.version(), list.rules().indexOf(rule), estate), Map.of(), list, model);
    }

    /**
     * The form for a new rule.
     *
     * @param message a failed message that it is made from, or empty
     * @param family  a failure family that it is made from, or 0
     */
    @GetMapping("/messages/rules/new")
    String fresh(
            @RequestParam(defaultValue = "") String message,
            @RequestParam(defaultValue = "0") long family,
            Model model) {
        trial.begin();
        var list = rules.fresh();
        var name = "";
        var criteria = Criteria.EVERYTHING;
        long of = message.isEmpty()
                ? family
                : MessageId.parse(message).flatMap(messages::familyOf).orElse(0L);
        if (of != 0) {
            var since = times.now().minus(StoredFailures.LOOKED_BACK);
            var some = stored.ofFamily(of, since, 200).stream()
                    .map(StoredFailures.Stored::candidate)
                    .toList();
            var others = stored.ofOthers(of, since, 5).stream()
                    .map(StoredFailures.Stored::candidate)
                    .toList();
            if (!some.isEmpty()) criteria = Proposing.from(families.skeletonOf(of), some, others);
        }
        var draft = new StoredRule(
                0,
                name.isEmpty() ? "new" : name,
                criteria,
                Severity.WARNING,
                null,
                "",
                true,
                FoldBy.FAMILY,
                new FoldWindow(Duration.ofHours(4)),
                false,
                Set.of(),
                null,
                0,
                null);
        int place = trial.place(list, draft);
        var form = RuleForm.of(draft, list.version(), place, estate);
        return form(named(form, ""), Map.of(), list, model);
    }

    private static RuleForm named(RuleForm form, String name) {
        return new RuleForm(
                form.id(),
                form.version(),
                name,
                form.rows(),
                form.joined(),
                form.severity(),
                form.owner(),
                form.alerts(),
                form.fold(),
                form.foldFor(),
                form.foldUnit(),
                form.sendAgain(),
                form.explainedBy(),
                form.fixNote(),
                form.place(),
                form.last());
    }

    private String form(RuleForm form, Map<String, String> errors, RuleList list, Model model) {
        model.addAttribute("form", form);
        model.addAttribute("errors", errors);
        model.addAttribute("teams", estate.teams());
        model.addAttribute("interfaces", estate.interfaces());
        model.addAttribute("explaining", EXPLAINING);
        model.addAttribute("folds", FoldBy.values());
        model.addAttribute("severities", Severity.values());
        model.addAttribute(
                "others",
                list.rules().stream().filter(rule -> rule.id() != form.id()).toList());
        fillPreview(form, list, model);
        return "rule-form";
    }

    /** What the rule as it is typed would do. */
    @PostMapping("/messages/rules/preview")
    String preview(@RequestParam MultiValueMap<String, String> typed, Model model) {
        var form = RuleForm.typed(typed);
        fillPreview(form, rules.fresh(), model);
        return "rule-parts :: preview";
    }

    private void fillPreview(RuleForm form, RuleList list, Model model) {
        // While it has no name yet, what it takes can be seen all the same.
        var read = (form.name().isBlank() ? named(form, "this rule") : form).read(estate);
        model.addAttribute("wrong", read.errors());
        var rule = read.rule();
        if (rule == null) return;
        var then = with(list, rule, form.place());
        model.addAttribute("sentence", rules.sentence(rule));
        fillOutcome(trial.of(list, then, then.rules().indexOf(rule)), model);
        model.addAttribute("moves", resorting.preview(then));
    }

    private void fillOutcome(RuleTrial.Outcome outcome, Model model) {
        model.addAttribute("outcome", outcome);
        model.addAttribute("since", times.of(outcome.since()));
        model.addAttribute(
                "samples",
                outcome.samples().stream()
                        .map(one -> Map.of(
                                "id", one.id().toString(),
                                "at", times.of(one.id().at()),
                                "where", estate.component(one.component()).name(),
                                "key",
                                        masks.on(one.component())
                                                .text(one.businessKey())
                                                .text(),
                                "error",
                                        masks.on(one.component())
                                                .text(one.candidate().error())
                                                .text()
                                                .lines()
                                                .findFirst()
                                                .orElse("")))
                        .toList());
    }

    /** The list with a rule at a place; the one of the same id goes. */
    private static RuleList with(RuleList list, StoredRule rule, int place) {
        var others = new ArrayList<>(list.rules().stream()
                .filter(one -> rule.id() == 0 || one.id() != rule.id())
                .toList());
        int most = rule.criteria().takesEverything() ? others.size() : others.size() - 1;
        others.add(rule.criteria().takesEverything() ? most : Math.clamp(place, 0, Math.max(0, most)), rule);
        return RuleList.of(list.version(), others);
    }

    @PostMapping("/messages/rules")
    String save(
            @RequestParam MultiValueMap<String, String> typed,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var form = RuleForm.typed(typed);
        var list = rules.fresh();
        var read = form.read(estate);
        var rule = read.rule();
        if (rule == null) return refused(form, read.errors(), list, response, model);
        try {
            var kept =
                    rules.change(form.version(), with(list, rule, form.place()).rules(), by);
            resorting.soon();
            long id = kept.rules().stream()
                    .filter(one -> one.name().equals(rule.name()))
                    .findFirst()
                    .orElseThrow()
                    .id();
            return "redirect:/messages/rules/" + id;
        } catch (SortingRules.Overtaken | IllegalArgumentException refused) {
            return refused(form, Map.of("", String.valueOf(refused.getMessage())), list, response, model);
        }
    }

    private String refused(
            RuleForm form, Map<String, String> errors, RuleList list, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return form(form, errors, list, model);
    }

    /** Puts the rules into another order. */
    @PostMapping("/messages/rules/order")
    String order(@RequestParam int version, @RequestParam String ids, @AuthenticationPrincipal Person by, Model model) {
        var list = rules.fresh();
        try {
            var wanted = Arrays.stream(ids.split(","))
                    .filter(id -> id.matches("\\d{1,12}"))
                    .map(id -> list.byId(Long.parseLong(id)).orElseThrow(() -> unknown(Long.parseLong(id))))
                    .toList();
            if (wanted.size() != list.rules().size())
                throw new IllegalArgumentException("the order names %d rules, there are %d"
                        .formatted(wanted.size(), list.rules().size()));
            rules.change(version, wanted, by);
            resorting.soon();
        } catch (SortingRules.Overtaken | IllegalArgumentException refused) {
            model.addAttribute("refusal", refused.getMessage());
        }
        fillList(rules.fresh(), model);
        return "rule-parts :: list";
    }

    @PostMapping("/messages/rules/{id:\\d+}/delete")
    String delete(@PathVariable long id, @RequestParam int version, @AuthenticationPrincipal Person by, Model model) {
        var list = rules.fresh();
        try {
            rules.change(
                    version,
                    list.rules().stream().filter(rule -> rule.id() != id).toList(),
                    by);
            resorting.soon();
            return "redirect:/messages/rules";
        } catch (SortingRules.Overtaken | IllegalArgumentException refused) {
            model.addAttribute("refusal", refused.getMessage());
            fillList(list, model);
            list.byId(id).ifPresent(rule -> fillRule(list, rule, model));
            return "rules";
        }
    }

    private static ResponseStatusException unknown(@Nullable Long id) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no sorting rule " + id + ".");
    }
}
