package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.duty.Rota;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.access.Role;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Scopes;
import app.morvet.ground.page.Times;
import app.morvet.work.channels.Outside;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DayOfWeek;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The rules: their order, each as its sentence, and what each would have told in the last 14 days; made, changed and tried by leads. */
@Controller
class CallOutRulesController {
    private static final int SHOWN = 8;
    private static final int TESTS = 10;

    /** @param told how many messages it would have sent */
    record Row(long id, String name, String sentence, int told, boolean catches, boolean first, boolean last) {}

    record Choice(String code, String name) {}

    record Group(String name, List<Choice> choices) {}

    record UntoldRow(long id, String headline, String at) {}

    record OftenRow(String name, String perWeek, int atNight) {}

    /**
     * What the rules would have told.
     *
     * @param news whether the rule tells of no case
     * @param all messages in all
     * @param own of the rule that is edited; -1 where none is
     */
    record Means(
            boolean news,
            String sentence,
            int own,
            int all,
            int cases,
            List<OftenRow> people,
            List<UntoldRow> untold,
            int moreUntold) {}

    record TestRow(String to, String state, String at, String trouble) {}

    private final CallOutRules rules;
    private final RuleRehearsal rehearsal;
    private final RuleTests tests;
    private final Scopes scopes;
    private final Estate estate;
    private final People people;
    private final Connections connections;
    private final List<Outside> outside;
    private final Times times;

    CallOutRulesController(
            CallOutRules rules,
            RuleRehearsal rehearsal,
            RuleTests tests,
            Scopes scopes,
            Estate estate,
            People people,
            Connections connections,
            List<Outside> outside,
            Times times) {
        this.rules = rules;
        this.rehearsal = rehearsal;
        this.tests = tests;
        this.scopes = scopes;
        this.estate = estate;
        this.people = people;
        this.connections = connections;
        this.outside = outside;
        this.times = times;
    }

    @GetMapping("/callouts/rules")
    String list(Model model) {
        return list(null, model);
    }

    private String list(@Nullable String refusal, Model model) {
        var all = rules.all();
        var would = rehearsal.of(all.stream().map(CallOutRules.Stored::rule).toList());
        model.addAttribute("refusal", refusal);
        model.addAttribute(
                "rules",
                IntStream.range(0, all.size())
                        .mapToObj(place -> row(all, place, would.by(place)))
                        .toList());
        model.addAttribute("means", means(null, -1, would));
        return "callout-rules";
    }

    private Row row(List<CallOutRules.Stored> all, int place, int told) {
        var one = all.get(place);
        return new Row(
                one.id(),
                one.rule().name(),
                rules.sentence(one.rule()),
                told,
                one.catches(),
                place == 0,
                place >= all.size() - 2);
    }

    private Means means(@Nullable CallOutRule rule, int place, RuleRehearsal.Result would) {
        double weeks = RuleRehearsal.SPAN.toDays() / 7.0;
        return new Means(
                rule != null && !rule.when().isOfCase(),
                rule == null ? "" : rules.sentence(rule),
                place < 0 ? -1 : would.by(place),
                would.messages().size(),
                would.cases(),
                would.people(place).stream()
                        .limit(SHOWN)
                        .map(one -> new OftenRow(one.name(), "%.1f".formatted(one.messages() / weeks), one.atNight()))
                        .toList(),
                would.untold().stream()
                        .limit(SHOWN)
                        .map(one -> new UntoldRow(one.id(), one.headline(), times.of(one.at())))
                        .toList(),
                Math.max(0, would.untold().size() - SHOWN));
    }

    @GetMapping("/callouts/rules/new")
    String fresh(Model model) {
        var rule = new CallOutRule(
                "A new rule",
                Happening.OPENED,
                Severity.CRITICAL,
                Scope.ALL,
                null,
                List.of(
                        new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), List.of(Way.TEXT, Way.MAIL)),
                        new Step(Duration.ofMinutes(15), new Whom.OnDuty(Whom.OWNER, 1), List.of(Way.TEXT, Way.MAIL))),
                null,
                true,
                false);
        var fields = CallOutRuleForm.fields(rule);
        fields.put("name", "");
        return edit(0, 0, false, fields, null, model);
    }

    @GetMapping("/callouts/rules/{id:\\d{1,18}}")
    String edit(@PathVariable long id, Model model) {
        var one = find(id);
        return edit(id, one.version(), one.catches(), CallOutRuleForm.fields(one.rule()), null, model);
    }

    private CallOutRules.Stored find(long id) {
        return rules.all().stream()
                .filter(it -> it.id() == id)
                .findFirst()
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no rule " + id + "."));
    }

    private String edit(
            long id, int version, boolean catches, Map<String, String> sent, @Nullable String refusal, Model model) {
        model.addAttribute("id", id);
        model.addAttribute("version", version);
        model.addAttribute("catches", catches);
        model.addAttribute("refusal", refusal);
        model.addAttribute("typed", sent);
        model.addAttribute("happenings", Happening.values());
        model.addAttribute("severities", List.of(Severity.CRITICAL, Severity.WARNING, Severity.NOTICE));
        model.addAttribute(
                "days",
                Arrays.stream(DayOfWeek.values()).map(CallOutRuleForm::day).toList());
        model.addAttribute("paces", Digest.Every.values());
        model.addAttribute("weekdays", DayOfWeek.values());
        model.addAttribute(
                "stepRows", IntStream.range(0, CallOutRule.MOST_STEPS).boxed().toList());
        var whom = whom();
        model.addAttribute("whom", whom);
        model.addAttribute(
                "names",
                whom.stream()
                        .flatMap(group -> group.choices().stream())
                        .collect(Collectors.toMap(Choice::code, Choice::name)));
        model.addAttribute(
                "ways",
                List.of(
                        new Choice("TEXT MAIL", "by text message, else by mail"),
                        new Choice("MAIL TEXT", "by mail, else by text message"),
                        new Choice("TEXT", "by text message"),
                        new Choice("MAIL", "by mail")));
        model.addAttribute("zone", times.zone().getId());
        model.addAttribute("teams", estate.teams());
        model.addAttribute(
                "tests",
                id == 0
                        ? List.of()
                        : tests.of(id, TESTS).stream()
                                .map(one -> new TestRow(
                                        one.recipient() + " by "
                                                + one.to().hop().way().words(),
                                        one.state().words(),
                                        times.of(one.madeAt()),
                                        one.lastError()))
                                .toList());
        scopes.fill(app.morvet.ground.estate.ScopeForm.typed(sent::get), model);
        means(id, sent, model);
        return "callout-rule";
    }

    /** Who can be chosen in a step. */
    private List<Group> whom() {
        var groups = new ArrayList<Group>();
        var own = new ArrayList<Choice>();
        for (int line = 0; line < Rota.LINES.size(); line++)
            own.add(new Choice(
                    new Whom.OnDuty(Whom.OWNER, line).code(), "the " + Rota.LINES.get(line) + " of its team"));
        own.add(new Choice(new Whom.Team(Whom.OWNER).code(), "all of its team"));
        own.add(new Choice(new Whom.Desk(Whom.OWNER).code(), "its team by a ticket (hand it off)"));
        groups.add(new Group("Whoever owns it", own));
        var teams = new ArrayList<Choice>();
        for (var team : estate.teams()) {
            for (int line = 0; line < 2; line++)
                teams.add(new Choice(
                        new Whom.OnDuty(team.id(), line).code(), "the " + Rota.LINES.get(line) + " of " + team.name()));
            teams.add(new Choice(new Whom.Team(team.id()).code(), "all of " + team.name()));
        }
        groups.add(new Group("Teams", teams));
        groups.add(new Group(
                "Roles",
                Arrays.stream(Role.values())
                        .filter(role -> role != Role.MEMBER)
                        .map(role -> new Choice(new Whom.Role(role.name()).code(), "all who are " + role.word()))
                        .toList()));
        groups.add(new Group(
                "People",
                people.cards().stream()
                        .filter(People.Card::active)
                        .sorted(Comparator.comparing(one -> one.person().name()))
                        .map(one -> new Choice(
                                new Whom.One(one.person().id()).code(),
                                one.person().name()))
                        .toList()));
        groups.add(new Group(
                "Outside",
                java.util.stream.Stream.concat(
                                outside.stream()
                                        .flatMap(kind -> connections.of(kind.kind()).stream())
                                        .map(one -> new Choice(new Whom.Outside(one.id()).code(), one.name())),
                                java.util.stream.Stream.of(new Choice(CallOutRuleForm.ADDRESS, "a mail address")))
                        .toList()));
        return groups;
    }

    private void means(long id, Map<String, String> sent, Model model) {
        try {
            var typed = new java.util.HashMap<>(sent);
            typed.computeIfPresent("name", (field, name) -> name.isBlank() ? "it" : name);
            var rule = CallOutRuleForm.read(typed, times.zone());
            var all = new ArrayList<>(rules.all());
            int place = id == 0
                    ? all.size() - 1
                    : IntStream.range(0, all.size())
                            .filter(it -> all.get(it).id() == id)
                            .findFirst()
                            .orElse(all.size() - 1);
            var asTyped =
                    new ArrayList<>(all.stream().map(CallOutRules.Stored::rule).toList());
            if (id == 0) asTyped.add(place, rule);
            else asTyped.set(place, rule);
            model.addAttribute("means", means(rule, place, rehearsal.of(asTyped)));
        } catch (IllegalArgumentException bad) {
            model.addAttribute("cannot", Sentence.of(bad));
        }
    }

    /** Recomputed as it is edited. */
    @PostMapping("/callouts/rules/preview")
    String preview(@RequestParam(defaultValue = "0") long id, @RequestParam Map<String, String> sent, Model model) {
        means(id, sent, model);
        return "callout-rule :: means";
    }

    @PostMapping("/callouts/rules/save")
    String save(
            @RequestParam(defaultValue = "0") long id,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        boolean catches = id != 0 && find(id).catches();
        try {
            var rule = CallOutRuleForm.read(sent, times.zone());
            rules.keep(new CallOutRules.Stored(id, rule, catches, version), by);
            return "redirect:/callouts/rules";
        } catch (IllegalArgumentException bad) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return edit(id, version, catches, sent, Sentence.of(bad), model);
        }
    }

    @PostMapping("/callouts/rules/{id:\\d{1,18}}/delete")
    String delete(
            @PathVariable long id,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            rules.delete(id, version, by);
            return "redirect:/callouts/rules";
        } catch (IllegalArgumentException bad) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return list(Sentence.of(bad), model);
        }
    }

    @PostMapping("/callouts/rules/{id:\\d{1,18}}/move")
    String move(
            @PathVariable long id, @RequestParam(defaultValue = "up") String to, @AuthenticationPrincipal Person by) {
        rules.move(id, to.equals("up"), by);
        return "redirect:/callouts/rules";
    }

    /** Tells whoever is told first, marked as a test, the whole way. */
    @PostMapping("/callouts/rules/{id:\\d{1,18}}/test")
    String test(
            @PathVariable long id,
            @RequestParam(defaultValue = "0") long team,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var one = find(id);
        try {
            tests.run(one, estate.team(team).orElse(null), by);
            return "redirect:/callouts/rules/" + id + "?tested#tests";
        } catch (IllegalArgumentException nobody) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return edit(
                    id, one.version(), one.catches(), CallOutRuleForm.fields(one.rule()), Sentence.of(nobody), model);
        }
    }
}
