package app.morvet.views.components;

import static app.morvet.Browser.encoded;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.SeriesBook;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is measured on components over any span, and side by side. */
class MeasuredTest extends MorvetTest {
    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.MINUTES);

    @Autowired
    private SeriesBook series;

    private String host() {
        setUpOnce();
        var key = "measured-" + System.nanoTime();
        estate.register(List.of(new Estate.Newcomer(key, "host")));
        return key;
    }

    /** Values in equal steps of a minute, the last at {@code NOW}. */
    private long heat(String host, double... values) throws Exception {
        var page = new StringBuilder("# TYPE warmth gauge\n");
        for (int i = 0; i < values.length; i++)
            page.append("warmth{component=\"%s\"} %s %d\n"
                    .formatted(
                            host,
                            values[i],
                            NOW.minusSeconds(60L * (values.length - 1 - i)).toEpochMilli()));
        assertThat(tell(page.toString()).statusCode()).isBetween(200, 299);
        long component = estate.byKey(host).orElseThrow().id();
        return series.find(component, "warmth", Map.of()).orElseThrow().id();
    }

    private static String span(Duration from, Duration to) {
        return "?from=" + encoded(NOW.minus(from).toString()) + "&to="
                + encoded(NOW.minus(to).toString());
    }

    @Test
    void aCurveHasItsFiguresAndTheLimitsOfItsGuards() throws Exception {
        var host = host();
        long id = heat(host, 4, 8, 90, 6);
        guards.set(
                "Warm " + host,
                true,
                Watch.of("warmth").named(host),
                new LimitGuard(
                        new Window.Sliding(Duration.ofMinutes(5)),
                        Amount.of(Amount.Fold.MEAN),
                        Limits.above(70, 85),
                        Terms.clearing(0.8, Duration.ZERO)),
                "");
        var curve = tree(
                loggedIn("analyst").get("/estate/curves/" + id + span(Duration.ofMinutes(4), Duration.ofMinutes(-1))));
        assertThat(curve.path("figures").path("last").asString()).isEqualTo("6");
        assertThat(curve.path("figures").path("greatest").asString()).isEqualTo("90");
        assertThat(curve.path("figures").path("mean").asString()).isEqualTo("27");
        assertThat(curve.path("warning").get(0).asDouble()).isEqualTo(70);
        assertThat(curve.path("critical").get(0).asDouble()).isEqualTo(85);
        assertThat(curve.path("at").size()).isEqualTo(curve.path("mean").size());
        assertThat(curve.path("before")).isEmpty();
    }

    @Test
    void theSameSpanAWeekEarlierIsLaidUnder() throws Exception {
        var host = host();
        long id = heat(host, 1, 2, 3);
        var page = "# TYPE warmth gauge\nwarmth{component=\"%s\"} 77 %d\n"
                .formatted(host, NOW.minus(Duration.ofDays(7)).toEpochMilli());
        tell(page);
        var curve = tree(loggedIn("analyst")
                .get("/estate/curves/" + id + span(Duration.ofMinutes(9), Duration.ofMinutes(-1)) + "&week=true"));
        assertThat(curve.path("before").size()).isEqualTo(curve.path("at").size());
        assertThat(curve.path("before").toString()).contains("77.0");
    }

    @Test
    void theSameIsThereAsATableAndAsCsv() throws Exception {
        var host = host();
        long id = heat(host, 4, 8, 6);
        var analyst = loggedIn("analyst");
        var span = span(Duration.ofMinutes(6), Duration.ofMinutes(-1));
        assertThat(analyst.texts("/estate/curves/" + id + "/table" + span, "tbody tr td:last-child"))
                .containsExactly("6", "8", "4");
        var csv = analyst.get("/estate/curves/" + id + ".csv" + span);
        assertThat(csv.body().lines().skip(1).map(line -> line.replaceAll("^[^,]*", "")))
                .containsExactly(",4,4,4", ",8,8,8", ",6,6,6");
        assertThat(csv.headers().firstValue("content-disposition").orElseThrow())
                .contains(host + "-warmth.csv");
        assertThat(analyst.texts(
                        "/estate/curves/" + id + "/table" + span(Duration.ofDays(90), Duration.ofDays(80)), "p"))
                .containsExactly("Nothing was heard in this span.");
    }

    @Test
    void whatIsNotThereOrNoSpanIsRefused() throws Exception {
        var analyst = loggedIn("analyst");
        assertThat(analyst.get("/estate/curves/99999999").statusCode()).isEqualTo(404);
        long id = heat(host(), 1);
        assertThat(analyst.get("/estate/curves/" + id + "?from=now&to=then").statusCode())
                .isEqualTo(400);
        assertThat(analyst.get("/estate/compare?series=99999999").statusCode()).isEqualTo(404);
        assertThat(analyst.get("/estate/components/nowhere/time").statusCode()).isEqualTo(404);
    }

    @Test
    void thePageOfAComponentShowsEachMeasureAndLeadsToItBesideOthers() throws Exception {
        var host = host();
        long id = heat(host, 4, 8, 6);
        var other = host();
        long second = heat(other, 1, 2);
        var analyst = loggedIn("analyst");
        var page = analyst.page("/estate/components/" + host);
        assertThat(page.select(".series-row").eachAttr("data-series")).containsExactly("" + id);
        var day = page.select(".time-lengths a:contains(1 day)").attr("href");
        assertThat(day).as("a link to a span").startsWith("/estate/components/" + host + "?from=");
        assertThat(analyst.page(day).select(".series-row").eachAttr("data-series"))
                .as("leads to the whole page")
                .containsExactly("" + id);
        assertThat(analyst.page(day).select("#time-picture").attr("data-live-src"))
                .as("which stays where it was put")
                .contains("from=");
        var past = analyst.page("/estate/components/" + host + "?from=2026-03-01T00:00:00Z&to=2026-03-02T00:00:00Z");
        var sixHours = past.select(".time-lengths a:contains(6 h)").attr("href");
        assertThat(Instant.parse(URLDecoder.decode(sixHours.replaceAll(".*&to=", ""), StandardCharsets.UTF_8)))
                .as("the last six hours are those before now, whatever is shown")
                .isBetween(Instant.now().minusSeconds(60), Instant.now().plusSeconds(60));
        assertThat(analyst.get("/estate/components/" + host + "?from=today&to=now")
                        .statusCode())
                .isEqualTo(400);
        var beside = page.select("a:contains(beside others)").attr("href");
        var found = analyst.page(beside + "&find=" + encoded("warmth " + other));
        var both = found.select("main ul a").attr("href");
        var compared = analyst.page(both);
        assertThat(compared.select(".series-row").eachAttr("data-series")).containsExactly("" + id, "" + second);
        assertThat(compared.select(".series-name > button").eachText())
                .containsExactly(host + ", warmth", other + ", warmth");
        var week = compared.select(".time-lengths a:contains(1 week)").attr("href");
        assertThat(week)
                .as("what is compared stays")
                .contains("series=" + second)
                .contains("from=");
        assertThat(analyst.page(week).select("#time-picture").attr("data-time")).contains("series=" + id);
        assertThat(analyst.page("/estate/compare?find=no+such+thing").text())
                .contains("Nothing that is not shown already");
    }
}
