package app.morvet.demo;

import app.morvet.core.handoff.HandoffState;
import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Outgoing;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.CaseOwners;
import app.morvet.work.cases.WorkCase;
import app.morvet.work.handoffs.HandoffDesk;
import app.morvet.work.handoffs.TicketWords;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What the demo's people handed off in its past, what became of it, and the desk's own memory of it. */
@Component
@Profile("demo")
class DemoHandoffs {
    private static final Logger log = LoggerFactory.getLogger(DemoHandoffs.class);
    private static final int FIRST = 4031;
    private static final List<String> RETURNED =
            List.of("not ours since the move; Platform looks after it", "please add since when, and what was tried");

    /** What becomes of a handoff in the end. */
    enum Outcome {
        DONE,
        RETURNED,
        GIVEN_UP,
        ACCEPTED,
        SENT;

        /** Whether the case waits for the team, or for whoever takes it back. */
        boolean leavesOpen() {
            return this == ACCEPTED || this == SENT;
        }
    }

    private final HandoffDesk desk;
    private final TicketWords words;
    private final CaseOwners owners;
    private final CaseBook cases;
    private final Outgoing outgoing;
    private final DemoSettings demo;
    private final MorvetSettings settings;
    private final JsonMapper json;
    private final List<Map<String, Object>> tickets = new ArrayList<>();
    private final List<UUID> followed = new ArrayList<>();
    private int number = FIRST;

    DemoHandoffs(
            HandoffDesk desk,
            TicketWords words,
            CaseOwners owners,
            CaseBook cases,
            Outgoing outgoing,
            DemoSettings demo,
            MorvetSettings settings,
            JsonMapper json) {
        this.desk = desk;
        this.words = words;
        this.owners = owners;
        this.cases = cases;
        this.outgoing = outgoing;
        this.demo = demo;
        this.settings = settings;
        this.json = json;
    }

    /** Hands a case off as of an instant, and lets the desk and the team do what they did. */
    void handOff(WorkCase one, Person by, Instant at, Outcome outcome) {
        var team = owners.of(one).orElse(null);
        if (team == null) return;
        var id = desk.recall(one, team, by, at);
        if (outcome == Outcome.GIVEN_UP) {
            desk.recallGivenUp(id, "the desk did not answer", at.plus(Duration.ofHours(24)));
            return;
        }
        var ticket = "SD-" + number++;
        say(id, HandoffState.SENT, ticket, "", at.plusSeconds(3));
        var reason = outcome == Outcome.RETURNED ? RETURNED.get(number % RETURNED.size()) : "";
        var state = "open";
        if (outcome != Outcome.SENT && outcome != Outcome.RETURNED) {
            say(id, HandoffState.ACCEPTED, ticket, "", at.plus(Duration.ofMinutes(25)));
            state = "accepted";
        }
        if (outcome == Outcome.DONE) {
            say(id, HandoffState.DONE, ticket, "", at.plus(Duration.ofMinutes(95)));
            state = "done";
        }
        if (outcome == Outcome.RETURNED) {
            say(id, HandoffState.RETURNED, ticket, reason, at.plus(Duration.ofMinutes(50)));
            state = "returned";
        }
        if (outcome.leavesOpen()) followed.add(id);
        remember(one, team.key(), by, ticket, id, state, reason, at);
    }

    private void say(UUID id, HandoffState state, String ticket, String reason, Instant at) {
        desk.follow(id, new TicketReading.Ticket(ticket, state, reason), at);
    }

    private void remember(
            WorkCase one, String group, Person by, String ticket, UUID id, String state, String reason, Instant at) {
        var told = new LinkedHashMap<String, Object>();
        told.put("number", ticket);
        told.put("key", id.toString());
        told.put("summary", one.headline());
        told.put("description", words.story(cases.find(one.id()).orElse(one)));
        told.put("group", group);
        told.put("caller", by.name());
        told.put("link", settings.link("/cases/" + one.id()));
        told.put("callback", settings.link("/api/v1/tickets/desk"));
        told.put("evidence", List.of());
        told.put("attachments", List.of());
        told.put("state", state);
        told.put("reason", reason);
        told.put("openedAt", at.toString());
        tickets.add(told);
    }

    /** Tells the desk what it worked on, once all of it is stored here. */
    void tellDesk() throws InterruptedException {
        if (tickets.isEmpty()) return;
        try {
            var answer = outgoing.call(
                    HttpRequest.newBuilder()
                            .header("Authorization", "Bearer " + demo.deskToken())
                            .header("Content-Type", "application/json")
                            .POST(HttpRequest.BodyPublishers.ofString(json.writeValueAsString(tickets))),
                    demo.desk() + "/desk/past");
            if (answer.status() != 200) log.warn("the desk did not take the past: {}", answer.status());
        } catch (IOException failed) {
            log.warn("the desk did not take the past", failed);
        }
        followed.forEach(desk::follow);
    }
}
