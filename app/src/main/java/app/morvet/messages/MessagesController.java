package app.morvet.messages;

import app.morvet.core.messages.PayloadView;
import app.morvet.estate.Estate;
import app.morvet.intake.RejectStore;
import app.morvet.page.Times;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The Messages place: what each interface carried today, what it could not, and one failed message whole. */
@Controller
class MessagesController {
    private static final int PAGE = 40;

    /**
     * One interface today.
     *
     * @param owner empty while unassigned
     */
    record InterfaceRow(
            String key,
            String name,
            String application,
            String owner,
            long delivered,
            long failed,
            String lastFailed) {}

    record MessageRow(String id, String at, String interfaceName, String businessKey, String step, String firstLine) {}

    record MessageView(
            String id,
            String at,
            String interfaceName,
            String businessKey,
            String step,
            String error,
            Map<String, String> attributes,
            String payloadType,
            PayloadView payload) {}

    private final MessageStore store;
    private final RejectStore rejects;
    private final Estate estate;
    private final Times times;

    MessagesController(MessageStore store, RejectStore rejects, Estate estate, Times times) {
        this.store = store;
        this.rejects = rejects;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/messages")
    String messages(
            @RequestParam(name = "interface", defaultValue = "") String key,
            @RequestParam(defaultValue = "") String before,
            @RequestParam(defaultValue = "") String message,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        var subject = key.isEmpty()
                ? null
                : estate.byKey(key)
                        .orElseThrow(() -> new ResponseStatusException(
                                HttpStatus.NOT_FOUND, "There is no interface " + key + "."));
        fillList(subject, before, model);
        model.addAttribute("open", message.isEmpty() ? null : view(message));
        if ("message-rows".equals(target)) return "message-parts :: rows";
        if ("interface-rows".equals(target)) {
            fillInterfaces(model);
            return "message-parts :: interfaces";
        }
        if ("more".equals(target)) return "message-parts :: more";
        fillInterfaces(model);
        return "messages";
    }

    private void fillList(Estate.@Nullable Component subject, String before, Model model) {
        var place = MessageId.parse(before).orElse(MessageId.NEWEST);
        var lines = store.page(
                subject == null ? MessageScope.ALL : MessageScope.of(subject.id()),
                times.now().minus(Duration.ofDays(90)),
                times.now().plus(Duration.ofHours(1)),
                place,
                PAGE + 1);
        var rows = lines.stream().limit(PAGE).map(this::row).toList();
        model.addAttribute("subject", subject);
        model.addAttribute("rows", rows);
        model.addAttribute("next", lines.size() > PAGE ? rows.getLast().id() : "");
    }

    private void fillInterfaces(Model model) {
        var midnight = times.now()
                .atZone(times.zone())
                .toLocalDate()
                .atStartOfDay(times.zone())
                .toInstant();
        var days = store.today(midnight);
        List<InterfaceRow> rows = estate.interfaces().stream()
                .map(one -> {
                    var day = days.getOrDefault(one.id(), new MessageStore.Today(0, 0, null));
                    return new InterfaceRow(
                            one.key(),
                            one.name(),
                            estate.applicationOf(one)
                                    .map(Estate.Application::name)
                                    .orElse("not assigned"),
                            estate.ownerOf(one).map(Estate.Team::name).orElse(""),
                            day.delivered(),
                            day.failed(),
                            times.of(day.lastFailed()));
                })
                .sorted(Comparator.comparing(InterfaceRow::failed).reversed().thenComparing(InterfaceRow::name))
                .toList();
        model.addAttribute("interfaces", rows);
    }

    private MessageRow row(MessageStore.Line line) {
        return new MessageRow(
                line.id().toString(),
                times.of(line.at()),
                estate.component(line.component()).name(),
                line.businessKey(),
                line.step(),
                line.firstLine());
    }

    @GetMapping("/messages/{id:\\d+-\\d+}")
    String message(@PathVariable String id, Model model) {
        model.addAttribute("message", view(id));
        return "message-parts :: message";
    }

    private MessageView view(String id) {
        var found = whole(id);
        var line = found.line();
        return new MessageView(
                id,
                times.exact(line.at()),
                estate.component(line.component()).name(),
                line.businessKey(),
                line.step(),
                line.error(),
                new java.util.TreeMap<>(found.attributes()),
                found.payloadType(),
                PayloadView.of(found.payloadType(), found.payload()));
    }

    /** Always a download and never a page, so that a payload with script in it is only ever a file. */
    @GetMapping("/messages/{id:\\d+-\\d+}/payload")
    ResponseEntity<byte[]> payload(@PathVariable String id) {
        var found = whole(id);
        var ending = found.payloadType().contains("xml")
                ? "xml"
                : found.payloadType().contains("json")
                        ? "json"
                        : found.payloadType().contains("csv") ? "csv" : "txt";
        var name = found.line().businessKey().replaceAll("[^A-Za-z0-9._-]", "-");
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_TYPE, "application/octet-stream")
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename((name.isEmpty() ? "payload" : name) + "." + ending)
                                .build()
                                .toString())
                .body(found.payload().getBytes(StandardCharsets.UTF_8));
    }

    private MessageStore.Whole whole(String id) {
        return MessageId.parse(id)
                .flatMap(store::message)
                .orElseThrow(() ->
                        new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no failed message " + id + "."));
    }

    @GetMapping("/messages/refused")
    String refused(@RequestParam(defaultValue = "" + Long.MAX_VALUE) long before, Model model) {
        var page = rejects.page(before, PAGE + 1);
        model.addAttribute("rejects", page.stream().limit(PAGE).toList());
        model.addAttribute("next", page.size() > PAGE ? page.get(PAGE - 1).id() : null);
        return "refused";
    }
}
