package app.morvet.core.checks;

import com.google.re2j.Pattern;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Lines that are added to a log file and match, counted by what a named part of them says.
 *
 * @param pattern RE2; a part {@code (?P<code>\d+)} is what they are counted by
 * @param most    so many may come from one look to the next; below 0 where any may
 */
public record LogLines(String path, String pattern, int most, Duration patience) implements Target {
    /** By how many different words lines are counted; what comes beyond is counted as {@link #OTHERS}. */
    public static final int MOST_WORDS = 50;

    public static final String OTHERS = "others";
    private static final int LONGEST_WORD = 100;

    public static final Kind KIND = new Kind(
            "log",
            "lines of a log",
            true,
            "count the lines added to {path} that match {pattern} and expect {most} at most",
            List.of(
                    Kind.Field.of("path", "Log file", "wide", "", "/var/log/…"),
                    Kind.Field.of("pattern", "Pattern", "wide", "", "\" (?P<code>[45]\\d\\d) \""),
                    Kind.Field.of("most", "At most, from one look to the next", "short", "", "any number")),
            fields -> new LogLines(
                    fields.read("path", Limits::path, "/"),
                    fields.read("pattern", text -> AnswerPath.pattern(text).pattern(), "none"),
                    fields.has("most") ? fields.whole("most") : -1,
                    Duration.ofSeconds(30)));

    public LogLines {
        Limits.path(path);
        if (pattern.isBlank()) throw new IllegalArgumentException("say which lines");
    }

    /** By what lines are counted: the name of the pattern's named part; empty where it has none. */
    public String part() {
        var names = Pattern.compile(pattern).namedGroups().keySet();
        return names.isEmpty() ? "" : new java.util.TreeSet<>(names).first();
    }

    /** How many lines match, by what the named part of each says; without a named part all by the empty word. */
    public Map<String, Integer> counted(List<String> lines) {
        var compiled = Pattern.compile(pattern);
        var part = part();
        var counts = new TreeMap<String, Integer>();
        for (var line : lines) {
            var match = compiled.matcher(line);
            if (!match.find()) continue;
            var word = part.isEmpty() ? "" : String.valueOf(match.group(part));
            if (word.length() > LONGEST_WORD) word = word.substring(0, LONGEST_WORD);
            if (!counts.containsKey(word) && counts.size() >= MOST_WORDS) word = OTHERS;
            counts.merge(word, 1, Integer::sum);
        }
        return counts;
    }

    @Override
    public String words() {
        return "count the lines added to %s that match %s%s"
                .formatted(path, pattern, most < 0 ? "" : " and expect %d at most".formatted(most));
    }
}
