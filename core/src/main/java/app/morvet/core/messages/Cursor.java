package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Where the reading of one line of an error text stands, and what it has seen: the words behind it, and what was told of them.
 */
abstract class Cursor {

    final String line;
    final Skeleton skeleton;
    int at;
    String last = "";
    String earlier = "";
    int lastEnd;
    int mailTo;
    int fileTo;
    int tokenTo;
    /** Whether a method of HTTP was read, and no status since. */
    boolean requested;
    /** How many words more are said of a number. */
    int counted;

    Cursor(String line, Skeleton skeleton) {
        this.line = line;
        this.skeleton = skeleton;
    }

    static boolean isWord(char c) {
        if (c < 128) return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_';
        return Character.isLetterOrDigit(c);
    }

    void plainTo(int end) {
        skeleton.plain(line, at, end);
        at = end;
    }

    void mark(Mark mark, int end) {
        skeleton.mark(mark, line.substring(at, end));
        at = end;
        counted = 0;
    }

    @Nullable
    Matcher found(Pattern pattern) {
        var matcher = pattern.matcher(line).useTransparentBounds(true).region(at, line.length());
        return matcher.lookingAt() ? matcher : null;
    }

    Codes.Before before() {
        return new Codes.Before(last, earlier, line.substring(lastEnd, at));
    }

    /** Whether nothing but a blank stands between the last word and here. */
    boolean behindBlank() {
        return at == lastEnd + 1 && line.charAt(lastEnd) == ' ';
    }

    void remember(String word, int end) {
        earlier = lastEnd == 0 || parts(lastEnd, at) ? "" : last;
        last = word;
        lastEnd = end;
    }

    /** Whether what stands between two words makes them belong to two sentences. */
    private boolean parts(int from, int to) {
        boolean parts = false;
        for (int i = from; i < to; i++) {
            char c = line.charAt(i);
            if (c == '.') return true;
            // What is said of something quoted belongs to the word before it: character 'z' (code 122).
            if (c == '\'' || c == '"') return false;
            parts |= c == '(' || c == '[';
        }
        return parts;
    }

    String behind(int end) {
        return line.substring(end, Math.min(line.length(), end + 40));
    }

    int wordEnd(int from) {
        int end = from;
        while (end < line.length() && isWord(line.charAt(end))) end++;
        return end;
    }
}
