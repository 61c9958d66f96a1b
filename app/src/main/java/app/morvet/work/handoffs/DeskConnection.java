package app.morvet.work.handoffs;

import app.morvet.core.handoff.TicketReading;
import app.morvet.ground.base.SecretHeaders;

/**
 * How a ticket desk is talked to. All of it is data, so that a desk is connected without code.
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
    static final String KEPT = SecretHeaders.KEPT;

    /** @throws IllegalArgumentException when a path or a state cannot be read */
    TicketReading reading() {
        return new TicketReading(numberPath, statePath, reasonPath, TicketReading.states(states));
    }

    String address(String path, String ticket) {
        var encoded = java.net.URLEncoder.encode(ticket, java.nio.charset.StandardCharsets.UTF_8)
                .replace("+", "%20");
        return url.replaceAll("/$", "") + path.replace("{{ticket}}", encoded);
    }

    /** The same for showing: header values and the secret stand as {@value #KEPT}. */
    DeskConnection masked() {
        return with(SecretHeaders.covered(headers), secret.isEmpty() ? "" : KEPT);
    }

    /** The same, with what stands as {@value #KEPT} taken from how it was before. */
    DeskConnection keeping(DeskConnection before) {
        return with(SecretHeaders.keeping(headers, before.headers()), secret.equals(KEPT) ? before.secret() : secret);
    }

    private DeskConnection with(String headers, String secret) {
        return new DeskConnection(
                id,
                key,
                name,
                url,
                createPath,
                readPath,
                headers,
                template,
                numberPath,
                statePath,
                reasonPath,
                states,
                pagePath,
                secret,
                pollSeconds,
                version);
    }
}
