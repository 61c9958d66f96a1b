package app.morvet.work.handoffs;

import app.morvet.core.handoff.HandoffState;
import app.morvet.core.handoff.TicketReading;
import app.morvet.core.handoff.TicketTemplate;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errands;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Instant;
import java.util.Optional;
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

    private static final int LONGEST_REASON = 2_000;
    private final HandoffStore store;
    private final Desks desks;
    private final CaseBook cases;
    private final TicketWords words;
    private final Estate estate;
    private final Errands errands;
    private final ApplicationEventPublisher events;
    private final Live live;
    private final Times times;

    HandoffDesk(
            HandoffStore store,
            Desks desks,
            CaseBook cases,
            TicketWords words,
            Estate estate,
            Errands errands,
            ApplicationEventPublisher events,
            Live live,
            Times times) {
        this.store = store;
        this.desks = desks;
        this.cases = cases;
        this.words = words;
        this.estate = estate;
        this.errands = errands;
        this.events = events;
        this.live = live;
        this.times = times;
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
        var id = put(one, one.version(), team, one.headline(), words.story(one), null, at);
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
        return put(one, one.version(), team, one.headline(), words.story(one), by, at);
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
        var body = TicketTemplate.parse(desk.template(), TicketWords.VARIABLES)
                .fill(words.values(one, desk, team, title, story, by, id));
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
