package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Goes through one line of an error text from left to right, once, and tells its {@link Skeleton} what stays and what
 * varies. Patterns are tried only where their first sign stands, and none goes back over what it has read.
 */
final class Reading extends WordReading {
    private static final Pattern ELEMENT = Pattern.compile("<([\\p{L}_][\\p{L}\\p{N}_.:-]*+)[^<>]*+>([^<>]++)</");
    private static final Pattern KEY_VALUES = Pattern.compile("\\)=\\(([^()]*+)\\)");
    private static final Pattern ROW = Pattern.compile("\\([^()]++\\)");
    private static final Pattern INDEX = Pattern.compile("\\[\\d++]");
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
    private static final String QUOTES = "\"'`«„“‘‚‹”’「";
    private static final String ENDS = "\"'`»“””’‘›”’」";

    /** The key whose list is being read. */
    private @Nullable String listed;

    Reading(String line, Skeleton skeleton) {
        super(line, skeleton);
    }

    void take() {
        while (at < line.length()) {
            char c = line.charAt(at);
            boolean inWord = at > 0 && isWord(line.charAt(at - 1));
            if (Character.isLetter(c) && !inWord) word();
            else if (Character.isDigit(c)) number();
            else if (QUOTES.indexOf(c) >= 0) quote(c);
            else if (c == '\\' && at + 1 < line.length() && line.charAt(at + 1) == '"') escapedQuote();
            else if (c == '\\' && share()) continue;
            else if (c == '(' && (bracketed() || row())) continue;
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
            shown(open, INDEX.matcher(content).replaceAll("[]"), end, close);
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
        boolean ofXPath = attribute && lastEnd > last.length() && line.charAt(lastEnd - last.length() - 1) == '@';
        if (ofXPath && !Codes.programmed(content) && !Codes.constant(content)) {
            mark(Mark.TEXT, after);
            return;
        }
        if (attribute) {
            if (!volatileKey(last) && Codes.programmed(content)) shown(open, content, end, close);
            else byKey(last, open, content, end, close);
            return;
        }
        int wordTo = next;
        while (wordTo < line.length() && Character.isLetter(line.charAt(wordTo))) wordTo++;
        var behind = line.substring(next, wordTo).toLowerCase(Locale.ROOT);
        boolean person = (NameWords.PEOPLE.contains(last) || last.equals("id")) && before().near();
        if (!person && Codes.quoted(content, before(), behind) || Codes.constant(content) || ofChain(after))
            shown(open, content, end, close);
        else if (request(content)) {
            text(open, content, end, close);
            requested = true;
        } else if (sentence(content)) text(open, content, end, close);
        else mark(Mark.TEXT, after);
    }

    private char before(int from) {
        int i = from;
        while (i >= 0 && line.charAt(i) == ' ') i--;
        return i < 0 ? 0 : line.charAt(i);
    }

    /** Whether it is part of a name of a database: {@code "PORT"."VOYAGE"."ETD"}. */
    private boolean ofChain(int after) {
        return line.startsWith(".\"", after) || line.startsWith("\".", at - 2);
    }

    /** As a log has it: {@code "GET /fares HTTP/1.1"}. */
    private static boolean request(String content) {
        int blank = content.indexOf(' ');
        return blank > 0 && CodeWords.METHODS.contains(content.substring(0, blank)) && content.contains(" HTTP/");
    }

    /** Words that somebody said, and no name: they are read as the text around them is. */
    private boolean sentence(String content) {
        var words = content.strip().split(" ");
        int lower = 0;
        for (var word : words) if (!word.isEmpty() && Character.isLowerCase(word.charAt(0))) lower++;
        boolean saidByDevice = content.equals(content.toUpperCase(Locale.ROOT))
                && content.chars().anyMatch(Character::isLetter);
        return words.length >= 4 && lower * 4 >= words.length * 3
                || words.length >= 2 && (lower >= 1 || saidByDevice) && SAY.contains(last) && before().near();
    }

    private void shown(int open, String compared, int end, int close) {
        skeleton.plain(line, at, at + open, "\"");
        at += open;
        skeleton.plain(line, at, end, compared);
        at = end;
        skeleton.plain(line, at, end + close, "\"");
        at = end + close;
        lastEnd = at;
        last = "";
    }

    private void text(int open, String content, int end, int close) {
        skeleton.plain(line, at, at + open, "\"");
        new Reading(content, skeleton).take();
        skeleton.endText();
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

    /** The fields of a row, as a database gives them. */
    private boolean row() {
        if (!last.equals("contains") && !last.equals("values") || !behindBlank()) return false;
        var found = found(ROW);
        if (found == null) return false;
        plainTo(at + 1);
        mark(Mark.TEXT, found.end() - 1);
        return true;
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
