package app.morvet.work.cases;

import app.morvet.ground.access.Person;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** A list of cases is kept under a name, or not any more. */
@Controller
class CaseFiltersController {
    private final CaseFilters filters;
    private final CaseLists lists;

    CaseFiltersController(CaseFilters filters, CaseLists lists) {
        this.filters = filters;
        this.lists = lists;
    }

    @PostMapping("/cases/filters")
    String keep(
            @ModelAttribute CaseLists.Asked typed,
            @RequestParam(defaultValue = "") String name,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var asked = lists.understood(typed);
        try {
            filters.keep(by.id(), name, CaseLists.address(asked));
            return "redirect:" + CaseLists.address(asked);
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            lists.fill(asked, 0, "", by, model);
            model.addAttribute("selected", 0L);
            model.addAttribute("refusal", wrong.getMessage());
            return "cases";
        }
    }

    @PostMapping("/cases/filters/drop")
    String drop(@RequestParam(defaultValue = "") String name, @AuthenticationPrincipal Person by) {
        filters.drop(by.id(), name);
        return "redirect:/cases";
    }
}
