package app.morvet.core.checks;

import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Faulty;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import com.jayway.jsonpath.InvalidJsonException;
import com.jayway.jsonpath.JsonPathException;
import com.jayway.jsonpath.PathNotFoundException;
import java.io.IOException;
import java.io.StringReader;
import java.util.List;
import java.util.Map;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import javax.xml.xpath.XPathConstants;
import javax.xml.xpath.XPathExpressionException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.NodeList;
import org.xml.sax.ErrorHandler;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;

/** A place in an answer: by JSONPath (RFC 9535) where it begins with {@code $}, else by XPath 1.0. */
sealed interface AnswerPath {
    /**
     * What stands there, as text; null where there is nothing.
     *
     * @throws IllegalArgumentException where the answer is not of its sort
     */
    @Nullable
    String in(String body);

    /** @throws IllegalArgumentException where it cannot be read, or may take too long; as of sorting rules */
    static AnswerPath of(String path) {
        try {
            return path.startsWith("$")
                    ? new Json(Condition.JsonPathHolds.of(path))
                    : new Xml(Condition.XPathHolds.of(path));
        } catch (Faulty faulty) {
            throw new IllegalArgumentException(faulty.getMessage(), faulty);
        }
    }

    static Pattern pattern(String text) {
        try {
            return Pattern.compile(text);
        } catch (PatternSyntaxException wrong) {
            throw new IllegalArgumentException(
                    "the pattern \"" + text + "\" cannot be read: " + wrong.getMessage(), wrong);
        }
    }

    record Json(Condition.JsonPathHolds path) implements AnswerPath {
        @Override
        public @Nullable String in(String body) {
            // The reader takes any text for JSON.
            if (!body.strip().startsWith("{") && !body.strip().startsWith("["))
                throw new IllegalArgumentException("the answer is not JSON");
            try {
                Object found = path.compiled().read(body);
                // What may find several gives a list, of which the first counts.
                if (!path.compiled().isDefinite() && found instanceof List<?> some) {
                    if (some.isEmpty()) return null;
                    found = some.getFirst();
                }
                return found == null
                        ? "null"
                        : found instanceof Map<?, ?> || found instanceof List<?>
                                ? found.toString()
                                : String.valueOf(found);
            } catch (PathNotFoundException nothing) {
                return null;
            } catch (InvalidJsonException | IllegalArgumentException unreadable) {
                throw new IllegalArgumentException("the answer is not JSON", unreadable);
            } catch (JsonPathException wrong) {
                return null;
            }
        }
    }

    record Xml(Condition.XPathHolds path) implements AnswerPath {
        @Override
        public @Nullable String in(String body) {
            try {
                var factory = DocumentBuilderFactory.newInstance();
                factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
                factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
                var builder = factory.newDocumentBuilder();
                builder.setErrorHandler(new Silent());
                var document = builder.parse(new InputSource(new StringReader(body)));
                synchronized (path.compiled()) {
                    try {
                        var nodes = (NodeList) path.compiled().evaluate(document, XPathConstants.NODESET);
                        return nodes.getLength() == 0 ? null : nodes.item(0).getTextContent();
                    } catch (XPathExpressionException noNodes) {
                        return (String) path.compiled().evaluate(document, XPathConstants.STRING);
                    }
                }
            } catch (SAXException | IOException unreadable) {
                throw new IllegalArgumentException("the answer is not XML", unreadable);
            } catch (ParserConfigurationException | XPathExpressionException wrong) {
                throw new IllegalArgumentException("the answer cannot be looked into", wrong);
            }
        }

        /** The parser would write to the console. */
        private static final class Silent implements ErrorHandler {
            @Override
            public void warning(SAXParseException fault) {}

            @Override
            public void error(SAXParseException fault) throws SAXParseException {
                throw fault;
            }

            @Override
            public void fatalError(SAXParseException fault) throws SAXParseException {
                throw fault;
            }
        }
    }
}
