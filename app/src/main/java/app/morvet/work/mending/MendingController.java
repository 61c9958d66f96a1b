package app.morvet.work.mending;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Evidence;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.MessageQueries;
import app.morvet.sources.messages.SearchStore;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.work.cases.CaseBook;
import jakarta.servlet.http.HttpServletResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What to do with some failed messages: what they are, how to fix them, and the acts, all on one page. */
@Controller
class MendingController {
    private static final int GROUPS = 12;
    private static final int FIXES = 3;
    private static final int PAYLOADS = 200;
    private static final int USUAL_RATE = 60;

    /** Failed messages of one family on one interface. */
    record GroupRow(
            String interfaceName,
            String interfaceKey,
            long family,
            String familyWords,
            String rule,
            String mark,
            long messages,
            long open,
            long sendable,
            String first,
            String last,
            long caseId,
            String caseWords) {}

    record Fix(String rule, String html) {}

    /** What was typed into the forms of the page. */
    record Typed(String reason, String note, String rate, boolean dealtToo) {
        static final Typed NOTHING = new Typed(SettleReason.MENDED.name(), "", String.valueOf(USUAL_RATE), false);
    }

    private final DealingStore store;
    private final Dealings dealings;
    private final Sendings sendings;
    private final MessageQueries queries;
    private final SearchStore search;
    private final Evidence evidence;
    private final CaseBook cases;
    private final Families families;
    private final SortingRules rules;
    private final Estate estate;
    private final FixNotes fixNotes;
    private final Times times;

    MendingController(
            DealingStore store,
            Dealings dealings,
            Sendings sendings,
            MessageQueries queries,
            SearchStore search,
            Evidence evidence,
            CaseBook cases,
            Families families,
            SortingRules rules,
            Estate estate,
            FixNotes fixNotes,
            Times times) {
        this.store = store;
        this.dealings = dealings;
        this.sendings = sendings;
        this.queries = queries;
        this.search = search;
        this.evidence = evidence;
        this.cases = cases;
        this.families = families;
        this.rules = rules;
        this.estate = estate;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    @GetMapping("/messages/mend")
    String mend(@RequestParam MultiValueMap<String, String> asked, HttpServletResponse response, Model model) {
        return page(asked, Typed.NOTHING, Map.of(), response, model);
    }

    private String page(
            MultiValueMap<String, String> asked,
            Typed typed,
            Map<String, String> errors,
            HttpServletResponse response,
            Model model) {
        model.addAttribute("typed", typed);
        model.addAttribute("errors", errors);
        model.addAttribute("reasons", SettleReason.choices());
        if (!errors.isEmpty()) response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        Selection selection;
        try {
            selection = selection(asked);
        } catch (IllegalArgumentException wrong) {
            model.addAttribute("errors", Map.of("", String.valueOf(wrong.getMessage())));
            model.addAttribute("groups", List.of());
            model.addAttribute("chosen", Map.of());
            return "mend";
        }
        var groups = store.groups(selection.messages());
        model.addAttribute("chosen", selection.parameters());
        var open = cases.openByFamily();
        model.addAttribute(
                "groups",
                groups.stream().limit(GROUPS).map(one -> row(one, open)).toList());
        model.addAttribute("moreGroups", Math.max(0, groups.size() - GROUPS));
        model.addAttribute("all", sum(groups, DealingStore.Group::messages));
        model.addAttribute("open", sum(groups, DealingStore.Group::open));
        model.addAttribute("sendable", sum(groups, DealingStore.Group::sendable));
        model.addAttribute("openSendable", sum(groups, DealingStore.Group::openSendable));
        model.addAttribute("cutOff", selection.more());
        model.addAttribute("headline", headline(groups));
        model.addAttribute("fixes", fixes(groups));
        model.addAttribute("oneGroup", groups.size() == 1 && groups.getFirst().family() != null);
        model.addAttribute("files", address("", selection));
        return "mend";
    }

    private Selection selection(MultiValueMap<String, String> asked) {
        return Selection.of(asked, queries, search);
    }

    private static String address(String path, Selection selection) {
        return org.springframework.web.util.UriComponentsBuilder.fromPath(path)
                .queryParams(selection.parameters())
                .build()
                .encode()
                .toUriString();
    }

    private static long sum(List<DealingStore.Group> groups, java.util.function.ToLongFunction<DealingStore.Group> of) {
        return groups.stream().mapToLong(of).sum();
    }

    private String headline(List<DealingStore.Group> groups) {
        long all = sum(groups, DealingStore.Group::messages);
        var what = all == 1 ? "One failed message" : "%,d failed messages".formatted(all);
        if (groups.isEmpty()) return "Nothing of this kind has failed";
        long onInterfaces = groups.stream()
                .mapToLong(DealingStore.Group::component)
                .distinct()
                .count();
        long ofFamilies =
                groups.stream().map(DealingStore.Group::family).distinct().count();
        return what
                + (onInterfaces == 1
                        ? " on "
                                + estate.component(groups.getFirst().component())
                                        .name()
                        : " on %d interfaces".formatted(onInterfaces))
                + (ofFamilies == 1 ? "" : ", of %d families".formatted(ofFamilies));
    }

    private GroupRow row(DealingStore.Group group, CaseBook.OfFamilies cases) {
        var subject = estate.component(group.component());
        var rule = group.rule() == null ? null : rules.byId(group.rule());
        var family = group.family();
        var open = cases.of(group.component(), family).orElse(null);
        return new GroupRow(
                subject.name(),
                subject.key(),
                family == null ? 0 : family,
                family == null ? "no family yet" : families.firstLineOf(family),
                rule == null ? "not sorted yet" : rule.name(),
                group.open() > 0 && rule != null ? rule.severity().word() : "steady",
                group.messages(),
                group.open(),
                group.sendable(),
                times.of(group.first()),
                times.of(group.last()),
                open == null ? 0 : open.id(),
                open == null ? "" : "case " + open.id() + ", " + open.state().words());
    }

    private List<Fix> fixes(List<DealingStore.Group> groups) {
        return groups.stream()
                .map(DealingStore.Group::rule)
                .filter(Objects::nonNull)
                .distinct()
                .map(rules::byId)
                .filter(rule -> !rule.fixNote().isBlank())
                .limit(FIXES)
                .map(rule -> new Fix(rule.name(), fixNotes.html(rule.fixNote())))
                .toList();
    }

    @PostMapping("/messages/deal")
    String deal(
            @RequestParam MultiValueMap<String, String> asked,
            @RequestParam(defaultValue = "") String reason,
            @RequestParam(defaultValue = "") String note,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            var why = SettleReason.choices().stream()
                    .filter(one -> one.name().equals(reason))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("Choose a reason."));
            var done = dealings.deal(selection(asked).messages(), why, note, by);
            model.addAttribute("dealing", done.dealing());
            model.addAttribute(
                    "said",
                    (done.messages() == 1
                                    ? "One failed message is"
                                    : "%,d failed messages are".formatted(done.messages()))
                            + " dealt with as " + why.words() + ".");
            return "mended";
        } catch (IllegalArgumentException wrong) {
            var typed = new Typed(reason, note, Typed.NOTHING.rate(), false);
            return page(asked, typed, errors("deal", wrong), response, model);
        }
    }

    @PostMapping("/messages/dealings/{id:\\d+}/undo")
    String undo(@PathVariable long id, @AuthenticationPrincipal Person by, HttpServletResponse response, Model model) {
        try {
            long again = dealings.undo(id, by);
            model.addAttribute("said", "%,d failed messages are open again.".formatted(again));
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.CONFLICT.value());
            model.addAttribute("said", wrong.getMessage());
        }
        model.addAttribute("dealing", 0L);
        return "mended";
    }

    @PostMapping("/messages/sendings")
    String send(
            @RequestParam MultiValueMap<String, String> asked,
            @RequestParam(defaultValue = "") String rate,
            @RequestParam(defaultValue = "false") boolean dealtToo,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            if (!rate.strip().matches("\\d{1,5}"))
                throw new IllegalArgumentException("The rate is a whole number a minute, such as 60.");
            var selection = selection(asked);
            var about = headline(store.groups(selection.messages()));
            long run = sendings.start(selection.messages(), dealtToo, about, Integer.parseInt(rate.strip()), by);
            return "redirect:/messages/sendings/" + run;
        } catch (IllegalArgumentException wrong) {
            var typed = new Typed(Typed.NOTHING.reason(), "", rate, dealtToo);
            return page(asked, typed, errors("send", wrong), response, model);
        }
    }

    private static Map<String, String> errors(String where, IllegalArgumentException wrong) {
        var errors = new LinkedHashMap<String, String>();
        errors.put(where, String.valueOf(wrong.getMessage()));
        return errors;
    }

    /** Opens a case about what no alert has opened one for, so that it can be handed off. */
    @PostMapping("/messages/mend/case")
    String openCase(
            @RequestParam MultiValueMap<String, String> asked,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        List<DealingStore.Group> groups;
        try {
            groups = store.groups(selection(asked).messages());
            if (groups.size() != 1 || groups.getFirst().family() == null)
                throw new IllegalArgumentException("Choose messages of one family on one interface.");
        } catch (IllegalArgumentException wrong) {
            return page(asked, Typed.NOTHING, errors("case", wrong), response, model);
        }
        var group = groups.getFirst();
        long family = Objects.requireNonNull(group.family());
        var rule = group.rule() == null ? null : rules.byId(group.rule());
        var what = rule == null || rule.criteria().takesEverything() ? families.firstLineOf(family) : rule.name();
        var headline = "%,d failed on %s: %s"
                .formatted(group.messages(), estate.component(group.component()).name(), what);
        long id = cases.open(
                group.component(),
                family,
                rule == null ? Severity.NOTICE : rule.severity(),
                headline,
                group.first(),
                group.last(),
                group.messages(),
                by,
                times.now());
        return "redirect:/cases/" + id;
    }

    @GetMapping("/messages/mend/values.csv")
    ResponseEntity<byte[]> values(@RequestParam MultiValueMap<String, String> asked) {
        return file("varying-values.csv", "text/csv; charset=UTF-8", evidence.values(chosen(asked)));
    }

    @GetMapping("/messages/mend/payloads.zip")
    ResponseEntity<byte[]> payloads(@RequestParam MultiValueMap<String, String> asked) {
        return file("payloads.zip", "application/zip", evidence.payloads(chosen(asked), PAYLOADS));
    }

    private List<app.morvet.sources.messages.MessageId> chosen(MultiValueMap<String, String> asked) {
        try {
            return selection(asked).messages();
        } catch (IllegalArgumentException wrong) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, wrong.getMessage(), wrong);
        }
    }

    private static ResponseEntity<byte[]> file(String name, String type, byte[] content) {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, type)
                .header(HttpHeaders.CACHE_CONTROL, "no-store")
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment().filename(name).build().toString())
                .body(content);
    }
}
