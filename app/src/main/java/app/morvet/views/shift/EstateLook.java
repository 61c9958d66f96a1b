package app.morvet.views.shift;

import app.morvet.alerting.alerts.Alert;
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
import app.morvet.ground.base.MadeLazily;
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
import org.springframework.stereotype.Component;

/** The estate at a look: each application with the last hours and the next as a track, and in words what is wrong with it. */
@Component
class EstateLook {
    static final Duration AHEAD = Duration.ofHours(12);
    static final int WIDTH = 288;
    private static final int NAMED = 3;
    private static final double NARROWEST = 1.5;
    private static final double HALF_A_TICK = 7;
    /** In the place of the key of an application. */
    private static final String NOBODYS = "";

    private final TroublePast past;
    private final Origins origins;
    private final Windows windows;
    private final WindowReach reach;
    private final VendorWork work;
    private final NightsAhead nights;
    private final Estate estate;
    private final People people;
    private final Times times;

    EstateLook(
            TroublePast past,
            Origins origins,
            Windows windows,
            WindowReach reach,
            VendorWork work,
            NightsAhead nights,
            Estate estate,
            People people,
            Times times) {
        this.past = past;
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
        private final List<Look.Bar> bars = new ArrayList<>();
        private final List<Look.Flag> flags = new ArrayList<>();
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
        var before = past.past();
        var now = before.to();
        var from = before.from();
        var to = now.plus(AHEAD);
        var track = new WindowTrack(from, to, WIDTH);
        var known = new Known();
        var up = trouble.up();
        for (var one : up) known.on(one.about().component()).up.add(one);
        before.on()
                .forEach((component, stretches) -> known.on(component).stretches.addAll(stretches));
        windows(from, to, track, known);
        vendors(from, to, track, known);
        deadlines(times.now(), to, track, known);
        var ofCases = new OfCases(trouble.caseOf(), people.names());
        var places = new ArrayList<Place>();
        for (var one : estate.applications()) {
            if (!team.isEmpty()
                    && estate.team(one.teamId())
                            .filter(it -> it.key().equals(team))
                            .isEmpty()) continue;
            places.add(place(one.key(), one.name(), one.tier().number(), known.of(one.key()), only));
        }
        var nobodys = known.of(NOBODYS);
        if (team.isEmpty() && !nobodys.up.isEmpty())
            places.add(place(NOBODYS, "Not assigned", Look.NO_TIER, nobodys, only));
        var loud = places.stream()
                .filter(one -> !one.isQuiet())
                .sorted(Comparator.comparing(Place::tier)
                        .thenComparing(Comparator.comparing(Place::worst).reversed())
                        .thenComparing(Place::name))
                .toList();
        var quiet = only.isEmpty() ? places.stream().filter(Place::isQuiet).toList() : List.<Place>of();
        var axis = new Axis(track, from, to, now);
        return new Look(
                sentence(up, only, team),
                new MadeLazily<>(loud, one -> row(one, ofCases, axis)),
                new MadeLazily<>(quiet, one -> row(one, ofCases, axis)),
                places.size(),
                ticks(from, to, track),
                track.x(now),
                WIDTH);
    }

    /** The span that tracks show. */
    private record Axis(WindowTrack track, Instant from, Instant to, Instant now) {}

    /**
     * An application in the order of the list.
     *
     * @param told  what is up of what is asked for
     * @param worst of all that is up, one more than its place among the severities; 0 where nothing is
     */
    private record Place(String key, String name, int tier, Gathered gathered, List<Alert> told, int worst) {
        boolean isQuiet() {
            return told.isEmpty();
        }

        String mark() {
            return worst == 0 ? "steady" : Severity.values()[worst - 1].word();
        }
    }

    private Place place(String key, String name, int tier, Gathered gathered, String only) {
        var told = gathered.up.stream()
                .filter(one ->
                        only.isEmpty() || origins.of(one).trouble(one).key().equals(only))
                .toList();
        int worst = gathered.up.stream()
                .mapToInt(one -> one.level().ordinal() + 1)
                .max()
                .orElse(0);
        return new Place(key, name, tier, gathered, told, worst);
    }

    private String applicationOf(long component) {
        return estate.applicationOf(estate.component(component))
                .map(Estate.Application::key)
                .orElse(NOBODYS);
    }

    private List<Look.Part> sentence(List<Alert> up, String only, String team) {
        var some = up.stream()
                .filter(one -> team.isEmpty()
                        || estate.ownerOf(estate.component(one.about().component()))
                                .filter(it -> it.key().equals(team))
                                .isPresent())
                .map(one -> new EstateSentence.Up(
                        one.about().component(), origins.of(one).trouble(one), one.level()))
                .toList();
        return EstateSentence.of(some).stream()
                .map(one -> new Look.Part(
                        one.trouble().key(),
                        one.words(),
                        one.worst().word(),
                        one.trouble().key().equals(only)))
                .toList();
    }

    private Look.Row row(Place one, OfCases ofCases, Axis axis) {
        var phrases = phrases(one.told(), one.key(), ofCases);
        return new Look.Row(
                one.key(),
                one.name(),
                one.tier(),
                one.mark(),
                phrases.stream().limit(NAMED).toList(),
                Math.max(0, phrases.size() - NAMED),
                steps(one.gathered().stretches, axis),
                one.gathered().bars,
                one.gathered().flags);
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
    private List<Look.Phrase> phrases(List<Alert> asked, String application, OfCases known) {
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

    private Look.Phrase phrase(List<Alert> some, Severity worst, String application, OfCases known) {
        var first = some.getFirst();
        var one = some.size() == 1 ? known.open().get(first.id()) : null;
        var on = some.size() == 1 ? estate.component(first.about().component()).name() : "" + some.size();
        return new Look.Phrase(
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

    private List<Look.Step> steps(Collection<ReliefTrack.Stretch> stretches, Axis axis) {
        var track = axis.track();
        return ReliefTrack.steps(stretches, axis.from(), axis.to(), axis.now()).stream()
                .map(one -> {
                    double wide = Math.max(NARROWEST, track.x(one.to()) - track.x(one.from()));
                    return new Look.Step(
                            Math.min(track.x(one.from()), WIDTH - wide),
                            wide,
                            one.worst().word(),
                            one.worst().word()
                                    + (one.to().equals(axis.now())
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
                    .map(bar -> new Look.Bar(
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
                    .map(bar -> new Look.Bar(
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
                    .add(new Look.Flag(
                            track.x(one.by()),
                            one.mark(),
                            "%s is due %s, likely done %s"
                                    .formatted(one.job(), times.of(one.by()), times.of(one.likely())),
                            "/batch/jobs/" + one.key()));
    }

    /** Every three hours of the clock; none whose words would be cut at an edge. */
    private List<Look.Tick> ticks(Instant from, Instant to, WindowTrack track) {
        var ticks = new ArrayList<Look.Tick>();
        var at = from.atZone(times.zone()).truncatedTo(ChronoUnit.HOURS).plusHours(1);
        for (; at.toInstant().isBefore(to); at = at.plusHours(1)) {
            double x = track.x(at.toInstant());
            if (at.getHour() % 3 == 0 && x >= HALF_A_TICK && x <= WIDTH - HALF_A_TICK)
                ticks.add(new Look.Tick(x, "%02d".formatted(at.getHour())));
        }
        return ticks;
    }
}
