package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Goes through one line of an error text from left to right, once, and tells its {@link Skeleton} what stays and what
 * varies. Patterns are tried only where their first sign stands, and none goes back over what it has read.
 */
final class Reading {
    private static final String NUMBER =
            "(?:\\p{Nd}{1,3}(?:[ \u00A0\u202F\u2009'’]\\p{Nd}{3})+(?!\\p{Nd})|\\p{Nd}++)(?:[.,:/T_-]?\\p{Nd}++)*+(?:[eE][+-]?\\p{Nd}++)?+";
    private static final String UNIT =
            "(?:ns|us|µs|μs|ms|msec|millis|milliseconds?|microseconds?|s|secs?|seconds?|m|mins?|minutes?|h|hrs?|hours?|d|days?|[kKMGT]i?[bB]|bytes?|B|kg|%|st|nd|rd|th|Z|x)(?![\\p{L}\\p{N}_])";
    private static final Pattern QUANTITY =
            Pattern.compile("[+-]?" + NUMBER + "(?:(?: ?" + UNIT + ")(?: ?" + NUMBER + " ?" + UNIT + ")*+)?+");
    private static final Pattern ISO_DURATION =
            Pattern.compile("P(?=[\\dT])(?:\\d++[YMWD])*+(?:T(?:\\d++(?:[.,]\\d++)?+[HMS])++)?+(?![\\p{L}\\p{N}])");
    private static final Pattern UUID =
            Pattern.compile("[0-9a-fA-F]{8}-(?:[0-9a-fA-F]{4}-){3}[0-9a-fA-F]{12}(?![\\p{L}\\p{N}])");
    private static final Pattern HEX = Pattern.compile("0[xX][0-9a-fA-F]++(?![\\p{L}\\p{N}])");
    private static final Pattern HEX_WORD = Pattern.compile("[0-9a-fA-F]++");
    private static final Pattern HARDWARE =
            Pattern.compile("[0-9a-fA-F]{2}(?:([:-])[0-9a-fA-F]{2})(?:\\1[0-9a-fA-F]{2}){4}(?![\\p{L}\\p{N}:-])");
    private static final Pattern IPV6 = Pattern.compile(
            "(?=[0-9a-fA-F:.]{0,45}+(?:[^0-9a-zA-Z:.]|$|%))(?:(?:[0-9a-fA-F]{1,4}:){7}[0-9a-fA-F]{1,4}|(?=[0-9a-fA-F:]*\\d)(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4}){0,6})?::(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4}){0,6})?)(?:(?<=:)\\d{1,3}(?:\\.\\d{1,3}){3})?(?:%\\w++)?+");
    private static final Pattern IPV4 =
            Pattern.compile("\\d{1,3}(?:\\.\\d{1,3}){3}(?![\\p{L}\\p{N}]|\\.\\d)(?:/\\d{1,2})?");
    private static final Pattern ADDRESS = Pattern.compile(
            "([a-zA-Z][a-zA-Z0-9+.-]{1,12}+://)([^\\s\"'<>)\\]},;:/?#]*+)(?::(\\d{2,5})(?!\\d))?+([^\\s\"'<>)\\]},;]*+)");
    private static final Pattern PORT = Pattern.compile(":(\\d{2,5})(?![\\p{L}\\p{N}]|[.:]\\p{N})");
    private static final Pattern MAIL_DOMAIN = Pattern.compile("@[\\p{L}\\p{N}-]++(?:\\.[\\p{L}\\p{N}-]++)*+");
    private static final Pattern BUSINESS_KEY = Pattern.compile("\\p{Lu}{1,6}-\\d++(?:-\\d++)*+(?![\\p{L}\\p{N}_])");
    private static final Pattern TOKEN =
            Pattern.compile("[A-Za-z0-9+/_-]{20,}+={0,2}(?:\\.[A-Za-z0-9+/_-]{4,}+={0,2}){0,2}");
    private static final Pattern POD_END = Pattern.compile("-(?:[bcdfghjklmnpqrstvwxz2456789]{5})(?![\\p{L}\\p{N}])");
    private static final Pattern SMTP = Pattern.compile("([245]\\d\\d)[ -](#?[245]\\.\\d{1,3}\\.\\d{1,3})(?![\\d.])");
    private static final Pattern ELEMENT = Pattern.compile("<([\\p{L}_][\\p{L}\\p{N}_.:-]*+)[^<>]*+>([^<>]++)</");
    private static final Pattern KEY_VALUES = Pattern.compile("\\)=\\(([^()]*+)\\)");
    private static final Pattern ENHANCED = Pattern.compile("[245]\\.\\d{1,3}\\.\\d{1,3}(?![\\d.])");
    private static final Set<String> ENHANCES = Set.of("dsn", "status", "smtp", "enhanced", "diagnostic");
    private static final Set<String> TOP_DOMAINS = Set.of(
            "example",
            "com",
            "net",
            "org",
            "local",
            "localdomain",
            "internal",
            "lan",
            "corp",
            "intra",
            "fi",
            "eu",
            "io",
            "dev",
            "cloud",
            "test",
            "svc",
            "invalid",
            "home",
            "arpa",
            "ee",
            "se",
            "no",
            "dk");
    private static final Set<String> SAY = Set.of(
            "said",
            "says",
            "message",
            "msg",
            "reason",
            "error",
            "answer",
            "answered",
            "reply",
            "replied",
            "response",
            "responded",
            "returned",
            "cause",
            "detail",
            "details",
            "description",
            "text",
            "fault",
            "exception",
            "warning",
            "because",
            "output");
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
    private static final String QUOTES = "\"'`«„“‘‚‹”’「";
    private static final String ENDS = "\"'`»“””’‘›”’」";

    /** A word without any of these, and without a digit, is nothing but a word. */
    private static final String SIGNS = "@.:/=+_-";

    private final String line;
    private final Skeleton skeleton;
    private int at;
    private String last = "";
    private String earlier = "";
    private int lastEnd;
    private int mailTo;
    private int tokenTo;
    private boolean counted;

    /** The key whose list is being read. */
    private @Nullable String listed;

    Reading(String line, Skeleton skeleton) {
        this.line = line;
        this.skeleton = skeleton;
    }

    void take() {
        while (at < line.length()) {
            char c = line.charAt(at);
            boolean inWord = at > 0 && isWord(line.charAt(at - 1));
            if (Character.isLetter(c) && !inWord) word();
            else if (Character.isDigit(c)) number();
            else if (QUOTES.indexOf(c) >= 0) quote(c);
            else if (c == '\\' && at + 1 < line.length() && line.charAt(at + 1) == '"') escapedQuote();
            else if (c == '<') element();
            else if (c == ':' && !inWord && ipv6()) continue;
            else if (c == '[' && at + 1 < line.length() && ipv6InBrackets()) continue;
            else if (c == ')' && line.startsWith(")=(", at)) keyValues();
            else if ((c == '+' || c == '-') && signed(inWord)) number();
            else {
                if (c == ']') listed = null;
                plainTo(at + 1);
            }
        }
    }

    private static boolean isWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_';
    }

    private void plainTo(int end) {
        skeleton.plain(line, at, end);
        at = end;
    }

    private void mark(Mark mark, int end) {
        skeleton.mark(mark, line.substring(at, end));
        at = end;
    }

    private @Nullable Matcher found(Pattern pattern) {
        var matcher = pattern.matcher(line).useTransparentBounds(true).region(at, line.length());
        return matcher.lookingAt() ? matcher : null;
    }

    private Codes.Before before() {
        return new Codes.Before(last, earlier, line.substring(lastEnd, at));
    }

    private void remember(String word, int end) {
        earlier = lastEnd == 0 || line.substring(lastEnd, at).indexOf('.') < 0 ? last : "";
        last = word;
        lastEnd = end;
    }

    private String behind(int end) {
        return line.substring(end, Math.min(line.length(), end + 40));
    }

    private int wordEnd(int from) {
        int end = from;
        while (end < line.length() && isWord(line.charAt(end))) end++;
        return end;
    }

    // --- words -----------------------------------------------------------------------------------------------------

    private void word() {
        int end = wordEnd(at);
        boolean digits = false;
        for (int i = at; i < end && !digits; i++) digits = Character.isDigit(line.charAt(i));
        char next = end < line.length() ? line.charAt(end) : ' ';
        if (!digits && SIGNS.indexOf(next) < 0 && end - at < 20) {
            plainWord(end);
            return;
        }
        if (address() || mail(end) || joined(next) || ipv6()) return;
        if (digits) wordWithDigits(end);
        else plainWord(end);
    }

    /** What goes on behind a sign that joins. */
    private boolean joined(char next) {
        if (next == '-' || Character.isDigit(next)) {
            if (uuid() || hardware()) return true;
            var key = mayBeBusinessKey() ? found(BUSINESS_KEY) : null;
            if (key != null) return businessKey(key.end());
        }
        if (next == ':' && hardware()) return true;
        if (tokenTo <= at && token()) return true;
        if ((next == '.' || next == '-' || Character.isDigit(next) || next == '_' || true)
                && Character.isLowerCase(line.charAt(at))) return host();
        return false;
    }

    private boolean uuid() {
        if (at + 36 > line.length() || line.charAt(at + 8) != '-' || line.charAt(at + 13) != '-') return false;
        var found = found(UUID);
        if (found == null) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    private boolean hardware() {
        if (at + 17 > line.length() || line.charAt(at + 2) != line.charAt(at + 5)) return false;
        if (line.charAt(at + 2) != ':' && line.charAt(at + 2) != '-') return false;
        var found = found(HARDWARE);
        if (found == null) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    private boolean mayBeBusinessKey() {
        int dash = at;
        while (dash < line.length() && dash < at + 7 && Character.isUpperCase(line.charAt(dash))) dash++;
        return dash > at
                && dash + 1 < line.length()
                && line.charAt(dash) == '-'
                && Character.isDigit(line.charAt(dash + 1));
    }

    private boolean businessKey(int end) {
        int dash = line.indexOf('-', at);
        var letters = line.substring(at, dash).toLowerCase(Locale.ROOT);
        var before = before();
        var key = line.substring(at, end);
        if (Codes.word(key, before, behind(end)) && !key.matches("\\p{Lu}{1,2}-.*")) {
            remember(key.toLowerCase(Locale.ROOT), end);
            plainTo(end);
            return true;
        }
        if (new Codes.Before(letters, last, "-").announces()) return false;
        mark(Mark.ID, end);
        return true;
    }

    private boolean address() {
        int colon = wordEnd(at);
        if (!line.startsWith("://", colon)) return false;
        var found = found(ADDRESS);
        if (found == null) return false;
        var port = found.group(3);
        if (port == null || !Codes.port(port)) {
            mark(Mark.ADDRESS, trimmed(found.end()));
            return true;
        }
        mark(Mark.ADDRESS, found.end(2));
        plainTo(found.end(3));
        if (found.end() > at) mark(Mark.ADDRESS, trimmed(found.end()));
        return true;
    }

    /** A full stop behind an address belongs to the sentence. */
    private int trimmed(int end) {
        int trimmed = end;
        while (trimmed > at + 1 && ".:!".indexOf(line.charAt(trimmed - 1)) >= 0) trimmed--;
        return trimmed;
    }

    private boolean mail(int wordEnd) {
        if (at < mailTo) return false;
        int end = wordEnd;
        while (end < line.length() && (isWord(line.charAt(end)) || "._%+-".indexOf(line.charAt(end)) >= 0)) end++;
        mailTo = end;
        if (end >= line.length() || line.charAt(end) != '@' || end - at > 64) return false;
        var domain = MAIL_DOMAIN.matcher(line).region(end, line.length());
        if (!domain.lookingAt()) return false;
        mark(Mark.ADDRESS, domain.end());
        return true;
    }

    /** Labels in lower case with dots between them; the last is a domain that is known to end names of hosts. */
    private boolean host() {
        int end = at;
        int dot = -1;
        while (end < line.length() && isHostSign(line.charAt(end))) {
            if (line.charAt(end) == '.') {
                if (end + 1 >= line.length() || !isHostSign(line.charAt(end + 1)) || line.charAt(end + 1) == '.') break;
                dot = end;
            }
            end++;
        }
        char next = end < line.length() ? line.charAt(end) : ' ';
        if (dot < 0 || next == '(' || Character.isLetterOrDigit(next)) return false;
        if (!TOP_DOMAINS.contains(line.substring(dot + 1, end))) return false;
        mark(Mark.HOST, end);
        port();
        return true;
    }

    private static boolean isHostSign(char c) {
        return c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c == '.' || c == '-' || c == '_';
    }

    private void port() {
        var found = found(PORT);
        if (found == null) return;
        if (Codes.port(found.group(1))) plainTo(found.end());
        else {
            plainTo(at + 1);
            mark(Mark.NUMBER, found.end());
        }
    }

    /** A long run of letters and digits of all sorts, as keys and tokens are coded. */
    private boolean token() {
        int end = at;
        while (end < line.length() && isTokenSign(line.charAt(end))) end++;
        tokenTo = end;
        if (end - at < 20) return false;
        var found = found(TOKEN);
        if (found == null) return false;
        tokenTo = found.end();
        int upper = 0;
        int lower = 0;
        int digits = 0;
        int turns = 0;
        boolean dashed = false;
        boolean plus = false;
        for (int i = at; i < found.end(); i++) {
            char c = line.charAt(i);
            if (Character.isUpperCase(c)) upper++;
            else if (Character.isLowerCase(c)) lower++;
            else if (Character.isDigit(c)) digits++;
            dashed |= c == '-';
            plus |= c == '+';
            if (i > at && Character.isDigit(c) != Character.isDigit(line.charAt(i - 1)) && c != '-' && c != '/')
                turns++;
        }
        boolean mixed = digits > 0 && turns >= 4 && (upper > 2 && lower > 2 || digits >= 4 && !dashed);
        boolean coded = upper > 3 && lower > 3 && (plus || line.charAt(found.end() - 1) == '=');
        if (!mixed && !coded) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    private static boolean isTokenSign(char c) {
        return c >= 'a' && c <= 'z'
                || c >= 'A' && c <= 'Z'
                || c >= '0' && c <= '9'
                || c == '+'
                || c == '/'
                || c == '_'
                || c == '-';
    }

    private void plainWord(int end) {
        var word = line.substring(at, end).toLowerCase(Locale.ROOT);
        boolean capital = Character.isUpperCase(line.charAt(at));
        if (end - at <= 12
                && (DateWords.sure(word)
                        || (capital || end - at > 4) && DateWords.besideNumber(word) && besideNumber(end))) {
            mark(
                    Mark.NUMBER,
                    end < line.length() && line.charAt(end) == '.' && end + 1 < line.length() && !capital
                            ? end + 1
                            : end);
            return;
        }
        boolean valued = end < line.length() && line.charAt(end) == '=';
        if (counted && word.length() > 3 && word.endsWith("s") && !word.endsWith("ss"))
            skeleton.plain(line, at, end, word.substring(0, word.length() - 1));
        else skeleton.plain(line, at, end);
        counted = false;
        remember(word, end);
        at = end;
        if (valued && end + 1 < line.length() && Character.isLetter(line.charAt(end + 1)) && volatileKey(word)) {
            plainTo(end + 1);
            int to = at;
            while (to < line.length() && " ,;)]}&".indexOf(line.charAt(to)) < 0) to++;
            mark(Mark.ID, to);
        }
    }

    private static boolean volatileKey(String word) {
        return VOLATILE.contains(word.replace("_", "")) || word.endsWith("_id");
    }

    /** Whether a number stands just before or behind, as beside the name of a month. */
    private boolean besideNumber(int end) {
        int next = end;
        while (next < line.length() && next < end + 3 && " .,-/".indexOf(line.charAt(next)) >= 0) next++;
        if (next < line.length() && Character.isDigit(line.charAt(next))) return true;
        int before = at - 1;
        while (before >= 0 && before > at - 3 && " .,-/".indexOf(line.charAt(before)) >= 0) before--;
        return before >= 0 && Character.isDigit(line.charAt(before));
    }

    private void wordWithDigits(int end) {
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
        if (isId(word)) {
            mark(Mark.ID, end);
            podEnd();
            return;
        }
        // A name with a number: the number is one of a row, but in the middle of a name it belongs to it.
        int digit = at;
        while (!Character.isDigit(line.charAt(digit))) digit++;
        int rest = digit;
        while (rest < end && Character.isDigit(line.charAt(rest))) rest++;
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

    /** Letters and digits in turn, or a little of both, as no word is. */
    private static boolean isId(String word) {
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

    // --- numbers ---------------------------------------------------------------------------------------------------

    private boolean signed(boolean inWord) {
        return !inWord
                && at + 1 < line.length()
                && Character.isDigit(line.charAt(at + 1))
                && (at == 0 || " (=:[,".indexOf(line.charAt(at - 1)) >= 0);
    }

    private void number() {
        boolean inWord = at > 0 && isWord(line.charAt(at - 1));
        if (last.equals("http") && line.startsWith("/", lastEnd) && at == lastEnd + 1 && versioned()) return;
        if (!inWord) {
            if (uuid() || hardware() || ipv6()) return;
            int dot = digitsEnd();
            var address = dot < line.length() && line.charAt(dot) == '.' ? found(IPV4) : null;
            if (address != null) {
                mark(Mark.HOST, address.end());
                port();
                return;
            }
            if (hexadecimal() || code()) return;
            int end = wordEnd(at);
            if (end > at && hasLetters(end) && mail(end)) return;
            if (end > at && hasLetters(end) && !quantityEndsAt(end)) {
                if (host()) return;
                if (tokenTo <= at && token()) return;
                if (Codes.word(line.substring(at, end), before(), behind(end))) {
                    remember(line.substring(at, end), end);
                    plainTo(end);
                    return;
                }
                mark(Mark.ID, end);
                podEnd();
                return;
            }
        }
        int end = inWord ? digitsEnd() : quantityEnd();
        mark(Mark.NUMBER, end);
        counted = true;
        timeEnd();
    }

    /** The version of a protocol, behind which a status may stand. */
    private boolean versioned() {
        int end = at;
        while (end < line.length() && (Character.isDigit(line.charAt(end)) || line.charAt(end) == '.')) end++;
        plainTo(end);
        lastEnd = end;
        return true;
    }

    /** What a generated name of an instance has behind its id. */
    private void podEnd() {
        var pod = at < line.length() && line.charAt(at) == '-' ? found(POD_END) : null;
        if (pod != null) mark(Mark.ID, pod.end());
    }

    /** Where a number ends with all that belongs to it; most have nothing, which is seen at a glance. */
    private int quantityEnd() {
        int end = at;
        while (end < line.length() && line.charAt(end) >= '0' && line.charAt(end) <= '9') end++;
        if (end > at) {
            char next = end < line.length() ? line.charAt(end) : '\n';
            char after = end + 1 < line.length() ? line.charAt(end + 1) : '\n';
            if (next == '\n' || ")]}>;\"|=".indexOf(next) >= 0) return end;
            if (".,:".indexOf(next) >= 0 && !Character.isDigit(after)) return end;
            if (next == ' ' && !Character.isDigit(after) && "nuµμmshd%kKMGTbBx".indexOf(after) < 0) return end;
        }
        var quantity = found(QUANTITY);
        return quantity == null ? at + 1 : quantity.end();
    }

    private int digitsEnd() {
        int end = at;
        while (end < line.length() && Character.isDigit(line.charAt(end))) end++;
        return Math.max(end, at + 1);
    }

    private boolean hasLetters(int end) {
        for (int i = at; i < end; i++) if (Character.isLetter(line.charAt(i))) return true;
        return false;
    }

    private boolean quantityEndsAt(int wordEnd) {
        var found = found(QUANTITY);
        return found != null && found.end() >= wordEnd;
    }

    /** A zone or half of a day behind a time. */
    private void timeEnd() {
        int from = at;
        while (from < line.length() && from < at + 1 && line.charAt(from) == ' ') from++;
        int end = wordEnd(from);
        if (end > from
                && end - from <= 4
                && DateWords.zone(line.substring(from, end).toLowerCase(Locale.ROOT))) {
            skeleton.plain(line, at, from);
            at = from;
            skeleton.mark(Mark.NUMBER, line.substring(from, end));
            at = end;
        }
    }

    private boolean hexadecimal() {
        if (line.charAt(at) != '0' || at + 2 >= line.length() || (line.charAt(at + 1) | 0x20) != 'x') return false;
        var found = found(HEX);
        if (found == null) return false;
        if (Codes.hexadecimal(found.group(), before())) plainTo(found.end());
        else mark(Mark.ID, found.end());
        return true;
    }

    /** A whole number that is a code, and the reply of a mail server with what enhances it (RFC 3463). */
    private boolean code() {
        int from = "+-".indexOf(line.charAt(at)) >= 0 ? at + 1 : at;
        int end = from;
        while (end < line.length() && line.charAt(end) >= '0' && line.charAt(end) <= '9') end++;
        if (end == from || end < line.length() && isWord(line.charAt(end))) return false;
        char next = end + 1 < line.length() ? line.charAt(end) : 0;
        boolean goesOn = next != 0 && ".,:-/".indexOf(next) >= 0 && Character.isDigit(line.charAt(end + 1));
        if (end - from == 3 && (next == ' ' || next == '-') || next == '.' && goesOn && ENHANCES.contains(last)) {
            var reply = found(next == '.' ? ENHANCED : SMTP);
            if (reply != null) {
                plainTo(reply.end());
                return true;
            }
        }
        if (goesOn || !Codes.number(line, from, end, before())) return false;
        remember("code", end);
        plainTo(end);
        // What stands in brackets behind it says the same more exactly: ERROR 1045 (28000).
        if (line.startsWith(" (", end) && line.startsWith(")", Math.min(line.length(), end + 7))) {
            var state = line.substring(end + 2, end + 7);
            if (state.matches("[0-9A-Z]{5}")) plainTo(end + 8);
        }
        return true;
    }

    private boolean ipv6() {
        int colons = 0;
        int end = at;
        boolean doubled = false;
        while (end < line.length() && end < at + 46 && (line.charAt(end) == ':' || isHex(line.charAt(end)))) {
            if (line.charAt(end) == ':') {
                colons++;
                doubled |= end > at && line.charAt(end - 1) == ':';
            }
            end++;
        }
        if (colons < 2 || !doubled && colons != 7) return false;
        var found = found(IPV6);
        if (found == null || found.end() - at < 3) return false;
        mark(Mark.HOST, found.end());
        return true;
    }

    private static boolean isHex(char c) {
        return c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F';
    }

    private boolean ipv6InBrackets() {
        at++;
        var found = found(IPV6);
        at--;
        if (found == null || found.end() >= line.length() || line.charAt(found.end()) != ']') return false;
        mark(Mark.HOST, found.end() + 1);
        port();
        return true;
    }

    // --- quotes, JSON and XML --------------------------------------------------------------------------------------

    private void quote(char open) {
        boolean inWord = at > 0 && Character.isLetterOrDigit(line.charAt(at - 1));
        boolean apostrophe = (open == '\'' || open == '’' || open == '‘') && inWord;
        int end = apostrophe ? -1 : quoteEnd(open);
        if (end < 0) {
            skeleton.plain(line, at, at + 1, apostrophe ? "'" : "\"");
            at++;
            return;
        }
        quoted(1, end, 1);
    }

    /** Where a quote ends: at its like, unescaped, and not within a word. */
    private int quoteEnd(char open) {
        var closes = closing(open);
        boolean inJson = open == '"' && colonOrBrace();
        int most = Math.min(line.length(), at + (inJson ? 4000 : 202));
        for (int i = at + 1; i < most; i++) {
            char c = line.charAt(i);
            if (c == '\\') {
                i++;
                continue;
            }
            if (closes.indexOf(c) < 0) continue;
            boolean within = (open == '\'' || open == '‘' || open == '’')
                    && i + 1 < line.length()
                    && Character.isLetterOrDigit(line.charAt(i + 1));
            if (!within) return i;
        }
        return -1;
    }

    private boolean colonOrBrace() {
        int before = at - 1;
        while (before >= 0 && line.charAt(before) == ' ') before--;
        return before >= 0 && ":{[,=".indexOf(line.charAt(before)) >= 0;
    }

    private static String closing(char open) {
        return switch (open) {
            case '«' -> "»";
            case '„' -> "“”\"";
            case '“' -> "”";
            case '‘', '‚' -> "’‘";
            case '‹' -> "›";
            case '「' -> "」";
            default -> String.valueOf(open);
        };
    }

    /** JSON within a text: its quotes bear a backslash. */
    private void escapedQuote() {
        int end = line.indexOf("\\\"", at + 2);
        if (end < 0 || end - at > 2000) plainTo(at + 2);
        else quoted(2, end, 2);
    }

    /**
     * @param open  characters of the quote at its beginning
     * @param end   where its end begins
     * @param close characters of its end
     */
    private void quoted(int open, int end, int close) {
        var content = line.substring(at + open, end);
        int after = end + close;
        int next = after;
        while (next < line.length() && line.charAt(next) == ' ') next++;
        char before = before(at - 1);
        boolean key = next < line.length()
                && line.charAt(next) == ':'
                && (before == '{' || before == ',' || before == '[' || before == 0)
                && !line.startsWith("::", next);
        if (key) {
            shown(open, content, end, close);
            at = next;
            plainTo(next + 1);
            value(content);
            return;
        }
        if (listed != null && (before == '[' || before == ',')) {
            byKey(listed, open, content, end, close);
            return;
        }
        boolean attribute = before == '='
                && lastEnd > 0
                && line.substring(lastEnd, at).strip().equals("=");
        if (attribute) {
            byKey(last, open, content, end, close);
            return;
        }
        int wordTo = next;
        while (wordTo < line.length() && Character.isLetter(line.charAt(wordTo))) wordTo++;
        var behind = line.substring(next, wordTo).toLowerCase(Locale.ROOT);
        if (Codes.quoted(content, before(), behind) || Codes.constant(content)) shown(open, content, end, close);
        else if (sentence(content)) text(open, content, end, close);
        else mark(Mark.TEXT, after);
    }

    private char before(int from) {
        int i = from;
        while (i >= 0 && line.charAt(i) == ' ') i--;
        return i < 0 ? 0 : line.charAt(i);
    }

    /** Words that somebody said, and no name: they are read as the text around them is. */
    private boolean sentence(String content) {
        var words = content.strip().split(" ");
        int lower = 0;
        for (var word : words) if (!word.isEmpty() && Character.isLowerCase(word.charAt(0))) lower++;
        return words.length >= 4 && lower * 4 >= words.length * 3
                || words.length >= 2 && lower >= 1 && SAY.contains(last) && before().near();
    }

    private void shown(int open, String content, int end, int close) {
        skeleton.plain(line, at, at + open, "\"");
        at += open;
        skeleton.plain(line, at, end, content);
        at = end;
        skeleton.plain(line, at, end + close, "\"");
        at = end + close;
        lastEnd = at;
        last = "";
    }

    private void text(int open, String content, int end, int close) {
        skeleton.plain(line, at, at + open, "\"");
        new Reading(content, skeleton).take();
        skeleton.plain(line, end, end + close, "\"");
        at = end + close;
    }

    private void byKey(String key, int open, String content, int end, int close) {
        switch (Keys.of(key)) {
            case CODE -> {
                if (Codes.value(content)) shown(open, content, end, close);
                else text(open, content, end, close);
            }
            case MESSAGE -> text(open, content, end, close);
            case OTHER -> {
                if (Codes.constant(content)) shown(open, content, end, close);
                else mark(Mark.TEXT, end + close);
            }
        }
    }

    /** The value that stands behind a key of JSON; what is neither text nor number is read on. */
    private void value(String key) {
        while (at < line.length() && line.charAt(at) == ' ') plainTo(at + 1);
        if (at >= line.length()) return;
        char c = line.charAt(at);
        if (QUOTES.indexOf(c) >= 0) {
            int end = quoteEnd(c);
            if (end >= 0) byKey(key, 1, line.substring(at + 1, end), end, 1);
        } else if (c == '\\' && line.startsWith("\\\"", at)) {
            int end = line.indexOf("\\\"", at + 2);
            if (end >= 0) byKey(key, 2, line.substring(at + 2, end), end, 2);
        } else if (c == '[') {
            listed = key;
        } else if ((Character.isDigit(c) || c == '-') && Keys.of(key) == Keys.CODE) {
            int end = at + 1;
            while (end < line.length() && Character.isDigit(line.charAt(end))) end++;
            if (end - at <= 7 && (end >= line.length() || ",}] ".indexOf(line.charAt(end)) >= 0)) plainTo(end);
        }
    }

    /** An element with nothing but text in it. */
    private void element() {
        var found = found(ELEMENT);
        if (found == null) {
            plainTo(at + 1);
            return;
        }
        var name = found.group(1);
        var content = found.group(2);
        boolean bare = line.charAt(found.end(1)) == '>';
        int from = found.start(2);
        switch (bare ? Keys.of(name) : Keys.MESSAGE) {
            case CODE -> {
                plainTo(from);
                if (Codes.value(content.strip())) plainTo(found.end(2));
            }
            case MESSAGE -> plainTo(bare ? from : at + 1);
            case OTHER -> {
                plainTo(from);
                if (Codes.constant(content)) plainTo(found.end(2));
                else mark(Mark.TEXT, found.end(2));
            }
        }
        last = "";
        lastEnd = at;
    }

    /** What a database says of a key: {@code (ref)=(BK-77120)}. */
    private void keyValues() {
        var found = found(KEY_VALUES);
        if (found == null) {
            plainTo(at + 1);
            return;
        }
        plainTo(found.start(1));
        mark(Mark.TEXT, found.end(1));
    }
}
