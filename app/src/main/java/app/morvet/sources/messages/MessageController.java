package app.morvet.sources.messages;

import app.morvet.core.messages.FailedMessage;
import app.morvet.core.messages.Masking;
import app.morvet.core.messages.PayloadText;
import app.morvet.core.messages.PayloadView;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** One failed message: its page, its part in other pages, its downloads, and what uncovers what is hidden in it. */
@Controller
class MessageController {
    /** What is longer is not searched for what is hidden on a request's thread, but asks for the right to uncover. */
    private static final int LONGEST_MASKED = FailedMessage.LONGEST_PAYLOAD;

    private final MessageStore store;
    private final MessageViews views;
    private final Masks masks;
    private final Estate estate;
    private final Audit audit;

    MessageController(MessageStore store, MessageViews views, Masks masks, Estate estate, Audit audit) {
        this.store = store;
        this.views = views;
        this.masks = masks;
        this.estate = estate;
        this.audit = audit;
    }

    @GetMapping("/messages/{id:\\d+-\\d+}")
    String message(
            @PathVariable String id,
            @RequestHeader(name = "HX-Request", required = false) @Nullable String htmx,
            Model model) {
        var found = detail(id);
        model.addAttribute("message", views.of(found, false));
        if (htmx != null) return "message-parts :: message";
        model.addAttribute("around", views.around(found.whole().line()));
        return "message";
    }

    /** Shows what is hidden. Who looked at what is in the audit record before it is shown. */
    @PostMapping("/messages/{id:\\d+-\\d+}/uncovered")
    String uncovered(
            @PathVariable String id, @AuthenticationPrincipal Person by, HttpServletResponse response, Model model) {
        var found = detail(id);
        recordUncovered(found.whole().line(), "message", by);
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        model.addAttribute("message", views.of(found, true));
        return "message-parts :: content";
    }

    @PostMapping("/messages/{id:\\d+-\\d+}/uncovered/payload")
    ResponseEntity<byte[]> uncoveredPayload(@PathVariable String id, @AuthenticationPrincipal Person by) {
        var found = whole(id, Integer.MAX_VALUE);
        recordUncovered(found.whole().line(), "payload", by);
        return payloadOf(found, found.whole().payload());
    }

    @PostMapping("/messages/{id:\\d+-\\d+}/uncovered/attachments")
    ResponseEntity<byte[]> uncoveredAttachment(
            @PathVariable String id, @RequestParam int place, @AuthenticationPrincipal Person by) {
        var line = detail(id).whole().line();
        var one = attachment(line.id(), place);
        recordUncovered(line, "attachment " + one.name(), by);
        return file(one.name(), one.content());
    }

    private void recordUncovered(MessageStore.Line line, String what, Person by) {
        audit.record(
                by,
                "uncovered",
                "message " + line.id(),
                null,
                "%s of %s on %s"
                        .formatted(
                                what,
                                line.businessKey().isEmpty() ? "a message without a key" : line.businessKey(),
                                estate.component(line.component()).name()));
    }

    /** Always a download and never a page, so that a payload with script in it is only ever a file. */
    @GetMapping("/messages/{id:\\d+-\\d+}/payload")
    ResponseEntity<byte[]> payload(@PathVariable String id) {
        var found = whole(id, Integer.MAX_VALUE);
        var masking = masks.on(found.whole().line().component());
        var payload = found.whole().payload();
        if (masking.hidesNothing()) return payloadOf(found, payload);
        if (found.binary() != null) throw notMasked("This payload is no text, so what is masked cannot be taken out.");
        if (payload.length() > LONGEST_MASKED)
            throw notMasked("This payload is longer than what masked fields are taken out of (%,d characters)."
                    .formatted(LONGEST_MASKED));
        return payloadOf(
                found, masking.payload(found.whole().payloadType(), payload).text());
    }

    @GetMapping("/messages/{id:\\d+-\\d+}/attachments/{place:\\d{1,3}}")
    ResponseEntity<byte[]> attachment(@PathVariable String id, @PathVariable int place) {
        var line = detail(id).whole().line();
        var one = attachment(line.id(), place);
        var masking = masks.on(line.component());
        if (masking.hidesNothing()) return file(one.name(), one.content());
        var text = PayloadText.of(one.type(), one.content())
                .filter(read -> read.length() <= LONGEST_MASKED)
                .orElseThrow(() -> notMasked("What is masked cannot be taken out of this attachment."));
        return file(
                masking.text(one.name()).text(),
                masking.payload(one.type(), text).text().getBytes(StandardCharsets.UTF_8));
    }

    private static ResponseStatusException notMasked(String why) {
        return new ResponseStatusException(
                HttpStatus.FORBIDDEN, why + " It takes the right to uncover, and is then noted in the audit record.");
    }

    private FailedMessage.Attachment attachment(MessageId id, int place) {
        return store.attachment(id, place)
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no attachment " + place + "."));
    }

    private ResponseEntity<byte[]> payloadOf(MessageStore.Detail found, String text) {
        var binary = found.binary();
        var ending = binary != null ? ".bin" : Evidence.ending(found.whole().payloadType());
        var key = masks.on(found.whole().line().component())
                .text(found.whole().line().businessKey())
                .text();
        return file(
                (key.isEmpty() ? "payload" : key) + ending,
                binary != null ? binary : text.getBytes(StandardCharsets.UTF_8));
    }

    private static ResponseEntity<byte[]> file(String name, byte[] content) {
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "application/octet-stream")
                .header(HttpHeaders.CACHE_CONTROL, "no-store")
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(name.replaceAll("[^A-Za-z0-9._-]", "-"))
                                .build()
                                .toString())
                .body(content);
    }

    private MessageStore.Detail detail(String id) {
        return whole(id, PayloadView.LONGEST_READ);
    }

    private MessageStore.Detail whole(String id, int longest) {
        return MessageId.parse(id)
                .flatMap(parsed -> store.detail(parsed, longest))
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no failed message " + id + "."));
    }

    static Masking nothingHidden() {
        return Masking.of(java.util.List.of(), "");
    }
}
