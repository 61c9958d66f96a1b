package app.morvet.work.channels;

import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Channels as they begin: the usual shapes of what takes web calls, to be changed to what the other side wants. */
@Service
public class Channels {
    /** The sorts of connections that are channels, and what each takes. */
    static final Map<String, String> SORTS = sorts();

    private static final List<String> TEXT_SETTINGS = List.of(TextGateway.PATH, TextGateway.TEMPLATE);
    private static final List<String> WEB_SETTINGS = List.of(
            WebCalls.PATH,
            WebCalls.METHOD,
            WebCalls.TEMPLATE,
            WebCalls.ID_PATH,
            WebCalls.LATER_PATH,
            WebCalls.LATER_METHOD,
            WebCalls.LATER_TEMPLATE);

    private static final String TEXT = "{\"to\": \"{{to}}\", \"text\": \"{{text}}\"}";
    private static final String TEXT_FORM = "to = {{to}}\nmessage = {{text}}\nreference = {{key}}";
    private static final String CHAT = """
            {
              "text": "{{title}}\\n{{link}}"
            }""";
    private static final String PAGING =
            """
            {
              "key": "{{case}}",
              "state": "{{state}}",
              "severity": "{{severity}}",
              "summary": "{{title}}",
              "details": "{{text}}",
              "link": "{{link}}"
            }""";

    private static final String FILE = "A file, one JSON line for each";
    private static final String LOG = "A system log";

    /** What is ready-made, by the words for it. */
    static final Map<String, Map<String, String>> SHAPES = shapes();

    private final Connections connections;

    Channels(Connections connections) {
        this.connections = connections;
    }

    private static Map<String, String> sorts() {
        var sorts = new LinkedHashMap<String, String>();
        sorts.put(TextGateway.SORT, "text messages");
        sorts.put(WebCalls.SORT, "web calls");
        sorts.put(LineFile.SORT, "lines of a file");
        sorts.put(SystemLog.SORT, "lines of a system log");
        return sorts;
    }

    /** What there is to say of a sort besides what all connections have in common. */
    static List<String> settings(String sort) {
        return switch (sort) {
            case WebCalls.SORT -> WEB_SETTINGS;
            case TextGateway.SORT -> TEXT_SETTINGS;
            case LineFile.SORT -> List.of(LineFile.FILE);
            default -> List.of();
        };
    }

    private static Map<String, Map<String, String>> shapes() {
        var shapes = new LinkedHashMap<String, Map<String, String>>();
        shapes.put(
                "A gateway for text messages, JSON", Map.of(TextGateway.PATH, "/messages", TextGateway.TEMPLATE, TEXT));
        shapes.put(
                "A gateway for text messages, a form",
                Map.of(TextGateway.PATH, "/send", TextGateway.TEMPLATE, TEXT_FORM));
        shapes.put("A room of a chat", web(CHAT, "", ""));
        shapes.put("A paging service", web(PAGING, "$.id", "/items/{{id}}"));
        shapes.put("Anything else that takes a web call", web("{\"title\": \"{{title}}\"}", "", ""));
        shapes.put(FILE, Map.of(LineFile.FILE, "call-outs.jsonl"));
        shapes.put(LOG, Map.of());
        return shapes;
    }

    private static Map<String, String> web(String template, String idPath, String laterPath) {
        return Map.of(
                WebCalls.PATH, "/",
                WebCalls.METHOD, "POST",
                WebCalls.TEMPLATE, template,
                WebCalls.ID_PATH, idPath,
                WebCalls.LATER_PATH, laterPath,
                WebCalls.LATER_METHOD, "PUT",
                WebCalls.LATER_TEMPLATE, "");
    }

    static String key() {
        return UUID.randomUUID().toString();
    }

    /** A new one of a shape; of any other words it is a gateway for text messages. */
    Connection fresh(String shape) {
        var settings = SHAPES.getOrDefault(shape, SHAPES.values().iterator().next());
        var sort = shape.equals(FILE)
                ? LineFile.SORT
                : shape.equals(LOG)
                        ? SystemLog.SORT
                        : settings.containsKey(WebCalls.METHOD) ? WebCalls.SORT : TextGateway.SORT;
        var address = sort.equals(SystemLog.SORT) ? "tls://" : sort.equals(LineFile.SORT) ? "" : "https://";
        return new Connection(0, sort, "", null, "", address, "", "", settings, 0);
    }

    /** Connects a gateway for text messages from code, where an installation brings its own. */
    public void text(String key, String name, String url, String path, String template) {
        connections.keep(new Connection(
                0,
                TextGateway.SORT,
                key,
                null,
                name,
                url,
                "",
                "",
                Map.of(TextGateway.PATH, path, TextGateway.TEMPLATE, template),
                0));
    }

    /** Connects what takes web calls from code; see {@link WebCalls} for the settings. */
    public void web(String key, String name, String url, String secret, Map<String, String> settings) {
        var all = new LinkedHashMap<String, String>();
        WEB_SETTINGS.forEach(it -> all.put(it, settings.getOrDefault(it, it.endsWith("ethod") ? "POST" : "")));
        connections.keep(new Connection(0, WebCalls.SORT, key, null, name, url, "", secret, all, 0));
    }
}
