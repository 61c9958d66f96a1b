package app.morvet.views.shift;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.alerting.alerts.Origins;
import app.morvet.alerting.windows.VendorWork;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.ReliefTrack;
import app.morvet.core.alert.Severity;
import app.morvet.core.shift.EstateSentence;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WindowTrack;
import app.morvet.ground.access.People;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.views.nights.NightsAhead;
import app.morvet.views.windows.WindowReach;
import app.morvet.work.cases.OpenTrouble;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The estate at a look: each application with the last hours and the next as a track, and in words what is wrong with it. */
@Component
class EstateLook {
    static final Duration BACK = Duration.ofHours(12);
    static final Duration AHEAD = Duration.ofHours(12);
    static final int WIDTH = 288;
    private static final int NAMED = 3;
    private static final int NAMED_QUIET = 12;
    private static final double NARROWEST = 1.5;
    /** After all tiers. */
    private static final int NO_TIER = 9;

    /** In the place of the key of an application. */
    private static final String NOBODYS = "";

    /** A part of the sentence over all. */
    record Part(String key, String words, String mark, boolean chosen) {}

    /** What is wrong with an application, once however many of its components have it. */
    record Phrase(String mark, String words, String since, String who, String link) {}

    record Step(double x, double width, String mark, String words) {}

    /** @param css {@code hold}, {@code pause}, {@code none} or {@code vendor} */
    record Bar(double x, double width, String css, String words) {}

    record Flag(double x, String mark, String words, String link) {}

    /** @param more how many phrases there are besides those that are shown */
    record Row(
            String key,
            String name,
            int tier,
            String mark,
            List<Phrase> phrases,
            int more,
            List<Step> steps,
            List<Bar> bars,
            List<Flag> flags) {
        boolean isQuiet() {
            return phrases.isEmpty();
        }
    }

    record OfTier(int tier, List<Row> rows) {
        public String words() {
            return tier == NO_TIER ? "no tier" : "tier " + tier;
        }
    }

    record Tick(double x, String words) {}

    /** @param fits how many applications there are at all that fit what is asked for */
    record Look(
            List<Part> sentence, List<Row> rows, List<Row> quiet, int fits, List<Tick> ticks, double now, int width) {
        /** Those that need eyes, by tier. */
        public List<OfTier> tiers() {
            var tiers = new ArrayList<OfTier>();
            for (var row : rows) {
                if (tiers.isEmpty() || tiers.getLast().tier() != row.tier())
                    tiers.add(new OfTier(row.tier(), new ArrayList<>()));
                tiers.getLast().rows().add(row);
            }
            return tiers;
        }

        /** Those that are named. */
        public List<Row> firstQuiet() {
            return quiet.subList(0, Math.min(NAMED_QUIET, quiet.size()));
        }
    }

    private final Alerts alerts;
    private final Origins origins;
    private final Windows windows;
    private final WindowReach reach;
    private final VendorWork work;
    private final NightsAhead nights;
    private final Estate estate;
    private final People people;
    private final Times times;

    EstateLook(
            Alerts alerts,
            Origins origins,
            Windows windows,
            WindowReach reach,
            VendorWork work,
            NightsAhead nights,
            Estate estate,
            People people,
            Times times) {
        this.alerts = alerts;
        this.origins = origins;
        this.windows = windows;
        this.reach = reach;
        this.work = work;
        this.nights = nights;
        this.estate = estate;
        this.people = people;
        this.times = times;
    }

    /** The open cases of alerts that are up, by alert, and what people are called. */
    private record OfCases(Map<Long, WorkCase> open, Map<Long, String> names) {}

    /** An application as it is gathered. */
    private static final class Gathered {
        private final List<Alert> up = new ArrayList<>();
        private final List<ReliefTrack.Stretch> stretches = new ArrayList<>();
        private final List<Bar> bars = new ArrayList<>();
        private final List<Flag> flags = new ArrayList<>();
    }

    /** All of them, by their keys; of each component that is heard of often it is asked once where it belongs. */
    private final class Known {
        private final Map<String, Gathered> applications = new HashMap<>();
        private final Map<Long, String> keys = new HashMap<>();

        private Gathered of(String application) {
            return applications.computeIfAbsent(application, none -> new Gathered());
        }

        private Gathered on(long component) {
            return of(keys.computeIfAbsent(component, EstateLook.this::applicationOf));
        }
    }

    /**
     * @param only a sort of trouble by its key: only applications that have it; empty for all
     * @param team only what a team owns, by its key; empty for all
     */
    Look look(String only, String team, OpenTrouble trouble) {
        var now = times.endOfMinute();
        var from = now.minus(BACK);
        var to = now.plus(AHEAD);
        var track = new WindowTrack(from, to, WIDTH);
        var known = new Known();
        // What somebody has settled while it was up is not told again until it is raised anew; the track shows it.
        var open = trouble.caseOf();
        var up = trouble.up().stream()
                .filter(one -> open.containsKey(one.id()))
                .toList();
        for (var one : up) known.on(one.about().component()).up.add(one);
        for (var one : alerts.stretches(from, now))
            known.on(one.component()).stretches.add(new ReliefTrack.Stretch(one.level(), one.from(), one.to()));
        windows(from, to, track, known);
        vendors(from, to, track, known);
        deadlines(times.now(), to, track, known);
        var ofCases = new OfCases(open, people.names());
        var rows = new ArrayList<Row>();
        for (var one : estate.applications()) {
            if (!team.isEmpty()
                    && estate.team(one.teamId())
                            .filter(it -> it.key().equals(team))
                            .isEmpty()) continue;
            rows.add(row(one, known.of(one.key()), only, ofCases, track, from, to, now));
        }
        var nobodys = known.of(NOBODYS);
        if (team.isEmpty() && !nobodys.up.isEmpty())
            rows.add(row(null, nobodys, only, ofCases, track, from, to, now));
        var loud = rows.stream()
                .filter(one -> !one.isQuiet())
                .sorted(Comparator.comparing(Row::tier)
                        .thenComparing(Comparator.comparing((Row one) -> rank(one.mark()))
                                .reversed())
                        .thenComparing(Row::name))
                .toList();
        var quiet = only.isEmpty() ? rows.stream().filter(Row::isQuiet).toList() : List.<Row>of();
        return new Look(
                sentence(up, only, team), loud, quiet, rows.size(), ticks(from, to, track), track.x(now), WIDTH);
    }

    private String applicationOf(long component) {
        return estate.applicationOf(estate.component(component))
                .map(Estate.Application::key)
                .orElse(NOBODYS);
    }

    private List<Part> sentence(List<Alert> up, String only, String team) {
        var some = up.stream()
                .filter(one -> team.isEmpty()
                        || estate.ownerOf(estate.component(one.about().component()))
                                .filter(it -> it.key().equals(team))
                                .isPresent())
                .map(one -> new EstateSentence.Up(
                        one.about().component(), origins.of(one).trouble(one), one.level()))
                .toList();
        return EstateSentence.of(some).stream()
                .map(one -> new Part(
                        one.trouble().key(),
                        one.words(),
                        one.worst().word(),
                        one.trouble().key().equals(only)))
                .toList();
    }

    private static int rank(String mark) {
        for (var one : Severity.values()) if (one.word().equals(mark)) return one.ordinal() + 1;
        return 0;
    }

    private Row row(
            Estate.@Nullable Application application,
            Gathered gathered,
            String only,
            OfCases ofCases,
            WindowTrack track,
            Instant from,
            Instant to,
            Instant now) {
        var key = application == null ? "" : application.key();
        var phrases = phrases(gathered.up, only, key, ofCases);
        var worst = gathered.up.stream().map(Alert::level).max(Comparator.naturalOrder());
        return new Row(
                key,
                application == null ? "Not assigned" : application.name(),
                application == null ? NO_TIER : application.tier().number(),
                worst.map(Severity::word).orElse("steady"),
                phrases.stream().limit(NAMED).toList(),
                Math.max(0, phrases.size() - NAMED),
                steps(gathered.stretches, track, from, to, now),
                gathered.bars,
                gathered.flags);
    }

    /** What of it is said for one case: the alert that is worst, and of those the one that is up longest. */
    private static Collection<Alert> tellingOf(List<Alert> up, Map<Long, WorkCase> open) {
        var telling = new LinkedHashMap<Long, Alert>();
        for (var one : up) {
            telling.merge(
                    open.get(one.id()).id(), one, (had, other) -> other.level().worseThan(had.level()) ? other : had);
        }
        return telling.values();
    }

    /** Each case once, and those of one origin together; the worst first, then the one that is up longest. */
    private List<Phrase> phrases(List<Alert> up, String only, String application, OfCases known) {
        var asked = up.stream()
                .filter(one ->
                        only.isEmpty() || origins.of(one).trouble(one).key().equals(only))
                .toList();
        var byOrigin = new LinkedHashMap<Origin, List<Alert>>();
        for (var one : tellingOf(asked, known.open()))
            byOrigin.computeIfAbsent(one.origin(), none -> new ArrayList<>()).add(one);
        record Some(List<Alert> alerts, Severity worst) {}
        return byOrigin.values().stream()
                .map(some -> new Some(
                        some,
                        some.stream()
                                .map(Alert::level)
                                .max(Comparator.naturalOrder())
                                .orElseThrow()))
                .sorted(Comparator.comparing(Some::worst).reversed())
                .map(some -> phrase(some.alerts(), some.worst(), application, known))
                .toList();
    }

    private Phrase phrase(List<Alert> some, Severity worst, String application, OfCases known) {
        var first = some.getFirst();
        var one = some.size() == 1 ? known.open().get(first.id()) : null;
        var on = some.size() == 1 ? estate.component(first.about().component()).name() : "" + some.size();
        return new Phrase(
                worst.word(),
                origins.of(first).name(first) + " on " + on,
                times.of(first.raisedAt()),
                one == null ? "" : who(one, known.names()),
                one != null ? "/cases/" + one.id() : "/cases?application=" + application);
    }

    private static String who(WorkCase one, Map<Long, String> names) {
        var taker = one.progress().takenBy();
        return taker == null ? "" : names.getOrDefault(taker, "");
    }

    private List<Step> steps(
            Collection<ReliefTrack.Stretch> stretches, WindowTrack track, Instant from, Instant to, Instant now) {
        return ReliefTrack.steps(stretches, from, to, now).stream()
                .map(one -> {
                    double wide = Math.max(NARROWEST, track.x(one.to()) - track.x(one.from()));
                    return new Step(
                            Math.min(track.x(one.from()), WIDTH - wide),
                            wide,
                            one.worst().word(),
                            one.worst().word()
                                    + (one.to().equals(now)
                                            ? " since " + times.of(one.from())
                                            : ", " + times.span(one.from(), one.to())));
                })
                .toList();
    }

    private void windows(Instant from, Instant to, WindowTrack track, Known known) {
        for (var one : windows.all()) {
            var spans = one.window().plan().occurrences(from, to).stream()
                    .map(Plan.Occurrence::span)
                    .toList();
            if (spans.isEmpty()) continue;
            var css = one.window().pauses() ? "pause" : one.window().holds() ? "hold" : "none";
            var bars = track.bars(spans).stream()
                    .map(bar -> new Bar(
                            bar.x(),
                            bar.width(),
                            css,
                            "%s, %s"
                                    .formatted(
                                            one.window().name(),
                                            times.span(
                                                    bar.span().from(),
                                                    bar.span().to()))))
                    .toList();
            var reached = reach.applications(one);
            for (var application : estate.applications())
                if (reached.contains(application.name()))
                    known.of(application.key()).bars.addAll(bars);
        }
    }

    /** What vendors plan and nobody has made a window of stands on what needs their instance. */
    private void vendors(Instant from, Instant to, WindowTrack track, Known known) {
        for (var one : work.undecided(from, to)) {
            long instance = one.bulletin().component();
            var bars = track.bars(List.of(one.span())).stream()
                    .map(bar -> new Bar(
                            bar.x(),
                            bar.width(),
                            "vendor",
                            "planned: " + one.bulletin().said().title()))
                    .toList();
            estate.needing(instance).stream()
                    .map(it -> applicationOf(it.id()))
                    .distinct()
                    .forEach(application -> known.of(application).bars.addAll(bars));
        }
    }

    private void deadlines(Instant now, Instant to, WindowTrack track, Known known) {
        for (var one : nights.due(now, to))
            known.on(one.component())
                    .flags
                    .add(new Flag(
                            track.x(one.by()),
                            one.mark(),
                            "%s is due %s, likely done %s"
                                    .formatted(one.job(), times.of(one.by()), times.of(one.likely())),
                            "/batch/jobs/" + one.key()));
    }

    /** Every three hours of the clock. */
    private List<Tick> ticks(Instant from, Instant to, WindowTrack track) {
        var ticks = new ArrayList<Tick>();
        var at = from.atZone(times.zone()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        for (; at.toInstant().isBefore(to); at = at.plusHours(1))
            if (at.getHour() % 3 == 0) ticks.add(new Tick(track.x(at.toInstant()), "%02d".formatted(at.getHour())));
        return ticks;
    }
}
