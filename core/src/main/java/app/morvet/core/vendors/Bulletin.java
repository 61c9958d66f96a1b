package app.morvet.core.vendors;

import java.time.Instant;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What a vendor writes of an instance, as its feed has it now: trouble, or planned work.
 *
 * @param id      by which it is known through its versions; not blank
 * @param planned whether it is planned work
 * @param title   in one line, at most 300 letters
 * @param text    plain, at most 20,000 letters
 * @param from    since when, or from when on; null where the feed does not say
 * @param to      until when; null where the feed does not say
 * @param updated when the vendor last wrote it; null where the feed does not say
 * @param over    whether the vendor says that it is over, or that the work will not be
 * @param parts   of the instance that it is about; none for all of it
 */
public record Bulletin(
        String id,
        boolean planned,
        String title,
        String text,
        @Nullable Instant from,
        @Nullable Instant to,
        @Nullable Instant updated,
        boolean over,
        Set<String> parts) {
    private static final int LONGEST_ID = 300;
    private static final int LONGEST_TITLE = 300;
    private static final int LONGEST_TEXT = 20_000;

    public Bulletin {
        if (id.isBlank()) throw new IllegalArgumentException("a bulletin has an id");
        id = cut(id.strip(), LONGEST_ID);
        title = cut(title.replaceAll("\\s+", " ").strip(), LONGEST_TITLE);
        text = cut(text.strip(), LONGEST_TEXT);
        parts = java.util.Collections.unmodifiableSet(new TreeSet<>(parts));
    }

    private static String cut(String text, int longest) {
        return text.length() <= longest ? text : text.substring(0, longest - 1) + "…";
    }

    /** Whether it says the same, so that it is no new version. */
    public boolean saysAs(Bulletin other) {
        return planned == other.planned
                && title.equals(other.title)
                && text.equals(other.text)
                && over == other.over
                && parts.equals(other.parts)
                && java.util.Objects.equals(from, other.from)
                && java.util.Objects.equals(to, other.to);
    }
}
