package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.connections.Connection;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;

/**
 * How a ticket desk is talked to; a {@link Connection} with all that there is to say of a desk.
 *
 * @param url        where the desk answers
 * @param createPath path to which a ticket is posted
 * @param readPath   path at which a ticket is read; {@code {{ticket}}} stands for its number
 * @param headers    one {@code Name: value} a line, sent with each call
 * @param template   the JSON that is posted
 * @param numberPath JSONPath of the ticket's number in an answer; statePath and reasonPath likewise
 * @param states     one {@code word of the desk = meaning} a line
 * @param pagePath   path at which people read a ticket at the desk; empty when there is none
 * @param secret     what a call-back must bear as {@code Authorization: Bearer …}; empty for no call-backs
 * @param version    counts its changes
 */
record DeskConnection(
        long id,
        String key,
        String name,
        String url,
        String createPath,
        String readPath,
        String headers,
        String template,
        String numberPath,
        String statePath,
        String reasonPath,
        String states,
        String pagePath,
        String secret,
        int pollSeconds,
        int version) {
    static final String SORT = "desk";

    static DeskConnection of(Connection one) {
        return new DeskConnection(
                one.id(),
                one.key(),
                one.name(),
                one.url(),
                one.get("createPath"),
                one.get("readPath"),
                one.headers(),
                one.get("template"),
                one.get("numberPath"),
                one.get("statePath"),
                one.get("reasonPath"),
                one.get("states"),
                one.get("pagePath"),
                one.secret(),
                Integer.parseInt(one.get("pollSeconds")),
                one.version());
    }

    Connection connection() {
        var settings = Map.of(
                "createPath", createPath,
                "readPath", readPath,
                "template", template,
                "numberPath", numberPath,
                "statePath", statePath,
                "reasonPath", reasonPath,
                "states", states,
                "pagePath", pagePath,
                "pollSeconds", "" + pollSeconds);
        return new Connection(id, SORT, key, null, name, url, headers, secret, settings, version);
    }

    /** @throws IllegalArgumentException when a path or a state cannot be read */
    TicketReading reading() {
        return new TicketReading(numberPath, statePath, reasonPath, TicketReading.states(states));
    }

    /** Where people read a ticket; empty where the desk has no page for it. */
    String page(String ticket) {
        return pagePath.isEmpty() || ticket.isEmpty() ? "" : connection().address(placed(pagePath, ticket));
    }

    static String placed(String path, String ticket) {
        return path.replace(
                "{{ticket}}", URLEncoder.encode(ticket, StandardCharsets.UTF_8).replace("+", "%20"));
    }
}
