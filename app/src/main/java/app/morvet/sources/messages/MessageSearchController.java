package app.morvet.sources.messages;

import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Csv;
import app.morvet.ground.page.Times;
import app.morvet.sources.sorting.SortingRules;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;

/** Search over all failed messages: by key, words, interface, family, rule, state and span; kept, counted and as CSV. */
@Controller
class MessageSearchController {
    private static final int PAGE = 40;
    private static final int COUNTED = 10_000;
    private static final int MOST_IN_FILE = 1_000_000;

    /** What was typed. The names are those of the parameters. */
    record Asked(
            String interfaceKey,
            String family,
            String rule,
            String state,
            String key,
            String q,
            String days,
            String from,
            String to) {
        static final Asked NOTHING = new Asked("", "", "", "", "", "", "", "", "");

        /** The address with these parameters; those that are empty are left out. */
        String address(String path) {
            var uri = UriComponentsBuilder.fromPath(path);
            parameters().forEach((name, value) -> uri.queryParam(name, "{" + name + "}"));
            return uri.encode().buildAndExpand(parameters()).toUriString();
        }

        public Map<String, String> parameters() {
            var all = new LinkedHashMap<String, String>();
            all.put("interface", interfaceKey);
            all.put("family", family);
            all.put("rule", rule);
            all.put("state", state);
            all.put("key", key);
            all.put("q", q);
            all.put("days", days);
            all.put("from", from);
            all.put("to", to);
            all.values().removeIf(String::isBlank);
            return all;
        }
    }

    record Row(
            String id,
            String at,
            String interfaceName,
            String businessKey,
            String step,
            String firstLine,
            String rule,
            String mark,
            String state) {}

    record SavedRow(long id, String name, String link, String measure) {}

    private final SearchStore store;
    private final SavedSearches saved;
    private final MessageQueries queries;
    private final Families families;
    private final Masks masks;
    private final SortingRules rules;
    private final Estate estate;
    private final Times times;

    MessageSearchController(
            SearchStore store,
            SavedSearches saved,
            MessageQueries queries,
            Families families,
            Masks masks,
            SortingRules rules,
            Estate estate,
            Times times) {
        this.store = store;
        this.saved = saved;
        this.queries = queries;
        this.families = families;
        this.masks = masks;
        this.rules = rules;
        this.estate = estate;
        this.times = times;
    }

    @ModelAttribute("asked")
    Asked asked(
            @RequestParam(name = "interface", defaultValue = "") String interfaceKey,
            @RequestParam(defaultValue = "") String family,
            @RequestParam(defaultValue = "") String rule,
            @RequestParam(defaultValue = "") String state,
            @RequestParam(defaultValue = "") String key,
            @RequestParam(defaultValue = "") String q,
            @RequestParam(defaultValue = "") String days,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to) {
        return new Asked(interfaceKey, family, rule, state, key.strip(), q.strip(), days, from, to);
    }

    @GetMapping("/messages/search")
    String search(
            @ModelAttribute("asked") Asked asked,
            @RequestParam(defaultValue = "") String before,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        fill(asked, before, model);
        if ("more".equals(target)) return "search-parts :: lines";
        if ("found".equals(target)) return "search-parts :: found";
        fillForm(asked, model);
        return "message-search";
    }

    private void fill(Asked asked, String before, Model model) {
        model.addAttribute("refusal", "");
        model.addAttribute("rows", List.of());
        model.addAttribute("next", "");
        model.addAttribute("waiting", asked.q().isEmpty() ? "" : waiting(store.notFindableYet(COUNTED + 1)));
        model.addAttribute("here", asked.address("/messages/search"));
        model.addAttribute("csv", asked.address("/messages/search.csv"));
        model.addAttribute("mendAll", asked.address("/messages/mend"));
        model.addAttribute("countLink", asked.address("/messages/search/count"));
        try {
            var query = queries.of(asked.parameters());
            var place = MessageId.parse(before).orElse(MessageId.NEWEST);
            var found = store.page(query, place, PAGE + 1);
            model.addAttribute("rows", found.stream().limit(PAGE).map(this::row).toList());
            if (found.size() > PAGE) {
                var last = found.get(PAGE - 1).line().id().toString();
                model.addAttribute(
                        "next",
                        UriComponentsBuilder.fromUriString(asked.address("/messages/search"))
                                .queryParam("before", last)
                                .build()
                                .toUriString());
            }
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("refusal", wrong.getMessage());
        }
    }

    /** What a search for words must say while some are not in its index: that something is missing may be no answer. */
    private static String waiting(long messages) {
        if (messages == 0) return "";
        if (messages == 1) return "One message that came just now cannot be found by its words yet.";
        return (messages > COUNTED ? "More than %,d messages".formatted(COUNTED) : "%,d messages".formatted(messages))
                + " that came just now cannot be found by their words yet.";
    }

    private void fillForm(Asked asked, Model model) {
        model.addAttribute("interfaces", estate.interfaces());
        model.addAttribute("rules", rules.current().rules());
        model.addAttribute("states", MessageQuery.State.values());
        model.addAttribute(
                "familyWords",
                asked.family().matches("\\d{1,18}") ? families.firstLineOf(Long.parseLong(asked.family())) : "");
        model.addAttribute(
                "saved",
                saved.all().stream()
                        .map(one -> new SavedRow(
                                one.id(),
                                one.name(),
                                queries.address(one.asks()),
                                one.measure() == null ? "" : one.measure()))
                        .toList());
    }

    private Row row(SearchStore.Found found) {
        var line = found.line();
        var masking = masks.on(line.component());
        var rule = found.rule() == null ? null : rules.byId(found.rule());
        return new Row(
                line.id().toString(),
                times.of(line.at()),
                estate.component(line.component()).name(),
                masking.text(line.businessKey()).text(),
                masking.text(line.step()).text(),
                masking.text(line.firstLine()).text(),
                rule == null ? "not sorted yet" : rule.name(),
                found.open() && rule != null ? rule.severity().word() : "steady",
                stateWords(found));
    }

    private static String stateWords(SearchStore.Found found) {
        return (found.open()
                        ? MessageQuery.State.OPEN
                        : found.dealt() ? MessageQuery.State.DEALT : MessageQuery.State.COUNTED)
                .words();
    }

    /** How many there are: asked for after the page is there, since counting may take longer than looking. */
    @GetMapping("/messages/search/count")
    String count(@ModelAttribute("asked") Asked asked, Model model) {
        long count;
        try {
            count = store.count(queries.of(asked.parameters()), COUNTED + 1);
        } catch (IllegalArgumentException wrong) {
            count = 0;
        }
        model.addAttribute(
                "words", count > COUNTED ? "more than %,d found".formatted(COUNTED) : "%,d found".formatted(count));
        return "search-parts :: count";
    }

    @GetMapping("/messages/search.csv")
    void csv(@ModelAttribute("asked") Asked asked, HttpServletResponse response) throws IOException {
        MessageQuery query;
        try {
            query = queries.of(asked.parameters());
        } catch (IllegalArgumentException wrong) {
            response.sendError(HttpStatus.BAD_REQUEST.value(), wrong.getMessage());
            return;
        }
        response.setContentType("text/csv; charset=UTF-8");
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"failed-messages.csv\"");
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        try (var out = new Csv(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8))) {
            out.line("failed at", "interface", "business key", "step", "sorted as", "state", "error");
            store.each(query, MOST_IN_FILE, found -> print(found, out));
        }
    }

    private void print(SearchStore.Found found, Csv out) {
        var line = found.line();
        var masking = masks.on(line.component());
        out.line(
                line.at(),
                estate.component(line.component()).name(),
                masking.text(line.businessKey()).text(),
                masking.text(line.step()).text(),
                found.rule() == null ? "" : rules.byId(found.rule()).name(),
                stateWords(found),
                masking.text(line.error()).text());
    }

    @PostMapping("/messages/searches")
    String save(
            @ModelAttribute("asked") Asked asked,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(defaultValue = "") String counted,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            saved.save(name, queries.of(asked.parameters()), asked.interfaceKey(), counted.equals("yes"), by);
            return "redirect:" + asked.address("/messages/search");
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            fill(asked, "", model);
            fillForm(asked, model);
            model.addAttribute("savingRefused", wrong.getMessage());
            model.addAttribute("typedName", name);
            return "message-search";
        }
    }

    @PostMapping("/messages/searches/{id:\\d+}/delete")
    String delete(@PathVariable long id, @AuthenticationPrincipal Person by) {
        saved.delete(id, by);
        return "redirect:/messages/search";
    }
}
