package app.morvet.core.messages;

import java.time.DayOfWeek;
import java.time.Month;
import java.time.format.TextStyle;
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
    }

    private DateWords() {}

    private static String plain(String name, Locale locale) {
        return name.toLowerCase(locale).replace(".", "");
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
