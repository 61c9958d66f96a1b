package app.morvet.views.services;

import app.morvet.core.estate.ComponentKey;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Readings;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.readings.ReadingHistory;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** What says nothing but that it is alive: when it last did, and when it should again. */
@Controller
class HeartbeatsController {
    private static final int LAST = 5;
    private static final Duration SHORTEST = Duration.ofSeconds(10);
    private static final Duration FARTHEST = Duration.ofDays(90);

    /**
     * @param every what is promised, with its leeway
     * @param by    until when the next must come
     * @param late  by how long it is over; empty where it is not
     * @param last  when it was heard, the newest first
     */
    record Row(
            long series,
            String key,
            String name,
            String application,
            String mark,
            String every,
            String by,
            String late,
            List<String> last) {}

    private final SeriesBook series;
    private final ReadingHistory history;
    private final IntakeKeys keys;
    private final MorvetSettings settings;
    private final Estate estate;
    private final Times times;

    HeartbeatsController(
            SeriesBook series,
            ReadingHistory history,
            IntakeKeys keys,
            MorvetSettings settings,
            Estate estate,
            Times times) {
        this.series = series;
        this.history = history;
        this.keys = keys;
        this.settings = settings;
        this.estate = estate;
        this.times = times;
    }

    @GetMapping("/services/heartbeats")
    String list(@RequestHeader(name = "HX-Target", required = false) @Nullable String target, Model model) {
        var now = times.now();
        model.addAttribute("rows", rows(now));
        return "heartbeat-rows".equals(target) ? "heartbeats :: rows" : "heartbeats";
    }

    /** A key with which one thing says that it is alive: a feed of its own, so that nobody else's key need be given away. */
    @PostMapping("/services/heartbeats")
    String key(
            @RequestParam(defaultValue = "") String component,
            @RequestParam(defaultValue = "10 min") String every,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        var key = component.strip();
        try {
            var unfit = ComponentKey.refusal(key);
            if (unfit != null) throw new IllegalArgumentException("What is alive: " + unfit);
            var promised = Spans.read(every);
            if (promised.compareTo(SHORTEST) < 0 || promised.compareTo(FARTHEST) > 0)
                throw new IllegalArgumentException("A sign of life is promised within 10 s to 90 days");
            var feed = TakenOff.feedOf(key);
            long id = estate.feeds().stream()
                    .filter(one -> one.key().equals(feed))
                    .map(Estate.Feed::id)
                    .findFirst()
                    .orElseGet(() -> estate.addFeed(feed, "Sign of life of " + key, promised));
            model.addAttribute("made", keys.make(TakenOff.keyOf(key), id, by));
            model.addAttribute("madeFor", key);
            model.addAttribute("promised", promised.toString());
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            model.addAttribute("typed", key);
        }
        model.addAttribute("rows", rows(times.now()));
        model.addAttribute("address", settings.address());
        return "heartbeats";
    }

    private List<Row> rows(Instant now) {
        // Those of one promise are asked for together, as far back as it takes to find a few.
        var byPromise = new HashMap<Duration, List<Series>>();
        for (var one : series.ofMeasure(TakenOff.ALIVE))
            byPromise.computeIfAbsent(promised(one), none -> new ArrayList<>()).add(one);
        var heard = new HashMap<Long, Readings>();
        byPromise.forEach((every, some) -> {
            var back = every.multipliedBy(LAST + 3L);
            var from = now.minus(back.compareTo(FARTHEST) > 0 ? FARTHEST : back);
            heard.putAll(history.between(some.stream().map(Series::id).toList(), from, now.plusSeconds(1)));
        });
        return series.ofMeasure(TakenOff.ALIVE).stream()
                .map(one -> row(one, heard, now))
                .sorted(Comparator.comparing((Row one) -> one.late().isEmpty()).thenComparing(Row::name))
                .toList();
    }

    private static Duration promised(Series one) {
        return one.promised() == null ? Duration.ofMinutes(1) : one.promised();
    }

    private Row row(Series one, Map<Long, Readings> heard, Instant now) {
        var component = estate.component(one.component());
        var readings = heard.getOrDefault(one.id(), Readings.NONE);
        var every = SilenceGuard.missedAfter(promised(one));
        var last = new ArrayList<String>();
        for (int i = readings.size() - 1; i >= Math.max(0, readings.size() - LAST); i--)
            last.add(times.of(Micros.instant(readings.times()[i])));
        var newest = readings.size() == 0 ? null : Micros.instant(readings.times()[readings.size() - 1]);
        var by = newest == null ? null : newest.plus(every);
        boolean late = by == null || by.isBefore(now);
        return new Row(
                one.id(),
                component.key(),
                component.name(),
                estate.applicationOf(component).map(Estate.Application::name).orElse("not assigned"),
                late ? "nodata" : "steady",
                Spans.words(every),
                by == null ? "" : times.of(by),
                !late ? "" : by == null ? "for long" : ServiceRows.lasted(Duration.between(by, now)),
                last);
    }
}
