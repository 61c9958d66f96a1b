package app.morvet.standins.rooms;

import app.morvet.standins.StandInSettings;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
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
import tools.jackson.databind.json.JsonMapper;

/** Where the chat and the paging service are called, and the page that shows both. */
@Controller
class RoomsController {
    private static final JsonMapper JSON = new JsonMapper();

    private final Rooms rooms;
    private final StandInSettings settings;
    private final HttpClient client =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(3)).build();

    RoomsController(Rooms rooms, StandInSettings settings) {
        this.rooms = rooms;
        this.settings = settings;
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

    /** Somebody says that they have it, and the service tells Morvet. */
    @PostMapping("/paging/items/{id}/take")
    String take(@PathVariable String id, @RequestParam String by) throws IOException, InterruptedException {
        var said = JSON.writeValueAsString(Map.of("id", id, "answer", "take", "by", by));
        var answer = client.send(
                HttpRequest.newBuilder(settings.morvet().resolve("/api/v1/answers/paging"))
                        .header("Content-Type", "application/json")
                        .header("Authorization", "Bearer " + settings.deskSecret())
                        .POST(HttpRequest.BodyPublishers.ofString(said))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        rooms.answered(id, answer.statusCode() == 200 ? "taken by " + by : "not taken: " + answer.body());
        return "redirect:/rooms";
    }

    @PostMapping("/rooms/down")
    String down(@RequestParam boolean down) {
        rooms.down(down);
        return "redirect:/rooms";
    }
}
