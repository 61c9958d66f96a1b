package app.morvet.standins.phones;

import app.morvet.standins.phones.Phones.Mood;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The gateway's address for messages, and the page that shows the telephones. */
@Controller
class PhonesController {
    private static final Pattern NUMBER = Pattern.compile("\\+?[0-9][0-9 ]{4,28}");
    private static final Pattern LINK = Pattern.compile("https?://\\S+");
    private static final long SLOW_MS = 3_000;

    record Sent(String to, String text) {}

    record Part(String text, boolean link) {}

    record Row(String at, String to, List<Part> parts) {}

    private final Phones phones;

    PhonesController(Phones phones) {
        this.phones = phones;
    }

    @PostMapping("/phones/api/messages")
    ResponseEntity<Map<String, Object>> take(
            @RequestBody Sent sent, @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key)
            throws InterruptedException {
        var mood = phones.mood();
        if (mood == Mood.DOWN) return answer(HttpStatus.SERVICE_UNAVAILABLE, "error", "the gateway is out of order");
        if (mood == Mood.REFUSES
                || sent.to() == null
                || !NUMBER.matcher(sent.to()).matches())
            return answer(HttpStatus.BAD_REQUEST, "error", "no telephone has this number");
        if (mood == Mood.SLOW) Thread.sleep(SLOW_MS);
        long number = phones.take(sent.to(), sent.text() == null ? "" : sent.text(), key);
        if (mood == Mood.LOSES_ANSWERS)
            return answer(HttpStatus.INTERNAL_SERVER_ERROR, "error", "it was taken, and the answer is lost");
        return answer(HttpStatus.ACCEPTED, "id", number == 0 ? "as before" : "t-" + number);
    }

    private static ResponseEntity<Map<String, Object>> answer(HttpStatus status, String name, Object value) {
        return ResponseEntity.status(status).body(Map.of(name, value));
    }

    @GetMapping("/phones")
    String page(Model model) {
        model.addAttribute("mood", phones.mood().name());
        model.addAttribute("moods", Mood.values());
        model.addAttribute(
                "messages",
                phones.messages().stream()
                        .map(one -> new Row(one.at().toString(), one.to(), parts(one.text())))
                        .toList());
        return "phones";
    }

    private static List<Part> parts(String text) {
        var parts = new ArrayList<Part>();
        var link = LINK.matcher(text);
        int at = 0;
        while (link.find()) {
            parts.add(new Part(text.substring(at, link.start()), false));
            parts.add(new Part(link.group(), true));
            at = link.end();
        }
        parts.add(new Part(text.substring(at), false));
        return parts;
    }

    @PostMapping("/phones/mood")
    String mood(@RequestParam Mood mood) {
        phones.mood(mood);
        return "redirect:/phones";
    }
}
