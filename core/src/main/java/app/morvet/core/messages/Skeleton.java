package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/** What stays of a text, as it is shown and as it is compared, and what was taken out of it. */
final class Skeleton {
    /** What is taken out; ids, numbers and hosts count as the same where texts are compared. */
    enum Mark {
        ID("⟨id⟩", "\u0001"),
        NUMBER("⟨n⟩", "\u0001"),
        HOST("⟨host⟩", "\u0001"),
        ADDRESS("⟨address⟩", "\u0002"),
        TEXT("⟨text⟩", "\u0003");

        private final String shown;
        private final String compared;

        Mark(String shown, String compared) {
            this.shown = shown;
            this.compared = compared;
        }
    }

    /** Where and when it was, and of which: {@code (line 14, column 9)}, {@code (session 98)}; also as {@link CountedWords} has it. */
    private static final Pattern ASIDE =
            Pattern.compile("\\((?:(?:session|attempt|try|retry|of|lin|line|row|col|column|char"
                    + "|position|pos|offset|byt|byte|at|pid|id|ref|reference|request|req|trace|thread|tid|fd|kid|after|took|total|in"
                    + "|pag|page|part|key|limit|index|record|loop|istunto|rivi|rad|zeile|zeil|ligne|lign|linje)?"
                    + "[ ,:=/_-]*+\\u0001[ ,:=/_-]*+)++\\)");

    private final StringBuilder shown = new StringBuilder();
    private final StringBuilder canonical = new StringBuilder();
    private final List<String> values = new ArrayList<>();

    /** Of the last mark: what it is, and where it ends in both. */
    private Mark last = Mark.TEXT;

    private int lastShown = -1;
    private int lastCanonical = -1;
    private int lineStart;

    void startLine() {
        endLine();
        if (!shown.isEmpty()) {
            shown.append('\n');
            canonical.append('\n');
        }
        lastShown = -1;
    }

    /** Whether a line ends with a full stop makes no difference, nor does what it says in brackets of this one message only. */
    private void endLine() {
        int end = plainEnd(canonical.length());
        if (end > 0 && canonical.charAt(end - 1) == ')') {
            int open = canonical.lastIndexOf("(", end - 1);
            if (open > lineStart + 1
                    && ASIDE.matcher(canonical).region(open, end).matches()) end = plainEnd(open);
        }
        canonical.setLength(end);
        lineStart = end;
    }

    /** What ends within a line, as the text of a quote does. */
    void endText() {
        canonical.setLength(plainEnd(canonical.length()));
    }

    private int plainEnd(int from) {
        int end = from;
        while (end > 0 && ".! ".indexOf(canonical.charAt(end - 1)) >= 0) end--;
        return end;
    }

    void plain(String text, int from, int to) {
        shown.append(text, from, to);
        for (int i = from; i < to; i++) {
            char c = text.charAt(i);
            if (c >= 'a' && c <= 'z' || c == ' ') canonical.append(c);
            else if (!inRule(c)) canonical.append(Character.toLowerCase(c));
        }
    }

    /** Whether it only makes a drawn line longer. */
    private boolean inRule(char c) {
        int end = canonical.length();
        return "-=~*#".indexOf(c) >= 0 && end > 1 && canonical.charAt(end - 1) == c && canonical.charAt(end - 2) == c;
    }

    /** Shows it as it stands and compares it as something plainer. */
    void plain(String text, int from, int to, String compared) {
        shown.append(text, from, to);
        canonical.append(compared.toLowerCase(Locale.ROOT));
    }

    /** Takes out; neighbours of a sort become one, with what joins them. */
    void mark(Mark mark, String value) {
        boolean joins = lastShown >= 0 && last.compared.equals(mark.compared) && joins(lastShown, shown.length());
        if (joins) {
            values.set(values.size() - 1, values.getLast() + shown.substring(lastShown) + value);
            shown.setLength(lastShown);
            canonical.setLength(lastCanonical);
        } else {
            shown.append(mark.shown);
            canonical.append(mark.compared);
            values.add(value);
            last = mark;
        }
        lastShown = shown.length();
        lastCanonical = canonical.length();
    }

    private boolean joins(int from, int to) {
        if (to - from > 3) return false;
        for (int i = from; i < to; i++) if (" ,;/-+:.".indexOf(shown.charAt(i)) < 0) return false;
        return true;
    }

    String shown() {
        return shown.toString();
    }

    String canonical() {
        endLine();
        return canonical.toString();
    }

    List<String> values() {
        return List.copyOf(values);
    }
}
