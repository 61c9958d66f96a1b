package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.cases.Causes;
import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.access.People;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.EstateLinks;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import app.morvet.ground.tracks.TimeTracks;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** The picture of time of a case: its cause on top, under it what that explains, then what was there beside it and what people did. */
@Component
class CasePicture {
    private static final int ALERTS_DRAWN = 12;
    private static final int COMPONENTS_LOOKED_AT = 6;
    private static final Duration LEAST = Duration.ofHours(1);
    private static final Duration MOST = Duration.ofDays(14);

    private final CaseStore store;
    private final CaseAlerts alerts;
    private final Origins origins;
    private final EstateLinks links;
    private final Estate estate;
    private final People people;
    private final TimePictures pictures;
    private final Times times;

    CasePicture(
            CaseStore store,
            CaseAlerts alerts,
            Origins origins,
            EstateLinks links,
            Estate estate,
            People people,
            TimePictures pictures,
            Times times) {
        this.store = store;
        this.alerts = alerts;
        this.origins = origins;
        this.links = links;
        this.estate = estate;
        this.people = people;
        this.pictures = pictures;
        this.times = times;
    }

    TimePictures.Shown of(WorkCase one, Optional<Axis> asked) {
        var all = causeFirst(one, alerts.of(one.id()));
        var axis = asked.orElseGet(() -> usual(one));
        return pictures.of(
                "/cases/" + one.id() + "/time",
                looked(one, all),
                axis,
                asked.isPresent(),
                alertTracks(one, all),
                List.of(done(one)));
    }

    /** What the case is about first, then in the order in which it was raised. */
    private static List<Alert> causeFirst(WorkCase one, List<Alert> alerts) {
        return alerts.stream()
                .sorted(Comparator.comparing((Alert alert) -> alert.about().component() != one.component())
                        .thenComparing(Alert::raisedAt)
                        .thenComparing(Alert::id))
                .toList();
    }

    /** The whole of it with some time before, in which its cause may lie; of what lasts long its end. */
    private Axis usual(WorkCase one) {
        var settled = one.progress().settledAt();
        var now = times.now();
        var last = Objects.requireNonNullElse(settled, now);
        var lasted = Duration.between(one.firstSeen(), last);
        var before = lasted.dividedBy(4).compareTo(LEAST) > 0 ? lasted.dividedBy(4) : LEAST;
        var to = last.plus(lasted.plus(before).dividedBy(20));
        var from = one.firstSeen().minus(before);
        return new Axis(Duration.between(from, to).compareTo(MOST) > 0 ? to.minus(MOST) : from, to);
    }

    private TimeTracks.Looked looked(WorkCase one, List<Alert> all) {
        var of = new LinkedHashSet<Long>();
        of.add(one.component());
        all.forEach(alert -> of.add(alert.about().component()));
        var shown = of.stream().limit(COMPONENTS_LOOKED_AT).toList();
        var around = new LinkedHashSet<>(shown);
        shown.forEach(id -> around.addAll(Causes.needed(id, links).keySet()));
        return new TimeTracks.Looked(
                shown.stream().map(estate::component).toList(),
                around.stream().map(estate::component).toList());
    }

    /** What one origin raised on one component is one track. */
    private List<Track> alertTracks(WorkCase one, List<Alert> all) {
        var spans = new LinkedHashMap<String, List<Track.Span>>();
        for (var alert : all) {
            long on = alert.about().component();
            var where =
                    on == one.component() ? "" : " on " + estate.component(on).name();
            spans.computeIfAbsent(origins.of(alert).name(alert) + where, none -> new ArrayList<>())
                    .add(span(alert));
        }
        var tracks = new ArrayList<Track>();
        spans.entrySet().stream()
                .limit(ALERTS_DRAWN)
                .forEach(it ->
                        tracks.add(Track.relief(it.getKey(), it.getValue()).indented(tracks.isEmpty() ? 0 : 1)));
        int more = spans.size() - ALERTS_DRAWN;
        if (more > 0) {
            var rest = spans.values().stream()
                    .skip(ALERTS_DRAWN)
                    .flatMap(List::stream)
                    .toList();
            tracks.add(Track.relief(more + " more", rest).indented(1));
        }
        return tracks;
    }

    private static Track.Span span(Alert alert) {
        return new Track.Span(
                alert.raisedAt(),
                alert.clearedAt(),
                alert.level().word(),
                alert.clearedAt() == null ? alert.words() : alert.worstWords(),
                "");
    }

    /** What people did and what Morvet told; that alerts came and went stands above. */
    private Track done(WorkCase one) {
        var names = people.names();
        return Track.marks(
                "done and told",
                store.entries(one.id()).stream()
                        .filter(entry -> !entry.kind().equals("alert"))
                        .map(entry -> {
                            var by = entry.person();
                            var who = by == null ? "Morvet" : Objects.requireNonNullElse(names.get(by), "Somebody");
                            return new Track.Span(
                                    entry.at(),
                                    entry.at(),
                                    by == null ? "told" : "act",
                                    who + ": " + line(entry.words()),
                                    "");
                        })
                        .toList());
    }

    private static String line(String words) {
        var first = words.lines().findFirst().orElse("");
        return first.length() > 120 ? first.substring(0, 119) + "…" : first;
    }
}
