package app.morvet.views.vendors;

import app.morvet.core.states.StateTrack;
import app.morvet.core.vendors.VendorState;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WindowTrack;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import app.morvet.sources.vendors.StoredBulletin;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * One picture of an instance: what its vendor says and writes, what our checks see, and the cases on what needs it, on one axis of
 * time; planned work lies behind all of it.
 */
@Component
class VendorPicture {
    private static final Duration BACK = Duration.ofDays(7);
    private static final Duration AHEAD = Duration.ofDays(2);
    private static final int WIDTH = 540;
    private static final int BULLETINS = 200;
    private static final List<String> SHOWN = List.of(Vendors.STATE, VendorView.CHECK, Vendors.FEED);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d", Locale.ENGLISH);

    record Day(String words, double x, double width, boolean weekend) {}

    /** @param mark its level, as a mark has it */
    record Bar(String words, String mark, double x, double width) {}

    /** @param word what it is now; empty where it is no state */
    record Line(String name, String word, String mark, String since, List<Bar> bars) {}

    record Picture(int width, List<Day> days, double now, List<Bar> planned, List<Line> lines) {}

    private final Vendors vendors;
    private final SeriesBook series;
    private final States states;
    private final CaseBook cases;
    private final Estate estate;
    private final Times times;

    VendorPicture(Vendors vendors, SeriesBook series, States states, CaseBook cases, Estate estate, Times times) {
        this.vendors = vendors;
        this.series = series;
        this.states = states;
        this.cases = cases;
        this.estate = estate;
        this.times = times;
    }

    Picture of(long component) {
        var now = times.now();
        var from = now.minus(BACK);
        var track = new WindowTrack(from, now.plus(AHEAD), WIDTH);
        var written = vendors.bulletins(component, BULLETINS);
        var shown = series.ofComponent(component).stream()
                .filter(one -> SHOWN.contains(one.measure().name()) && !series.ended(one.id()))
                .sorted(Comparator.comparing(Series::labelWords))
                .toList();
        var ids = shown.stream().map(Series::id).toList();
        var heard = states.of(ids);
        var changes = states.changes(ids, from, now);
        var lines = new ArrayList<Line>();
        for (var measure : SHOWN) {
            shown.stream()
                    .filter(one -> one.measure().name().equals(measure))
                    .map(one -> state(
                            one,
                            heard.get(one.id()),
                            VendorView.stretches(one, changes.getOrDefault(one.id(), List.of()), from, now),
                            track.x(now)))
                    .forEach(lines::add);
            if (measure.equals(Vendors.STATE)) lines.add(bulletins(written, track, now));
            if (measure.equals(VendorView.CHECK)) lines.add(ours(component, from, now, track));
        }
        return new Picture(
                WIDTH,
                track.days(times.zone()).stream()
                        .map(it -> new Day(DAY.format(it.day()), it.x(), it.width(), it.weekend()))
                        .toList(),
                track.x(now),
                planned(written, track),
                lines);
    }

    private List<Bar> planned(Collection<StoredBulletin> written, WindowTrack track) {
        return written.stream()
                .filter(one -> one.said().planned() && one.goneAt() == null)
                .filter(one -> one.said().from() != null && one.said().to() != null)
                .flatMap(one -> bars(
                        one.said().title() + ", "
                                + times.span(one.said().from(), one.said().to()),
                        "held",
                        one.said().from(),
                        one.said().to(),
                        track))
                .toList();
    }

    private Line state(Series one, States.@Nullable Now heard, List<StateTrack.Stretch> stretches, double width) {
        var word = heard == null ? "nothing told" : one.measure().stateWords().word(heard.place());
        return new Line(
                name(one),
                word,
                VendorView.mark(word),
                heard == null ? "" : times.of(heard.since()),
                StateTrack.pieces(stretches, width).stream()
                        .map(it -> new Bar(
                                it.word() == null ? VendorState.UNKNOWN.words() : it.word(),
                                VendorView.mark(it.word()),
                                it.x(),
                                it.width()))
                        .toList());
    }

    private static String name(Series one) {
        return switch (one.measure().name()) {
            case Vendors.STATE -> one.labels().isEmpty() ? "The vendor says" : "of " + one.labelWords();
            case VendorView.CHECK -> "We see: " + one.labelWords();
            default -> "Feed " + one.labelWords();
        };
    }

    private Line bulletins(Collection<StoredBulletin> written, WindowTrack track, Instant now) {
        var trouble = written.stream().filter(one -> !one.said().planned()).toList();
        var over = vendors.overSince(trouble.stream().map(StoredBulletin::id).toList());
        long open = trouble.stream().filter(one -> one.isOpen(now)).count();
        return new Line(
                "The vendor writes",
                open == 0 ? "nothing open" : open == 1 ? "1 bulletin is open" : open + " bulletins are open",
                open == 0 ? "steady" : "notice",
                "",
                trouble.stream()
                        .flatMap(one -> bars(
                                one.said().title(),
                                one.isOpen(now) ? "notice" : "over",
                                VendorView.begins(one),
                                end(one, over.get(one.id()), now),
                                track))
                        .toList());
    }

    /** @param over since when the vendor says that it is; null where it does not */
    private static Instant end(StoredBulletin one, @Nullable Instant over, Instant now) {
        if (one.isOpen(now)) return now;
        if (one.said().to() != null) return one.said().to();
        if (over != null) return over;
        return one.goneAt() == null ? one.lastSeen() : one.goneAt();
    }

    /** Cases on what needs it, and on itself. */
    private Line ours(long component, Instant from, Instant now, WindowTrack track) {
        var about = new ArrayList<Long>();
        about.add(component);
        estate.needing(component).forEach(one -> about.add(one.id()));
        var lived = cases.during(about, from, now);
        long open = lived.stream().filter(one -> one.to() == null).count();
        return new Line(
                "Ours that needs it",
                open == 0 ? "no open case" : open == 1 ? "1 open case" : open + " open cases",
                open == 0 ? "steady" : "warning",
                "",
                lived.stream()
                        .flatMap(one -> bars(
                                one.headline(),
                                one.severity().word(),
                                one.from(),
                                one.to() == null ? now : one.to(),
                                track))
                        .toList());
    }

    /** As much of a time as the picture shows; what was short is seen all the same. */
    private Stream<Bar> bars(String words, String mark, Instant from, Instant to, WindowTrack track) {
        var now = times.now();
        var begin = from.isBefore(now.minus(BACK)) ? now.minus(BACK) : from;
        var end = to.isAfter(now.plus(AHEAD)) ? now.plus(AHEAD) : to;
        if (end.isBefore(now.minus(BACK)) || begin.isAfter(now.plus(AHEAD))) return Stream.empty();
        var least = begin.plusSeconds(60);
        return track.bars(List.of(new Plan.Span(begin, end.isBefore(least) ? least : end))).stream()
                .map(bar -> new Bar(words, mark, bar.x(), bar.width()));
    }
}
