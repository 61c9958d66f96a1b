package app.morvet.core.handoff;

import com.jayway.jsonpath.InvalidPathException;
import com.jayway.jsonpath.JsonPath;
import com.jayway.jsonpath.JsonPathException;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * How a ticket desk's answer is read: JSONPath (RFC 9535) for each thing wanted, and which of the desk's words mean what
 * to Morvet.
 *
 * @param numberPath where the ticket's number stands
 * @param statePath  where its state stands
 * @param reasonPath where the reason of a return stands
 * @param states     the desk's words, lower case, and what they mean
 */
public record TicketReading(String numberPath, String statePath, String reasonPath, Map<String, HandoffState> states) {

    /**
     * @param number the ticket's number at the desk
     * @param state  its state, in Morvet's terms
     * @param reason why it was returned; empty otherwise
     */
    public record Ticket(String number, HandoffState state, String reason) {}

    /** The desk's answer could not be understood; the message says where and what was found. */
    public static final class Unreadable extends RuntimeException {
        private static final long serialVersionUID = 1;

        Unreadable(String message) {
            super(message);
        }
    }

    public TicketReading {
        checkPath("number", numberPath);
        checkPath("state", statePath);
        checkPath("reason", reasonPath);
        states = Map.copyOf(states);
    }

    private static void checkPath(String name, String path) {
        try {
            JsonPath.compile(path);
        } catch (InvalidPathException | IllegalArgumentException bad) {
            throw new IllegalArgumentException(
                    "the JSONPath of the " + name + " (" + path + ") is faulty: " + bad.getMessage(), bad);
        }
    }

    /**
     * Reads lines such as {@code open = sent}, one for each of the desk's words.
     *
     * @throws IllegalArgumentException with the number of the faulty line
     */
    public static Map<String, HandoffState> states(String lines) {
        var states = new LinkedHashMap<String, HandoffState>();
        int number = 0;
        for (var line : lines.lines().toList()) {
            number++;
            if (line.isBlank()) continue;
            var parts = line.split("=", 2);
            if (parts.length < 2 || parts[0].isBlank()) {
                throw new IllegalArgumentException("line " + number
                        + " of the states must read: word of the desk = sent, accepted, returned or done");
            }
            var meaning = parts[1].strip();
            var state =
                    switch (meaning) {
                        case "sent" -> HandoffState.SENT;
                        case "accepted" -> HandoffState.ACCEPTED;
                        case "returned" -> HandoffState.RETURNED;
                        case "done" -> HandoffState.DONE;
                        default ->
                            throw new IllegalArgumentException(
                                    "line %d of the states: \"%s\" is not one of sent, accepted, returned, done"
                                            .formatted(number, meaning));
                    };
            states.put(parts[0].strip().toLowerCase(Locale.ROOT), state);
        }
        if (states.isEmpty())
            throw new IllegalArgumentException("at least one of the desk's words must be given a meaning");
        return states;
    }

    /**
     * @param answer the JSON that the desk gave
     * @throws Unreadable when it is not JSON, a path finds nothing, or the state is a word without a meaning
     */
    public Ticket read(String answer) {
        var number = at(answer, numberPath)
                .orElseThrow(() -> new Unreadable("no ticket number at " + numberPath + " in the desk's answer"));
        var word = at(answer, statePath)
                .orElseThrow(() -> new Unreadable("no state at " + statePath + " in the desk's answer"));
        var state = states.get(word.toLowerCase(Locale.ROOT));
        if (state == null)
            throw new Unreadable("the desk's state \"" + word + "\" has no meaning in the connection's settings");
        var reason = state == HandoffState.RETURNED ? at(answer, reasonPath).orElse("") : "";
        return new Ticket(number, state, reason);
    }

    /** The number alone, as a call-back names it. */
    public Optional<String> number(String body) {
        return at(body, numberPath);
    }

    private static Optional<String> at(String json, String path) {
        try {
            Object found = JsonPath.read(json, path);
            return Optional.ofNullable(found).map(Object::toString).filter(text -> !text.isBlank());
        } catch (com.jayway.jsonpath.PathNotFoundException nothing) {
            return Optional.empty();
        } catch (JsonPathException | IllegalArgumentException bad) {
            throw new Unreadable("the desk's answer is not JSON that can be read");
        }
    }
}
