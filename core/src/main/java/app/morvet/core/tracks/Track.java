package app.morvet.core.tracks;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A strip of time.
 *
 * @param name   what it is of
 * @param indent how deep it stands under the one above: what is explained stands under its cause
 * @param sort   what is drawn
 */
public record Track(String name, int indent, Sort sort, List<Span> spans) {
    public Track {
        spans = List.copyOf(spans);
    }

    /** How a strip is drawn. */
    public enum Sort {
        /** Blocks as high as they are bad. */
        RELIEF,
        /** Single moments as small ticks. */
        MARKS,
        /** Columns whose height is an amount. */
        COLUMNS
    }

    /**
     * A time or, without an end, a moment.
     *
     * @param to     null for a moment, and in relief for what goes on
     * @param mark   how bad: {@code steady}, {@code notice}, {@code warning}, {@code critical}, {@code nodata}, {@code over}, or the sort of a
     *               moment
     * @param words  what it was
     * @param link   where it is; may be empty
     * @param amount for columns
     */
    public record Span(Instant from, @Nullable Instant to, String mark, String words, String link, double amount) {
        public Span(Instant from, @Nullable Instant to, String mark, String words, String link) {
            this(from, to, mark, words, link, 0);
        }
    }

    public static Track relief(String name, List<Span> spans) {
        return new Track(name, 0, Sort.RELIEF, spans);
    }

    public static Track marks(String name, List<Span> spans) {
        return new Track(name, 0, Sort.MARKS, spans);
    }

    public static Track columns(String name, List<Span> spans) {
        return new Track(name, 0, Sort.COLUMNS, spans);
    }

    public Track indented(int by) {
        return new Track(name, by, sort, spans);
    }
}
