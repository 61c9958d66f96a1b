package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Unanswered;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Talks to a ticket desk as its connection's settings say. */
@Component
class Desk implements ConnectionSort {
    /** Asked for where there is no ticket yet; no desk gives one this number. */
    private static final String NO_TICKET = "morvet-tries";

    private final Calls calls;
    private final HandoffStore store;

    Desk(Calls calls, HandoffStore store) {
        this.calls = calls;
        this.store = store;
    }

    /** Posts a ticket. The same key twice makes one ticket, and answers the same. */
    TicketReading.Ticket create(DeskConnection desk, UUID key, String body) throws Unanswered, InterruptedException {
        return ask(desk, new Ask("ticket posted", key.toString(), desk.createPath(), body));
    }

    TicketReading.Ticket look(DeskConnection desk, String ticket) throws Unanswered, InterruptedException {
        return ask(desk, Ask.read("ticket read", DeskConnection.placed(desk.readPath(), ticket)));
    }

    private TicketReading.Ticket ask(DeskConnection desk, Ask ask) throws Unanswered, InterruptedException {
        var answer = calls.ask(desk.connection(), ask);
        try {
            return desk.reading().read(answer);
        } catch (TicketReading.Unreadable | IllegalArgumentException unreadable) {
            throw new Unanswered(String.valueOf(unreadable.getMessage()), true);
        }
    }

    @Override
    public String sort() {
        return DeskConnection.SORT;
    }

    @Override
    public Ask trial(Connection connection) {
        var path = DeskConnection.of(connection).readPath();
        var ticket = store.latestTicket(connection.id()).orElse(NO_TICKET);
        return Ask.read("tried", DeskConnection.placed(path, ticket));
    }

    @Override
    public String reads(Connection connection, String answer) {
        try {
            var ticket = DeskConnection.of(connection).reading().read(answer);
            return "ticket %s, %s".formatted(ticket.number(), ticket.state().words());
        } catch (TicketReading.Unreadable unreadable) {
            throw new IllegalArgumentException(unreadable.getMessage(), unreadable);
        }
    }
}
