package app.morvet.sources.messages;

import app.morvet.core.messages.Masking;
import app.morvet.sources.intake.RejectStore;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** What was refused at the door, so that nothing vanishes; what masks hide in messages is hidden in it as well. */
@Controller
class RefusedController {
    private static final int PAGE = 40;
    private static final List<String> TEXTS = List.of("error", "businessKey", "step", "message");

    private final RejectStore rejects;
    private final Masks masks;
    private final JsonMapper json;

    RefusedController(RejectStore rejects, Masks masks, JsonMapper json) {
        this.rejects = rejects;
        this.masks = masks;
        this.json = json;
    }

    @GetMapping("/messages/refused")
    String refused(@RequestParam(defaultValue = "" + Long.MAX_VALUE) long before, Model model) {
        var page = rejects.page(before, PAGE + 1);
        var masking = masks.anywhere();
        model.addAttribute(
                "rejects",
                page.stream().limit(PAGE).map(one -> shown(one, masking)).toList());
        model.addAttribute("next", page.size() > PAGE ? page.get(PAGE - 1).id() : null);
        return "refused";
    }

    private RejectStore.Reject shown(RejectStore.Reject one, Masking masking) {
        if (masking.hidesNothing()) return one;
        return new RejectStore.Reject(
                one.id(),
                one.receivedAt(),
                one.feed(),
                one.place(),
                masking.text(one.eventId()).text(),
                masking.text(one.reason()).text(),
                body(one.body(), masking));
    }

    /** Of what should be an event and cannot be read, nothing is shown: nobody can say what in it is masked. */
    private String body(String sent, Masking masking) {
        if (!sent.stripLeading().startsWith("{")) return masking.text(sent).text();
        try {
            if (json.readTree(sent) instanceof ObjectNode event) {
                if (event.has("data_base64")) event.put("data_base64", Masking.HIDDEN);
                return hidden(event, masking);
            }
        } catch (JacksonException unreadable) {
            // it was cut, being long
        }
        return Masking.HIDDEN;
    }

    /** The payload is masked as what it is, and not as a text within the event. */
    private String hidden(ObjectNode event, Masking masking) {
        if (!(event.get("data") instanceof ObjectNode data))
            return masking.payload("application/json", event.toString()).text();
        hide(data, masking);
        var payload = data.remove("payload");
        var masked = masking.payload("application/json", event.toString()).text();
        if (payload == null || !(json.readTree(masked) instanceof ObjectNode whole)) return masked;
        var type = data.path("payloadType").asString("");
        if (whole.get("data") instanceof ObjectNode shown)
            shown.put("payload", masking.payload(type, payload.asString("")).text());
        return whole.toString();
    }

    private static void hide(ObjectNode data, Masking masking) {
        for (var whole : List.of("payloadBase64", "attachments")) if (data.has(whole)) data.put(whole, Masking.HIDDEN);
        for (var name : TEXTS)
            if (data.has(name))
                data.put(name, masking.text(data.path(name).asString("")).text());
    }
}
