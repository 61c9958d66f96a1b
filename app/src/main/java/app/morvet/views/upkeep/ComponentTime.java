package app.morvet.views.upkeep;

import app.morvet.core.tracks.Axis;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.views.components.Measured;
import app.morvet.views.links.LinksOut;
import app.morvet.work.cases.KnownCauses;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What the page of a component shows of it over time, and what people said brings about its trouble. */
@Controller
class ComponentTime {
    /** @param key of the one that is in trouble because of the cause */
    record Said(String key, String cause, String words) {}

    private final Measured measured;
    private final KnownCauses causes;
    private final LinksOut links;
    private final Estate estate;
    private final Times times;

    ComponentTime(Measured measured, KnownCauses causes, LinksOut links, Estate estate, Times times) {
        this.measured = measured;
        this.causes = causes;
        this.links = links;
        this.estate = estate;
        this.times = times;
    }

    /** @param asked the ends of its picture that somebody asked for */
    void fill(Estate.Component one, Optional<Axis> asked, Model model) {
        var curves = measured.rows(one);
        model.addAttribute("time", measured.picture(one, asked));
        model.addAttribute("curves", curves);
        model.addAttribute(
                "beside",
                curves.isEmpty()
                        ? ""
                        : "/estate/compare?"
                                + curves.stream().map(it -> "series=" + it.id()).collect(Collectors.joining("&")));
        model.addAttribute("links", links.of(one));
        model.addAttribute(
                "causes",
                causes.of(one.id()).stream()
                        .map(it -> {
                            var of = estate.component(it.component());
                            var cause = estate.component(it.cause());
                            var words = "Trouble of %s joins trouble of %s, as %s said %s."
                                    .formatted(of.name(), cause.name(), it.saidBy(), times.of(it.saidAt()));
                            return new Said(of.key(), cause.key(), words);
                        })
                        .toList());
    }

    @PostMapping("/estate/components/{key}/causes")
    String forget(@PathVariable String key, @RequestParam String cause, @RequestParam String back) {
        causes.forget(find(key).id(), find(cause).id());
        return "redirect:/estate/components/" + find(back).key();
    }

    private Estate.Component find(String key) {
        return estate.byKey(key)
                .orElseThrow(
                        () -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no component " + key + "."));
    }
}
