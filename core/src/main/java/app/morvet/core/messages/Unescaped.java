package app.morvet.core.messages;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What a text says once the ways to write a character otherwise are undone. */
final class Unescaped {
    private static final int ROUNDS = 3;
    private static final Pattern ESCAPE = Pattern.compile(
            "\\\\u(?<u>[0-9a-fA-F]{4})|\\\\x(?<x>[0-9a-fA-F]{2})|(?<p>(?:%[0-9a-fA-F]{2})+)"
                    + "|&#x(?<h>[0-9a-fA-F]{1,6});|&#(?<d>[0-9]{1,7});|&(?<n>amp|lt|gt|quot|apos);|\\\\(?<c>[\"\\\\/])");
    private static final String[] NAMES = {"amp", "lt", "gt", "quot", "apos"};
    private static final String NAMED = "&<>\"'";
    private static final int LONGEST_ENTITY = 9;
    private static final int SHORTEST_CODED = 8;

    private Unescaped() {}

    /** XML character data with its entities decoded; null where one is not among the five that need no document type. */
    static @Nullable String entities(String text) {
        int next = text.indexOf('&');
        if (next < 0) return text;
        var out = new StringBuilder(text.length());
        int at = 0;
        for (; next >= 0; next = text.indexOf('&', at)) {
            int end = text.indexOf(';', next);
            if (end < 0 || end - next > LONGEST_ENTITY) return null;
            int point = entity(text, next + 1, end);
            if (point < 0) return null;
            out.append(text, at, next).appendCodePoint(point);
            at = end + 1;
        }
        return out.append(text, at, text.length()).toString();
    }

    /** The character that is named between two places, or -1. */
    private static int entity(String text, int start, int end) {
        for (int i = 0; i < NAMES.length; i++)
            if (end - start == NAMES[i].length() && text.startsWith(NAMES[i], start)) return NAMED.charAt(i);
        if (end - start < 2 || text.charAt(start) != '#') return -1;
        boolean hex = text.charAt(start + 1) == 'x';
        int point = 0;
        for (int i = start + (hex ? 2 : 1); i < end; i++) {
            int digit = Character.digit(text.charAt(i), hex ? 16 : 10);
            if (digit < 0) return -1;
            point = point * (hex ? 16 : 10) + digit;
        }
        return Character.isValidCodePoint(point) ? point : 0xFFFD;
    }

    /** The inside of a JSON string. */
    static String json(String inside) {
        if (inside.indexOf('\\') < 0) return inside;
        var out = new StringBuilder();
        for (int i = 0; i < inside.length(); i++) {
            char c = inside.charAt(i);
            if (c != '\\' || i + 1 >= inside.length()) {
                out.append(c);
                continue;
            }
            char next = inside.charAt(++i);
            switch (next) {
                case 'n' -> out.append('\n');
                case 't' -> out.append('\t');
                case 'r' -> out.append('\r');
                case 'b' -> out.append('\b');
                case 'f' -> out.append('\f');
                case 'u' -> {
                    try {
                        out.append((char) Integer.parseInt(inside.substring(i + 1, i + 5), 16));
                        i += 4;
                    } catch (NumberFormatException | StringIndexOutOfBoundsException bad) {
                        out.append("\\u");
                    }
                }
                default -> out.append(next);
            }
        }
        return out.toString();
    }

    /** A text and what it may stand for: unescaped again and again, and what is in base64 decoded. */
    static Set<String> forms(String text) {
        if (isPlain(text)) return Set.of(text);
        var forms = new LinkedHashSet<String>();
        forms.add(text);
        var now = text;
        for (int round = 0; round < ROUNDS; round++) {
            var next = once(now);
            if (next.equals(now)) break;
            forms.add(next);
            now = next;
        }
        for (var form : new ArrayList<>(forms)) coded(form, forms);
        return forms;
    }

    private static boolean isPlain(String text) {
        int coded = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            coded = PlaceReading.isTokenSign(c) ? coded + 1 : 0;
            if (coded == SHORTEST_CODED || c == '\\' || c == '%' || c == '&') return false;
        }
        return true;
    }

    private static String once(String text) {
        if (text.indexOf('\\') < 0 && text.indexOf('%') < 0 && text.indexOf('&') < 0) return text;
        return ESCAPE.matcher(text).replaceAll(found -> Matcher.quoteReplacement(character(found)));
    }

    private static String character(java.util.regex.MatchResult found) {
        var matched = found.group();
        if (matched.startsWith("\\u")) return String.valueOf((char) Integer.parseInt(matched.substring(2), 16));
        if (matched.startsWith("\\x")) return String.valueOf((char) Integer.parseInt(matched.substring(2), 16));
        if (matched.startsWith("\\")) return matched.substring(1);
        if (matched.startsWith("%")) {
            var bytes = java.util.HexFormat.of().parseHex(matched.replace("%", ""));
            return new String(bytes, StandardCharsets.UTF_8);
        }
        var inside = matched.substring(1, matched.length() - 1);
        if (inside.startsWith("#")) {
            boolean hex = inside.startsWith("#x");
            int point = Integer.parseInt(inside.substring(hex ? 2 : 1), hex ? 16 : 10);
            return Character.isValidCodePoint(point) ? Character.toString(point) : "\uFFFD";
        }
        return switch (inside) {
            case "amp" -> "&";
            case "lt" -> "<";
            case "gt" -> ">";
            case "quot" -> "\"";
            default -> "'";
        };
    }

    private static void coded(String text, Set<String> forms) {
        for (int start = 0, end = 0; start < text.length(); start = end + 1) {
            end = start;
            while (end < text.length() && PlaceReading.isTokenSign(text.charAt(end))) end++;
            // No number of bytes is written in one letter more than fours.
            if (end - start < SHORTEST_CODED || (end - start) % 4 == 1) continue;
            var decoded = decoded(text, start, end);
            if (decoded != null) forms.add(decoded);
        }
    }

    /** Null where it is an ordinary word. */
    private static @Nullable String decoded(String text, int start, int end) {
        var plain = text.substring(start, end).replace('-', '+').replace('_', '/');
        try {
            var bytes = ByteBuffer.wrap(Base64.getDecoder().decode(plain));
            var characters = CharBuffer.allocate(bytes.remaining());
            var result = StandardCharsets.UTF_8.newDecoder().decode(bytes, characters, true);
            return result.isError() ? null : characters.flip().toString();
        } catch (IllegalArgumentException notCoded) {
            return null;
        }
    }
}
