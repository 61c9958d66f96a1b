package app.morvet.views.services;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.ApplicationEvent;
import org.springframework.context.ApplicationListener;
import org.springframework.context.PayloadApplicationEvent;
import org.springframework.context.support.AbstractApplicationContext;

/** What says nothing but that it is alive: what it promises is its own, and the guard over silence holds it to that. */
class HeartbeatsTest extends MorvetTest {
    private final String mark = "hb" + UUID.randomUUID().toString().substring(0, 8);

    @Autowired
    SeriesBook series;

    @Autowired
    AbstractApplicationContext context;

    private String alive(Duration ago, String every, String leeway) throws Exception {
        var data = new HashMap<String, Object>(Map.of("every", every));
        if (!leeway.isEmpty()) data.put("leeway", leeway);
        return send(List.of(event("alive", mark, Instant.now().minus(ago), data)))
                .body();
    }

    private Duration promised() {
        return series.find(estate.byKey(mark).orElseThrow().id(), "alive", Map.of())
                .orElseThrow()
                .promised();
    }

    /** Guards look as soon as it is there: without its promise it would be judged up to now, and then not for as long as is promised. */
    @Test
    void whatIsPromisedIsKnownFromTheMomentThatItsSeriesIsThere() throws Exception {
        setUpOnce();
        var known = new CopyOnWriteArrayList<Optional<Duration>>();
        ApplicationListener<ApplicationEvent> heard = event -> {
            if (event instanceof PayloadApplicationEvent<?> it && it.getPayload() instanceof SeriesBook.SeriesAdded)
                estate.byKey(mark)
                        .flatMap(one -> series.find(one.id(), "alive", Map.of()))
                        .ifPresent(one -> known.add(Optional.ofNullable(one.promised())));
        };
        context.addApplicationListener(heard);
        try {
            alive(Duration.ofMinutes(2), "PT10M", "PT5M");
        } finally {
            context.removeApplicationListener(heard);
        }
        assertThat(known).isNotEmpty().containsOnly(Optional.of(Duration.ofMinutes(10)));
    }

    @Test
    void whatIsLateByItsOwnPromiseIsListedFirstAndIsAnAlert() throws Exception {
        setUpOnce();
        long guard = guards.set(
                "Alive " + mark,
                true,
                Watch.of("alive").named(mark),
                new SilenceGuard(Limits.above(0, 100), Terms.clearing(1, Duration.ZERO)),
                "");
        alive(Duration.ofMinutes(40), "PT10M", "PT5M");
        // Ten minutes are promised and five are its leeway, so after fifteen it is late.
        assertThat(promised()).isEqualTo(Duration.ofMinutes(10));
        var row = loggedIn("analyst").page("/services/heartbeats").select("tr:contains(" + mark + ")");
        assertThat(row.text()).contains("15 min", "late by 25 min");
        assertThat(row.select("svg.relief").attr("aria-label")).isEqualTo("no data");
        eventually(() -> assertThat(alerts(guard)).isEqualTo(1));

        alive(Duration.ofMinutes(1), "PT10M", "PT5M");
        assertThat(loggedIn("analyst")
                        .page("/services/heartbeats")
                        .select("tr:contains(" + mark + ")")
                        .text())
                .doesNotContain("late");
        eventually(() -> assertThat(alerts(guard)).isZero());
        // Another promise is another promise from then on.
        alive(Duration.ZERO, "PT1H", "");
        assertThat(promised()).isEqualTo(Duration.ofHours(1));
    }

    @Test
    void whatEndsForGoodIsTakenOffTheListWithItsAlertsAndItsKeyAndToldOfAgainItIsBack() throws Exception {
        setUpOnce();
        long guard = guards.set(
                "Alive " + mark,
                true,
                Watch.of("alive").named(mark),
                new SilenceGuard(Limits.above(0, 100), Terms.clearing(1, Duration.ZERO)),
                "");
        alive(Duration.ofMinutes(40), "PT10M", "");
        eventually(() -> assertThat(alerts(guard)).isEqualTo(1));
        loggedIn("admin").post("/services/heartbeats", "component=" + mark + "&every=10+min");
        long id = series.find(estate.byKey(mark).orElseThrow().id(), "alive", Map.of())
                .orElseThrow()
                .id();
        assertThat(loggedIn("analyst").post("/services/off/" + id, "").statusCode())
                .isEqualTo(403);
        var lead = loggedIn("lead");
        assertThat(lead.page("/services/heartbeats")
                        .select("tr:contains(" + mark + ") button")
                        .text())
                .isEqualTo("Take it off");
        assertThat(lead.post("/services/off/" + id, "").statusCode()).isEqualTo(302);
        assertThat(lead.page("/services/heartbeats").select("tr:contains(" + mark + ")"))
                .isEmpty();
        eventually(() -> assertThat(alerts(guard)).isZero());
        assertThat(keys.all())
                .filteredOn(key -> key.name().equals("alive " + mark))
                .singleElement()
                .satisfies(key -> assertThat(key.revokedAt()).isNotNull());
        alive(Duration.ZERO, "PT10M", "");
        assertThat(lead.page("/services/heartbeats").select("tr:contains(" + mark + ")"))
                .hasSize(1);
        assertThat(lead.post("/services/off/999999999", "").statusCode()).isEqualTo(404);
    }

    private int alerts(long guard) {
        return jdbc.sql(
                        "select count(*) from alert where origin_kind = 'guard' and origin_id = :id and cleared_at is null")
                .param("id", guard)
                .query(Integer.class)
                .single();
    }

    @ParameterizedTest
    @CsvSource({
        "'',    '',    data.every is missing",
        "soon,  '',    'data.every must be a duration as in ISO 8601'",
        "PT5S,  '',    'data.every is 10 s to 40 days'",
        "P41D,  '',    'data.every is 10 s to 40 days'",
        "PT10M, -PT1M, 'data.leeway is from nothing to ten times'",
        "PT10M, PT3H,  'data.leeway is from nothing to ten times'",
    })
    void whatIsNoPromiseIsRefused(String every, String leeway, String why) throws Exception {
        assertThat(alive(Duration.ZERO, every, leeway)).contains(why);
        assertThat(estate.byKey(mark)).isEmpty();
    }
}
