package app.morvet.work.cases;

import app.morvet.core.alert.Severity;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.util.UriComponentsBuilder;

/** A list of cases, a page at a time, as it is asked for in its address. */
@Component
class CaseLists {
    static final int PAGE = 30;

    private final CaseViews views;
    private final CaseFilters filters;
    private final People people;
    private final Estate estate;

    CaseLists(CaseViews views, CaseFilters filters, People people, Estate estate) {
        this.views = views;
        this.filters = filters;
        this.people = people;
        this.estate = estate;
    }

    /**
     * What of a list is asked for; empty is all, as ever.
     *
     * @param show        which list
     * @param severity    only those, in a word
     * @param application only those of one, by its key
     */
    record Asked(String show, String severity, String application, String order) {
        Asked {
            show = Objects.requireNonNullElse(show, "open");
            severity = Objects.requireNonNullElse(severity, "");
            application = Objects.requireNonNullElse(application, "");
            order = Objects.requireNonNullElse(order, "");
        }

        static Asked list(String show) {
            return new Asked(show, "", "", "");
        }
    }

    /** As it is understood: what is not known of is not asked for. */
    Asked understood(Asked asked) {
        var severity = severity(asked);
        return new Asked(
                CaseViews.Show.of(asked.show()).key(),
                severity == null ? "" : severity.word(),
                estate.application(asked.application())
                        .map(Estate.Application::key)
                        .orElse(""),
                CaseOrder.of(asked.order()).key());
    }

    /** The address of a list; of what is as ever nothing is said. */
    static String address(Asked asked) {
        var address = UriComponentsBuilder.fromPath("/cases").queryParam("show", asked.show());
        if (!asked.severity().isEmpty()) address.queryParam("severity", asked.severity());
        if (!asked.application().isEmpty()) address.queryParam("application", asked.application());
        if (!asked.order().equals(CaseOrder.of("").key())) address.queryParam("order", asked.order());
        return address.encode().toUriString();
    }

    private static @Nullable Severity severity(Asked asked) {
        return Arrays.stream(Severity.values())
                .filter(one -> one.word().equals(asked.severity()))
                .findFirst()
                .orElse(null);
    }

    void fill(Asked typed, int from, String before, Person reader, Model model) {
        var asked = understood(typed);
        var show = CaseViews.Show.of(asked.show());
        var order = CaseOrder.of(asked.order());
        model.addAttribute("show", show);
        model.addAttribute("shows", CaseViews.Show.values());
        model.addAttribute("settleReasons", CaseViews.reasons());
        model.addAttribute("givePeople", people.all());
        model.addAttribute("severity", asked.severity());
        model.addAttribute(
                "ofApplication", estate.application(asked.application()).orElse(null));
        model.addAttribute("of", asked.application());
        model.addAttribute("order", order.key());
        model.addAttribute("filters", filters.of(reader.id()));
        model.addAttribute("address", address(asked));
        if (show == CaseViews.Show.SETTLED) {
            var place = before.split("-", 2);
            var since = place.length == 2
                    ? Instant.EPOCH.plus(number(place[0]), ChronoUnit.MICROS)
                    : Instant.parse("9999-01-01T00:00:00Z");
            var cases = views.settled(since, place.length == 2 ? number(place[1]) : Long.MAX_VALUE, PAGE + 1);
            var shown = cases.subList(0, Math.min(PAGE, cases.size()));
            model.addAttribute("rows", views.rows(shown));
            model.addAttribute("total", shown.size());
            model.addAttribute("next", cases.size() > PAGE ? "before=" + settledPlace(shown.getLast()) : "");
        } else {
            var rows = views.open(show, reader, severity(asked), asked.application(), order);
            int start = Math.clamp(from, 0, rows.size());
            int end = Math.min(start + PAGE, rows.size());
            model.addAttribute("rows", rows.subList(start, end));
            model.addAttribute("total", rows.size());
            model.addAttribute("next", end < rows.size() ? "from=" + end : "");
        }
    }

    private static String settledPlace(WorkCase last) {
        var at = last.progress().settledAt();
        return (at == null ? 0 : ChronoUnit.MICROS.between(Instant.EPOCH, at)) + "-" + last.id();
    }

    private static long number(String text) {
        try {
            return Long.parseLong(text);
        } catch (NumberFormatException notOne) {
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "\"" + text + "\" is not a place in the list.");
        }
    }
}
