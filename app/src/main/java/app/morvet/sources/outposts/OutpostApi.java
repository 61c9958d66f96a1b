package app.morvet.sources.outposts;

import app.morvet.sources.intake.Door;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Optional;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Where outposts come: they fetch their brief at {@code GET /api/v1/outposts/brief}, with its version as the ETag, and tell
 * what they saw by {@code POST /api/v1/outposts/word}; the answer says how far it was taken, which brief they are wanted to
 * have, and what they are to do at once. Nothing ever goes to them but as an answer.
 */
@RestController
class OutpostApi {
    static final String NAME = "X-Outpost";

    private final Outposts outposts;
    private final Briefs briefs;
    private final OutpostIntake intake;
    private final Door door;
    private final JsonMapper json;

    OutpostApi(Outposts outposts, Briefs briefs, OutpostIntake intake, Door door, JsonMapper json) {
        this.outposts = outposts;
        this.briefs = briefs;
        this.intake = intake;
        this.door = door;
        this.json = json;
    }

    @GetMapping("/api/v1/outposts/brief")
    ResponseEntity<?> brief(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestHeader(name = NAME, defaultValue = "") String name,
            @RequestHeader(name = HttpHeaders.IF_NONE_MATCH, defaultValue = "") String had) {
        var outpost = whose(authorization);
        if (outpost.isEmpty()) return Door.unknown("an admin makes one with the outpost, under Services, Outposts");
        if (!outpost.get().name().equals(name)) return elsewhere(name);
        var tag = "\"" + briefs.version(outpost.get()) + "\"";
        if (tag.equals(had))
            return ResponseEntity.status(HttpStatus.NOT_MODIFIED).eTag(tag).build();
        return ResponseEntity.ok()
                .eTag(tag)
                .cacheControl(CacheControl.noStore())
                .body(briefs.whole(outpost.get()));
    }

    @PostMapping("/api/v1/outposts/word")
    ResponseEntity<?> word(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestHeader(name = NAME, defaultValue = "") String name,
            HttpServletRequest request)
            throws IOException {
        var outpost = whose(authorization);
        if (outpost.isEmpty()) return Door.unknown("an admin makes one with the outpost, under Services, Outposts");
        if (!outpost.get().name().equals(name)) return elsewhere(name);
        return door.pass(outpost.get().feed(), request, (feed, body) -> {
            try {
                return ResponseEntity.ok(intake.take(outpost.get(), json.readTree(body)));
            } catch (JacksonException unreadable) {
                return Door.unreadable(unreadable);
            }
        });
    }

    private Optional<Outpost> whose(String authorization) {
        return authorization.startsWith("Bearer ")
                ? outposts.byKey(authorization.substring(7).strip())
                : Optional.empty();
    }

    private static ResponseEntity<?> elsewhere(String name) {
        return Door.refuse(
                HttpStatus.FORBIDDEN,
                "The key of another outpost",
                "This key is not that of \"%s\". Each outpost has a key of its own; set its name and its key together."
                        .formatted(name));
    }
}
