package app.morvet.core.messages;

import java.util.Locale;
import java.util.regex.Pattern;

/**
 * What is a code, that is, tells one cause from another: by its shape, by the words before it and by what stands behind it.
 * Word lists are short on purpose; what is no code here is taken out as a number or an id.
 */
final class Codes {
    /** Capitals and figures, as vendors number their messages. */
    private static final Pattern VENDOR = Pattern.compile("\\p{Lu}{1,10}\\d{2,8}\\p{Lu}?|\\p{Lu}{3,10}-\\d{4,5}");

    /** A message of a large system, with its weight at the end. */
    private static final Pattern WEIGHED = Pattern.compile("\\p{Lu}{3,5}\\d{4,5}[EISWNF]");

    private static final Pattern STATE = Pattern.compile("[0-9A-Z]{5}");
    private static final Pattern CONSTANT = Pattern.compile("\\p{Lu}[\\p{Lu}\\d_]*+");
    private static final Pattern NAME = Pattern.compile("[\\p{L}_$][\\p{L}\\p{N}_$.\\[\\]()<>,:/@-]*");
    private static final int FIRST_EPHEMERAL_PORT = 32_768;

    private Codes() {}

    /** The words before a place: the last, the one before it, and what stands between the last and the place. */
    record Before(String last, String earlier, String gap) {
        boolean near() {
            if (gap.length() > 5) return false;
            for (int i = 0; i < gap.length(); i++) if (" :;=#([{\"'-<>*&".indexOf(gap.charAt(i)) < 0) return false;
            return true;
        }

        boolean joined() {
            return near() && gap.indexOf(':') < 0;
        }

        boolean announces() {
            if (!near()) return false;
            if (CodeWords.ERRORS.contains(last)) return joined() || gap.startsWith(" #");
            if (CodeWords.CODES.contains(last)) return CodeWords.CODE_OF.contains(earlier) || !gap.startsWith(" ");
            return switch (last) {
                case "state" -> earlier.equals("sql");
                case "data" -> earlier.equals("error") && joined();
                case "number" -> earlier.equals("alert") || earlier.equals("error");
                case "value" -> CodeWords.EXITS.contains(earlier);
                case "with" -> earlier.equals("exited") || earlier.equals("terminated");
                case "reason" -> true;
                case "reply" -> !gap.equals(" ") || earlier.equals("ftp") || earlier.equals("smtp");
                default -> CodeWords.ANNOUNCE.contains(last) || CodeWords.EXITS.contains(last);
            };
        }
    }

    /**
     * Whether a whole number is one: behind what announces it, or a status as servers give it.
     *
     * @param end where it ends in its line
     */
    static boolean number(String line, int from, int end, Before before) {
        int length = end - from;
        if (length > 6) return false;
        if (counts(line, end, before)) return false;
        if (before.announces()) return true;
        char next = end < line.length() ? line.charAt(end) : ' ';
        var last = before.last();
        if (last.equals("port") && before.near()) return port(line.substring(from, end));
        if (length > 1
                && next != ')'
                && (hosted(before) || before.gap().equals(" :") && CodeWords.LISTENS.contains(last)))
            return port(line.substring(from, end));
        // A tool that names itself and then its own number: curl: (7) …
        if (next == ')'
                && (before.gap().equals(": (") && before.earlier().isEmpty()
                        || before.gap().equals("(") && last.isEmpty())) return true;
        char first = line.charAt(from);
        if (length != 3 || first < '1' || first > '5') return false;
        var behind = line.substring(end, Math.min(line.length(), end + 40));
        if (phrase(behind)) return true;
        boolean error = first >= '4';
        if (last.isEmpty()) return error && before.gap().isBlank() && (ends(behind) || behind.startsWith("-"));
        if (!before.near() || !CodeWords.ANSWERS.contains(last)) return false;
        // What a trailer says is a count; what a server says: is a reply.
        if (last.equals("says") && !before.gap().startsWith(":")) return false;
        return error && before.gap().startsWith(":") || (error || last.startsWith("answer")) && ends(behind);
    }

    /** What a colon leads in and a word follows is a count: {@code aborted: 14 rows}. */
    private static boolean counts(String line, int end, Before before) {
        return CodeWords.EXITS.contains(before.last())
                && before.gap().startsWith(":")
                && line.startsWith(" ", end)
                && end + 1 < line.length()
                && Character.isLetter(line.charAt(end + 1));
    }

    private static boolean hosted(Before before) {
        return before.gap().equals(":")
                && (CodeWords.HOSTED.contains(before.earlier()) || before.last().equals("localhost"));
    }

    static boolean port(String digits) {
        return digits.length() <= 5 && Integer.parseInt(digits) < FIRST_EPHEMERAL_PORT;
    }

    /** Behind a status: its reason phrase (RFC 9110, section 15), each word with a capital as servers write it. */
    private static boolean phrase(String behind) {
        int from = behind.startsWith(": ") ? 2 : behind.startsWith(" ") || behind.startsWith("-") ? 1 : -1;
        if (from < 0 || from >= behind.length() || !Character.isUpperCase(behind.charAt(from))) return false;
        int first = wordEnd(behind, from);
        if (CodeWords.PHRASES.contains(behind.substring(from, first).toLowerCase(Locale.ROOT))) return true;
        if (first + 1 >= behind.length() || !Character.isUpperCase(behind.charAt(first + 1))) return false;
        return CodeWords.PHRASES.contains(
                behind.substring(from, wordEnd(behind, first + 1)).toLowerCase(Locale.ROOT));
    }

    private static int wordEnd(String text, int from) {
        int at = from;
        while (at < text.length() && (Character.isLetter(text.charAt(at)) || text.charAt(at) == '-')) at++;
        return at;
    }

    private static boolean ends(String behind) {
        if (behind.isEmpty()) return true;
        char next = behind.charAt(0);
        if (next != ' ')
            return next != '.' && next != ',' && next != '/' && next != '%' && !Character.isLetterOrDigit(next)
                    || (next == '.' || next == ',') && (behind.length() == 1 || behind.charAt(1) == ' ');
        var word = behind.substring(1, wordEnd(behind, 1)).toLowerCase(Locale.ROOT);
        return word.isEmpty() && !(behind.length() > 1 && Character.isDigit(behind.charAt(1)))
                || CodeWords.FOLLOW.contains(word);
    }

    /** Whether a word of letters and digits is one. */
    static boolean word(String word, Before before, String behind) {
        if (word.length() > 16) return false;
        if (Character.isLowerCase(word.charAt(0)) && !before.near()) return false;
        if (before.announces() && !random(word)) return true;
        boolean vendor = VENDOR.matcher(word).matches();
        if (WEIGHED.matcher(word).matches()) return true;
        if (vendor && before.near() && before.last().equals("step")) return true;
        if (word.length() <= 4 && vendor && before.near() && CodeWords.TELL.contains(before.last())) return true;
        if (!vendor && !STATE.matcher(word).matches()) return false;
        boolean closes =
                behind.startsWith(":") || behind.startsWith("]") || behind.startsWith(" -") || behind.startsWith("|");
        boolean first = before.last().isEmpty()
                || before.gap().equals(": ")
                || before.gap().endsWith("] ");
        boolean afterError = before.near()
                && (before.last().equals("error")
                        || before.last().equals("err")
                        || before.last().equals("exception"));
        return closes && (first || afterError) && (vendor || afterError) || afterError && vendor;
    }

    /** A hexadecimal number that an operating system gives as an error. */
    static boolean hexadecimal(String number, Before before) {
        if (number.length() <= 6) return before.announces();
        if (number.length() != 10) return false;
        char first = Character.toLowerCase(number.charAt(2));
        return (first == '8' || first == 'c') && number.startsWith("00", 3)
                || before.announces() && (first == '8' || first == 'c');
    }

    /** Long, and letters and digits in turn: nobody's code. */
    private static boolean random(String word) {
        int turns = 0;
        for (int i = 1; i < word.length(); i++)
            if (Character.isDigit(word.charAt(i)) != Character.isDigit(word.charAt(i - 1))) turns++;
        return turns > 3 || word.length() >= 8 && turns > 2;
    }

    /** Whether what stands in quotes is a name out of a program, and no value. */
    static boolean quoted(String content, Before before, String wordBehind) {
        if (content.isEmpty() || content.length() > 100) return false;
        if (before.announces()) return content.length() <= 32 && content.indexOf(' ') < 0 && !random(content);
        if (!NAME.matcher(content).matches()) return false;
        boolean digits = content.chars().anyMatch(Character::isDigit);
        if (content.length() == 1 || PlaceReading.isData(content) || NameWords.CURRENCIES.contains(content))
            return false;
        if (!digits && written(content, before)) return true;
        if (CodeWords.NAMED.contains(before.last()) && before.near()) return true;
        if (CodeWords.NAMED.contains(wordBehind) && !digits) return true;
        return !digits && programmed(content);
    }

    /** Whether it is written as a program would write what is announced: {@code key 'fare.child'}, {@code entity 'Voyage'}. */
    private static boolean written(String content, Before before) {
        return switch (before.last()) {
            case "for" -> before.earlier().equals("value");
            case "key" -> content.indexOf('.') > 0;
            case "entity" -> Character.isUpperCase(content.charAt(0));
            default -> false;
        };
    }

    /** Snake case, camel case or a call: {@code vessel_id}, {@code orderLines}, {@code Fare.amount()}. */
    static boolean programmed(String name) {
        if (name.endsWith("()") || name.endsWith("(")) return true;
        boolean upper = false;
        boolean lower = false;
        boolean hump = false;
        boolean joined = false;
        for (int i = 0; i < name.length(); i++) {
            char c = name.charAt(i);
            if (!Character.isLetter(c) && c != '_' && c != '.') return false;
            if (c == '_' && i > 0 && i < name.length() - 1) joined = true;
            upper |= Character.isUpperCase(c);
            lower |= Character.isLowerCase(c);
            hump |= i > 0 && Character.isUpperCase(c) && Character.isLowerCase(name.charAt(i - 1));
        }
        return joined || hump && upper && lower;
    }

    /** Whether the value of a key that names causes is a code, and not a sentence. */
    static boolean value(String content) {
        return content.length() <= 80
                && content.indexOf(' ') < 0
                && !content.contains("://")
                && !(content.length() >= 8 && random(content));
    }

    /** Whether the value of any key is a constant of a program: {@code ORDER_NOT_FOUND}. */
    static boolean constant(String content) {
        return content.indexOf('_') > 0 && CONSTANT.matcher(content).matches();
    }
}
