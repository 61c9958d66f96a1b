package app.morvet.standins.desk;

import app.morvet.standins.StandInSettings;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** The desk's API, and the page on which its people work. */
@Controller
class DeskController {
    private final TicketDesk desk;
    private final StandInSettings settings;

    DeskController(TicketDesk desk, StandInSettings settings) {
        this.desk = desk;
        this.settings = settings;
    }

    @PostMapping("/desk/api/tickets")
    @ResponseBody
    ResponseEntity<Map<String, Object>> open(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestHeader(name = "Idempotency-Key", defaultValue = "") String key,
            @RequestBody Map<String, Object> asked) {
        var refusal = refusal(authorization);
        if (refusal != null) return refusal;
        if (!(asked.get("summary") instanceof String summary) || summary.isBlank()) {
            return ResponseEntity.badRequest().body(Map.of("error", "summary is missing"));
        }
        return ResponseEntity.status(201).body(answer(desk.open(key, asked)));
    }

    @GetMapping("/desk/api/tickets/{number}")
    @ResponseBody
    ResponseEntity<Map<String, Object>> read(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @PathVariable String number) {
        var refusal = refusal(authorization);
        if (refusal != null) return refusal;
        return desk.find(number)
                .map(found -> ResponseEntity.ok(answer(found)))
                .orElseGet(() -> ResponseEntity.notFound().build());
    }

    private @org.jspecify.annotations.Nullable ResponseEntity<Map<String, Object>> refusal(String authorization) {
        if (desk.down()) return ResponseEntity.status(503).body(Map.of("error", "the desk is down for maintenance"));
        if (!authorization.equals("Bearer " + settings.deskToken()))
            return ResponseEntity.status(401).body(Map.of("error", "unknown token"));
        return null;
    }

    private static Map<String, Object> answer(Ticket ticket) {
        var inner = new LinkedHashMap<String, Object>();
        inner.put("number", ticket.number());
        inner.put("status", ticket.state());
        inner.put("group", ticket.group());
        inner.put("resolution", Map.of("text", ticket.reason()));
        return Map.of("ticket", inner);
    }

    @PostMapping("/desk/past")
    ResponseEntity<Map<String, Object>> past(
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization,
            @RequestBody List<Ticket> past) {
        var refusal = refusal(authorization);
        if (refusal != null) return refusal;
        desk.recall(past);
        return ResponseEntity.ok(Map.of("tickets", past.size()));
    }

    @GetMapping("/desk")
    String page(Model model) {
        model.addAttribute("tickets", desk.all());
        model.addAttribute("down", desk.down());
        return "desk";
    }

    @GetMapping("/desk/tickets/{number}")
    String one(@PathVariable String number, Model model) {
        model.addAttribute("ticket", desk.find(number).orElseThrow());
        return "ticket";
    }

    /** A file that came with a ticket. */
    @GetMapping("/desk/tickets/{number}/attachments/{name}")
    ResponseEntity<byte[]> attachment(@PathVariable String number, @PathVariable String name) {
        var attached = desk.find(number).map(Ticket::attachments).orElse(null);
        if (attached == null) return ResponseEntity.notFound().build();
        return attached.stream()
                .filter(one -> name.equals(one.get("name")))
                .findFirst()
                .map(one -> ResponseEntity.ok()
                        .header("Content-Type", "application/octet-stream")
                        .header("Content-Disposition", "attachment")
                        .body(java.util.Base64.getDecoder().decode(String.valueOf(one.get("content")))))
                .orElseGet(() -> ResponseEntity.notFound().build());
    }

    @PostMapping("/desk/tickets/{number}")
    String change(
            @PathVariable String number, @RequestParam String state, @RequestParam(defaultValue = "") String reason) {
        desk.change(number, state, reason);
        return "redirect:/desk";
    }

    @PostMapping("/desk/down")
    String down(@RequestParam boolean down) {
        desk.setDown(down);
        return "redirect:/desk";
    }
}
