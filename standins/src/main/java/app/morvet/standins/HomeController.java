package app.morvet.standins;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** The way to each stand-in. */
@Controller
class HomeController {
    @GetMapping("/")
    String home() {
        return "home";
    }
}
