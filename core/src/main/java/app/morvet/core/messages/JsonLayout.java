package app.morvet.core.messages;

/**
 * Lays JSON out over lines. It goes over the characters once with a counter for the depth and no recursion, so that five
 * megabytes of brackets cost no stack, and it keeps every number and text to the letter, which parsing would not.
 * Grammar: RFC 8259.
 */
final class JsonLayout {
    /** Says why it is not laid out: what was wrong and where. */
    static final class NotJson extends Exception {
        private static final long serialVersionUID = 1;

        NotJson(String why) {
            super(why);
        }

        NotJson(String what, String text, int place) {
            super("not JSON, " + what + " at line "
                    + (1
                            + text.substring(0, place)
                                    .chars()
                                    .filter(c -> c == '\n')
                                    .count()) + ", column " + (place - text.lastIndexOf('\n', place - 1)));
        }
    }

    private final String text;
    private final StringBuilder out = new StringBuilder();
    /** The brackets that are open, as a stack of characters. */
    private final StringBuilder open = new StringBuilder();

    private int place;
    /** Whether the next thing must be a value (true) or a comma or closing bracket (false). */
    private boolean wantValue = true;

    private JsonLayout(String text) {
        this.text = text;
    }

    static String of(String text) throws NotJson {
        return new JsonLayout(text).run();
    }

    private String run() throws NotJson {
        while (true) {
            skipBlanks();
            if (place == text.length()) break;
            char c = text.charAt(place);
            if (wantValue) value(c);
            else afterValue(c);
        }
        if (wantValue || !open.isEmpty()) throw wrong("it ends too early");
        return out.toString();
    }

    private void value(char c) throws NotJson {
        switch (c) {
            case '{', '[' -> openBracket(c);
            case '}', ']' -> {
                // only an empty object or list may close where a value could stand
                if (out.isEmpty() || out.charAt(out.length() - 1) != (c == '}' ? '{' : '['))
                    throw wrong("'" + c + "' where a value should be");
                closeBracket(c);
            }
            default -> {
                breakLine();
                if (inObject()) {
                    string();
                    skipBlanks();
                    if (place == text.length() || text.charAt(place) != ':') throw wrong("no ':' after a name");
                    place++;
                    out.append(": ");
                    skipBlanks();
                    if (place == text.length()) throw wrong("it ends too early");
                    char first = text.charAt(place);
                    if (first == '{' || first == '[') {
                        openInPlace(first);
                        return;
                    }
                }
                scalar();
                wantValue = false;
            }
        }
    }

    private void openBracket(char c) throws NotJson {
        if (inObject()) throw wrong("'" + c + "' where a name should be");
        breakLine();
        openInPlace(c);
    }

    private void openInPlace(char c) throws NotJson {
        if (open.length() >= PayloadScan.DEEPEST) throw wrong("nested deeper than " + PayloadScan.DEEPEST);
        open.append(c);
        out.append(c);
        place++;
        wantValue = true;
    }

    private void afterValue(char c) throws NotJson {
        if (open.isEmpty()) throw wrong("something behind the end");
        if (c == ',') {
            out.append(',');
            place++;
            wantValue = true;
        } else if (c == (inObject() ? '}' : ']')) {
            closeBracket(c);
        } else {
            throw wrong("'" + c + "' where a comma or a closing bracket should be");
        }
    }

    private void closeBracket(char c) throws NotJson {
        boolean empty = out.charAt(out.length() - 1) == (c == '}' ? '{' : '[');
        open.setLength(open.length() - 1);
        if (!empty) breakLine();
        out.append(c);
        place++;
        wantValue = false;
    }

    private void scalar() throws NotJson {
        if (text.charAt(place) == '"') {
            string();
            return;
        }
        int start = place;
        while (place < text.length() && ",]}:\"{[ \t\r\n".indexOf(text.charAt(place)) < 0) place++;
        var word = text.substring(start, place);
        if (!bare(word).matches("true|false|null|-?(0|[1-9]\\d*)(\\.\\d+)?([eE][+-]?\\d+)?")) {
            place = start;
            throw wrong(
                    word.isEmpty()
                            ? "'" + text.charAt(start) + "' where a value should be"
                            : "\"" + (word.length() > 20 ? word.substring(0, 20) + "…" : word) + "\" is no JSON value");
        }
        out.append(word);
    }

    /** Without the marks around the failing part. */
    private static String bare(String word) {
        return word.replace(String.valueOf(PayloadView.MARK), "").replace(String.valueOf(PayloadView.END_MARK), "");
    }

    private void string() throws NotJson {
        if (text.charAt(place) != '"') throw wrong("'" + text.charAt(place) + "' where a name in quotes should be");
        int start = place++;
        while (place < text.length() && text.charAt(place) != '"') {
            if (text.charAt(place) < ' ') throw wrong("a line break or control character inside a text");
            place += text.charAt(place) == '\\' ? 2 : 1;
        }
        if (place >= text.length()) {
            place = start;
            throw wrong("a text that is not closed");
        }
        place++;
        out.append(text, start, place);
    }

    private boolean inObject() {
        return !open.isEmpty() && open.charAt(open.length() - 1) == '{';
    }

    private void breakLine() throws NotJson {
        if (out.length() > PayloadView.LONGEST_LAID_OUT) throw new NotJson(PayloadView.TOO_LONG);
        if (!out.isEmpty()) out.append('\n').repeat("  ", open.length());
    }

    private void skipBlanks() {
        while (place < text.length() && " \t\r\n".indexOf(text.charAt(place)) >= 0) place++;
    }

    private NotJson wrong(String what) {
        return new NotJson(what, text, Math.min(place, text.length()));
    }
}
