package app.morvet.alerting.windows;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.ScopeJson;
import app.morvet.sources.intake.Door;
import java.time.Duration;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Where deployment tools open windows ({@code POST /api/v1/windows}), extend and end them, by names of their own; and where the
 * calendar of all windows is read as iCalendar.
 */
@RestController
class WindowsApi {
    private static final int LONGEST_BODY = 20_000;
    private static final int LONGEST_NAME = 100;
    private static final String WHENCE = "a lead makes one under Windows, Keys";

    private final WindowKeys keys;
    private final OpenedWindows opened;
    private final WindowCalendar calendar;
    private final MorvetSettings settings;
    private final JsonMapper json;

    WindowsApi(
            WindowKeys keys, OpenedWindows opened, WindowCalendar calendar, MorvetSettings settings, JsonMapper json) {
        this.keys = keys;
        this.opened = opened;
        this.calendar = calendar;
        this.settings = settings;
        this.json = json;
    }

    private WindowKeys.@Nullable Key key(String authorization) {
        if (!authorization.startsWith("Bearer ")) return null;
        return keys.find(authorization.substring(7).strip())
                .filter(WindowKeys.Key::opens)
                .orElse(null);
    }

    /** Opens one; the same {@code id} again gives the one that was opened, and opens no other. */
    @PostMapping("/api/v1/windows")
    ResponseEntity<?> open(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @RequestBody(required = false) @Nullable String body) {
        var key = key(authorization);
        if (key == null) return Door.unknown(WHENCE);
        try {
            var asked = read(body);
            var id = text(asked, "id");
            if (id.isEmpty() || id.length() > LONGEST_NAME)
                throw new IllegalArgumentException("id is the tool's own name of the window, 1 to 100 letters");
            var done = opened.open(
                    key,
                    id,
                    text(asked, "name"),
                    scope(asked),
                    minutes(asked),
                    effect(text(asked, "effect")),
                    text(asked, "reason"));
            return ResponseEntity.status(done.fresh() ? HttpStatus.CREATED : HttpStatus.OK)
                    .body(shown(id, done.window()));
        } catch (JacksonException unreadable) {
            return Door.unreadable(unreadable);
        } catch (IllegalArgumentException wrong) {
            return refused(wrong);
        }
    }

    private JsonNode read(@Nullable String body) {
        if (body == null || body.length() > LONGEST_BODY)
            throw new IllegalArgumentException("the body is a JSON object of at most 20,000 letters");
        var asked = json.readTree(body);
        if (!asked.isObject()) throw new IllegalArgumentException("the body is a JSON object");
        return asked;
    }

    private static String text(JsonNode node, String name) {
        var value = node.get(name);
        if (value == null || value.isNull()) return "";
        if (!value.isString()) throw new IllegalArgumentException(name + " is a text");
        return value.stringValue().strip();
    }

    private static Duration minutes(JsonNode node) {
        var value = node.get("minutes");
        if (value == null || !value.isIntegralNumber() || !value.canConvertToInt() || value.intValue() < 1)
            throw new IllegalArgumentException("minutes is a whole number, 1 or more");
        return Duration.ofMinutes(value.intValue());
    }

    /** One component with all that stands on it, or a part of the estate. */
    private static Scope scope(JsonNode node) {
        var component = text(node, "component");
        var over = node.get("over");
        if (component.isEmpty() == (over == null))
            throw new IllegalArgumentException("say component, or over; one of the two");
        if (!component.isEmpty()) {
            if (component.indexOf('*') >= 0)
                throw new IllegalArgumentException("component is one key; patterns go into over");
            return Scope.ALL.named(component).withAllOnIt();
        }
        if (!over.isObject()) throw new IllegalArgumentException("over is an object such as {\"application\": \"…\"}");
        return ScopeJson.read(over);
    }

    private static MaintenanceWindow.Effect effect(String word) {
        return switch (word.toLowerCase(Locale.ROOT)) {
            case "", "hold" -> MaintenanceWindow.Effect.HOLD;
            case "pause" -> MaintenanceWindow.Effect.PAUSE;
            default -> throw new IllegalArgumentException("effect is hold or pause, was " + word);
        };
    }

    @PostMapping("/api/v1/windows/{id}/extend")
    ResponseEntity<?> extend(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @PathVariable String id,
            @RequestBody(required = false) @Nullable String body) {
        var key = key(authorization);
        if (key == null) return Door.unknown(WHENCE);
        var one = opened.find(key, id).orElse(null);
        if (one == null) return missing(id);
        try {
            return ResponseEntity.ok(shown(id, opened.extend(key, one, minutes(read(body)))));
        } catch (JacksonException unreadable) {
            return Door.unreadable(unreadable);
        } catch (IllegalArgumentException wrong) {
            return refused(wrong);
        } catch (Windows.Overtaken overtaken) {
            return Door.refuse(HttpStatus.CONFLICT, "Changed meanwhile", String.valueOf(overtaken.getMessage()));
        }
    }

    @PostMapping("/api/v1/windows/{id}/end")
    ResponseEntity<?> end(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @PathVariable String id) {
        var key = key(authorization);
        if (key == null) return Door.unknown(WHENCE);
        var one = opened.find(key, id).orElse(null);
        if (one == null) return missing(id);
        try {
            return ResponseEntity.ok(shown(id, opened.end(one)));
        } catch (Windows.Overtaken overtaken) {
            return Door.refuse(HttpStatus.CONFLICT, "Changed meanwhile", String.valueOf(overtaken.getMessage()));
        }
    }

    @GetMapping("/api/v1/windows/{id}")
    ResponseEntity<?> one(
            @RequestHeader(name = HttpHeaders.AUTHORIZATION, defaultValue = "") String authorization,
            @PathVariable String id) {
        var key = key(authorization);
        if (key == null) return Door.unknown(WHENCE);
        return opened.find(key, id)
                .<ResponseEntity<?>>map(one -> ResponseEntity.ok(shown(id, one)))
                .orElseGet(() -> missing(id));
    }

    /** The calendar of all windows, for calendars that fetch it by its address. */
    @GetMapping(path = "/api/v1/windows.ics")
    ResponseEntity<?> calendar(@RequestParam(defaultValue = "") String key) {
        if (keys.find(key).isEmpty()) return Door.unknown(WHENCE);
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/calendar;charset=UTF-8"))
                .body(calendar.text());
    }

    private Map<String, Object> shown(String id, StoredWindow one) {
        var span = OpenedWindows.span(one);
        var shown = new TreeMap<String, Object>();
        shown.put("id", id);
        shown.put("name", one.window().name());
        shown.put("from", span.from().toString());
        shown.put("to", span.to().toString());
        shown.put("page", settings.address() + "/windows/" + one.id());
        return shown;
    }

    private static ResponseEntity<?> missing(String id) {
        return Door.refuse(
                HttpStatus.NOT_FOUND, "No such window", "With this key no window \"%s\" was opened.".formatted(id));
    }

    private static ResponseEntity<?> refused(IllegalArgumentException wrong) {
        return Door.refuse(HttpStatus.UNPROCESSABLE_CONTENT, "Not opened", Sentence.of(wrong));
    }
}
