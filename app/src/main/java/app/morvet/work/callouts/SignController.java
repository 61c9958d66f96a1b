package app.morvet.work.callouts;

import app.morvet.core.callouts.Whom;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.work.channels.Outside;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Setup: to whom a sign of life goes each minute. */
@Controller
class SignController {
    record Choice(String code, String name) {}

    private final SignOfLife sign;
    private final Connections connections;
    private final List<Outside> outside;

    SignController(SignOfLife sign, Connections connections, List<Outside> outside) {
        this.sign = sign;
        this.connections = connections;
        this.outside = outside;
    }

    @GetMapping("/setup/channels/sign")
    String page(Model model) {
        var whom = sign.whom().orElse(null);
        var address = whom instanceof Whom.Address(String mail) ? mail : "";
        return page(
                whom == null ? "" : address.isEmpty() ? whom.code() : CallOutRuleForm.ADDRESS, address, null, model);
    }

    private String page(String chosen, String address, @Nullable String refusal, Model model) {
        model.addAttribute("chosen", chosen);
        model.addAttribute("address", address);
        model.addAttribute("refusal", refusal);
        model.addAttribute(
                "choices",
                outside.stream()
                        .flatMap(kind -> connections.of(kind.kind()).stream())
                        .map(SignController::choice)
                        .toList());
        return "sign-of-life";
    }

    private static Choice choice(Connection one) {
        return new Choice(new Whom.Outside(one.id()).code(), one.name());
    }

    @PostMapping("/setup/channels/sign")
    String save(
            @RequestParam(defaultValue = "") String whom,
            @RequestParam(defaultValue = "") String address,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            sign.set(
                    whom.isEmpty()
                            ? null
                            : whom.equals(CallOutRuleForm.ADDRESS)
                                    ? new Whom.Address(address.strip())
                                    : Whom.read(whom),
                    by);
            return "redirect:/setup/channels/sign?saved";
        } catch (IllegalArgumentException bad) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return page(whom, address, Sentence.of(bad), model);
        }
    }
}
