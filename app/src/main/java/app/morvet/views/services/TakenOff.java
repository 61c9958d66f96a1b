package app.morvet.views.services;

import app.morvet.ground.access.Audit;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.SeriesBook;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.server.ResponseStatusException;

/** What is not run any more is taken off the lists, and with it its alerts; what it measured stays, and told of again it is back. */
@Controller
class TakenOff {
    /** Of what says that it is alive, and of its key and feed. */
    static final String ALIVE = "alive";

    private final SeriesBook series;
    private final IntakeKeys keys;
    private final Estate estate;
    private final Audit audit;

    TakenOff(SeriesBook series, IntakeKeys keys, Estate estate, Audit audit) {
        this.series = series;
        this.keys = keys;
        this.estate = estate;
        this.audit = audit;
    }

    /** The feed of one that has a key of its own, and what that key is called. */
    static String feedOf(String component) {
        return ALIVE + "-" + component;
    }

    static String keyOf(String component) {
        return ALIVE + " " + component;
    }

    @PostMapping("/services/off/{id:\\d{1,18}}")
    @Transactional
    String off(@PathVariable long id, @AuthenticationPrincipal Person by) {
        var one = series.series(id)
                .filter(it -> it.measure().isState() || it.measure().name().equals(ALIVE))
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no state and no sign of life " + id + "."));
        var component = estate.component(one.component());
        boolean alive = one.measure().name().equals(ALIVE);
        if (!series.ended(id)) {
            series.end(List.of(id));
            audit.record(by, "taken off", words(one.measure(), component), "watched", "not run any more");
        }
        if (alive)
            keys.all().stream()
                    .filter(key -> key.revokedAt() == null && key.name().equals(keyOf(component.key())))
                    .forEach(key -> keys.revoke(key.id(), by));
        return alive ? "redirect:/services/heartbeats" : "redirect:/services/" + component.key();
    }

    private static String words(Measure measure, Estate.Component component) {
        return measure.words() + " of " + component.name();
    }
}
