package app.morvet.standins.rooms;

import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** Where the chat and the paging service are called, and the page that shows both. */
@Controller
class RoomsController {
    private final Rooms rooms;

    RoomsController(Rooms rooms) {
        this.rooms = rooms;
    }

    @PostMapping("/rooms/api/{room}")
    ResponseEntity<Map<String, String>> say(@PathVariable String room, @RequestBody Map<String, String> sent) {
        if (rooms.down()) return down();
        rooms.say(room, sent.getOrDefault("text", ""));
        return ResponseEntity.ok(Map.of("taken", "yes"));
    }

    @PostMapping("/paging/api/items")
    ResponseEntity<Map<String, String>> add(
            @RequestBody Map<String, String> sent,
            @RequestHeader(name = "Morvet-Signature", defaultValue = "") String signature) {
        if (rooms.down()) return down();
        var item = rooms.add(
                sent.getOrDefault("state", ""),
                sent.getOrDefault("summary", ""),
                sent.getOrDefault("link", ""),
                !signature.isEmpty());
        return ResponseEntity.status(HttpStatus.CREATED).body(Map.of("id", item.id()));
    }

    @PutMapping("/paging/api/items/{id}")
    ResponseEntity<Map<String, String>> change(@PathVariable String id, @RequestBody Map<String, String> sent) {
        if (rooms.down()) return down();
        var item = rooms.change(id, sent.getOrDefault("state", ""), sent.getOrDefault("summary", ""));
        return item == null
                ? ResponseEntity.status(HttpStatus.NOT_FOUND).body(Map.of("error", "there is no item " + id))
                : ResponseEntity.ok(Map.of("id", item.id()));
    }

    private static ResponseEntity<Map<String, String>> down() {
        return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE).body(Map.of("error", "out of order"));
    }

    @GetMapping("/rooms")
    String page(Model model) {
        model.addAttribute("lines", rooms.lines());
        model.addAttribute("items", rooms.items());
        model.addAttribute("down", rooms.down());
        return "rooms";
    }

    @PostMapping("/rooms/down")
    String down(@RequestParam boolean down) {
        rooms.down(down);
        return "redirect:/rooms";
    }
}
