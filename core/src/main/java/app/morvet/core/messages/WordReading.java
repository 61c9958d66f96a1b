package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Reads words, keys of business and generated names.
 */
abstract class WordReading extends NameReading {
    private static final Pattern ISO_DURATION =
            Pattern.compile("P(?=[\\dT])(?:\\d++[YMWD])*+(?:T(?:\\d++(?:[.,]\\d++)?+[HMS])++)?+(?![\\p{L}\\p{N}])");
    private static final Pattern HEX_WORD = Pattern.compile("[0-9a-fA-F]++");
    private static final Pattern BUSINESS_KEY = Pattern.compile("\\p{Lu}{1,6}-\\d++(?:-\\d++)*+(?![\\p{L}\\p{N}_])");

    private static final Pattern CONSTANT =
            Pattern.compile(" (?:[\\p{L}_$][\\p{L}\\p{N}_$]*+\\.)++([\\p{L}\\p{N}_]++)");

    private static final Set<String> VOLATILE = Set.of(
            "id",
            "user",
            "username",
            "login",
            "account",
            "customer",
            "host",
            "hostname",
            "node",
            "instance",
            "pod",
            "session",
            "token",
            "trace",
            "traceid",
            "request",
            "requestid",
            "ref",
            "reference",
            "file",
            "filename",
            "ip",
            "client",
            "thread",
            "worker",
            "time",
            "date",
            "timestamp",
            "from",
            "sender",
            "recipient",
            "correlationid",
            "sessionid",
            "userid",
            "orderid",
            "spanid",
            "container",
            "server",
            "addr",
            "address",
            "remote",
            "peer");
    /** A word without any of these, and without a digit, is nothing but a word. */
    private static final String SIGNS = "@.:/=+_->→";

    WordReading(String line, Skeleton skeleton) {
        super(line, skeleton);
    }

    void word() {
        int end = wordEnd(at);
        if (device(end) || login(end) || line.startsWith("_", at + 2) && standard(end)) return;
        boolean digits = false;
        for (int i = at + 1; i < end && !digits; i++) {
            char c = line.charAt(i);
            digits = c < 128 ? c >= '0' && c <= '9' : Character.isDigit(c);
        }
        char next = end < line.length() ? line.charAt(end) : ' ';
        if (!digits && SIGNS.indexOf(next) < 0 && end - at < 20) {
            plainWord(end);
            return;
        }
        if (standard(end) || dataFile() || address() || mail(end) || joined(end) || ipv6()) return;
        if (digits) wordWithDigits(end);
        else plainWord(end);
    }

    /** What goes on behind a sign that joins. */
    boolean joined(int end) {
        char next = end < line.length() ? line.charAt(end) : ' ';
        if (next == '-' || Character.isDigit(next)) {
            if (uuid() || hardware()) return true;
            var key = mayBeBusinessKey() ? found(BUSINESS_KEY) : null;
            if (key != null) return businessKey(key.end());
        }
        if (next == ':' && hardware()) return true;
        if (end - at == 3 && "-/>→".indexOf(next) >= 0 && pair()) return true;
        if (tokenTo <= at && token()) return true;
        if (next == '-' && machine(end)) return true;
        return Character.isLowerCase(line.charAt(at)) && host();
    }

    boolean mayBeBusinessKey() {
        int dash = at;
        while (dash < line.length() && dash < at + 7 && Character.isUpperCase(line.charAt(dash))) dash++;
        return dash > at
                && dash + 1 < line.length()
                && line.charAt(dash) == '-'
                && Character.isDigit(line.charAt(dash + 1));
    }

    boolean businessKey(int end) {
        int dash = line.indexOf('-', at);
        var letters = line.substring(at, dash).toLowerCase(Locale.ROOT);
        var before = before();
        var key = line.substring(at, end);
        if (Codes.word(key, before, behind(end))
                && (letters.length() > 2 || before.announces() && line.startsWith(":", end))) {
            remember(key.toLowerCase(Locale.ROOT), end);
            plainTo(end);
            return true;
        }
        if (new Codes.Before(letters, last, "-").announces()) return false;
        mark(Mark.ID, end);
        return true;
    }

    void plainWord(int end) {
        var written = line.substring(at, end);
        boolean capital = Character.isUpperCase(line.charAt(at));
        if (capital && named(written)) return;
        var word = written.toLowerCase(Locale.ROOT);
        if (end - at <= 12
                && DateWords.mayBe(word)
                && (DateWords.sure(word)
                        || (capital || end - at > 4)
                                && DateWords.besideNumber(word)
                                && (besideNumber(end) || beforeMonth(end)))) {
            mark(
                    Mark.NUMBER,
                    end < line.length() && line.charAt(end) == '.' && end + 1 < line.length() && !capital
                            ? end + 1
                            : end);
            return;
        }
        boolean valued = end < line.length() && line.charAt(end) == '=';
        if (counted > 0 && (line.charAt(at - 1) != ' ' || ":,;(".indexOf(line.charAt(at - 2)) >= 0)) counted = 0;
        skeleton.plain(line, at, end, counted > 0 && --counted >= 0 ? CountedWords.one(word) : word);
        requested |= capital && CodeWords.METHODS.contains(written);
        boolean ofEnum = word.equals("constant") && last.equals("enum");
        remember(word, end);
        at = end;
        if (ofEnum) constant();
        if (valued
                && end + 1 < line.length()
                && Character.isLetter(line.charAt(end + 1))
                && (volatileKey(word) || logged() && Keys.of(word) == Keys.OTHER)) {
            plainTo(end + 1);
            int to = at;
            while (to < line.length() && " ,;)]}&".indexOf(line.charAt(to)) < 0) to++;
            mark(Mark.ID, to);
        }
    }

    /** What an enumeration does not have, behind the name of its type. */
    private void constant() {
        var constant = found(CONSTANT);
        if (constant == null) return;
        plainTo(constant.start(1));
        mark(Mark.ID, constant.end());
    }

    /** Whether the line is one of keys and values, as programs log. */
    private boolean logged() {
        int pairs = 0;
        for (int i = line.indexOf('='); i > 0 && pairs < 3; i = line.indexOf('=', i + 1))
            if (isWord(line.charAt(i - 1))) pairs++;
        return pairs == 3;
    }

    static boolean volatileKey(String word) {
        return VOLATILE.contains(word.replace("_", "").replace("-", ""))
                || word.endsWith("_id")
                || word.endsWith("-id");
    }

    /** Whether a month and its day follow, as behind the name of a weekday. */
    private boolean beforeMonth(int end) {
        if (!line.startsWith(" ", end)) return false;
        int to = wordEnd(end + 1);
        return DateWords.besideNumber(line.substring(end + 1, to).toLowerCase(Locale.ROOT)) && besideNumber(to);
    }

    /** Whether a number stands just before or behind, as beside the name of a month. */
    boolean besideNumber(int end) {
        int next = end;
        while (next < line.length() && next < end + 3 && " .,-/".indexOf(line.charAt(next)) >= 0) next++;
        if (next < line.length() && Character.isDigit(line.charAt(next))) return true;
        int before = at - 1;
        while (before >= 0 && before > at - 3 && " .,-/".indexOf(line.charAt(before)) >= 0) before--;
        return before >= 0 && Character.isDigit(line.charAt(before));
    }

    void wordWithDigits(int end) {
        var duration = line.charAt(at) == 'P' && end - at > 2 ? found(ISO_DURATION) : null;
        if (duration != null) {
            mark(Mark.NUMBER, duration.end());
            return;
        }
        var word = line.substring(at, end);
        if (Codes.word(word, before(), behind(end))) {
            remember(word.toLowerCase(Locale.ROOT), end);
            plainTo(end);
            return;
        }
        if (oneOfValues(end) || isId(word)) {
            mark(Mark.ID, padded(end));
            podEnd();
            return;
        }
        // A name with a number: the number is one of a row, but in the middle of a name it belongs to it.
        int digit = at;
        while (!Character.isDigit(line.charAt(digit))) digit++;
        int rest = digit;
        while (rest < end && Character.isDigit(line.charAt(rest))) rest++;
        boolean value = (last.equals("value") || NameWords.LETTERED.contains(last)) && before().near();
        if (rest == end && (value || end - digit > 1) && fewCapitals(digit)) {
            mark(Mark.ID, end);
            return;
        }
        if (rest < end && Character.isLetter(line.charAt(rest)) && end - rest > 2 && digit - at > 2) {
            remember(word.toLowerCase(Locale.ROOT), end);
            plainTo(end);
            return;
        }
        remember(line.substring(at, digit).toLowerCase(Locale.ROOT), digit);
        plainTo(digit);
        at = digit;
        mark(Mark.NUMBER, rest);
        if (at < end) {
            if (Character.isLetter(line.charAt(at)) && end - at <= 2) mark(Mark.ID, end);
            else plainTo(Math.min(end, at + 1));
        }
    }

    /** With what fills base64 up. */
    private int padded(int end) {
        int to = end;
        while (to < line.length() && to < end + 2 && line.charAt(to) == '=') to++;
        return to == line.length() || !isWord(line.charAt(to)) ? to : end;
    }

    /** As before the number of a cabin, a gate or a booking. */
    private boolean fewCapitals(int end) {
        if (end - at > 2) return false;
        for (int i = at; i < end; i++) if (!Character.isUpperCase(line.charAt(i))) return false;
        return true;
    }

    /** Letters and digits in turn, or a little of both, as no word is. */
    static boolean isId(String word) {
        int letters = 0;
        int digits = 0;
        int turns = 0;
        int longest = 0;
        int run = 0;
        for (int i = 0; i < word.length(); i++) {
            char c = word.charAt(i);
            boolean digit = Character.isDigit(c);
            if (digit) digits++;
            else if (c != '_') letters++;
            run = digit || c == '_' ? 0 : run + 1;
            longest = Math.max(longest, run);
            if (i > 0 && digit != Character.isDigit(word.charAt(i - 1)) && c != '_' && word.charAt(i - 1) != '_')
                turns++;
        }
        if (word.length() >= 8 && digits >= 2 && HEX_WORD.matcher(word).matches()) return true;
        if (word.length() < 6) return turns > 2;
        if (turns >= 3) return longest < 5 || turns >= 5;
        if (turns == 2) return longest < 3;
        return letters < 3 && digits >= 4 || letters > 0 && digits >= 6 && letters < 6;
    }
}
