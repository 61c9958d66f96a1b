package app.morvet.core.messages;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
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
    private static final Pattern ENTITY = Pattern.compile("&([^;\\s]{0,40});?");
    private static final Pattern CODED = Pattern.compile("[A-Za-z0-9+/_-]{8,}={0,2}");

    private Unescaped() {}

    /** XML character data with its entities decoded; null where one is not among the five that need no document type. */
    static @Nullable String entities(String text) {
        if (text.indexOf('&') < 0) return text;
        var out = new StringBuilder();
        var found = ENTITY.matcher(text);
        int at = 0;
        while (found.find()) {
            out.append(text, at, found.start());
            var one = found.group().endsWith(";") ? decoded(found.group()) : null;
            if (one == null) return null;
            out.append(one);
            at = found.end();
        }
        return text.indexOf('&', at) >= 0
                ? null
                : out.append(text, at, text.length()).toString();
    }

    private static @Nullable String decoded(String entity) {
        var found = ESCAPE.matcher(entity);
        return found.matches() ? character(found) : null;
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
        var found = CODED.matcher(text);
        while (found.find()) {
            try {
                var plain = found.group().replace('-', '+').replace('_', '/');
                var bytes = Base64.getMimeDecoder().decode(plain);
                forms.add(StandardCharsets.UTF_8
                        .newDecoder()
                        .decode(ByteBuffer.wrap(bytes))
                        .toString());
            } catch (IllegalArgumentException | CharacterCodingException notCoded) {
                // an ordinary word
            }
        }
    }
}
