package app.morvet.core.messages;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What stays of an error text once what varies from message to message is taken out. Texts with the same skeleton are one
 * failure family.
 *
 * <p>Taken out, in this order: ids (UUIDs, hexadecimal numbers, words of six or more letters and digits mixed, and capitals
 * joined to a number, as business keys are); what stands in quotes; web and mail addresses; host names; and every run of
 * digits with what joins them, so that dates, times, network addresses, versions and line numbers are one number each. Of a stack trace only the first frames count,
 * without their line numbers, so a deploy that shifts lines changes nothing. Blanks are made even.
 *
 * @param key      sixteen hexadecimal digits of the skeleton's SHA-256, ids and numbers taken for the same
 * @param skeleton what stays, with a mark such as {@code ⟨n⟩} for each thing taken out; at most 2,000 characters
 * @param values   what was taken out, in its order
 */
public record Fingerprint(String key, String skeleton, List<String> values) {
    private static final int READ = 8 * 1024;
    private static final int LONGEST = 2000;
    private static final int FRAMES = 6;

    private static final Pattern VARIES = Pattern.compile(
            """
            (?<id>(?<![\\p{L}\\p{N}])(?:[0-9a-fA-F]{8}-(?:[0-9a-fA-F]{4}-){3}[0-9a-fA-F]{12}|0x[0-9a-fA-F]++)(?![\\p{L}\\p{N}]))
            |(?<text>"[^"\\n]{0,200}+"|(?<![\\p{L}\\p{N}])'[^'\\n]{0,200}+'(?![\\p{L}\\p{N}])|`[^`\\n]{0,200}+`|«[^»\\n]{0,200}+»|„[^“”\\n]{0,200}+[“”]|“[^”\\n]{0,200}+”)
            |(?<address>[a-z][a-z0-9+.-]{1,12}+://[^\\s"'<>)\\]]++|[\\p{L}\\p{N}._%+-]{1,64}+@[\\p{L}\\p{N}.-]{1,200}+)
            |(?<host>(?<![\\p{L}\\p{N}._-])(?:[a-z0-9][a-z0-9-]{0,62}\\.){1,8}(?:example|com|net|org|local|internal|lan|corp|intra|fi|eu|io)(?![\\p{L}\\p{N}._(-])(?::\\d{1,5}+)?)
            |(?<word>(?<![\\p{L}\\p{N}])(?=\\p{L}{0,64}+\\d)(?=\\d{0,64}+\\p{L})[\\p{L}\\p{N}]{6,}+|(?<![\\p{L}\\p{N}])\\p{Lu}{1,6}-\\d++(?:-\\d++)*+(?![\\p{L}\\p{N}])|(?<=@)[0-9a-f]{6,16}+(?![\\p{L}\\p{N}]))
            |(?<n>\\d++(?:[.,:/T_-]?\\d++)*+Z?)
            """
                    .replace("\n", ""));
    private static final String QUOTES = "\"'`«„“";

    /** A word without any of these, and without a digit, has nothing in it that varies. */
    private static final String SIGNS = QUOTES + "@.:";

    private static final List<String> FRAME_STARTS = List.of("at ", "File ", "...", "from ");
    private static final Pattern BLANKS = Pattern.compile("\\s+");

    public static Fingerprint of(String error) {
        var text = error.length() > READ ? error.substring(0, READ) : error;
        var values = new ArrayList<String>();
        var skeleton = new StringBuilder();
        int frames = 0;
        for (var line : (Iterable<String>) text.lines()::iterator) {
            if (line.isBlank()) continue;
            var words = even(line.strip());
            if (isFrame(words) && ++frames > FRAMES) continue;
            if (!skeleton.isEmpty()) skeleton.append('\n');
            take(words, skeleton, values);
        }
        var whole = skeleton.length() > LONGEST ? skeleton.substring(0, LONGEST) : skeleton.toString();
        // An id that happens to be all digits is still the same id.
        return new Fingerprint(key(whole.replace("⟨id⟩", "⟨n⟩")), whole, List.copyOf(values));
    }

    private static String even(String line) {
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == ' ' ? line.charAt(i + 1) == ' ' : Character.isWhitespace(c))
                return BLANKS.matcher(line).replaceAll(" ");
        }
        return line;
    }

    /** A line of a stack trace, as the languages that are about write it. */
    private static boolean isFrame(String line) {
        return FRAME_STARTS.stream().anyMatch(line::startsWith)
                || line.length() > 1 && line.charAt(0) == '#' && isDigit(line.charAt(1));
    }

    private static void take(String line, StringBuilder skeleton, List<String> values) {
        var found = VARIES.matcher(line).useTransparentBounds(true);
        int taken = 0;
        int plainTo = 0;
        for (int i = 0; i < line.length(); ) {
            if (i >= plainTo) plainTo = plainTo(line, i);
            if (i < plainTo
                    || !mayStart(line, i)
                    || !found.region(i, line.length()).lookingAt()) {
                i = Math.max(i + 1, plainTo);
                continue;
            }
            skeleton.append(line, taken, i).append(mark(found));
            values.add(found.group());
            i = taken = found.end();
        }
        skeleton.append(line, taken, line.length());
    }

    /** Up to where there is nothing that varies: behind a word without any sign of it, or where this begins. */
    private static int plainTo(String line, int start) {
        for (int i = start; i < line.length(); i++) {
            char c = line.charAt(i);
            if (c == ' ') return i + 1;
            if (isDigit(c) || SIGNS.indexOf(c) >= 0) return start;
        }
        return line.length();
    }

    /** A digit, a quote, or the first letter of a word. */
    private static boolean mayStart(String line, int at) {
        char c = line.charAt(at);
        if (isDigit(c) || QUOTES.indexOf(c) >= 0) return true;
        return Character.isLetter(c) && (at == 0 || !Character.isLetterOrDigit(line.charAt(at - 1)));
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }

    private static String mark(Matcher found) {
        if (found.group("id") != null || found.group("word") != null) return "⟨id⟩";
        if (found.group("text") != null) return "⟨text⟩";
        if (found.group("address") != null) return "⟨address⟩";
        return found.group("host") != null ? "⟨host⟩" : "⟨n⟩";
    }

    private static String key(String skeleton) {
        try {
            var hash = MessageDigest.getInstance("SHA-256").digest(skeleton.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(hash, 0, 8);
        } catch (NoSuchAlgorithmException never) {
            throw new IllegalStateException(never);
        }
    }
}
