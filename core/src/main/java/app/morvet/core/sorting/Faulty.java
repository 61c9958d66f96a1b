package app.morvet.core.sorting;

import java.util.List;
import java.util.function.Predicate;

/** A pattern, XPath or JSONPath that cannot be read. Says what is wrong and at which character, from 1. */
public final class Faulty extends IllegalArgumentException {
    private static final long serialVersionUID = 1;
    private final int position;

    Faulty(String kind, String text, int position, String why) {
        super("the %s cannot be read at character %d of \"%s\": %s".formatted(kind, position, text, why));
        this.position = position;
    }

    public int position() {
        return position;
    }

    /**
     * Where a text stops being readable, for readers that do not say it themselves: behind the longest beginning that can
     * still be completed to something readable.
     *
     * @param reads       whether a whole text can be read
     * @param completions what may follow a beginning to make it whole, beside the closing brackets that it lacks
     * @return from 1
     */
    static int position(String text, Predicate<String> reads, List<String> completions) {
        for (int length = text.length(); length > 0; length--) {
            var beginning = text.substring(0, length);
            var closers = closers(beginning);
            if (closers == null) continue;
            for (var completion : completions)
                if (reads.test(beginning + completion + closers)) return Math.min(length + 1, text.length());
        }
        return 1;
    }

    /** What closes the brackets and quotes that are open; null where they do not fit. */
    private static @org.jspecify.annotations.Nullable String closers(String text) {
        var open = new StringBuilder();
        char quote = 0;
        for (char c : text.toCharArray()) {
            if (quote != 0) {
                if (c == quote) quote = 0;
            } else if (c == '\'' || c == '"') {
                quote = c;
            } else if (c == '(' || c == '[') {
                open.insert(0, c == '(' ? ')' : ']');
            } else if (c == ')' || c == ']') {
                if (open.isEmpty() || open.charAt(0) != c) return null;
                open.deleteCharAt(0);
            }
        }
        return quote == 0 ? open.toString() : quote + open.toString();
    }
}
