package app.morvet.core.callouts;

import java.util.List;
import java.util.regex.Pattern;

/**
 * What somebody writes back to a mail about a case. Which case it is about, and whose words they are, says the code of the link that stands
 * in what they quote; their words are what stands above that.
 */
public final class Reply {
    /** Longer words are cut; whoever writes a book back is not asked for it. */
    public static final int LONGEST = 3900;

    private static final Pattern CODE = Pattern.compile("/take/([A-Za-z0-9_-]{16})(?![A-Za-z0-9_-])");
    private static final Pattern RULE = Pattern.compile("-{3,}.*-{3,}|_{5,}|-- ?");

    private Reply() {}

    /** The codes that stand in a mail, each once, in order. */
    public static List<String> codes(String text) {
        return CODE.matcher(text).results().map(one -> one.group(1)).distinct().toList();
    }

    /** What was written anew, without what is quoted and without a signature; may be empty. */
    public static String words(String text) {
        var lines = text.replace("\r\n", "\n")
                .replace('\u00a0', ' ')
                .replaceAll("[\\p{Cntrl}&&[^\n\t]]", "")
                .split("\n", -1);
        int end = 0;
        while (end < lines.length && !isQuoted(lines, end)) end++;
        var words = String.join("\n", List.of(lines).subList(0, end)).strip().replaceAll("\n{3,}", "\n\n");
        return words.length() <= LONGEST ? words : words.substring(0, LONGEST).strip() + " …";
    }

    /** Whether what was there before begins with a line: it is marked, ruled off, or announced by a line that ends with a colon. */
    private static boolean isQuoted(String[] lines, int at) {
        var line = lines[at].strip();
        if (line.startsWith(">")
                || line.contains("/take/")
                || RULE.matcher(lines[at].stripTrailing()).matches()) return true;
        if (!line.endsWith(":")) return false;
        for (int next = at + 1; next < lines.length; next++)
            if (!lines[next].isBlank()) return lines[next].strip().startsWith(">");
        return false;
    }
}
