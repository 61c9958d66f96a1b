package app.morvet.views.vendors;

import app.morvet.alerting.windows.VendorWork;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.states.StateTrack;
import app.morvet.core.vendors.Availability;
import app.morvet.core.vendors.VendorState;
import app.morvet.core.windows.Plan;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import app.morvet.sources.states.States;
import app.morvet.sources.vendors.StoredBulletin;
import app.morvet.sources.vendors.VendorFeeds;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import app.morvet.work.cases.CaseBook;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Instances of vendors as pages show them: what is said, what is seen, and where the two do not agree. */
@Component
class VendorView {
    static final String CHECK = "check";
    private static final String PASSED = "passed";
    private static final Duration TRACK = Duration.ofDays(7);
    private static final int TRACK_WIDTH = 280;
    private static final Duration AHEAD = Duration.ofDays(14);
    private static final int BULLETINS = 60;
    private static final int MONTHS = 3;
    private static final int LONGEST_SAID = 300;
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH);

    record Piece(String word, String mark, double x, double width) {}

    /** One state: of the whole, of a part, of a check, of a feed. */
    record Track(String name, String word, String mark, String since, List<Piece> pieces) {}

    /** @param work what becomes of it where it is planned work; else empty */
    record BulletinRow(
            long id,
            String title,
            String when,
            String text,
            boolean planned,
            boolean open,
            String work,
            @Nullable Long window,
            int version) {}

    /** @param poll when its feeds were looked at last, and what came of it */
    record Row(
            String key,
            String name,
            String vendor,
            String does,
            Track said,
            String against,
            int open,
            List<String> planned,
            String poll,
            boolean pollFine) {}

    /** One feed, with its latest looks. */
    record FeedRow(long id, String name, String every, String last, String took, List<String> faults) {}

    /** @param said by the vendor's word, and {@code seen} by our checks; empty where nothing is known */
    record Month(String month, String said, String seen, boolean saidUnder, boolean seenUnder) {}

    private final Vendors vendors;
    private final VendorWork work;
    private final Windows windows;
    private final SeriesBook series;
    private final States states;
    private final CaseBook cases;
    private final Estate estate;
    private final Times times;

    VendorView(
            Vendors vendors,
            VendorWork work,
            Windows windows,
            SeriesBook series,
            States states,
            CaseBook cases,
            Estate estate,
            Times times) {
        this.vendors = vendors;
        this.work = work;
        this.windows = windows;
        this.series = series;
        this.states = states;
        this.cases = cases;
        this.estate = estate;
        this.times = times;
    }

    List<Row> rows() {
        var now = times.now();
        var open = vendors.open(now, 1000);
        return vendors.instances().stream()
                .map(one -> row(one, open, now))
                .sorted(Comparator.comparing((Row one) -> order(one)).thenComparing(Row::name))
                .toList();
    }

    private static int order(Row one) {
        if (!one.against().isEmpty() || one.said().mark().equals("critical")) return 0;
        return switch (one.said().mark()) {
            case "warning" -> 1;
            case "nodata" -> 2;
            default -> 3;
        };
    }

    private Row row(VendorInstance one, List<StoredBulletin> open, Instant now) {
        var component = estate.component(one.component());
        var mine = open.stream().filter(it -> it.component() == component.id()).toList();
        var last = vendors.feeds(component.id()).stream()
                .flatMap(feed -> vendors.polls(feed.id(), 1).stream())
                .max(Comparator.comparing(Vendors.Poll::at));
        return new Row(
                component.key(),
                component.name(),
                one.vendor(),
                estate.applicationOf(component).map(Estate.Application::name).orElse(""),
                whole(component.id(), now),
                against(component.id()),
                (int) mine.stream().filter(it -> !it.said().planned()).count(),
                mine.stream()
                        .filter(it -> it.said().planned() && begins(it).isBefore(now.plus(AHEAD)))
                        .map(it -> it.said().title() + ", " + when(it))
                        .toList(),
                last.map(poll -> times.ago(poll.at())).orElse("never"),
                last.map(poll -> poll.faults().isEmpty()).orElse(false));
    }

    static Instant begins(StoredBulletin one) {
        return one.said().from() == null ? one.firstSeen() : one.said().from();
    }

    private String when(StoredBulletin one) {
        var from = one.said().from();
        var to = one.said().to();
        if (from != null && to != null) return times.span(from, to);
        return one.said().planned() ? "no time said" : "since " + times.of(begins(one));
    }

    private Track whole(long component, Instant now) {
        return series.find(component, Vendors.STATE, Map.of())
                .map(one -> track(one, "the vendor says", now))
                .orElse(new Track("the vendor says", VendorState.UNKNOWN.words(), "nodata", "", List.of()));
    }

    private Track track(Series one, String name, Instant now) {
        var heard = states.of(List.of(one.id())).get(one.id());
        var word = heard == null ? "nothing told" : one.measure().stateWords().word(heard.place());
        return new Track(
                name,
                word,
                mark(word),
                heard == null ? "" : times.of(heard.since()),
                StateTrack.pieces(stretches(one, now.minus(TRACK), now), TRACK_WIDTH).stream()
                        .map(it -> new Piece(
                                it.word() == null ? VendorState.UNKNOWN.words() : it.word(),
                                mark(it.word()),
                                it.x(),
                                it.width()))
                        .toList());
    }

    private List<StateTrack.Stretch> stretches(Series one, Instant from, Instant to) {
        return stretches(one, states.changes(List.of(one.id()), from, to).getOrDefault(one.id(), List.of()), from, to);
    }

    static List<StateTrack.Stretch> stretches(Series one, List<States.Change> changes, Instant from, Instant to) {
        var words = one.measure().stateWords();
        return StateTrack.of(
                changes.stream()
                        .map(it -> new StateTrack.Change(it.at(), words.word(it.place())))
                        .toList(),
                from,
                to,
                Instant.MAX);
    }

    static String mark(@Nullable String word) {
        return switch (word) {
            case "serves", PASSED, "read" -> "steady";
            case "serves in part", "failed", "changed", "in doubt", "not read" -> "warning";
            case "does not serve", "no answer" -> "critical";
            case null, default -> "nodata";
        };
    }

    /** What we see, where the vendor says that all is well; empty where the two agree. */
    String against(long component) {
        var said = series.find(component, Vendors.STATE, Map.of()).orElse(null);
        var heard = said == null ? null : states.of(List.of(said.id())).get(said.id());
        if (heard == null || heard.place() != VendorState.SERVES.ordinal()) return "";
        var seen = seen(component);
        return seen.isEmpty() ? "" : "The vendor says that it serves; we see: " + String.join("; ", seen) + ".";
    }

    /** Trouble that we see of it: checks that do not pass, and open cases on what needs it. */
    List<String> seen(long component) {
        var seen = new ArrayList<String>();
        var checks = series.ofComponent(component).stream()
                .filter(one -> one.measure().name().equals(CHECK) && !series.ended(one.id()))
                .toList();
        var now = states.of(checks.stream().map(Series::id).toList());
        for (var one : checks) {
            var heard = now.get(one.id());
            if (heard == null) continue;
            var word = one.measure().stateWords().word(heard.place());
            if (!PASSED.equals(word))
                seen.add("%s %s since %s"
                        .formatted(
                                one.labels().isEmpty() ? "a check" : one.labelWords(), word, times.of(heard.since())));
        }
        return seen;
    }

    /** What we see, as a ticket to the vendor would say it: to be read by somebody who knows nothing of us, nor of our zone. */
    String evidence(Estate.Component one) {
        var now = times.now();
        var lines = new ArrayList<String>();
        lines.add("Instance: " + one.name());
        lines.add("Written: " + now.truncatedTo(ChronoUnit.SECONDS) + " (times with a Z are UTC, others " + times.zone()
                + ")");
        lines.add("");
        lines.add("What we see:");
        for (var it : series.ofComponent(one.id())) {
            if (!it.measure().name().equals(CHECK) || series.ended(it.id())) continue;
            var said = states.latest(List.of(it.id()), LONGEST_SAID, 1).stream()
                    .map(States.Change::said)
                    .filter(text -> !text.isBlank())
                    .findFirst()
                    .orElse("");
            lines.add("- %s: %s%s"
                    .formatted(
                            it.labels().isEmpty() ? "a check" : it.labelWords(),
                            wordNow(it),
                            said.isEmpty()
                                    ? ""
                                    : "; " + said.lines().findFirst().orElse("")));
        }
        for (var it : casesBeside(one.id())) lines.add("- " + it.headline());
        lines.add("");
        lines.add("What you say: "
                + series.find(one.id(), Vendors.STATE, Map.of())
                        .map(this::wordNow)
                        .orElse(VendorState.UNKNOWN.words()));
        lines.add("");
        lines.add("Please tell us what is known, and by when %s will serve again.".formatted(one.name()));
        return String.join("\n", lines);
    }

    /** {@code does not serve since 2027-03-18T02:38:00Z} */
    private String wordNow(Series one) {
        var heard = states.of(List.of(one.id())).get(one.id());
        if (heard == null) return VendorState.UNKNOWN.words();
        return "%s since %s"
                .formatted(
                        one.measure().stateWords().word(heard.place()),
                        heard.since().truncatedTo(ChronoUnit.SECONDS));
    }

    /** Open cases on what needs it. */
    List<CaseLink> casesBeside(long component) {
        var found = new ArrayList<CaseLink>();
        for (var needing : estate.needing(component))
            cases.openOn(needing.id()).stream()
                    .filter(one -> one.overSince() == null)
                    .map(one -> new CaseLink(one.id(), one.severity().word(), one.headline()))
                    .forEach(found::add);
        return found;
    }

    record CaseLink(long id, String mark, String headline) {}

    List<BulletinRow> bulletins(long component) {
        var now = times.now();
        var all = vendors.bulletins(component, BULLETINS);
        var works = work.of(all.stream().map(StoredBulletin::id).toList());
        return all.stream()
                .map(one -> {
                    var planned = works.get(one.id());
                    return new BulletinRow(
                            one.id(),
                            one.said().title(),
                            when(one),
                            one.said().text(),
                            one.said().planned(),
                            one.isOpen(now),
                            planned == null ? "" : planned.state().words(),
                            planned == null ? null : planned.window(),
                            one.version());
                })
                .sorted(Comparator.comparing((BulletinRow one) -> !one.open()))
                .toList();
    }

    List<FeedRow> feeds(long component) {
        return vendors.feeds(component).stream().map(this::feed).toList();
    }

    private FeedRow feed(Connection one) {
        var last = vendors.polls(one.id(), 1).stream().findFirst();
        return new FeedRow(
                one.id(),
                one.name(),
                app.morvet.core.guard.Spans.words(VendorFeeds.every(one)),
                last.map(poll -> times.of(poll.at())).orElse("never"),
                last.map(poll -> "%,d ms".formatted(poll.took().toMillis())).orElse(""),
                last.map(Vendors.Poll::faults).orElse(List.of()));
    }

    /** By the vendor's word and by our checks, month by month, planned work left out. */
    List<Month> months(VendorInstance one) {
        var now = times.now();
        var zone = times.zone();
        var planned = windows.times(now.minus(Duration.ofDays(31L * (MONTHS + 1))), now).stream()
                .filter(time -> windows.find(time.window())
                        .filter(it -> it.window().holds()
                                && it.window().scope().takes(windows.factsOf(estate.component(one.component()))))
                        .isPresent())
                .map(time ->
                        new Plan.Span(time.from(), time.to()).endedAt(time.ended() == null ? time.to() : time.ended()))
                .toList();
        var months = new ArrayList<Month>();
        var month = YearMonth.from(now.atZone(zone));
        for (int back = 0; back < MONTHS; back++, month = month.minusMonths(1)) {
            var from = month.atDay(1).atStartOfDay(zone).toInstant();
            var end = month.plusMonths(1).atDay(1).atStartOfDay(zone).toInstant();
            var to = end.isAfter(now) ? now : end;
            if (!from.isBefore(to)) continue;
            var said = share(one.component(), Vendors.STATE, List.of("serves", "serves in part"), planned, from, to);
            var seen = share(one.component(), CHECK, List.of(PASSED, "changed"), planned, from, to);
            if (Double.isNaN(said) && Double.isNaN(seen)) continue;
            months.add(new Month(
                    MONTH.format(month),
                    percent(said),
                    percent(seen),
                    100 * said < one.agreed(),
                    100 * seen < one.agreed()));
        }
        return months;
    }

    /** Of several checks the worst counts. */
    private double share(
            long component, String measure, List<String> serves, List<Plan.Span> planned, Instant from, Instant to) {
        return series.ofComponent(component).stream()
                .filter(one ->
                        one.measure().name().equals(measure) && !one.labels().containsKey("part"))
                .mapToDouble(one -> Availability.of(
                                stretches(one, from, to).stream()
                                        .map(it -> VendorState.UNKNOWN.words().equals(it.word())
                                                ? new StateTrack.Stretch(null, it.from(), it.to())
                                                : it)
                                        .toList(),
                                serves::contains,
                                planned,
                                from,
                                to)
                        .share())
                .filter(share -> !Double.isNaN(share))
                .min()
                .orElse(Double.NaN);
    }

    private static String percent(double share) {
        return Double.isNaN(share) ? "" : "%.2f %%".formatted(100 * share);
    }
}
