package app.morvet.core.tracks;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Tracks under one another on one axis, with what is hatched through all of them. Nothing in a track lies over anything else: what would is
 * drawn as one that says all, so that each is to be seen and to be pointed at.
 *
 * @param now   null where it is outside
 * @param lanes those of the tracks in which something lies on the axis, in their order
 */
public record PictureOfTime(
        Axis axis, List<Axis.Tick> ticks, @Nullable Double now, List<Piece> hatched, List<Lane> lanes) {
    /** Narrower than this nothing is seen: in per cent of the width. */
    static final double NARROWEST = 0.4;

    /** So near two ticks are one. */
    static final double TOGETHER = 1.4;

    private static final int MOST_WORDS = 6;
    private static final List<String> BADNESS = List.of("over", "steady", "nodata", "notice", "warning", "critical");

    /** @param sort how it is drawn */
    public record Lane(String name, int indent, Track.Sort sort, List<Piece> pieces) {}

    /**
     * What is drawn of one span or of some that lie together.
     *
     * @param x      in per cent of the width
     * @param width  in per cent; 0 for a tick
     * @param height in per cent of the height that there is, for columns
     * @param count  how many it stands for
     * @param words  what they were, with their times left to whoever draws
     * @param from   when the first began
     * @param link   of the first
     */
    public record Piece(
            double x,
            double width,
            double height,
            String mark,
            int count,
            String words,
            Instant from,
            @Nullable Instant to,
            String link) {
        /** The middle of it, for a tick the place of it. */
        public double middle() {
            return x + width / 2;
        }
    }

    /**
     * @param hatched windows, drawn through all tracks
     * @param now     what goes on, goes on until then
     */
    public static PictureOfTime of(
            Axis axis, Collection<Track> tracks, Collection<Track.Span> hatched, Instant now, ZoneId zone) {
        var known = now.isBefore(axis.to()) ? now : axis.to();
        var lanes = new ArrayList<Lane>();
        for (var track : tracks) {
            var pieces = pieces(axis, track, known);
            if (!pieces.isEmpty()) lanes.add(new Lane(track.name(), track.indent(), track.sort(), pieces));
        }
        return new PictureOfTime(
                axis,
                axis.ticks(zone),
                axis.holds(now) ? axis.x(now) : null,
                blocks(axis, hatched, axis.to()),
                List.copyOf(lanes));
    }

    private static List<Piece> pieces(Axis axis, Track track, Instant known) {
        return switch (track.sort()) {
            case RELIEF -> blocks(axis, track.spans(), known);
            case MARKS -> ticks(axis, track.spans());
            case COLUMNS -> columns(axis, track.spans());
        };
    }

    private static List<Track.Span> inOrder(Collection<Track.Span> spans) {
        return spans.stream().sorted(Comparator.comparing(Track.Span::from)).toList();
    }

    private static List<Piece> blocks(Axis axis, Collection<Track.Span> spans, Instant known) {
        var pieces = new ArrayList<Piece>();
        for (var one : inOrder(spans)) {
            var end = one.to() == null ? known : one.to();
            if (!one.from().isBefore(axis.to()) || !end.isAfter(axis.from())) continue;
            double left = Math.max(0, axis.x(one.from()));
            double right = Math.min(100, Math.max(axis.x(end), left + NARROWEST));
            add(pieces, block(one, Math.min(left, 100 - NARROWEST), right));
        }
        return List.copyOf(pieces);
    }

    private static Piece block(Track.Span one, double left, double right) {
        return new Piece(left, right - left, 0, one.mark(), 1, one.words(), one.from(), one.to(), one.link());
    }

    /** What begins before the last ends is drawn as one with it. */
    private static void add(List<Piece> pieces, Piece next) {
        if (pieces.isEmpty() || pieces.getLast().x() + pieces.getLast().width() <= next.x() + 1e-9) {
            pieces.add(next);
            return;
        }
        var last = pieces.removeLast();
        double right = Math.max(last.x() + last.width(), next.x() + next.width());
        pieces.add(together(last, next, last.x(), right - last.x()));
    }

    private static List<Piece> ticks(Axis axis, Collection<Track.Span> spans) {
        var pieces = new ArrayList<Piece>();
        for (var one : inOrder(spans)) {
            if (!axis.holds(one.from())) continue;
            var next =
                    new Piece(axis.x(one.from()), 0, 0, one.mark(), 1, one.words(), one.from(), one.to(), one.link());
            var last = pieces.isEmpty() ? null : pieces.getLast();
            if (last == null || next.x() - last.x() >= TOGETHER) pieces.add(next);
            else pieces.set(pieces.size() - 1, together(last, next, last.x(), 0));
        }
        return List.copyOf(pieces);
    }

    private static Piece together(Piece one, Piece other, double x, double width) {
        int count = one.count() + other.count();
        var words = one.words().equals(other.words())
                ? one.words()
                : one.count() < MOST_WORDS
                        ? one.words() + "; " + other.words()
                        : one.count() == MOST_WORDS ? one.words() + "; and more" : one.words();
        var mark = BADNESS.indexOf(other.mark()) > BADNESS.indexOf(one.mark()) ? other.mark() : one.mark();
        return new Piece(x, width, 0, mark, count, words, one.from(), later(one.to(), other.to()), one.link());
    }

    /** Null is for what goes on. */
    private static @Nullable Instant later(@Nullable Instant one, @Nullable Instant other) {
        if (one == null || other == null) return null;
        return one.isAfter(other) ? one : other;
    }

    private static List<Piece> columns(Axis axis, Collection<Track.Span> spans) {
        double most = spans.stream().mapToDouble(Track.Span::amount).max().orElse(0);
        if (most <= 0) return List.of();
        var pieces = new ArrayList<Piece>();
        for (var one : inOrder(spans)) {
            var end = Objects.requireNonNull(one.to(), "a column has an end");
            if (one.amount() <= 0 || !one.from().isBefore(axis.to()) || !end.isAfter(axis.from())) continue;
            double left = Math.max(0, axis.x(one.from()));
            double width = Math.min(100, axis.x(end)) - left;
            double height = Math.max(8, 100 * one.amount() / most);
            pieces.add(new Piece(left, width, height, one.mark(), 1, one.words(), one.from(), end, one.link()));
        }
        return List.copyOf(pieces);
    }
}
