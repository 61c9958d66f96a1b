package app.morvet.sources.messages;

import app.morvet.core.messages.FailedMessage;
import app.morvet.core.messages.Masking;
import app.morvet.core.messages.PayloadView;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Times;
import app.morvet.sources.sorting.SortingRules;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Failed messages shaped for pages, with what the masks name hidden. */
@Component
public class MessageViews {
    private static final int AROUND = 4;
    private static final int MOST_OF_KEY = 500;
    private static final Duration OF_ONE_KEY = Duration.ofDays(90);

    /**
     * @param after how long after the step before, empty at the first
     */
    record StepRow(String name, String at, String after, String words, boolean failed) {}

    record RepeatRow(String at, String step, String error) {}

    record AttachedRow(int place, String name, String type, String size, boolean covered) {}

    /** A cell or a line in pieces, so that the failing part can be marked. */
    record Cell(List<PayloadView.Piece> pieces) {}

    /**
     * @param covered   whether something may be hidden that the right to uncover would show
     * @param tooLong   whether the payload is shown only in part
     * @param firstLine of the error
     */
    record View(
            String id,
            String at,
            String interfaceName,
            String interfaceKey,
            String businessKey,
            String reference,
            String step,
            String firstLine,
            String error,
            Map<String, String> attributes,
            String payloadType,
            PayloadView payload,
            List<List<Cell>> table,
            boolean covered,
            boolean uncovered,
            boolean downloadable,
            List<StepRow> steps,
            List<RepeatRow> repeats,
            List<AttachedRow> attachments,
            RuleView rule,
            long family,
            String familyWords,
            String state,
            boolean open,
            String note,
            @Nullable Long caseId) {}

    /** The sorting rule that took it; the id is 0 where none did. */
    record RuleView(long id, String name, String mark, String owner, boolean sendAgain, String fixNote) {}

    /**
     * A message in a list.
     *
     * @param here whether it is the one that the page is about
     */
    public record Row(
            String id,
            String at,
            String interfaceName,
            String businessKey,
            String step,
            String firstLine,
            boolean here) {}

    private final MessageStore store;
    private final Families families;
    private final SortingRules rules;
    private final Masks masks;
    private final Estate estate;
    private final FixNotes fixNotes;
    private final Times times;

    MessageViews(
            MessageStore store,
            Families families,
            SortingRules rules,
            Masks masks,
            Estate estate,
            FixNotes fixNotes,
            Times times) {
        this.store = store;
        this.families = families;
        this.rules = rules;
        this.masks = masks;
        this.estate = estate;
        this.fixNotes = fixNotes;
        this.times = times;
    }

    View of(MessageStore.Detail found, boolean uncovered) {
        var whole = found.whole();
        var line = whole.line();
        var subject = estate.component(line.component());
        var masking = uncovered ? MessageController.nothingHidden() : masks.on(subject.key());
        var payload = payload(found, masking);
        var error = masking.text(line.error()).text();
        var family = found.family();
        var dealing = found.dealing();
        return new View(
                line.id().toString(),
                times.exact(line.at()),
                subject.name(),
                subject.key(),
                masking.text(line.businessKey()).text(),
                found.reference(),
                masking.text(line.step()).text(),
                error.lines().filter(one -> !one.isBlank()).findFirst().orElse(""),
                error,
                new TreeMap<>(masking.attributes(whole.attributes())),
                whole.payloadType(),
                payload,
                payload.table().stream()
                        .map(row -> row.stream()
                                .map(cell -> new Cell(PayloadView.pieces(cell)))
                                .toList())
                        .toList(),
                !uncovered && !masking.hidesNothing() && hidesSomething(found, masking, payload),
                uncovered,
                masking.hidesNothing() || found.binary() == null,
                steps(found.steps(), masking),
                store.repeats(line.id()).stream()
                        .map(one -> new RepeatRow(
                                times.exact(one.at()),
                                masking.text(one.step()).text(),
                                masking.text(one.error())
                                        .text()
                                        .lines()
                                        .findFirst()
                                        .orElse("")))
                        .toList(),
                store.attachments(line.id()).stream()
                        .map(one -> new AttachedRow(
                                one.place(),
                                masking.text(one.name()).text(),
                                one.type(),
                                size(one.size()),
                                !masking.hidesNothing()))
                        .toList(),
                rule(found.rule()),
                family == null ? 0 : family,
                family == null ? "" : families.firstLineOf(family),
                state(found),
                found.open(),
                dealing == null ? "" : dealing.note(),
                dealing == null ? null : dealing.caseId());
    }

    private static PayloadView payload(MessageStore.Detail found, Masking masking) {
        var whole = found.whole();
        var binary = found.binary();
        if (binary == null)
            return PayloadView.of(
                    whole.payloadType(),
                    whole.payload(),
                    found.payloadLength(),
                    masking,
                    whole.line().error());
        if (masking.hidesNothing()) return PayloadView.hex(binary);
        return new PayloadView(
                PayloadView.Kind.HEX,
                "",
                List.of(),
                "%,d bytes that are no text. What is masked cannot be found in them, so all of them are hidden."
                        .formatted(binary.length));
    }

    private static boolean hidesSomething(MessageStore.Detail found, Masking masking, PayloadView shown) {
        var whole = found.whole();
        return found.binary() != null
                || shown.remark().contains("hidden")
                || masking.text(whole.line().error()).hidden() > 0
                || masking.attributes(whole.attributes()).containsValue(Masking.HIDDEN)
                || masking.text(whole.line().businessKey() + "\n" + whole.line().step())
                                .hidden()
                        > 0;
    }

    private List<StepRow> steps(List<FailedMessage.Step> steps, Masking masking) {
        var rows = new ArrayList<StepRow>();
        Instant before = null;
        for (var step : steps) {
            rows.add(new StepRow(
                    masking.text(step.name()).text(),
                    times.exact(step.at()).substring(11),
                    before == null ? "" : "+" + span(Duration.between(before, step.at())),
                    masking.text(step.words()).text(),
                    step.failed()));
            before = step.at();
        }
        return rows;
    }

    private static String span(Duration span) {
        return span.toMillis() < 1000
                ? span.toMillis() + " ms"
                : span.toSeconds() < 120
                        ? "%.1f s".formatted(span.toMillis() / 1000.0)
                        : app.morvet.core.guard.Spans.words(Duration.ofMinutes(span.toMinutes()));
    }

    private static String size(long bytes) {
        return bytes < 2048 ? bytes + " bytes" : "%,d KiB".formatted((bytes + 1023) / 1024);
    }

    private RuleView rule(@Nullable Long id) {
        if (id == null) return new RuleView(0, "not sorted yet", "nodata", "", false, "");
        var rule = rules.byId(id);
        return new RuleView(
                id,
                rule.name(),
                rule.alerts() ? rule.severity().word() : "steady",
                rules.owner(rule).map(Estate.Team::name).orElse(""),
                rule.sendAgain(),
                fixNotes.html(rule.fixNote()));
    }

    private String state(MessageStore.Detail found) {
        var dealing = found.dealing();
        var again = found.repeats() == 0
                ? ""
                : found.repeats() == 1
                        ? ", failed again once it was sent again"
                        : ", failed again %d times after it was sent again".formatted(found.repeats());
        if (found.open()) return "Open" + again;
        if (dealing == null) return "Only counted: its sorting rule does not alert" + again;
        var what =
                switch (dealing.kind()) {
                    case "HANDED_OFF" -> "Handed off";
                    case "SENT_AGAIN" -> "Sent again";
                    case "SETTLED" -> "Dealt with when its case was settled";
                    default -> "Dealt with";
                };
        return what + (dealing.reason().isEmpty() ? "" : " as " + dealing.reason()) + " by " + dealing.by() + ", "
                + times.of(dealing.at()) + again;
    }

    /** What failed just before and just after with the same business key, the newest first, this one among it. */
    List<Row> around(MessageStore.Line line) {
        if (line.businessKey().isEmpty()) return List.of();
        var all = store.byKey(
                line.businessKey(), line.at().minus(OF_ONE_KEY), line.at().plus(OF_ONE_KEY), MOST_OF_KEY);
        int here = 0;
        while (here < all.size() && !all.get(here).id().equals(line.id())) here++;
        var near =
                all.subList(Math.max(0, Math.min(here, all.size()) - AROUND), Math.min(all.size(), here + AROUND + 1));
        return near.size() < 2
                ? List.of()
                : near.stream().map(one -> row(one, one.id().equals(line.id()))).toList();
    }

    public Row row(MessageStore.Line line) {
        return row(line, false);
    }

    private Row row(MessageStore.Line line, boolean here) {
        var subject = estate.component(line.component());
        var masking = masks.on(subject.key());
        return new Row(
                line.id().toString(),
                times.of(line.at()),
                subject.name(),
                masking.text(line.businessKey()).text(),
                masking.text(line.step()).text(),
                masking.text(line.firstLine()).text(),
                here);
    }
}
