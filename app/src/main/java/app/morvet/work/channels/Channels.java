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
    static final List<String> TEXT_SETTINGS = List.of(TextGateway.PATH, TextGateway.TEMPLATE);
    static final List<String> WEB_SETTINGS = List.of(
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

    /** What is ready-made, by the words for it. */
    static final Map<String, Map<String, String>> SHAPES = shapes();

    private final Connections connections;

    Channels(Connections connections) {
        this.connections = connections;
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
        var sort = settings.containsKey(WebCalls.METHOD) ? WebCalls.SORT : TextGateway.SORT;
        return new Connection(0, sort, "", null, "", "https://", "", "", settings, 0);
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
