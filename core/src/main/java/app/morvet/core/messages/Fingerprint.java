package app.morvet.core.messages;

import java.util.HexFormat;
import java.util.List;
import java.util.regex.Pattern;
import org.apache.commons.codec.digest.DigestUtils;

/**
 * What stays of an error text once what varies from message to message is taken out. Texts with the same skeleton are one
 * failure family.
 *
 * <p><strong>Codes stay</strong>, since another code is another cause: a number or word behind what announces one (HTTP
 * status, SMTP reply, SQLSTATE, errno, exit code, signal, {@code code}, {@code error}), a status with its reason phrase
 * ({@code 404 Not Found}), a vendor's code in front ({@code ABC-12541:}, {@code E1001:}), error numbers in hexadecimal
 * ({@code 0x80070005}), ports below 32768, and what stands quoted behind column, field, table, constraint and their like, or
 * is written as a program writes names. See {@link Codes}.
 *
 * <p><strong>Taken out</strong> are ids (UUIDs, hexadecimal numbers, words of letters and digits mixed, business keys such as
 * {@code MF-2041}, hardware addresses, base64, generated endings of instance names), what stands in quotes, web and mail
 * addresses, names and addresses of hosts, and numbers with what belongs to them: sign, exponent, groups, unit, and all of a
 * date or time, with names of weekdays and months. Neighbours of one sort are one. A name without quotes is taken out where a
 * word before it says what it names, as in {@code passenger Aino Salmi} ({@link NameReading}).
 *
 * <p>In JSON, XML and {@code key=value} the key decides: values of keys such as {@code code}, {@code status} and {@code type} stay,
 * those of {@code message} and {@code detail} are read as text, all others are taken out ({@link Keys}). Bodies are compared in
 * one form, whatever the order of their members ({@link BodyForm}).
 *
 * <p>Of a stack trace only the first frames count, without their line numbers, so a deploy that shifts lines changes nothing.
 * Case, kinds of quotes and blanks make no difference, nor does a full stop at the end of a line, where or when it was in brackets
 * there ({@code (line 14, column 9)}), and whether a word behind a number stands for one or many ({@link CountedWords}).
 * It is linear in the length of the text.
 *
 * @param key      sixteen hexadecimal digits of the skeleton's SHA-256, ids and numbers taken for the same
 * @param skeleton what stays, with a mark such as {@code ⟨n⟩} for each thing taken out; at most 2,000 characters
 * @param values   what was taken out, in its order
 */
public record Fingerprint(String key, String skeleton, List<String> values) {
    private static final int READ = 8 * 1024;
    private static final int LONGEST = 2000;
    private static final int FRAMES = 6;

    private static final List<String> FRAME_STARTS = List.of("at ", "File ", "...", "from ");
    private static final Pattern BLANKS = Pattern.compile("[\\s\u00A0\u202F\u2009\uFEFF]+");

    public static Fingerprint of(String error) {
        var text = error.length() > READ ? error.substring(0, READ) : error;
        var skeleton = skeleton(text);
        var form = BodyForm.of(text);
        var compared = form.equals(text) ? skeleton : skeleton(form);
        return new Fingerprint(key(compared.canonical()), cut(skeleton.shown()), skeleton.values());
    }

    private static Skeleton skeleton(String text) {
        var skeleton = new Skeleton();
        int frames = 0;
        for (var line : (Iterable<String>) text.lines()::iterator) {
            if (line.isBlank()) continue;
            var words = even(line);
            if (words.isEmpty() || isFrame(words) && ++frames > FRAMES) continue;
            skeleton.startLine();
            new Reading(words, skeleton).take();
        }
        return skeleton;
    }

    private static String cut(String skeleton) {
        return skeleton.length() > LONGEST ? skeleton.substring(0, LONGEST) : skeleton;
    }

    private static String even(String line) {
        var stripped = line.strip();
        for (int i = 0; i < stripped.length(); i++) {
            char c = stripped.charAt(i);
            if (c == ' '
                    ? stripped.charAt(i + 1) == ' '
                    : c < ' '
                            || c > '~' && BLANKS.matcher(Character.toString(c)).matches())
                return BLANKS.matcher(stripped).replaceAll(" ").strip();
        }
        return stripped;
    }

    /** A line of a stack trace, as the languages that are about write it. */
    private static boolean isFrame(String line) {
        for (var start : FRAME_STARTS) if (line.startsWith(start)) return true;
        return line.length() > 1 && line.charAt(0) == '#' && line.charAt(1) >= '0' && line.charAt(1) <= '9';
    }

    private static String key(String skeleton) {
        return HexFormat.of().formatHex(DigestUtils.sha256(skeleton), 0, 8);
    }
}
