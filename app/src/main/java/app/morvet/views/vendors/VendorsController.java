package app.morvet.views.vendors;

import app.morvet.alerting.windows.VendorWork;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.tickets.VendorTickets;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** Vendors and their instances. */
@Controller
class VendorsController {
    /** A version of a bulletin, as it is shown. */
    record VersionRow(String at, String title, String text, String when, boolean over) {}

    record TicketRow(String at, String subject, String state) {}

    private final Vendors vendors;
    private final VendorView view;
    private final VendorPicture picture;
    private final VendorWork work;
    private final VendorTickets tickets;
    private final Estate estate;
    private final Times times;

    VendorsController(
            Vendors vendors,
            VendorView view,
            VendorPicture picture,
            VendorWork work,
            VendorTickets tickets,
            Estate estate,
            Times times) {
        this.vendors = vendors;
        this.view = view;
        this.picture = picture;
        this.work = work;
        this.tickets = tickets;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/vendors")
    String list(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        model.addAttribute("rows", view.rows());
        return "vendor-rows".equals(target) ? "vendor-parts :: rows" : "vendors";
    }

    @GetMapping("/vendors/{key}")
    String one(
            @PathVariable String key,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        return page(key, null, "vendor-one".equals(target) ? "vendor-parts :: one" : "vendor", model);
    }

    private String page(String key, @Nullable String refusal, String template, Model model) {
        var component = find(key);
        var instance = instance(component);
        model.addAttribute("one", component);
        model.addAttribute("instance", instance);
        model.addAttribute("told", Spans.wordsOrNone(instance.told()));
        model.addAttribute("refusal", refusal);
        model.addAttribute(
                "runsIn",
                estate.applicationOf(component).map(Estate.Application::name).orElse("not assigned"));
        model.addAttribute("picture", picture.of(component.id()));
        model.addAttribute("against", view.against(component.id()));
        model.addAttribute("bulletins", view.bulletins(component.id()));
        model.addAttribute("feeds", view.feeds(component.id()));
        model.addAttribute("evidence", view.evidence(component));
        model.addAttribute("through", tickets.through());
        model.addAttribute(
                "tickets",
                tickets.of(component.id()).stream()
                        .map(it -> new TicketRow(
                                times.of(it.madeAt()),
                                it.subject(),
                                it.state().words() + (it.lastError().isEmpty() ? "" : ": " + it.lastError())))
                        .toList());
        model.addAttribute("months", view.months(instance));
        model.addAttribute("needing", estate.needing(component.id()));
        model.addAttribute("beside", view.casesBeside(component.id()));
        return template;
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }

    /** One that nothing is agreed of yet is shown all the same. */
    private VendorInstance instance(Estate.Component one) {
        if (!one.kind().equals(Vendors.KIND))
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, one.name() + " is no vendor instance.");
        return vendors.instance(one.id())
                .orElseGet(() -> new VendorInstance(one.id(), one.name(), 0, "", false, null, 0));
    }

    @GetMapping("/vendors/{key}/bulletins/{id:\\d{1,18}}")
    String bulletin(@PathVariable String key, @PathVariable long id, Model model) {
        find(key);
        model.addAttribute(
                "versions",
                vendors.versions(id).stream()
                        .map(one -> new VersionRow(
                                times.of(one.at()),
                                one.title(),
                                one.text(),
                                one.from() == null
                                        ? ""
                                        : one.to() == null
                                                ? "from " + times.of(one.from())
                                                : times.span(one.from(), one.to()),
                                one.over()))
                        .toList());
        return "vendor-parts :: versions";
    }

    @PostMapping("/vendors/{key}/work/{id:\\d{1,18}}")
    String decide(
            @PathVariable String key,
            @PathVariable long id,
            @RequestParam boolean accept,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            if (accept) work.accept(id, by);
            else work.decline(id, by);
            return "redirect:/vendors/" + key;
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, Sentence.of(refused), "vendor", model);
        }
    }

    @PostMapping("/vendors/{key}/ticket")
    String ticket(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String subject,
            @RequestParam(defaultValue = "") String text,
            @RequestParam(defaultValue = "0") long through,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            tickets.send(find(key).id(), subject, text, through, by);
            return "redirect:/vendors/" + key;
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, Sentence.of(refused), "vendor", model);
        }
    }

    @PostMapping("/vendors/{key}/agreed")
    String agreed(
            @PathVariable String key,
            @RequestParam(defaultValue = "") String vendor,
            @RequestParam(defaultValue = "") String agreed,
            @RequestParam(defaultValue = "") String mail,
            @RequestParam(defaultValue = "false") boolean byItself,
            @RequestParam(defaultValue = "") String told,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            var typed = agreed.strip().replace(',', '.');
            if (!typed.matches("\\d{0,3}(\\.\\d{1,3})?"))
                throw new IllegalArgumentException("what is agreed is a share such as 99.5, was \"" + agreed + "\"");
            vendors.keep(
                    new VendorInstance(
                            find(key).id(),
                            vendor.strip(),
                            typed.isEmpty() ? 0 : Double.parseDouble(typed),
                            mail.strip(),
                            byItself,
                            Spans.readOrNone(told),
                            version),
                    by);
            return "redirect:/vendors/" + key;
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(key, Sentence.of(refused), "vendor", model);
        }
    }
}
