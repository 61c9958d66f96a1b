package app.morvet.core.batch;

import java.util.Map;
import java.util.TreeMap;

/**
 * What the exit codes of a job mean. 0 is fine and any other has failed, unless they say otherwise.
 *
 * @param meanings by code
 */
public record ExitCodes(Map<Integer, Meaning> meanings) {
    public static final ExitCodes USUAL = new ExitCodes(Map.of());

    /** @param words what it means, for people; may be empty */
    public record Meaning(Run.End end, String words) {
        public Meaning {
            if (end == Run.End.CANCELLED) throw new IllegalArgumentException("a code means fine, warning or failed");
        }
    }

    public ExitCodes {
        meanings = java.util.Collections.unmodifiableMap(new TreeMap<>(meanings));
    }

    public Meaning of(int code) {
        var said = meanings.get(code);
        if (said != null) return said;
        return new Meaning(code == 0 ? Run.End.FINE : Run.End.FAILED, "");
    }

    /**
     * Reads them as people write them, a line each: {@code 4 = warning: nothing to do}.
     *
     * @throws IllegalArgumentException with the line that is wrong
     */
    public static ExitCodes read(String text) {
        var meanings = new TreeMap<Integer, Meaning>();
        for (var line :
                text.lines().map(String::strip).filter(one -> !one.isEmpty()).toList()) {
            var match = java.util.regex.Pattern.compile(
                            "(-?\\d{1,9})\\s*=\\s*(fine|warning|failed)\\s*(?::\\s*(.{0,200}))?")
                    .matcher(line);
            if (!match.matches())
                throw new IllegalArgumentException(
                        "\"%s\" is not read: write code = fine, warning or failed, and what it means after a colon, such as 4 = warning: nothing to do"
                                .formatted(line));
            var end =
                    switch (match.group(2)) {
                        case "fine" -> Run.End.FINE;
                        case "warning" -> Run.End.WARNED;
                        default -> Run.End.FAILED;
                    };
            var words = match.group(3);
            var before = meanings.put(
                    Integer.parseInt(match.group(1)), new Meaning(end, words == null ? "" : words.strip()));
            if (before != null)
                throw new IllegalArgumentException(
                        "code %s is given twice: take one of the two lines out".formatted(match.group(1)));
        }
        return new ExitCodes(meanings);
    }

    /** As {@link #read} reads them. */
    public String text() {
        var text = new StringBuilder();
        meanings.forEach((code, meaning) -> text.append(code)
                .append(" = ")
                .append(
                        switch (meaning.end()) {
                            case FINE -> "fine";
                            case WARNED -> "warning";
                            case FAILED, CANCELLED -> "failed";
                        })
                .append(meaning.words().isEmpty() ? "" : ": " + meaning.words())
                .append('\n'));
        return text.toString();
    }
}
