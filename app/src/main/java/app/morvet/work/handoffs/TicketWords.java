package app.morvet.work.handoffs;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.messages.Evidence;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageStore;
import app.morvet.work.cases.CaseFacts;
import app.morvet.work.cases.WorkCase;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What a ticket says of a case: in words, and as the values that a desk's template names. */
@Component
public class TicketWords {
    /** What a template may name. */
    static final Set<String> VARIABLES = Set.of(
            "title",
            "story",
            "team",
            "teamKey",
            "application",
            "tier",
            "interface",
            "severity",
            "failures",
            "facts",
            "first",
            "last",
            "samples",
            "families",
            "attachments",
            "case",
            "link",
            "callback",
            "key",
            "by");

    private static final int OUTPUT_LINES = 15;
    private static final int SAMPLE_LENGTH = 4000;
    private static final int FAMILIES = 5;
    private static final int PAYLOADS = 50;

    private final CaseFacts facts;
    private final Estate estate;
    private final MessageStore messages;
    private final Families families;
    private final Evidence evidence;
    private final Masks masks;
    private final Runs runs;
    private final MorvetSettings settings;
    private final Times times;

    TicketWords(
            CaseFacts facts,
            Estate estate,
            MessageStore messages,
            Families families,
            Evidence evidence,
            Masks masks,
            Runs runs,
            MorvetSettings settings,
            Times times) {
        this.facts = facts;
        this.estate = estate;
        this.messages = messages;
        this.families = families;
        this.evidence = evidence;
        this.masks = masks;
        this.runs = runs;
        this.settings = settings;
        this.times = times;
    }

    /** What happened, in words, to begin the form with. */
    public String story(WorkCase one) {
        var subject = estate.component(one.component());
        var samples = samples(one);
        var text = new StringBuilder(one.headline()).append(".\n\n").append(subject.name());
        for (var fact : facts.of(one, times::exact))
            text.append("\n").append(fact.name()).append(": ").append(fact.words());
        text.append(" (").append(times.zoneName()).append(").");
        var shares = families(one);
        if (shares.size() > 1) text.append("\n");
        if (shares.size() > 1)
            shares.forEach(share ->
                    text.append("\n").append(share.count()).append(" times: ").append(share.words()));
        if (!samples.isEmpty()) {
            var last = samples.getLast().line();
            var masking = masks.on(last.component());
            text.append("\n\nThe latest: ")
                    .append(masking.text(last.businessKey()).text())
                    .append(" at step \"")
                    .append(masking.text(last.step()).text())
                    .append("\": ")
                    .append(masking.text(last.firstLine()).text());
        }
        output(one).ifPresent(tail -> text.append("\n\nThe end of what the last run wrote:\n")
                .append(tail));
        return text.toString();
    }

    /** Of a case about a job: a word that it failed without what it said helps nobody. */
    private Optional<String> output(WorkCase one) {
        return runs.latest(one.component(), times.now().plusSeconds(600), 3).stream()
                .flatMap(run -> runs.output(run).stream())
                .findFirst()
                .map(output -> {
                    var lines = output.text().lines().toList();
                    return String.join("\n", lines.subList(Math.max(0, lines.size() - OUTPUT_LINES), lines.size()));
                });
    }

    private static Instant end(WorkCase one) {
        return one.overSince() == null ? one.lastSeen() : one.overSince();
    }

    List<MessageStore.Whole> samples(WorkCase one) {
        return messages.samples(one.scope(), one.firstSeen(), end(one));
    }

    private List<Families.Share> families(WorkCase one) {
        if (one.failures() == 0) return List.of();
        return families.shares(one.scope(), one.firstSeen(), end(one), FAMILIES);
    }

    /** What varies as a table, and payloads as a bundle; base64, as JSON carries bytes (RFC 4648). */
    private List<Map<String, Object>> attachments(WorkCase one) {
        var ids = one.failures() == 0
                ? List.<MessageId>of()
                : messages.ids(one.scope(), one.firstSeen(), end(one), Evidence.MOST_ROWS);
        if (ids.isEmpty()) return List.of();
        return List.of(
                attachment("varying-values.csv", "text/csv", evidence.values(ids)),
                attachment("payloads.zip", "application/zip", evidence.payloads(ids.reversed(), PAYLOADS)));
    }

    private static Map<String, Object> attachment(String name, String type, byte[] content) {
        return Map.of("name", name, "type", type, "content", Base64.getEncoder().encodeToString(content));
    }

    Map<String, Object> values(
            WorkCase one,
            DeskConnection desk,
            Estate.Team team,
            String title,
            String story,
            @Nullable Person by,
            UUID id) {
        var subject = estate.component(one.component());
        var values = new LinkedHashMap<String, Object>();
        values.put("title", title);
        values.put("story", story);
        values.put("team", team.name());
        values.put("teamKey", team.key());
        values.put(
                "application",
                estate.applicationOf(subject).map(Estate.Application::name).orElse("not assigned"));
        values.put("tier", estate.tierOf(subject).number());
        values.put("interface", subject.name());
        values.put("severity", one.severity().word());
        var told = facts.of(one, times::exact);
        // A count belongs to failed messages alone; where there are none it is left empty.
        if (told.stream().anyMatch(fact -> fact.name().equals("Failed"))) values.put("failures", one.failures());
        values.put("facts", CaseFacts.line(told) + " (" + times.zoneName() + ")");
        values.put("first", one.firstSeen().toString());
        values.put("last", one.lastSeen().toString());
        values.put("samples", sampleValues(one));
        values.put(
                "families",
                families(one).stream()
                        .map(share -> Map.<String, Object>of("error", share.words(), "failures", share.count()))
                        .toList());
        if (desk.template().contains("attachments")) values.put("attachments", attachments(one));
        values.put("case", one.id());
        values.put("link", settings.link("/cases/" + one.id()));
        values.put("callback", settings.link("/api/v1/tickets/" + desk.key()));
        values.put("key", id.toString());
        values.put("by", by == null ? "Morvet, by a rule" : by.name());
        return values;
    }

    private List<Map<String, Object>> sampleValues(WorkCase one) {
        var list = new ArrayList<Map<String, Object>>();
        for (var sample : samples(one)) {
            var line = sample.line();
            var masking = masks.on(line.component());
            var value = new LinkedHashMap<String, Object>();
            value.put("at", line.at().toString());
            value.put("businessKey", masking.text(line.businessKey()).text());
            value.put("step", masking.text(line.step()).text());
            value.put("error", cut(masking.text(line.error()).text()));
            value.put("attributes", masking.attributes(sample.attributes()));
            value.put(
                    "payload",
                    cut(masking.payload(sample.payloadType(), sample.payload()).text()));
            list.add(value);
        }
        return list;
    }

    private static String cut(String text) {
        return text.length() <= SAMPLE_LENGTH ? text : text.substring(0, SAMPLE_LENGTH) + "…";
    }
}
