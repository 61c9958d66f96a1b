package app.morvet.core.callouts;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.TreeMap;

/**
 * A message for a system log (RFC 5424): of the facility local0, with its facts as structured data. What stands in it cannot change its
 * shape: a value is escaped as the standard says, and control characters become blanks.
 */
public final class SyslogLine {
    private static final int LOCAL0 = 16;
    /** The number that is set aside for examples and private use (RFC 5612), since Morvet has none of its own. */
    private static final String DATA_ID = "morvet@32473";

    private static final int LONGEST_BYTES = 2_048;

    private SyslogLine() {}

    /** Severities of RFC 5424, 6.2.1. */
    public enum Level {
        CRITICAL(2),
        WARNING(4),
        NOTICE(5),
        INFORMATIONAL(6);

        private final int number;

        Level(int number) {
            this.number = number;
        }
    }

    /**
     * @param host  of the sender; whatever is no printable ASCII is left out
     * @param kind  what sort of message it is, as a word
     * @param facts by name; names are cut to what the standard allows
     * @param words for people
     * @return the whole message, of at most 2,048 bytes, which every receiver should take (RFC 5424, 6.1)
     */
    public static byte[] of(
            Level level, Instant at, String host, String kind, Map<String, String> facts, String words) {
        var head = "<%d>1 %s %s morvet - %s "
                .formatted(
                        LOCAL0 * 8 + level.number, at.truncatedTo(ChronoUnit.MILLIS), name(host, 255), name(kind, 32));
        var data = new StringBuilder("[").append(DATA_ID);
        new TreeMap<>(facts).forEach((fact, value) -> {
            if (!value.isEmpty())
                data.append(' ')
                        .append(name(fact, 32).replaceAll("[=\\]\"]", ""))
                        .append("=\"")
                        .append(escaped(plain(value)))
                        .append('"');
        });
        var text = head + data.append("] ") + "\ufeff" + plain(words);
        return cut(text.getBytes(StandardCharsets.UTF_8));
    }

    /** Never in the middle of a letter. */
    private static byte[] cut(byte[] bytes) {
        if (bytes.length <= LONGEST_BYTES) return bytes;
        int end = LONGEST_BYTES;
        while ((bytes[end] & 0xC0) == 0x80) end--;
        return java.util.Arrays.copyOf(bytes, end);
    }

    private static String name(String text, int longest) {
        var printable = text.replaceAll("[^\\x21-\\x7e]", "");
        if (printable.isEmpty()) return "-";
        return printable.length() > longest ? printable.substring(0, longest) : printable;
    }

    private static String plain(String text) {
        return text.replaceAll("\\p{Cntrl}+", " ").strip();
    }

    private static String escaped(String value) {
        return value.replace("\\", "\\\\").replace("\"", "\\\"").replace("]", "\\]");
    }
}
