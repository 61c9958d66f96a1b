package app.morvet.core.sorting;

import app.morvet.core.guard.Truth;
import com.jayway.jsonpath.InvalidPathException;
import com.jayway.jsonpath.JsonPath;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javax.xml.XMLConstants;
import javax.xml.xpath.XPathConstants;
import javax.xml.xpath.XPathExpression;
import javax.xml.xpath.XPathExpressionException;
import javax.xml.xpath.XPathFactory;
import javax.xml.xpath.XPathFactoryConfigurationException;
import org.w3c.dom.NodeList;

/** One thing that a sorting rule asks of a failed message. */
public sealed interface Condition {
    int LONGEST = 500;

    /** Whether it holds; not known where the payload cannot be read. */
    Truth of(Candidate message);

    /** As it stands in the sentence: {@code error contains "refused"}. */
    String words(UnaryOperator<String> interfaceName);

    /** Whether every message for which this holds is one for which the other holds; may say no where it is so. */
    default boolean implies(Condition other) {
        return equals(other);
    }

    /** Whether no message can be one for which both hold; may say no where it is so. */
    default boolean excludes(Condition other) {
        return false;
    }

    private static Truth truth(boolean holds) {
        return holds ? Truth.TRUE : Truth.FALSE;
    }

    private static String filled(String what, String text) {
        if (text.isBlank()) throw new IllegalArgumentException(what + " is empty; say what to look for");
        if (text.length() > LONGEST)
            throw new IllegalArgumentException(
                    "%s is too long: at most %d characters, were %d".formatted(what, LONGEST, text.length()));
        return text;
    }

    /** @param keys of interfaces, at least one */
    record OnInterface(Set<String> keys) implements Condition {
        public OnInterface {
            keys = Set.copyOf(keys);
            if (keys.isEmpty()) throw new IllegalArgumentException("choose at least one interface");
        }

        @Override
        public Truth of(Candidate message) {
            return truth(keys.contains(message.interfaceKey()));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "interface is "
                    + new TreeSet<>(keys).stream().map(interfaceName).collect(Collectors.joining(" or "));
        }

        @Override
        public boolean implies(Condition other) {
            return other instanceof OnInterface(var others) && others.containsAll(keys);
        }

        @Override
        public boolean excludes(Condition other) {
            return other instanceof OnInterface(var others) && keys.stream().noneMatch(others::contains);
        }
    }

    /** @param step its name, letter for letter */
    record AtStep(String step) implements Condition {
        public AtStep {
            filled("the step", step);
        }

        @Override
        public Truth of(Candidate message) {
            return truth(message.step().equals(step));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "step is \"" + step + "\"";
        }

        @Override
        public boolean excludes(Condition other) {
            return other instanceof AtStep(var another) && !another.equals(step);
        }
    }

    /** @param text looked for anywhere in the error, without regard to capitals */
    record ErrorContains(String text) implements Condition {
        public ErrorContains {
            filled("the text", text);
        }

        @Override
        public Truth of(Candidate message) {
            return truth(message.lowerError().contains(text.toLowerCase(Locale.ROOT)));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "error contains \"" + text + "\"";
        }

        @Override
        public boolean implies(Condition other) {
            return other instanceof ErrorContains(var part)
                    && text.toLowerCase(Locale.ROOT).contains(part.toLowerCase(Locale.ROOT));
        }
    }

    /** @param pattern a regular expression as {@link Patterns} reads them, found anywhere in the error */
    record ErrorMatches(SearchPattern pattern) implements Condition {
        /** @throws Faulty where it cannot be read */
        public static ErrorMatches of(String text) {
            return new ErrorMatches(SearchPattern.of(filled("the pattern", text)));
        }

        @Override
        public Truth of(Candidate message) {
            return truth(pattern.foundIn(message.error(), message.lowerError()));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "error matches /" + pattern.text() + "/";
        }
    }

    /** @param value letter for letter; empty where it is enough that the attribute is there */
    record Attribute(String name, String value) implements Condition {
        public Attribute {
            filled("the name of the attribute", name);
            if (!value.isEmpty()) filled("the value of the attribute", value);
        }

        @Override
        public Truth of(Candidate message) {
            var found = message.attributes().get(name);
            return truth(found != null && (value.isEmpty() || found.equals(value)));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return value.isEmpty() ? "it has an attribute " + name : "attribute " + name + " is \"" + value + "\"";
        }

        @Override
        public boolean implies(Condition other) {
            return equals(other) || other instanceof Attribute(var same, var any) && same.equals(name) && any.isEmpty();
        }

        @Override
        public boolean excludes(Condition other) {
            return other instanceof Attribute(var same, var another)
                    && same.equals(name)
                    && !another.isEmpty()
                    && !value.isEmpty()
                    && !another.equals(value);
        }
    }

    /**
     * An XPath 1.0 expression over an XML payload, read without namespaces: it holds where it is true, a number other than
     * 0, a text that is not empty, or where it finds anything.
     */
    record XPathHolds(String path, XPathExpression compiled) implements Condition {
        private static final int MOST_DESCENTS = 2;

        private static int descents(String path) {
            return path.split("//|descendant|following|preceding|ancestor", -1).length - 1;
        }

        /** @throws Faulty where it cannot be read, or may take too long */
        public static XPathHolds of(String path) {
            filled("the XPath", path);
            if (descents(path) > MOST_DESCENTS)
                throw new Faulty(
                        "XPath",
                        path,
                        path.lastIndexOf("//") + 1,
                        "at most %d of // and the axes over many elements, since each multiplies the time it takes"
                                .formatted(MOST_DESCENTS));
            linear(path);
            try {
                return new XPathHolds(path, compile(path));
            } catch (XPathExpressionException wrong) {
                var why = String.valueOf(wrong.getMessage()).replaceFirst("^[\\w.]+Exception: ", "");
                throw new Faulty(
                        "XPath",
                        path,
                        Faulty.position(path, XPathHolds::reads, List.of("", "a", "a()", "1", "=1", "::a")),
                        why);
            }
        }

        /** What is asked of each element may look at what is below it, and not go through the whole payload again. */
        private static void linear(String path) {
            int depth = 0;
            char quote = 0;
            for (int i = 0; i < path.length(); i++) {
                char c = path.charAt(i);
                if (quote != 0) {
                    if (c == quote) quote = 0;
                    continue;
                }
                if (c == '\'' || c == '"') quote = c;
                else if (c == '[' && ++depth > 1)
                    throw new Faulty("XPath", path, i + 1, "brackets do not stand in brackets");
                else if (c == ']') depth--;
                else if (depth > 0 && (path.startsWith("..", i) || path.startsWith("//", i) || isRoot(path, i)))
                    throw new Faulty(
                            "XPath", path, i + 1, "within brackets only what is below the element can be asked for");
            }
        }

        /** Whether a path begins at the root here: with a slash that does not follow a name, a bracket or a star. */
        private static boolean isRoot(String path, int at) {
            if (path.charAt(at) != '/') return false;
            var before = path.substring(0, at).stripTrailing();
            char last = before.isEmpty() ? '[' : before.charAt(before.length() - 1);
            return !Character.isLetterOrDigit(last) && "_-.)]*@".indexOf(last) < 0;
        }

        private static boolean reads(String path) {
            try {
                compile(path);
                return true;
            } catch (XPathExpressionException wrong) {
                return false;
            }
        }

        private static XPathExpression compile(String path) throws XPathExpressionException {
            var factory = XPathFactory.newInstance();
            try {
                factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            } catch (XPathFactoryConfigurationException never) {
                throw new IllegalStateException(never);
            }
            return factory.newXPath().compile(path);
        }

        @Override
        public Truth of(Candidate message) {
            if (!message.isXml()) return Truth.FALSE;
            var document = message.xmlPayload();
            if (document == null) return Truth.UNKNOWN;
            synchronized (compiled) {
                try {
                    var nodes = (NodeList) compiled.evaluate(document, XPathConstants.NODESET);
                    return truth(nodes.getLength() > 0);
                } catch (XPathExpressionException noNodes) {
                    return value(document);
                }
            }
        }

        private Truth value(org.w3c.dom.Document document) {
            try {
                return truth((Boolean) compiled.evaluate(document, XPathConstants.BOOLEAN));
            } catch (XPathExpressionException fails) {
                return Truth.UNKNOWN;
            }
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "XPath " + path + " holds";
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof XPathHolds(var another, var any) && another.equals(path);
        }

        @Override
        public int hashCode() {
            return path.hashCode();
        }
    }

    /** A JSONPath (RFC 9535) over a JSON payload: it holds where it finds anything but null and false. */
    record JsonPathHolds(String path, JsonPath compiled) implements Condition {
        /** @throws Faulty where it cannot be read */
        public static JsonPathHolds of(String path) {
            filled("the JSONPath", path);
            if (!path.startsWith("$")) throw new Faulty("JSONPath", path, 1, "it begins with $");
            if (path.split("\\.\\.", -1).length > 3)
                throw new Faulty("JSONPath", path, path.lastIndexOf("..") + 1, "at most two of ..");
            // A pattern inside a path could not be stopped.
            if (path.contains("=~"))
                throw new Faulty(
                        "JSONPath", path, path.indexOf("=~") + 1, "patterns do not stand in a path; use the error's");
            try {
                return new JsonPathHolds(path, JsonPath.compile(path));
            } catch (InvalidPathException | StringIndexOutOfBoundsException wrong) {
                throw new Faulty(
                        "JSONPath",
                        path,
                        Faulty.position(path, JsonPathHolds::reads, List.of("", "a", "*", "@.a", "0", "1")),
                        String.valueOf(wrong.getMessage()));
            }
        }

        private static boolean reads(String path) {
            try {
                JsonPath.compile(path);
                return true;
            } catch (RuntimeException wrong) {
                return false;
            }
        }

        @Override
        public Truth of(Candidate message) {
            if (!message.isJson()) return Truth.FALSE;
            var tree = message.jsonPayload();
            if (tree == null) return Truth.UNKNOWN;
            Object found = compiled.read(tree, Candidate.JSON);
            return truth(found instanceof Collection<?> many
                    && many.stream().anyMatch(one -> one != null && !Boolean.FALSE.equals(one)));
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "JSONPath " + path + " holds";
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof JsonPathHolds(var another, var any) && another.equals(path);
        }

        @Override
        public int hashCode() {
            return path.hashCode();
        }
    }

    /**
     * A pattern or path that was stored before, and is not taken any more: it is never known whether it holds, so its rule takes
     * nothing by it until somebody has written it anew.
     *
     * @param kind under which it is stored
     * @param why  it is refused
     */
    record Refused(String kind, String text, String why) implements Condition {
        @Override
        public Truth of(Candidate message) {
            return Truth.UNKNOWN;
        }

        @Override
        public String words(UnaryOperator<String> interfaceName) {
            return "%s %s (not taken any more: %s)".formatted(kind, text, why);
        }
    }
}
