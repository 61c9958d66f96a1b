package app.morvet.views.nights;

import app.morvet.core.batch.Concurrency;
import app.morvet.core.batch.Forecast;
import app.morvet.core.batch.Night;
import app.morvet.core.batch.Occurrence;
import app.morvet.core.batch.Outcome;
import app.morvet.core.batch.PlanLayout;
import app.morvet.ground.page.Times;
import app.morvet.sources.batch.JobWindows;
import app.morvet.sources.batch.StoredJob;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The picture of a night as the page draws it: places from core, with words, marks and links. */
@Component
class PlanDrawing {
    private static final double WIDTH = 760;
    private static final double STRIP = 44;
    private static final double SURE = 0.95;
    private static final int ENDS = 4;
    private static final int LETTERS = 21;

    /** @param css what it looks like */
    record Bar(String css, double x, double y, double width, double height, String link, String title) {}

    record Row(String key, String name, String whole, double y, String mark) {}

    record Pole(double x, double y, double height, boolean missed, String title) {}

    /** The path that decides when a job is done, as SVG has it. */
    record Path(String line, String words) {}

    /** How many run at once, as SVG has it. */
    record Strip(String past, String ahead, double limit, int most, double height, String words) {}

    record Drawing(
            double width,
            double height,
            List<PlanLayout.Lane> lanes,
            List<Row> rows,
            List<Bar> bars,
            List<Pole> poles,
            List<PlanLayout.Tick> ticks,
            @Nullable Double now,
            @Nullable Path path,
            @Nullable Strip strip,
            int jobs,
            boolean folded) {}

    private final JobWindows windows;
    private final Times times;

    PlanDrawing(JobWindows windows, Times times) {
        this.windows = windows;
        this.times = times;
    }

    /**
     * @param forecast how it goes on; null for a night that is long over
     * @param troubled jobs that need eyes
     * @param path     the job whose deciding path is lit, or null
     */
    Drawing of(
            Night night,
            @Nullable Forecast forecast,
            Map<String, StoredJob> jobs,
            Set<String> troubled,
            Instant from,
            Instant to,
            @Nullable String path,
            boolean whole) {
        var target = forecast == null || path == null ? null : target(night, path);
        var lit = target == null ? List.<Occurrence>of() : forecast.decidingPath(target);
        var litKeys = new HashSet<String>();
        lit.forEach(one -> litKeys.add(one.job().key()));
        var lines = lines(night, forecast, jobs, troubled, litKeys, from, to);
        var picture = PlanLayout.of(lines, from, to, night.now(), times.zone(), "Jobs that stand alone", WIDTH, whole);
        var marks = new HashMap<String, String>();
        for (var line : lines) marks.put(line.key(), line.quiet() ? "" : mark(line));
        return new Drawing(
                picture.width(),
                picture.height(),
                picture.lanes(),
                picture.rows().stream()
                        .map(row -> new Row(
                                row.key(),
                                cut(row.name()),
                                row.name(),
                                row.y(),
                                Objects.requireNonNullElse(marks.get(row.key()), "")))
                        .toList(),
                picture.bars().stream().map(bar -> bar(bar, litKeys)).toList(),
                picture.poles().stream()
                        .map(pole -> new Pole(
                                pole.x(),
                                pole.y(),
                                pole.height(),
                                pole.flag().missed(),
                                pole.flag().title()))
                        .toList(),
                picture.ticks(),
                picture.now(),
                target == null ? null : path(lit, target, forecast, picture, jobs, from, to),
                forecast == null ? null : strip(forecast, from, to),
                lines.size(),
                picture.lanes().stream().anyMatch(lane -> lane.folded() > 0));
    }

    private static @Nullable Occurrence target(Night night, String key) {
        Occurrence found = null;
        for (var one : night.of(key))
            if (found == null || found.outcome().done() || one.begins().isBefore(night.now())) found = one;
        return found;
    }

    private List<PlanLayout.Line> lines(
            Night night,
            @Nullable Forecast forecast,
            Map<String, StoredJob> jobs,
            Set<String> troubled,
            Set<String> lit,
            Instant from,
            Instant to) {
        Map<String, List<PlanLayout.Piece>> pieces = new LinkedHashMap<>();
        Map<String, List<PlanLayout.Flag>> flags = new HashMap<>();
        var noisy = new HashSet<>(troubled);
        noisy.addAll(lit);
        for (var one : night.occurrences()) {
            var ahead = forecast == null ? null : forecast.of(one);
            var some = pieces(one, ahead, night.now());
            if (some.stream()
                    .noneMatch(piece -> piece.from().isBefore(to) && piece.to().isAfter(from))) continue;
            var key = one.job().key();
            pieces.computeIfAbsent(key, none -> new ArrayList<>()).addAll(some);
            if (one.outcome().bad()
                    && one.outcome() != Outcome.HELD_UP
                    && one.begins().isAfter(from)) noisy.add(key);
            if (one.outcome() == Outcome.SKIPPED) continue;
            if (one.deadline() != null && !one.outcome().done())
                flags.computeIfAbsent(key, none -> new ArrayList<>()).add(flag(one, ahead, night.now()));
            else if (one.deadline() != null)
                flags.computeIfAbsent(key, none -> new ArrayList<>())
                        .add(new PlanLayout.Flag(
                                one.deadline(), one.outcome() == Outcome.LATE, "deadline " + times.of(one.deadline())));
        }
        for (var stray : night.strays()) {
            var end = stray.run().ended() == null ? night.now() : stray.run().ended();
            if (!stray.run().at().isBefore(to) || end.isBefore(from)) continue;
            pieces.computeIfAbsent(stray.job().key(), none -> new ArrayList<>())
                    .add(new PlanLayout.Piece(
                            PlanLayout.Kind.ACTUAL,
                            stray.run().at(),
                            end,
                            Outcome.NOT_EXPECTED,
                            "" + stray.run().id(),
                            () -> "not expected, " + span(stray.run().at(), end)));
            noisy.add(stray.job().key());
        }
        var lines = new ArrayList<PlanLayout.Line>();
        var within = windows.within(from, to);
        pieces.forEach((key, some) -> {
            var job = jobs.get(key);
            if (job == null) return;
            // Behind all else.
            within.of(job.job()).forEach(in -> some.addFirst(window(in)));
            lines.add(new PlanLayout.Line(
                    key,
                    job.name(),
                    job.job().chain(),
                    some,
                    flags.getOrDefault(key, List.of()),
                    !noisy.contains(key)));
        });
        return lines;
    }

    private PlanLayout.Piece window(JobWindows.InWindow in) {
        return new PlanLayout.Piece(
                PlanLayout.Kind.WINDOW,
                in.span().from(),
                in.span().to(),
                Outcome.PLANNED,
                "",
                () -> "window " + in.window() + ", "
                        + span(in.span().from(), in.span().to()));
    }

    private PlanLayout.Flag flag(Occurrence one, Forecast.@Nullable Ahead ahead, Instant now) {
        var deadline = Objects.requireNonNull(one.deadline());
        var chance = ahead == null || Double.isNaN(ahead.makes())
                ? ""
                : ", %.0f %% to make it".formatted(100 * ahead.makes());
        return new PlanLayout.Flag(
                deadline,
                now.isAfter(deadline) || ahead != null && ahead.makes() < 0.5,
                "deadline " + times.of(deadline) + chance);
    }

    private List<PlanLayout.Piece> pieces(Occurrence one, Forecast.@Nullable Ahead ahead, Instant now) {
        var some = new ArrayList<PlanLayout.Piece>();
        some.add(new PlanLayout.Piece(
                PlanLayout.Kind.EXPECTED,
                one.planned(),
                one.plannedEnd(),
                one.outcome(),
                "",
                () -> one.outcome().words() + "; " + expected(one)));
        for (int i = 0; i < one.runs().size(); i++) {
            var run = one.runs().get(i);
            boolean last = i == one.runs().size() - 1;
            var outcome = last ? one.outcome() : Outcome.of(run, false);
            var end = run.ended() == null ? now : run.ended();
            some.add(new PlanLayout.Piece(
                    PlanLayout.Kind.ACTUAL,
                    run.at(),
                    end.isBefore(run.at()) ? run.at() : end,
                    outcome,
                    "" + run.id(),
                    () -> outcome.words() + ", " + span(run.at(), run.ended()) + "; " + expected(one)));
        }
        if (ahead != null) {
            var from = one.last() != null && one.last().running()
                    ? now
                    : ahead.start().likely();
            some.add(new PlanLayout.Piece(
                    PlanLayout.Kind.PROJECTED, from, ahead.end().likely(), one.outcome(), "", () -> likely(ahead)));
            some.add(new PlanLayout.Piece(
                    PlanLayout.Kind.RANGE,
                    ahead.end().low(),
                    ahead.end().high(),
                    one.outcome(),
                    "",
                    () -> likely(ahead)));
        }
        return some;
    }

    private String expected(Occurrence one) {
        return "expected " + span(one.planned(), one.plannedEnd());
    }

    private String likely(Forecast.Ahead ahead) {
        return "likely %s to %s, done between %s and %s"
                .formatted(
                        times.of(ahead.start().likely()),
                        times.of(ahead.end().likely()),
                        times.of(ahead.end().low()),
                        times.of(ahead.end().high()));
    }

    private String span(Instant from, @Nullable Instant to) {
        return times.of(from) + (to == null ? " on" : " to " + times.of(to) + " (" + times.lasting(from, to) + ")");
    }

    private static String mark(PlanLayout.Line line) {
        var worst = "steady";
        for (var piece : line.pieces()) {
            var mark = Marks.of(piece.outcome());
            if (Marks.rank(mark) < Marks.rank(worst)) worst = mark;
        }
        return worst;
    }

    private static Bar bar(PlanLayout.Bar bar, Set<String> lit) {
        var piece = bar.piece();
        var css = piece.kind().name().toLowerCase(Locale.ROOT)
                + " of-" + Marks.of(piece.outcome())
                + (piece.outcome().running() ? " going" : "")
                + (!lit.isEmpty() && !lit.contains(bar.key()) ? " dim" : "");
        var link = piece.kind() == PlanLayout.Kind.WINDOW
                ? "/windows"
                : !piece.id().isEmpty()
                        ? "/batch/runs/" + piece.id()
                        : bar.key().isEmpty() ? "" : "/batch/jobs/" + bar.key();
        return new Bar(
                css,
                bar.x(),
                bar.y(),
                bar.width(),
                bar.height(),
                link,
                piece.title().get());
    }

    private Path path(
            List<Occurrence> lit,
            Occurrence target,
            Forecast forecast,
            PlanLayout.Picture picture,
            Map<String, StoredJob> jobs,
            Instant from,
            Instant to) {
        var rows = new HashMap<String, Double>();
        picture.rows().forEach(row -> rows.put(row.key(), row.y() + 9.5));
        var line = new StringBuilder();
        var words = new ArrayList<String>();
        for (var one : lit) {
            var job = jobs.get(one.job().key());
            var name = job == null ? one.job().key() : job.name();
            double share = forecast.decides(one, target);
            // Where another path decides in some nights, the share tells how sure this one is.
            words.add(share > 0 && share < SURE ? "%s (in %.0f %% of nights)".formatted(name, 100 * share) : name);
            var y = rows.get(one.job().key());
            var ahead = forecast.of(one);
            if (y == null || ahead == null) continue;
            double x1 =
                    position(one.last() != null ? one.begins() : ahead.start().likely(), from, to);
            double x2 = position(ahead.end().likely(), from, to);
            line.append(String.format(Locale.ROOT, "%s%.1f %.1fL%.1f %.1f", line.isEmpty() ? "M" : "L", x1, y, x2, y));
        }
        var end = forecast.of(target);
        var done = end == null ? "" : ", done likely " + times.of(end.end().likely());
        return new Path(line.toString(), String.join(" → ", brief(words)) + done);
    }

    /** Of a long path its ends: what it begins with, and what it leads to. */
    private static List<String> brief(List<String> words) {
        if (words.size() <= 2 * ENDS + 1) return words;
        var brief = new ArrayList<>(words.subList(0, ENDS));
        brief.add("%d more".formatted(words.size() - 2 * ENDS));
        brief.addAll(words.subList(words.size() - ENDS, words.size()));
        return brief;
    }

    private static double position(Instant at, Instant from, Instant to) {
        return Math.clamp(WIDTH * seconds(from, at) / seconds(from, to), 0, WIDTH);
    }

    private static double seconds(Instant from, Instant to) {
        return Duration.between(from, to).toMillis() / 1000.0;
    }

    private Strip strip(Forecast forecast, Instant from, Instant to) {
        var now = forecast.night().now();
        var steps = Concurrency.of(forecast);
        int limit = forecast.slots().stream().mapToInt(Integer::intValue).sum();
        int most = Math.max(1, limit);
        for (var step : steps)
            if (!step.at().isBefore(from) && step.at().isBefore(to)) most = Math.max(most, step.running());
        var words = limit == 0 ? "jobs at once" : "jobs at once, of %d slots".formatted(limit);
        return new Strip(
                area(steps, from, earlier(now, to), from, to, most),
                area(steps, later(now, from), to, from, to, most),
                limit == 0 ? -1 : STRIP - STRIP * limit / (most + 0.5),
                most,
                STRIP,
                words);
    }

    private static String area(
            List<Concurrency.Step> steps, Instant begin, Instant end, Instant from, Instant to, int most) {
        if (!begin.isBefore(end)) return "";
        double whole = seconds(from, to);
        var path = new StringBuilder();
        int running = 0;
        for (var step : steps) if (!step.at().isAfter(begin)) running = step.running();
        double x = WIDTH * seconds(from, begin) / whole;
        path.append(String.format(Locale.ROOT, "M%.1f %.1fV%.1f", x, STRIP, STRIP - STRIP * running / (most + 0.5)));
        for (var step : steps) {
            if (!step.at().isAfter(begin) || !step.at().isBefore(end)) continue;
            x = WIDTH * seconds(from, step.at()) / whole;
            path.append(String.format(Locale.ROOT, "H%.1fV%.1f", x, STRIP - STRIP * step.running() / (most + 0.5)));
        }
        path.append(String.format(Locale.ROOT, "H%.1fV%.1fZ", WIDTH * seconds(from, end) / whole, STRIP));
        return path.toString();
    }

    private static String cut(String name) {
        return name.length() <= LETTERS ? name : name.substring(0, LETTERS - 1).strip() + "…";
    }

    private static Instant earlier(Instant one, Instant other) {
        return one.isBefore(other) ? one : other;
    }

    private static Instant later(Instant one, Instant other) {
        return one.isAfter(other) ? one : other;
    }
}
