package app.morvet.core.readings;

import java.time.Instant;
import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Goes through one line of a page from left to right. Strictly one space stands between its parts and numbers are written
 * as in OpenMetrics; else blanks and tabs do, and numbers as most programs write them.
 */
final class MetricLine {
    private static final Pattern NOT_FINITE = Pattern.compile("(?i)[+-]?(?:inf|infinity)|nan");
    private static final int MOST_EXEMPLAR = 128;

    /** A timestamp of more than so many seconds is one in milliseconds: as seconds it would be tens of thousands of years off. */
    private static final double MOST_SECONDS = 1e11;

    private final String line;
    private final boolean strict;
    private final Map<String, Map<String, String>> labelled;
    private int at;

    MetricLine(String line, boolean strict) {
        this(line, strict, new HashMap<>());
    }

    /** @param labelled the labels of other lines of the page, by how they were written: a page says the same ones again and again */
    MetricLine(String line, boolean strict, Map<String, Map<String, String>> labelled) {
        this.line = line;
        this.strict = strict;
        this.labelled = labelled;
    }

    String name() {
        int from = at;
        while (at < line.length() && (isLetter(line.charAt(at)) || isDigit(line.charAt(at)) || isJoin(line.charAt(at))))
            at++;
        if (at == from || isDigit(line.charAt(from)))
            throw new IllegalArgumentException("expected the name of a measure at column " + (from + 1));
        return line.substring(from, at);
    }

    private boolean isJoin(char c) {
        return c == '_' || c == ':' || c == '.' && !strict;
    }

    private static boolean isLetter(char c) {
        return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z';
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }

    /** By name; empty where there are none. Those that are written as on another line of the page are the same map. */
    Map<String, String> labels() {
        blanks();
        if (at >= line.length() || line.charAt(at) != '{') return Map.of();
        int end = endOfLabels();
        var written = line.substring(at, end);
        var known = labelled.get(written);
        if (known == null) {
            known = Collections.unmodifiableMap(readLabels());
            labelled.put(written, known);
        }
        at = end;
        return known;
    }

    /** Behind the brace that ends them, or the end of the line. */
    private int endOfLabels() {
        boolean quoted = false;
        for (int i = at; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == '"') quoted = !quoted;
            else if (quoted && c == '\\') i++;
            else if (!quoted && c == '}') return i + 1;
        }
        return line.length();
    }

    private Map<String, String> readLabels() {
        var labels = new TreeMap<String, String>();
        at++;
        blanks();
        while (peek() != '}') {
            var name = name();
            if (name.indexOf(':') >= 0) throw new IllegalArgumentException("a label's name has no colon: " + name);
            blanks();
            expect('=');
            blanks();
            expect('"');
            if (labels.put(name, quoted()) != null)
                throw new IllegalArgumentException("the label " + name + " stands twice");
            blanks();
            if (peek() == '}') break;
            expect(',');
            blanks();
            if (strict && peek() == '}') throw new IllegalArgumentException("a comma stands before no label");
        }
        at++;
        return labels;
    }

    private void blanks() {
        if (!strict) while (at < line.length() && isBlank(line.charAt(at))) at++;
    }

    private static boolean isBlank(char c) {
        return c == ' ' || c == '\t';
    }

    private char peek() {
        if (at >= line.length()) throw new IllegalArgumentException("the line ends in the middle of its labels");
        return line.charAt(at);
    }

    private void expect(char wanted) {
        if (peek() != wanted) throw new IllegalArgumentException("expected " + wanted + " at column " + (at + 1));
        at++;
    }

    /** What stands between quotes. A backslash before anything but n, a quote or a backslash is one itself. */
    private String quoted() {
        int end = at;
        while (end < line.length() && line.charAt(end) != '"') end += line.charAt(end) == '\\' ? 2 : 1;
        if (end >= line.length()) throw new IllegalArgumentException("the line ends in the middle of its labels");
        var value = unescaped(line.substring(at, end));
        at = end + 1;
        return value;
    }

    static String unescaped(String text) {
        if (text.indexOf('\\') < 0) return text;
        var plain = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            char next = c == '\\' && i + 1 < text.length() ? text.charAt(i + 1) : 0;
            if (next == 'n') plain.append('\n');
            else if (next == '"' || next == '\\') plain.append(next);
            else {
                plain.append(c);
                continue;
            }
            i++;
        }
        return plain.toString();
    }

    double value() {
        return number(word("a value"));
    }

    /** When it was measured; null where the line does not say. */
    @Nullable
    Instant time() {
        if (!more()) return null;
        var word = word("a time");
        double seconds = number(word);
        if (!Double.isFinite(seconds)) throw new IllegalArgumentException("\"" + word + "\" is no time");
        if (!strict && Math.abs(seconds) > MOST_SECONDS) seconds /= 1000;
        if (Math.abs(seconds) > MOST_SECONDS)
            throw new IllegalArgumentException("\"" + word + "\" is no time: too far off");
        return Micros.instant(Math.round(seconds * 1e6));
    }

    /** Whether something stands here before an exemplar or the end. */
    private boolean more() {
        blanks();
        if (at >= line.length()) return false;
        return line.charAt(at) != '#' && !line.startsWith(" #", at);
    }

    /**
     * Goes past an exemplar.
     *
     * @return whether there is one
     */
    boolean exemplar() {
        blanks();
        if (at >= line.length()) return false;
        if (!strict) {
            // It is nothing that is read, and its like has no place in the ancestor of the format.
            if (line.charAt(at) != '#')
                throw new IllegalArgumentException("\"" + line.substring(at) + "\" stands behind it");
            at = line.length();
            return true;
        }
        if (!line.startsWith(" # {", at))
            throw new IllegalArgumentException("expected an exemplar ( # {…} value) or the end at column " + (at + 1));
        at += 3;
        int length = 0;
        for (var label : labels().entrySet())
            length += label.getKey().codePointCount(0, label.getKey().length())
                    + label.getValue().codePointCount(0, label.getValue().length());
        if (length > MOST_EXEMPLAR)
            throw new IllegalArgumentException("the labels of an exemplar have at most 128 characters, have " + length);
        value();
        time();
        if (at < line.length()) throw new IllegalArgumentException("something stands behind the exemplar");
        return true;
    }

    private String word(String what) {
        if (strict) {
            if (at >= line.length() || line.charAt(at) != ' ')
                throw new IllegalArgumentException(what + " is missing at column " + (at + 1));
            at++;
        }
        blanks();
        int from = at;
        while (at < line.length() && !isBlank(line.charAt(at)) && line.charAt(at) != '\r') at++;
        if (from == at) throw new IllegalArgumentException(what + " is missing at column " + (from + 1));
        return line.substring(from, at);
    }

    /**
     * A number as the standard writes it.
     *
     * @throws IllegalArgumentException where it is none
     */
    static double number(String text) {
        if (isReal(text)) return Double.parseDouble(text);
        if (!NOT_FINITE.matcher(text).matches()) throw new IllegalArgumentException("\"" + text + "\" is not a number");
        if (text.equalsIgnoreCase("nan")) return Double.NaN;
        return text.startsWith("-") ? Double.NEGATIVE_INFINITY : Double.POSITIVE_INFINITY;
    }

    /** Digits, with a point before, among or after them, and an exponent where there is one. By hand, since a page is mostly numbers. */
    private static boolean isReal(String text) {
        int begin = afterSign(text, 0);
        int point = afterDigits(text, begin);
        boolean broken = point < text.length() && text.charAt(point) == '.';
        int end = broken ? afterDigits(text, point + 1) : point;
        if (end - begin == (broken ? 1 : 0)) return false;
        if (end == text.length()) return true;
        if (text.charAt(end) != 'e' && text.charAt(end) != 'E') return false;
        int power = afterSign(text, end + 1);
        return power < text.length() && afterDigits(text, power) == text.length();
    }

    private static int afterSign(String text, int at) {
        return at < text.length() && (text.charAt(at) == '+' || text.charAt(at) == '-') ? at + 1 : at;
    }

    private static int afterDigits(String text, int at) {
        while (at < text.length() && isDigit(text.charAt(at))) at++;
        return at;
    }
}
