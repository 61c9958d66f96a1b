package app.morvet.core.sorting;

import com.jayway.jsonpath.Configuration;
import com.jayway.jsonpath.Option;
import java.io.StringReader;
import java.util.Locale;
import java.util.Map;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.Document;
import org.w3c.dom.Node;

/**
 * A failed message as sorting rules see it. Its payload is read once, and only when a rule asks for something in it. Not
 * safe for several threads.
 */
public final class Candidate {
    /** A longer payload is not read for conditions; what they ask of it is not known. */
    public static final int LONGEST_READ = 512 * 1024;

    private static final int MOST_NODES = 8000;
    private static final int DEEPEST = 200;
    static final Configuration JSON = Configuration.builder()
            .options(Option.ALWAYS_RETURN_LIST, Option.SUPPRESS_EXCEPTIONS)
            .build();
    private static final XMLInputFactory XML = xml();

    private final String interfaceKey;
    private final String step;
    private final String error;
    private final Map<String, String> attributes;
    private final String payloadType;
    private final String payload;
    private boolean xmlRead;
    private @Nullable Document xml;
    private boolean jsonRead;
    private @Nullable Object json;
    private @Nullable String lowerError;

    public Candidate(
            String interfaceKey,
            String step,
            String error,
            Map<String, String> attributes,
            String payloadType,
            String payload) {
        this.interfaceKey = interfaceKey;
        this.step = step;
        this.error = error;
        this.attributes = attributes;
        this.payloadType = payloadType;
        this.payload = payload;
    }

    private static XMLInputFactory xml() {
        var factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        return factory;
    }

    public String interfaceKey() {
        return interfaceKey;
    }

    public String step() {
        return step;
    }

    public String error() {
        return error;
    }

    String lowerError() {
        var lower = lowerError;
        if (lower == null) lowerError = lower = error.toLowerCase(Locale.ROOT);
        return lower;
    }

    public Map<String, String> attributes() {
        return attributes;
    }

    boolean isXml() {
        return payloadType.toLowerCase(Locale.ROOT).contains("xml");
    }

    boolean isJson() {
        return payloadType.toLowerCase(Locale.ROOT).contains("json");
    }

    /** The payload with namespaces and prefixes left out, so that a path needs none; null where it cannot be read. */
    @Nullable
    Document xmlPayload() {
        if (!xmlRead) {
            xmlRead = true;
            try {
                if (payload.length() <= LONGEST_READ) xml = document(payload);
            } catch (XMLStreamException | ParserConfigurationException unreadable) {
                xml = null;
            }
        }
        return xml;
    }

    private static @Nullable Document document(String payload) throws XMLStreamException, ParserConfigurationException {
        var document = DocumentBuilderFactory.newInstance().newDocumentBuilder().newDocument();
        var reader = XML.createXMLStreamReader(new StringReader(payload));
        Node at = document;
        int nodes = 0;
        int depth = 0;
        while (reader.hasNext()) {
            switch (reader.next()) {
                case XMLStreamConstants.START_ELEMENT -> {
                    if (++depth > DEEPEST || (nodes += 1 + reader.getAttributeCount()) > MOST_NODES) return null;
                    var element = document.createElement(reader.getLocalName());
                    for (int i = 0; i < reader.getAttributeCount(); i++)
                        element.setAttribute(reader.getAttributeLocalName(i), reader.getAttributeValue(i));
                    at = at.appendChild(element);
                }
                case XMLStreamConstants.END_ELEMENT -> {
                    depth--;
                    at = at.getParentNode();
                }
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                    if (depth > 0) at.appendChild(document.createTextNode(reader.getText()));
                }
                case XMLStreamConstants.DTD -> {
                    return null;
                }
                default -> {
                    // comments and instructions are no part of the message
                }
            }
        }
        return document;
    }

    /** The payload as maps, lists and values; null where it cannot be read. */
    @Nullable
    Object jsonPayload() {
        if (!jsonRead) {
            jsonRead = true;
            try {
                if (payload.length() <= LONGEST_READ && !tooDeep(payload))
                    json = JSON.jsonProvider().parse(payload);
            } catch (RuntimeException unreadable) {
                json = null;
            }
        }
        return json;
    }

    private static boolean tooDeep(String text) {
        int depth = 0;
        boolean quoted = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '"') quoted = !quoted;
            else if (c == '\\') i++;
            else if (!quoted && (c == '{' || c == '[') && ++depth > DEEPEST) return true;
            else if (!quoted && (c == '}' || c == ']')) depth--;
        }
        return false;
    }
}
