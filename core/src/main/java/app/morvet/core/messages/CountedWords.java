package app.morvet.core.messages;

import java.util.Map;
import java.util.regex.Pattern;

/** Words behind a number, as they are compared: {@code 1 row was} and {@code 12 rows were} are one, in what languages bend by an ending. */
final class CountedWords {
    /** How many words behind a number go by it. */
    static final int REACH = 3;

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
    private static final Pattern ENDING = Pattern.compile("(?<=\\p{L}{3})(?:ies|en|er|ar|or|es|iä|ia|e|n|s|y|i|ä|a)$");

    private CountedWords() {}

    /** @param word in lower case */
    static String one(String word) {
        if (word.length() < 3) return word;
        var one = ONES.get(word);
        if (one != null) return one;
        var bare = word;
        for (var next = bent(bare); !next.equals(bare); next = bent(bare)) bare = next;
        return bare;
    }

    private static String bent(String word) {
        return word.endsWith("ss") ? word : ENDING.matcher(word).replaceFirst("");
    }
}
