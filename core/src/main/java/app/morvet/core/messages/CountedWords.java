package app.morvet.core.messages;

import java.util.List;
import java.util.Map;

/** Words behind a number, as they are compared: {@code 1 row was} and {@code 12 rows were} are one, in what languages bend by an ending. */
final class CountedWords {
    /** How many words behind a number go by it. */
    static final int REACH = 3;

    private static final int SHORTEST = 3;

    private static final Map<String, String> ONES = Map.of(
            "are",
            "is",
            "were",
            "was",
            "have",
            "has",
            "do",
            "does",
            "children",
            "child",
            "people",
            "person",
            "men",
            "man");
    private static final List<String> ENDINGS =
            List.of("ies", "en", "er", "ar", "or", "es", "iä", "ia", "e", "n", "s", "y", "i", "ä", "a");
    /** What they end in themselves: most words end in something else. */
    private static final String LAST = "snreäaiy";

    private CountedWords() {}

    /** @param word in lower case */
    static String one(String word) {
        var one = ONES.get(word);
        if (one != null) return one;
        var bare = word;
        for (var next = bent(bare); !next.equals(bare); next = bent(bare)) bare = next;
        return bare;
    }

    private static String bent(String word) {
        if (word.isEmpty() || LAST.indexOf(word.charAt(word.length() - 1)) < 0 || word.endsWith("ss")) return word;
        for (var ending : ENDINGS)
            if (word.endsWith(ending) && word.length() - ending.length() >= SHORTEST)
                return word.substring(0, word.length() - ending.length());
        return word;
    }
}
