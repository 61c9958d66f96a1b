package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import app.morvet.core.handoff.TicketReading;
import app.morvet.core.handoff.TicketTemplate;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.Runs;
import app.morvet.sources.messages.Evidence;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageStore;
import app.morvet.work.cases.CaseBook;
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
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Hands cases off: puts the ticket on its way in the transaction of the act, and takes in what the desk says of it. */
@Service
public class HandoffDesk {
    static final String SENDING = "handoff-sending";
    static final String FOLLOWING = "handoff-following";

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
    private static final int LONGEST_REASON = 2_000;
    private static final int SAMPLE_LENGTH = 4000;
    private static final int FAMILIES = 5;
    private static final int PAYLOADS = 50;

    private final HandoffStore store;
    private final Desks desks;
    private final CaseBook cases;
    private final CaseFacts facts;
    private final Estate estate;
    private final MessageStore messages;
    private final Families families;
    private final Evidence evidence;
    private final Masks masks;
    private final Runs runs;
    private final Errands errands;
    private final MorvetSettings settings;
    private final ApplicationEventPublisher events;
    private final Live live;
    private final Times times;

    HandoffDesk(
            HandoffStore store,
            Desks desks,
            CaseBook cases,
            CaseFacts facts,
            Estate estate,
            MessageStore messages,
            Families families,
            Evidence evidence,
            Masks masks,
            Runs runs,
            Errands errands,
            MorvetSettings settings,
            ApplicationEventPublisher events,
            Live live,
            Times times) {
        this.store = store;
        this.desks = desks;
        this.cases = cases;
        this.facts = facts;
        this.estate = estate;
        this.messages = messages;
        this.families = families;
        this.evidence = evidence;
        this.masks = masks;
        this.runs = runs;
        this.errands = errands;
        this.settings = settings;
        this.events = events;
        this.live = live;
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
                .flatMap(run -> runs.output(run.run().id()).stream())
                .findFirst()
                .map(output -> {
                    var lines = masks.on(one.component())
                            .text(output.text())
                            .text()
                            .lines()
                            .toList();
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

    /** Hands a case off to a team. All of it is stored, or none. */
    @Transactional
    public void handOff(WorkCase one, int version, Estate.Team team, String title, String story, Person by) {
        var now = times.now();
        var id = put(one, version, team, title, story, by, now);
        errands.at(now, SENDING, id.toString());
        events.publishEvent(new HandoffMade(id, one.id(), now));
        tellPages();
    }

    /** A rule hands a case off to a team, with what Morvet knows of it. */
    @Transactional
    public void handOff(WorkCase one, Estate.Team team, Instant at) {
        var id = put(one, one.version(), team, one.headline(), story(one), null, at);
        errands.at(times.now(), SENDING, id.toString());
        events.publishEvent(new HandoffMade(id, one.id(), at));
        tellPages();
    }

    /** How far a handoff of a case is. */
    public record Standing(long caseId, HandoffState state) {}

    public Optional<Standing> standing(UUID id) {
        return store.byId(id).map(one -> new Standing(one.caseId(), one.state()));
    }

    /**
     * A handoff of a past that is gone through: nothing is sent. What became of it is {@linkplain #told told} of next.
     *
     * @return its id
     */
    @Transactional
    public UUID recall(WorkCase one, Estate.Team team, Person by, Instant at) {
        return put(one, one.version(), team, one.headline(), story(one), by, at);
    }

    /** Of a past that is gone through: the desk could not be reached for a day. */
    @Transactional
    public void recallGivenUp(UUID id, String why, Instant at) {
        var handoff = store.lock(id);
        store.gaveUp(id, HandoffSending.BACK_OFF.tries(), at, why);
        cases.log(handoff.caseId(), "ticket", "The ticket could not be delivered: " + why, at);
    }

    /** Looks at the desk from now on for what it says of a ticket. */
    public void follow(UUID id) {
        errands.at(times.now(), FOLLOWING, id.toString());
    }

    private UUID put(
            WorkCase one, int version, Estate.Team team, String title, String story, @Nullable Person by, Instant at) {
        var desk = desks.all().stream()
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(
                        "No ticket desk is connected. An admin connects one under Setup."));
        var id = UUID.randomUUID();
        var body = TicketTemplate.parse(desk.template(), VARIABLES).fill(values(one, desk, team, title, story, by, id));
        cases.handOff(one.id(), version, by, team.name(), at);
        store.add(new Handoff(
                id,
                one.id(),
                team.id(),
                desk.id(),
                title,
                story,
                body,
                HandoffState.QUEUED,
                null,
                "",
                "",
                at,
                by == null ? null : by.id(),
                at,
                null,
                at,
                0,
                ""));
        return id;
    }

    private Map<String, Object> values(
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

    /** Takes in what the desk says of a ticket. Saying the same again changes nothing. */
    @Transactional
    public void follow(UUID id, TicketReading.Ticket ticket, Instant at) {
        var handoff = store.lock(id);
        boolean first = handoff.ticket().isEmpty();
        var said = handoff.deskState() == null ? handoff.state() : handoff.deskState();
        if (!first && said == ticket.state()) {
            store.lookWorked(id);
            return;
        }
        store.moved(id, ticket.state(), ticket.number(), ticket.reason(), at);
        // What the team has said here already is no news when the desk says it.
        if (!first && handoff.state() == ticket.state()) return;
        var team = estate.team(handoff.team()).map(Estate.Team::name).orElse("The team");
        if (first)
            cases.log(handoff.caseId(), "ticket", "The desk made ticket " + ticket.number() + " for " + team, at);
        if (ticket.state() == HandoffState.ACCEPTED || ticket.state() == HandoffState.DONE)
            events.publishEvent(new HandoffAccepted(handoff.caseId(), at));
        switch (ticket.state()) {
            case ACCEPTED -> cases.log(handoff.caseId(), "ticket", team + " accepted ticket " + ticket.number(), at);
            case DONE -> cases.log(handoff.caseId(), "ticket", team + " finished ticket " + ticket.number(), at);
            case RETURNED -> cases.returned(handoff.caseId(), team, ticket.reason(), at);
            case SENT, QUEUED, GIVEN_UP -> {
                // nothing that the log does not say already
            }
        }
        tellPages();
    }

    /**
     * Somebody of the team says here how far it is.
     *
     * @throws IllegalArgumentException where it is through with already, or is still being sent
     */
    @Transactional
    public void say(UUID id, HandoffState state, String reason, Person by, Instant at) {
        var handoff = store.lock(id);
        if (!handoff.state().followed())
            throw new IllegalArgumentException(
                    "this cannot be said any more: it is " + handoff.state().words());
        if (state == HandoffState.RETURNED && reason.isBlank())
            throw new IllegalArgumentException("say why it is not yours, so that it goes to those whose it is");
        if (reason.length() > LONGEST_REASON) throw new IllegalArgumentException("a reason has at most 2,000 letters");
        store.said(id, state, reason.strip(), at);
        if (state == HandoffState.ACCEPTED || state == HandoffState.DONE)
            events.publishEvent(new HandoffAccepted(handoff.caseId(), at));
        var team = estate.team(handoff.team()).map(Estate.Team::name).orElse("the team");
        switch (state) {
            case ACCEPTED -> cases.log(handoff.caseId(), by, "ticket", "accepted it for " + team, at);
            case DONE -> cases.log(handoff.caseId(), by, "ticket", "finished it for " + team, at);
            case RETURNED -> cases.returned(handoff.caseId(), by.name() + " of " + team, reason, at);
            case SENT, QUEUED, GIVEN_UP ->
                throw new IllegalArgumentException("say that it is accepted, returned or done");
        }
        tellPages();
    }

    /** Sends one that was given up, or is waiting, right away. */
    @Transactional
    public void again(UUID id, Instant at) {
        var handoff = store.lock(id);
        if (handoff.state() != HandoffState.QUEUED && handoff.state() != HandoffState.GIVEN_UP) return;
        store.again(id, at);
        errands.at(at, SENDING, id.toString());
        tellPages();
    }

    private void tellPages() {
        live.changed("handoffs");
        live.changed("cases");
        live.changed("now");
    }
}
