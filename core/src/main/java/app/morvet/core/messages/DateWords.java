package app.morvet.core.messages;

import java.time.DayOfWeek;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Names of weekdays and months in the languages that errors are written in, and what else is part of a time. */
final class DateWords {
    private static final Set<String> DAYS = new HashSet<>();

    /** Names that mean something else as well, so a number must stand beside them. */
    private static final Set<String> SHORT = new HashSet<>();

    private static final Set<String> MONTHS = new HashSet<>();
    /** How they begin: most words are seen to be none at their first letters. */
    private static final BitSet BEGIN = new BitSet();

    private static final Set<String> ZONES = Set.of(
            "gmt", "utc", "z", "eet", "eest", "cet", "cest", "est", "edt", "pst", "pdt", "am", "pm", "msk", "bst");

    static {
        for (var language : List.of("en", "fi", "sv", "de", "fr", "es", "it", "nl", "da", "nb", "et", "pl", "pt")) {
            var locale = Locale.forLanguageTag(language);
            for (var style :
                    List.of(TextStyle.FULL, TextStyle.SHORT, TextStyle.FULL_STANDALONE, TextStyle.SHORT_STANDALONE)) {
                for (var day : DayOfWeek.values()) {
                    var name = plain(day.getDisplayName(style, locale), locale);
                    (name.length() >= 5 ? DAYS : SHORT).add(name);
                }
                for (var month : Month.values()) {
                    var name = plain(month.getDisplayName(style, locale), locale);
                    (name.length() >= 6 ? MONTHS : SHORT).add(name);
                }
            }
        }
        SHORT.add("sept");
        SHORT.removeIf(name -> name.length() < 3 || !name.chars().allMatch(Character::isLetter));
        for (var name : List.of("april", "march", "mars", "marts", "maart")) {
            MONTHS.remove(name);
            SHORT.add(name);
        }
        MONTHS.add("april");
        for (var names : List.of(DAYS, SHORT, MONTHS)) for (var name : names) BEGIN.set(beginning(name));
    }

    private DateWords() {}

    private static String plain(String name, Locale locale) {
        return name.toLowerCase(locale).replace(".", "");
    }

    private static int beginning(String word) {
        return word.charAt(0) % 256 * 256 + word.charAt(1) % 256;
    }

    /** Whether a word, in lower case, may be one at all. */
    static boolean mayBe(String word) {
        return word.length() > 2 && BEGIN.get(beginning(word));
    }

    /** Whether a word, in lower case, is one by itself. */
    static boolean sure(String word) {
        return DAYS.contains(word) || MONTHS.contains(word);
    }

    /** Whether it is one beside a number. */
    static boolean besideNumber(String word) {
        return SHORT.contains(word) || MONTHS.contains(word);
    }

    /** Whether it ends a time: a zone, or half of a day. */
    static boolean zone(String word) {
        return ZONES.contains(word);
    }
}
