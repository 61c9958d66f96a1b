package app.morvet.views.teams;

import app.morvet.alerting.windows.WindowKeys;
import app.morvet.core.windows.Plan;
import app.morvet.core.windows.WindowIcs;
import app.morvet.ground.access.People;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.duty.Rotas;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.intake.Door;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The turns of a team as iCalendar, for calendars that fetch it by its address with a key that reads calendars. */
@RestController
class RotaApi {
    private static final Duration BACK = Duration.ofDays(31);
    private static final Duration AHEAD = Duration.ofDays(183);

    private final WindowKeys keys;
    private final Rotas rotas;
    private final People people;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Clock clock;

    RotaApi(WindowKeys keys, Rotas rotas, People people, Estate estate, MorvetSettings settings, Clock clock) {
        this.keys = keys;
        this.rotas = rotas;
        this.people = people;
        this.estate = estate;
        this.settings = settings;
        this.clock = clock;
    }

    @GetMapping("/api/v1/teams/{team}/rota.ics")
    ResponseEntity<?> calendar(@PathVariable String team, @RequestParam(defaultValue = "") String key) {
        if (!keys.reads(key)) return Door.unknown("a lead makes one under Windows, Keys");
        var found = estate.team(team);
        if (found.isEmpty())
            return Door.refuse(
                    org.springframework.http.HttpStatus.NOT_FOUND, "No such team", "There is no team " + team + ".");
        var now = clock.instant();
        var rota = rotas.of(found.get().id()).rota();
        var names = people.names();
        var events = new ArrayList<WindowIcs.Event>();
        for (int line = 0; line < rota.lines().size(); line++)
            for (var duty : rota.duties(line, now.minus(BACK), now.plus(AHEAD))) {
                var person = duty.person();
                if (person == null) continue;
                var name = names.getOrDefault(person, "somebody");
                // What is longer than a window may be stands there in parts.
                for (var from = duty.from(); from.isBefore(duty.to()); ) {
                    var end = from.plus(Plan.LONGEST);
                    var to = end.isBefore(duty.to()) ? end : duty.to();
                    if (Duration.between(from, to).toMinutes() > 0)
                        events.add(new WindowIcs.Event(
                                "duty-%s-%d-%d@morvet".formatted(team, line, from.getEpochSecond()),
                                "%s, %s of %s"
                                        .formatted(
                                                name,
                                                Rotas.line(line),
                                                found.get().name()),
                                duty.covers() ? name + " covers" : "",
                                settings.link("/estate/teams/" + team),
                                new Plan.Span(from, to)));
                    from = to;
                }
            }
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("text/calendar;charset=UTF-8"))
                .body(WindowIcs.write(events, now));
    }
}
