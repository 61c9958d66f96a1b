package app.morvet.rules.guards;

import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.ToIntFunction;
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
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The Guards place: the standing guards as sentences, each with what it stands over, its versions, and what is ready-made. */
@Controller
class GuardController {
    private static final int PAGE = 50;
    private static final int SUBJECTS_SHOWN = 40;
    private static final int MOST_SUBJECTS = 2000;

    /**
     * @param mark    the worst that it raises now
     * @param matches how many series it stands over, in words
     * @param doubts  what is allowed and hardly meant
     */
    record Row(
            long id,
            String name,
            boolean active,
            String kind,
            String sentence,
            String mark,
            String matches,
            List<String> doubts,
            int version) {}

    /** @param value what it measures there now */
    record SubjectRow(String name, String key, String application, String mark, String value, String since) {}

    record VersionRow(
            int version,
            String at,
            String who,
            String name,
            String sentence,
            @Nullable String before,
            String why,
            boolean active,
            boolean current) {}

    private final Guards guards;
    private final GuardStore store;
    private final ReadyMade readyMade;
    private final Doubts doubts;
    private final Estate estate;
    private final People people;
    private final FixNotes fixNotes;
    private final Times times;

    GuardController(
            Guards guards,
            GuardStore store,
            ReadyMade readyMade,
            Doubts doubts,
            Estate estate,
            People people,
            FixNotes fixNotes,
            Times times) {
        this.guards = guards;
        this.store = store;
        this.readyMade = readyMade;
        this.doubts = doubts;
        this.estate = estate;
        this.people = people;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/guards")
    String list(
            @RequestParam(name = "name", defaultValue = "") String words,
            @RequestParam(defaultValue = "0") int from,
            Model model) {
        fillList(words, from, model);
        // Where both fit, the first stands open beside the list.
        if (model.getAttribute("rows") instanceof List<?> rows
                && !rows.isEmpty()
                && rows.getFirst() instanceof Row first) fillGuard(find(first.id()), first, SUBJECTS_SHOWN, model);
        return "guards";
    }

    private void fillList(String words, int from, Model model) {
        int start = Math.max(0, from);
        var page = store.page(words.strip(), start, PAGE + 1);
        var standing = store.tallies();
        var doubtful = doubts.remembered(page);
        var counting = guards.counting();
        model.addAttribute(
                "rows",
                page.stream()
                        .limit(PAGE)
                        .map(guard -> row(guard, standing, counting, doubtful.getOrDefault(guard.id(), List.of())))
                        .toList());
        model.addAttribute("words", words.strip());
        model.addAttribute("from", start);
        model.addAttribute("earlier", start == 0 ? -1 : Math.max(0, start - PAGE));
        model.addAttribute("later", page.size() > PAGE ? start + PAGE : -1);
        model.addAttribute("offered", readyMade.count());
    }

    private Row row(
            StoredGuard guard,
            Map<Long, GuardStore.Tally> standing,
            ToIntFunction<StoredGuard> counting,
            List<String> found) {
        var now = standing.get(guard.id());
        int count = now == null || !guard.active() ? counting.applyAsInt(guard) : now.subjects();
        var said = new ArrayList<String>();
        if (count == 0) said.addAll(doubts.plain(guard.rule(), guard.watch(), List.of()));
        else said.addAll(found);
        return new Row(
                guard.id(),
                guard.name(),
                guard.active(),
                guard.rule().kind(),
                guards.sentence(guard),
                !guard.active() || count == 0 ? "nodata" : now == null ? "steady" : now.level(),
                count == 0 ? "matches nothing" : count == 1 ? "1 subject" : count + " subjects",
                said,
                guard.version());
    }

    @GetMapping("/guards/{id:\\d+}")
    String one(
            @PathVariable long id,
            @RequestParam(name = "name", defaultValue = "") String words,
            @RequestParam(defaultValue = "0") int from,
            @RequestParam(defaultValue = "" + SUBJECTS_SHOWN) int subjects,
            Model model) {
        var guard = find(id);
        fillList(words, from, model);
        var found = doubts.remembered(List.of(guard)).getOrDefault(guard.id(), List.of());
        var row = row(guard, store.tallies(), guards.counting(), found);
        fillGuard(guard, row, Math.clamp(subjects, SUBJECTS_SHOWN, MOST_SUBJECTS), model);
        model.addAttribute("chosen", true);
        return "guards";
    }

    private void fillGuard(StoredGuard guard, Row row, int shown, Model model) {
        long id = guard.id();
        model.addAttribute("guard", row);
        model.addAttribute("fixNote", fixNotes.html(guard.fixNote()));
        model.addAttribute(
                "owner",
                guard.owner() == null
                        ? ""
                        : estate.team(guard.owner()).map(Estate.Team::name).orElse(""));
        var states = store.statesOf(id);
        var unit = guards.unit(guard);
        var subjects = guards.matches(guard.rule(), guard.watch());
        model.addAttribute("left", Math.max(0, subjects.size() - shown));
        model.addAttribute(
                "members",
                guard.rule() instanceof CombinationGuard combination
                        ? guards.byIds(combination.members()).values().stream().toList()
                        : List.of());
        model.addAttribute(
                "subjects",
                subjects.stream()
                        .limit(shown)
                        .map(one -> subjectRow(
                                one,
                                states.get(new GuardStore.Key(id, one.series().id())),
                                guard,
                                unit))
                        .toList());
    }

    private SubjectRow subjectRow(
            Subject one, app.morvet.core.guard.@Nullable GuardState state, StoredGuard guard, String unit) {
        var level = state == null ? null : state.level();
        boolean combination = guard.rule() instanceof CombinationGuard;
        var value = state == null
                ? ""
                : combination
                        ? switch (state.truth()) {
                            case TRUE -> "holds";
                            case FALSE -> "does not hold";
                            case UNKNOWN -> "not known";
                        }
                        : GuardSentence.value(guard.rule(), state.value(), unit);
        return new SubjectRow(
                combination ? one.component().name() : one.name(),
                one.component().key(),
                one.application() == null ? "not assigned" : one.application().name(),
                state == null || !state.known() && level == null ? "nodata" : level == null ? "steady" : level.word(),
                value,
                state == null || state.raisedAt() == null
                        ? ""
                        : times.of(state.raisedAt()) + (state.flaps() ? ", comes and goes" : ""));
    }

    /** Switches a guard off or on; switched off, its alerts end. */
    @PostMapping("/guards/{id:\\d+}/switch")
    String onOff(@PathVariable long id, @AuthenticationPrincipal Person by) {
        var guard = find(id);
        guards.change(guard.switched(!guard.active()), by);
        return "redirect:/guards/" + id;
    }

    @PostMapping("/guards/{id:\\d+}/delete")
    String delete(
            @PathVariable long id,
            @RequestParam int version,
            @AuthenticationPrincipal Person by,
            RedirectAttributes flash) {
        find(id);
        try {
            guards.delete(id, version, by);
            return "redirect:/guards";
        } catch (Guards.StoodOn | Guards.Overtaken refused) {
            flash.addFlashAttribute("refusal", refused.getMessage());
            return "redirect:/guards/" + id;
        }
    }

    @GetMapping("/guards/ready-made")
    String readyMade(Model model) {
        fillList("", 0, model);
        model.addAttribute("offers", readyMade.fitting());
        return "guards";
    }

    @PostMapping("/guards/ready-made/{key}")
    String switchOn(@PathVariable String key, @AuthenticationPrincipal Person by, RedirectAttributes flash) {
        var offer = readyMade
                .byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such ready-made guard."));
        try {
            long id = guards.add(
                    new StoredGuard(0, offer.name(), true, offer.watch(), offer.rule(), offer.note(), null, 0), by);
            return "redirect:/guards/" + id;
        } catch (org.springframework.dao.DuplicateKeyException taken) {
            flash.addFlashAttribute("refusal", "A guard named \"" + offer.name() + "\" stands already.");
            return "redirect:/guards/ready-made";
        }
    }

    @GetMapping("/guards/{id:\\d+}/versions")
    String versions(@PathVariable long id, Model model) {
        var guard = store.byId(id).orElseThrow(() -> unknown(id));
        var names = people.all();
        var versions = store.versions(id);
        var rows = new ArrayList<VersionRow>();
        for (int i = 0; i < versions.size(); i++) {
            var one = versions.get(i);
            var by = one.by();
            var who = by == null
                    ? "Morvet"
                    : names.stream()
                            .filter(person -> person.id() == by)
                            .findFirst()
                            .map(Person::name)
                            .orElse("Somebody");
            rows.add(new VersionRow(
                    one.guard().version(),
                    times.of(one.at()),
                    who,
                    one.guard().name(),
                    words(one.guard()),
                    i + 1 < versions.size() ? words(versions.get(i + 1).guard()) : null,
                    one.why(),
                    one.guard().active(),
                    one.guard().version() == guard.version()));
        }
        model.addAttribute("guard", guard);
        model.addAttribute("versions", rows);
        return "guard-versions";
    }

    private String words(StoredGuard guard) {
        if (guard.deleted()) return "deleted";
        return (guard.active() ? "" : "(off) ") + guards.sentence(guard);
    }

    /** Makes the guard what it was in an earlier version; that is a new version. */
    @PostMapping("/guards/{id:\\d+}/versions/{version}")
    String backTo(
            @PathVariable long id,
            @PathVariable int version,
            @AuthenticationPrincipal Person by,
            RedirectAttributes flash) {
        var now = find(id);
        var then = store.versions(id).stream()
                .map(GuardStore.Version::guard)
                .filter(one -> one.version() == version && !one.deleted())
                .findFirst()
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no version " + version + "."));
        try {
            guards.change(
                    new StoredGuard(
                            id,
                            then.name(),
                            then.active(),
                            then.watch(),
                            then.rule(),
                            then.fixNote(),
                            then.owner(),
                            now.version()),
                    by);
        } catch (org.springframework.dao.DuplicateKeyException taken) {
            flash.addFlashAttribute("refusal", "Another guard bears the name \"" + then.name() + "\" by now.");
        } catch (Guards.Overtaken | IllegalArgumentException refused) {
            flash.addFlashAttribute("refusal", refused.getMessage());
        }
        return "redirect:/guards/" + id;
    }

    private StoredGuard find(long id) {
        return store.byId(id).filter(one -> !one.deleted()).orElseThrow(() -> unknown(id));
    }

    private static ResponseStatusException unknown(long id) {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no guard " + id + ".");
    }
}
