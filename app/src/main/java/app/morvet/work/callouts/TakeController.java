package app.morvet.work.callouts;

import app.morvet.ground.base.Sentence;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.Overtaken;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Where a link in a mail leads. To open it does nothing: what reads mails for viruses opens links, too. */
@Controller
class TakeController {
    private final TakeLinks links;
    private final Times times;

    TakeController(TakeLinks links, Times times) {
        this.links = links;
        this.times = times;
    }

    @GetMapping("/take/{code}")
    String look(@PathVariable String code, HttpServletResponse response, Model model) {
        return page(code, null, response, model);
    }

    private String page(String code, @Nullable String refusal, HttpServletResponse response, Model model) {
        response.setHeader("Cache-Control", "no-store");
        response.setHeader("Referrer-Policy", "no-referrer");
        var open = links.find(code).orElse(null);
        if (open == null) response.setStatus(HttpStatus.NOT_FOUND.value());
        model.addAttribute("open", open);
        model.addAttribute("refusal", refusal);
        model.addAttribute("code", code);
        if (open != null) {
            var one = open.about();
            model.addAttribute("headline", one.headline());
            model.addAttribute("number", one.id());
            model.addAttribute("who", open.who().name());
            model.addAttribute("since", times.of(one.firstSeen()));
            model.addAttribute("over", one.settled() || one.overSince() != null);
            model.addAttribute("mine", open.who().id() == mine(one.progress().takenBy()));
            model.addAttribute("free", !open.answered() && !one.settled() && CaseAnswers.isFree(one));
            model.addAttribute("answered", open.answered());
        }
        return "take";
    }

    private static long mine(@Nullable Long takenBy) {
        return takenBy == null ? 0 : takenBy;
    }

    @PostMapping("/take/{code}")
    String answer(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String answer,
            HttpServletResponse response,
            Model model) {
        try {
            links.answer(code, answer);
            return "redirect:/take/" + code;
        } catch (Overtaken meanwhile) {
            return page(code, String.valueOf(meanwhile.getMessage()), response, model);
        } catch (IllegalArgumentException refused) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(code, Sentence.of(refused), response, model);
        }
    }
}
