package app.morvet.core.batch;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Where everything stands in the picture of a night: lanes by chain, a row for each job, time from left to right. Where
 * there are more rows than can be read, what is quiet folds: jobs that stand alone into one row, a quiet chain into one, and
 * the quiet jobs of a troubled chain into one below the others. Lengths are in the picture's own unit, a CSS pixel.
 */
public final class PlanLayout {
    private static final double ROW = 19;
    private static final double LANE_HEAD = 22;
    private static final double GAP = 6;
    private static final double AXIS = 26;
    private static final double NARROWEST = 2;
    private static final int MOST_ROWS = 34;

    /** How a bar is drawn. */
    public enum Kind {
        /** A window in which it is not expected: hatched. */
        WINDOW,
        /** As it was expected: an outline. */
        EXPECTED,
        /** As it ran: filled. */
        ACTUAL,
        /** As it will likely run: dashed. */
        PROJECTED,
        /** Where its end may lie: a thin line. */
        RANGE
    }

    /**
     * A stretch of a row.
     *
     * @param outcome how it stands with it
     * @param id      of what it shows, for links; empty where there is none
     * @param title   in words; asked for only where it is shown, since a large night has many
     */
    public record Piece(Kind kind, Instant from, Instant to, Outcome outcome, String id, Supplier<String> title) {}

    /** A deadline. */
    public record Flag(Instant at, boolean missed, String title) {}

    /**
     * A job with what is shown of it.
     *
     * @param chain empty where it stands alone
     * @param quiet whether nothing about it needs eyes
     */
    public record Line(String key, String name, String chain, List<Piece> pieces, List<Flag> flags, boolean quiet) {
        public Line {
            pieces = List.copyOf(pieces);
            flags = List.copyOf(flags);
        }
    }

    /** @param folded how many jobs are folded away in it */
    public record Lane(String name, double y, double height, int jobs, int folded) {}

    /** @param key empty for a row of folded jobs */
    public record Row(String key, String name, double y) {}

    public record Bar(Piece piece, String key, double x, double y, double width, double height) {}

    public record Pole(Flag flag, double x, double y, double height) {}

    /** @param label empty for a line between hours */
    public record Tick(double x, String label, boolean day) {}

    /** @param now where now is, or null where it lies outside */
    public record Picture(
            double width,
            double height,
            List<Lane> lanes,
            List<Row> rows,
            List<Bar> bars,
            List<Pole> poles,
            List<Tick> ticks,
            @Nullable Double now) {}

    private final Instant from;
    private final Instant to;
    private final double width;
    private final List<Lane> lanes = new ArrayList<>();
    private final List<Row> rows = new ArrayList<>();
    private final List<Bar> bars = new ArrayList<>();
    private final List<Pole> poles = new ArrayList<>();
    private double y = AXIS;

    private PlanLayout(Instant from, Instant to, double width) {
        if (!from.isBefore(to)) throw new IllegalArgumentException("a plan begins before it ends");
        this.from = from;
        this.to = to;
        this.width = width;
    }

    /**
     * @param lines in the order in which they should stand
     * @param alone what the lane of jobs without a chain is called
     * @param width of the time axis
     * @param whole whether nothing is folded, however much there is
     * @throws IllegalArgumentException where the span is empty
     */
    public static Picture of(
            List<Line> lines,
            Instant from,
            Instant to,
            Instant now,
            ZoneId zone,
            String alone,
            double width,
            boolean whole) {
        var layout = new PlanLayout(from, to, width);
        Map<String, List<Line>> byChain = new LinkedHashMap<>();
        for (var line : lines)
            if (!line.chain().isEmpty())
                byChain.computeIfAbsent(line.chain(), none -> new ArrayList<>()).add(line);
        for (var line : lines)
            if (line.chain().isEmpty())
                byChain.computeIfAbsent("", none -> new ArrayList<>()).add(line);
        boolean fold = !whole && lines.size() > MOST_ROWS;
        byChain.forEach((chain, some) -> layout.lane(chain.isEmpty() ? alone : chain, some, fold));
        return new Picture(
                width,
                layout.y,
                List.copyOf(layout.lanes),
                List.copyOf(layout.rows),
                List.copyOf(layout.bars),
                List.copyOf(layout.poles),
                layout.ticks(zone),
                now.isBefore(from) || now.isAfter(to) ? null : layout.x(now));
    }

    private void lane(String name, List<Line> lines, boolean fold) {
        double top = y;
        y += LANE_HEAD;
        var quiet = lines.stream().filter(Line::quiet).toList();
        boolean folds = fold && quiet.size() > 3;
        for (var line : lines) {
            if (folds && line.quiet()) continue;
            rows.add(new Row(line.key(), line.name(), y));
            draw(line);
            y += ROW;
        }
        if (folds) {
            rows.add(new Row("", quiet.size() + " quiet", y));
            fold(quiet);
            y += ROW;
        }
        lanes.add(new Lane(name, top, y - top, lines.size(), folds ? quiet.size() : 0));
        y += GAP;
    }

    /** Of jobs that share a row only is shown when any of them ran or will run: as many bars as can be told apart. */
    private void fold(List<Line> quiet) {
        for (var kind : List.of(Kind.ACTUAL, Kind.PROJECTED, Kind.EXPECTED)) {
            var pieces = quiet.stream()
                    .flatMap(
                            line -> line.pieces().stream().filter(piece -> kind != Kind.EXPECTED || onlyExpected(line)))
                    .filter(piece -> piece.kind() == kind && inView(piece))
                    .sorted(java.util.Comparator.comparing(Piece::from))
                    .toList();
            double left = -1;
            double right = -1;
            int many = 0;
            for (var piece : pieces) {
                double begin = Math.min(x(later(piece.from(), from)), width - NARROWEST);
                double end = Math.max(begin + NARROWEST, x(earlier(piece.to(), to)));
                if (many > 0 && begin <= right + 1) right = Math.max(right, end);
                else {
                    if (many > 0) bars.add(folded(kind, left, right, many));
                    left = begin;
                    right = end;
                    many = 0;
                }
                many++;
            }
            if (many > 0) bars.add(folded(kind, left, right, many));
        }
    }

    /** Of what lies so far ahead or back that nothing else is known, at least the plan is shown. */
    private boolean onlyExpected(Line line) {
        return line.pieces().stream()
                .filter(this::inView)
                .allMatch(piece -> piece.kind() == Kind.EXPECTED || piece.kind() == Kind.WINDOW);
    }

    private boolean inView(Piece piece) {
        return piece.from().isBefore(to) && !piece.to().isBefore(from);
    }

    private Bar folded(Kind kind, double left, double right, int many) {
        var outcome = kind == Kind.ACTUAL ? Outcome.ON_TIME : Outcome.PLANNED;
        var words = many == 1 ? "a quiet job" : many + " runs of quiet jobs";
        return new Bar(new Piece(kind, from, to, outcome, "", () -> words), "", left, y + 5, right - left, ROW - 10);
    }

    private void draw(Line line) {
        for (var piece : line.pieces()) {
            if (!inView(piece)) continue;
            double left = x(later(piece.from(), from));
            double right = x(earlier(piece.to(), to));
            double inset = inset(piece);
            double least = piece.kind() == Kind.RANGE ? 0 : NARROWEST;
            double shown = Math.max(least, right - left);
            bars.add(new Bar(piece, line.key(), Math.min(left, width - shown), y + inset, shown, ROW - 2 * inset));
        }
        for (var flag : line.flags())
            if (!flag.at().isBefore(from) && flag.at().isBefore(to)) poles.add(new Pole(flag, x(flag.at()), y, ROW));
    }

    /** What is wrong stands taller than what is as it should be. */
    private static double inset(Piece piece) {
        return switch (piece.kind()) {
            case RANGE -> ROW / 2 - 1;
            case WINDOW -> 0;
            case EXPECTED -> 3;
            case ACTUAL -> piece.outcome().bad() ? 2 : 5;
            case PROJECTED -> 5;
        };
    }

    private List<Tick> ticks(ZoneId zone) {
        var span = Duration.between(from, to);
        var step = span.compareTo(Duration.ofMinutes(90)) <= 0
                ? Duration.ofMinutes(10)
                : span.compareTo(Duration.ofHours(7)) <= 0
                        ? Duration.ofMinutes(30)
                        : span.compareTo(Duration.ofHours(14)) <= 0 ? Duration.ofHours(1) : Duration.ofHours(2);
        var ticks = new ArrayList<Tick>();
        var at = from.atZone(zone).truncatedTo(ChronoUnit.HOURS).toInstant();
        for (; at.isBefore(to); at = at.plus(step)) {
            if (at.isBefore(from)) continue;
            var local = at.atZone(zone);
            boolean day = local.getHour() == 0 && local.getMinute() == 0;
            boolean odd = step.toHours() >= 2 && local.getHour() % 2 != 0;
            ticks.add(new Tick(x(at), odd ? "" : local.toLocalTime().toString(), day));
        }
        return List.copyOf(ticks);
    }

    private double x(Instant at) {
        return width
                * Duration.between(from, at).toMillis()
                / Duration.between(from, to).toMillis();
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }
}
