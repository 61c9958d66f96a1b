package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Reads numbers with what belongs to them, and tells codes from values.
 */
abstract class NumberReading extends PlaceReading {
    private static final String NUMBER =
            "(?:\\p{Nd}{1,3}(?:[ \u00A0\u202F\u2009'’]\\p{Nd}{3})+(?!\\p{Nd})|\\p{Nd}++)(?:(?:[.,:/T]?(?!0[xX])|[_-](?!\\p{Nd}++(?!T)\\p{L}{1,2}\\p{Nd}))\\p{Nd}++)*+(?:[eE][+-]?\\p{Nd}++)?+";
    private static final String UNIT =
            "(?:ns|us|µs|μs|ms|msec|millis|milliseconds?|microseconds?|s|secs?|seconds?|m|mins?|minutes?|h|hrs?|hours?|d|days?|weeks?|months?|years?|Tage?n?|Stunden?|Minuten?|Sekunden?|dag|dagar|timm[ea]r?|minut|minuter|sekund|sekunder|päivää?|tuntia?|minuuttia?|sekuntia?|jours?|heures?|secondes?|[kKMGT]i?[bB]|bytes?|B|kg|t|m[23]|[kcmµ]m|nm|kn|l|[kM]?Hz|dBm?|[km]?[VAW]|kWh|[hkM]?Pa|m?bar|°C?|K|rpm|px|ppm|‰|€|%|st|nd|rd|th|Z|x)(?![\\p{L}\\p{N}_])";
    private static final String UNITS_BEGIN = "nuµμmshdwyTSMtpjkKGbBxclHVAWPr°%‰€";
    private static final Pattern QUANTITY =
            Pattern.compile("[+-]?" + NUMBER + "(?:(?: ?" + UNIT + ")(?: ?" + NUMBER + " ?" + UNIT + ")*+)?+");
    private static final Pattern HEX = Pattern.compile("0[xX][0-9a-fA-F]++(?![\\p{L}\\p{N}])");
    private static final Pattern IPV4 =
            Pattern.compile("\\d{1,3}(?:\\.\\d{1,3}){3}(?![\\p{L}\\p{N}]|\\.\\d)(?:/\\d{1,2})?");
    private static final Pattern POD_END = Pattern.compile("-(?:[bcdfghjklmnpqrstvwxz2456789]{5})(?![\\p{L}\\p{N}])");
    private static final Pattern PLACE = Pattern.compile("/(?:\\p{Lu}{3}|\\p{Lu}{5})(?![\\p{L}\\p{N}_]|[-/]\\p{L})");
    private static final Pattern SMTP = Pattern.compile("([245]\\d\\d)[ -](#?[245]\\.\\d{1,3}\\.\\d{1,3})(?![\\d.])");
    private static final Pattern ENHANCED = Pattern.compile("[245]\\.\\d{1,3}\\.\\d{1,3}(?![\\d.])");
    private static final Set<String> ENHANCES = Set.of("dsn", "status", "smtp", "enhanced", "diagnostic");

    NumberReading(String line, Skeleton skeleton) {
        super(line, skeleton);
    }

    boolean signed(boolean inWord) {
        return !inWord
                && at + 1 < line.length()
                && Character.isDigit(line.charAt(at + 1))
                && (at == 0 || " (=:[,".indexOf(line.charAt(at - 1)) >= 0);
    }

    void number() {
        boolean inWord = at > 0 && isWord(line.charAt(at - 1));
        if (last.equals("http") && line.startsWith("/", lastEnd) && at == lastEnd + 1 && versioned()) return;
        if (!inWord) {
            if (uuid() || hardware() || ipv6() || dataFile()) return;
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
        // The sign that checks a number of somebody: 010190-123A.
        if (!inWord && end < line.length() && Character.isUpperCase(line.charAt(end)) && wordEnd(end) == end + 1) end++;
        mark(Mark.NUMBER, end);
        counted = CountedWords.REACH;
        if (!inWord) part();
        timeEnd();
    }

    /** Which of several of a number, as of the batches of a day ({@code 2026-11-24-B}), or where ({@code 2231/TRV}). */
    private void part() {
        var place = at < line.length() && line.charAt(at) == '/' ? found(PLACE) : null;
        if (place != null) {
            mark(Mark.NUMBER, place.end());
            return;
        }
        if (at + 1 >= line.length() || line.charAt(at) != '-' || !Character.isUpperCase(line.charAt(at + 1))) return;
        if (at + 2 < line.length() && (isWord(line.charAt(at + 2)) || line.charAt(at + 2) == '-')) return;
        mark(Mark.NUMBER, at + 2);
    }

    /** The version of a protocol, behind which a status may stand. */
    boolean versioned() {
        int end = at;
        while (end < line.length() && (Character.isDigit(line.charAt(end)) || line.charAt(end) == '.')) end++;
        plainTo(end);
        lastEnd = end;
        return true;
    }

    /** What a generated name of an instance has behind its id. */
    void podEnd() {
        var pod = at < line.length() && line.charAt(at) == '-' ? found(POD_END) : null;
        if (pod != null) mark(Mark.ID, pod.end());
    }

    /** Where a number ends with all that belongs to it; most have nothing, which is seen at a glance. */
    int quantityEnd() {
        int end = at;
        while (end < line.length() && line.charAt(end) >= '0' && line.charAt(end) <= '9') end++;
        if (end > at) {
            char next = end < line.length() ? line.charAt(end) : '\n';
            char after = end + 1 < line.length() ? line.charAt(end + 1) : '\n';
            if (next == '\n' || ")]}>;\"|=".indexOf(next) >= 0) return end;
            if (".,:".indexOf(next) >= 0 && !Character.isDigit(after)) return end;
            if (next == ' ' && !Character.isDigit(after) && UNITS_BEGIN.indexOf(after) < 0) return end;
        }
        var quantity = found(QUANTITY);
        if (quantity == null) return at + 1;
        // In a path a blank ends it, and parts no thousands: /orders/17 422.
        int blank = at > 0 && line.charAt(at - 1) == '/' ? line.indexOf(' ', at) : -1;
        return blank > at && blank < quantity.end() ? blank : quantity.end();
    }

    int digitsEnd() {
        int end = at;
        while (end < line.length() && Character.isDigit(line.charAt(end))) end++;
        return Math.max(end, at + 1);
    }

    boolean hasLetters(int end) {
        for (int i = at; i < end; i++) if (Character.isLetter(line.charAt(i))) return true;
        return false;
    }

    boolean quantityEndsAt(int wordEnd) {
        var found = found(QUANTITY);
        return found != null && found.end() >= wordEnd;
    }

    /** A zone or half of a day behind a time. */
    void timeEnd() {
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

    boolean hexadecimal() {
        if (line.charAt(at) != '0' || at + 2 >= line.length() || (line.charAt(at + 1) | 0x20) != 'x') return false;
        var found = found(HEX);
        if (found == null) return false;
        if (Codes.hexadecimal(found.group(), before())) plainTo(found.end());
        else mark(Mark.ID, found.end());
        return true;
    }

    /** Where a log of requests has the status: {@code POST /orders/17 422 in 88 ms}. */
    private boolean behindPath(int end) {
        int blank = at - 1;
        if (blank < 1 || line.charAt(blank) != ' ' || "2345".indexOf(line.charAt(at)) < 0) return false;
        boolean unit = end + 1 < line.length() && !Character.isDigit(line.charAt(end + 1)) && quantityEnd() != end;
        int before = line.lastIndexOf(' ', blank - 1);
        return !unit && line.substring(before + 1, blank).indexOf('/') >= 0;
    }

    /** A whole number that is a code, and the reply of a mail server with what enhances it (RFC 3463). */
    boolean code() {
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
        boolean status = requested && !goesOn && end - from == 3 && behindPath(end);
        requested &= !status;
        if (!status && (goesOn || !Codes.number(line, from, end, before()))) return false;
        // Behind the status a log has how long the answer was.
        remember(status ? "bytes" : "code", end);
        plainTo(end);
        // What stands in brackets behind it says the same more exactly: ERROR 1045 (28000).
        if (line.startsWith(" (", end) && line.startsWith(")", Math.min(line.length(), end + 7))) {
            var state = line.substring(end + 2, end + 7);
            if (state.matches("[0-9A-Z]{5}")) plainTo(end + 8);
        }
        return true;
    }
}
