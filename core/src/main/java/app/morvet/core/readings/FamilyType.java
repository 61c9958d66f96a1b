package app.morvet.core.readings;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What a family of metrics is, and how its samples are called: the name of the family and one of these suffixes. */
enum FamilyType {
    COUNTER("_total", "_created"),
    GAUGE(""),
    HISTOGRAM("_bucket", "_sum", "_count", "_created"),
    GAUGEHISTOGRAM("_bucket", "_gsum", "_gcount"),
    STATESET(""),
    INFO("_info"),
    SUMMARY("", "_sum", "_count", "_created"),
    UNKNOWN("");

    private final List<String> suffixes;

    FamilyType(String... suffixes) {
        this.suffixes = List.of(suffixes);
    }

    List<String> suffixes() {
        return suffixes;
    }

    String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The suffix that makes a sample's name of a family's, or null where it is none of its samples. */
    @Nullable
    String suffix(String family, String sample) {
        if (!sample.startsWith(family)) return null;
        var rest = sample.substring(family.length());
        return suffixes.contains(rest) ? rest : null;
    }

    static @Nullable FamilyType of(String word) {
        for (var type : values()) if (type.word().equals(word)) return type;
        return null;
    }
}
