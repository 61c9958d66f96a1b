package app.morvet.work.channels;

import app.morvet.core.callouts.CallTemplate;
import app.morvet.core.callouts.Way;
import app.morvet.ground.access.Person;
import app.morvet.ground.connections.Ask;
import app.morvet.ground.connections.Calls;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.ConnectionSort;
import app.morvet.ground.connections.Unanswered;
import com.jayway.jsonpath.InvalidPathException;
import com.jayway.jsonpath.JsonPath;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * Chats, paging services and whatever else takes web calls; all of it is settings. What it calls an item is read from its answer, so that
 * what comes later about the same case changes that item there, or ends it.
 */
@Component
public class WebCalls implements ConnectionSort, Outside {
    public static final String SORT = "web";
    static final String PATH = "path";
    static final String METHOD = "method";
    static final String TEMPLATE = "template";
    static final String ID_PATH = "idPath";
    static final String LATER_PATH = "laterPath";
    static final String LATER_METHOD = "laterMethod";
    static final String LATER_TEMPLATE = "laterTemplate";
    static final Set<String> METHODS = Set.of("POST", "PUT", "PATCH", "DELETE");

    private final Calls calls;

    WebCalls(Calls calls) {
        this.calls = calls;
    }

    @Override
    public String kind() {
        return SORT;
    }

    @Override
    public Way way() {
        return Way.WEB;
    }

    @Override
    public String send(Connection connection, Map<String, String> values, String key, String id)
            throws Unanswered, InterruptedException {
        if (id.isEmpty() || connection.get(LATER_PATH).isEmpty())
            return read(connection, calls.ask(connection, ask("called", connection, values, key, id, false)));
        try {
            calls.ask(connection, ask("changed there", connection, values, key, id, true));
            return id;
        } catch (Unanswered refused) {
            if (!refused.isGone()) throw refused;
            // Who forgot it there need not be told that it is over, and else is told anew, or nobody would hear of it.
            if (values.getOrDefault("state", "").equals("over")) return id;
            return read(connection, calls.ask(connection, ask("called", connection, values, key + "-anew", "", false)));
        }
    }

    private static Ask ask(
            String what, Connection connection, Map<String, String> values, String key, String id, boolean later) {
        var all = new HashMap<String, String>(values);
        all.put("key", key);
        all.put("id", id);
        var method = connection.get(later ? LATER_METHOD : METHOD);
        var text = later && !connection.get(LATER_TEMPLATE).isBlank()
                ? connection.get(LATER_TEMPLATE)
                : connection.get(TEMPLATE);
        var template = CallTemplate.parse(text, FACTS);
        var body = method.equals("DELETE") ? "" : template.fill(all);
        var path = CallTemplate.path(connection.get(later ? LATER_PATH : PATH), all);
        return new Ask(what, key, path, body, method, template.type(), Signature.of(connection, body));
    }

    private static String read(Connection connection, String answer) {
        var path = connection.get(ID_PATH);
        if (path.isEmpty() || answer.isBlank()) return "";
        try {
            Object found = JsonPath.read(answer, path);
            return found == null ? "" : String.valueOf(found);
        } catch (InvalidPathException | IllegalArgumentException | ClassCastException none) {
            // It was taken; that it cannot be changed there later is no reason to send it again.
            return "";
        }
    }

    @Override
    public String sort() {
        return SORT;
    }

    @Override
    public Ask trial(Connection connection) {
        return trial(connection, "somebody");
    }

    @Override
    public Ask trial(Connection connection, Person by) {
        return trial(connection, by.name());
    }

    private static Ask trial(Connection connection, String who) {
        var values = Map.of(
                "title", "Test by " + who + ": Morvet can tell you here of cases",
                "text", "This is a test. There is nothing to do.",
                "state", "over",
                "severity", "notice",
                "test", "true");
        return ask("tried", connection, values, "try-" + System.nanoTime(), "", false);
    }

    @Override
    public String reads(Connection connection, String answer) {
        var id = read(connection, answer);
        return id.isEmpty()
                ? "it was taken; what comes later will be another item there."
                : "it is called " + id + " there.";
    }
}
