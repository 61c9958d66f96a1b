package app.morvet.standins.mailbox;

import jakarta.mail.MessagingException;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The page on which the mails can be read, and the switch of the server. */
@Controller
class MailboxController {
    private final Mailbox mailbox;

    MailboxController(Mailbox mailbox) {
        this.mailbox = mailbox;
    }

    @GetMapping("/mailbox")
    String page(Model model) {
        model.addAttribute("mails", mailbox.mails());
        model.addAttribute("on", mailbox.on());
        return "mailbox";
    }

    @PostMapping("/mailbox/reply")
    String reply(@RequestParam String id, @RequestParam String words) throws MessagingException {
        mailbox.reply(id, words);
        return "redirect:/mailbox";
    }

    @PostMapping("/mailbox/on")
    String turn(@RequestParam boolean on) {
        mailbox.turn(on);
        return "redirect:/mailbox";
    }
}
