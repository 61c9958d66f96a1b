package app.morvet.views.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.windows.Plan;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Windows as people make, look at and change them. */
class WindowPagesTest extends MorvetTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    @Autowired
    private Windows windows;

    private final String mark = "wp" + UUID.randomUUID().toString().substring(0, 8);
    private Browser analyst;

    @BeforeEach
    void somebody() throws Exception {
        setUpOnce();
        analyst = loggedIn("analyst");
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private static String local(Instant at) {
        return LocalDateTime.ofInstant(at, ZONE).truncatedTo(ChronoUnit.MINUTES).toString();
    }

    private String form(Map<String, String> other) {
        var fields = new java.util.TreeMap<>(Map.of(
                "id", "0",
                "version", "0",
                "name", "Work on " + mark,
                "kind", "once",
                "from", local(Instant.now().minusSeconds(600)),
                "to", local(Instant.now().plusSeconds(3600)),
                "again", "every Tuesday at 22:40",
                "lasting", "50 min",
                "effect", "HOLD",
                "pattern", mark));
        fields.put("reason", "new firmware");
        fields.putAll(other);
        return fields.entrySet().stream()
                .map(one -> one.getKey() + "=" + encoded(one.getValue()))
                .collect(Collectors.joining("&"));
    }

    private long made(Browser by, Map<String, String> other) throws Exception {
        var answer = by.post("/windows/save", form(other));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(302);
        var to = answer.headers().firstValue("location").orElseThrow();
        return Long.parseLong(to.substring(to.lastIndexOf('/') + 1));
    }

    private String act(Browser by, long id, String what, String more) throws Exception {
        int version = windows.find(id).orElseThrow().version();
        var answer = by.post("/windows/" + id + "/" + what, "version=" + version + more);
        return answer.statusCode() == 302
                ? ""
                : org.jsoup.Jsoup.parse(answer.body()).select(".refusal").text();
    }

    private List<Plan.Occurrence> next(long id) {
        return windows.find(id).orElseThrow().window().plan().next(Instant.now(), 3);
    }

    @Test
    void anAnalystMakesAShortOneAndSeesItOnItsPageOnTheCalendarAndOnTheNowLine() throws Exception {
        estate.add(mark, "Quay " + mark, "host", null);
        long id = made(analyst, Map.of());
        assertThat(analyst.page("/windows/" + id).text())
                .contains(
                        "on until",
                        "hold call-outs for Quay " + mark,
                        "because new firmware",
                        "1 component: Quay " + mark);
        var calendar = analyst.page("/windows");
        var row = calendar.select("tr:contains(Work on " + mark + ")");
        assertThat(row.text()).contains("until");
        assertThat(row.select("rect.window-bar.hold title").text()).contains("Work on " + mark);
        assertThat(calendar.select(".nowline, [id=nowline]").text()).contains("on");
        assertThat(analyst.page("/windows?zoom=month&from=2020-01-01")
                        .select("details:contains(not in these days)")
                        .text())
                .contains("Work on " + mark);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "kind=again | Windows that recur, and those of more than 8 hours, are made and changed by a lead.",
                "to=2099-01-01T10:00 | A window is at most 14 days long.",
                "to=2001-01-01T10:00 | A window must end after it has begun, by a minute at least.",
                "from=soon | Its begin must be a day and a time, was \"soon\".",
                "name= | A window has a name of at most 100 letters.",
                "effect=NONE | A window that neither holds call-outs nor is over jobs does nothing.",
                "effect=LOUD | Say what becomes of alerts inside.",
                "tier=9 | A tier is 1, 2, 3 or 4, was 9.",
            })
    void whatCannotBeSaysWhyAndKeepsWhatWasTyped(String field, String says) throws Exception {
        var part = field.split("=", 2);
        var answer = analyst.post("/windows/save", form(Map.of(part[0], part[1])));
        assertThat(answer.statusCode()).isEqualTo(422);
        var page = org.jsoup.Jsoup.parse(answer.body());
        assertThat(page.select(".refusal").text()).isEqualTo(says);
        assertThat(page.select("textarea[name=reason]").text()).isEqualTo("new firmware");
    }

    @Test
    void whatRecursIsALeadsAndItsTimesAreLeftOutMovedAndEndWithTheSeries() throws Exception {
        estate.add(mark, "Quay " + mark, "host", null);
        var lead = loggedIn("lead");
        var recurring = Map.of("kind", "again", "again", "every day at 03:00");
        long id = made(lead, recurring);
        var times = next(id);
        assertThat(act(analyst, id, "skip", "&meant=" + times.get(1).meant())).isEmpty();
        assertThat(next(id)).doesNotContain(times.get(1));
        var to = times.get(2).span();
        assertThat(act(
                        analyst,
                        id,
                        "move",
                        "&meant=" + times.get(2).meant() + "&from="
                                + local(to.from().plusSeconds(7200)) + "&to="
                                + local(to.to().plusSeconds(7200))))
                .isEmpty();
        assertThat(next(id).get(1).span().from()).isEqualTo(to.from().plusSeconds(7200));
        assertThat(act(analyst, id, "move", "&meant=" + times.get(2).meant() + "&from=soon&to=later"))
                .isEqualTo("\"soon\" is no day and time.");
        // Changed but for its rhythm, single times stay as they are; with another they are gone.
        var version = Map.of(
                "id", "" + id, "version", "" + windows.find(id).orElseThrow().version());
        var changed = new java.util.TreeMap<>(recurring);
        changed.putAll(version);
        changed.put("lasting", "20 min");
        lead.post("/windows/save", form(changed));
        assertThat(windows.find(id).orElseThrow().window().plan().altered()).hasSize(1);
        assertThat(lead.page("/windows/" + id).select("details:contains(versions) tr"))
                .hasSize(4);
        assertThat(lead.post("/windows/save", form(changed)).body()).contains("Somebody else changed this window");
        assertThat(analyst.post("/windows/" + id + "/delete", "").statusCode()).isEqualTo(422);
        lead.post("/windows/" + id + "/delete", "");
        assertThat(windows.all()).noneMatch(one -> one.id() == id);
    }

    @Test
    void oneThatIsOnIsLengthenedAndEnded() throws Exception {
        estate.add(mark, "Quay " + mark, "host", null);
        long id = made(analyst, Map.of());
        var before = next(id).getFirst().span();
        assertThat(act(analyst, id, "longer", "&lasting=" + encoded("30 min"))).isEmpty();
        assertThat(next(id).getFirst().span().to()).isEqualTo(before.to().plus(Duration.ofMinutes(30)));
        assertThat(act(analyst, id, "longer", "&lasting=" + encoded("9 h")))
                .isEqualTo("Windows of more than 8 hours are made and changed by a lead.");
        assertThat(act(analyst, id, "end", "")).isEmpty();
        assertThat(next(id)).isEmpty();
        assertThat(act(analyst, id, "end", "")).isEqualTo("It is not on now.");
    }

    @Test
    void onePressOpensOneOnAComponentAndWhatStandsOnIt() throws Exception {
        estate.add(mark, "Quay " + mark, "host", null);
        var page = analyst.page("/estate/components/" + mark);
        assertThat(page.text()).contains("Work on Quay " + mark + "?");
        var answer =
                analyst.post("/windows/now", "component=" + mark + "&lasting=" + encoded("30 min") + "&reason=patches");
        assertThat(answer.statusCode()).isEqualTo(302);
        assertThat(analyst.page("/estate/components/" + mark).text()).contains("In the window Work on Quay " + mark);
        assertThat(analyst.post("/windows/now", "component=" + mark + "&lasting=" + encoded("9 h"))
                        .body())
                .contains("At once a window is opened for 8 hours at most.");
        assertThat(analyst.post("/windows/now", "component=none-of-them").statusCode())
                .isEqualTo(404);
    }

    @Test
    void beforeItIsKeptItSaysWhatItWouldDo() throws Exception {
        estate.add(mark, "Quay " + mark, "host", null);
        var means = org.jsoup.Jsoup.parse(analyst.post(
                                "/windows/sentence",
                                form(Map.of("kind", "again", "again", "every Sunday at 03:30")),
                                "HX-Request",
                                "true")
                        .body())
                .text();
        assertThat(means)
                .contains("Every Sunday at 03:30 for 50 min, hold call-outs for Quay " + mark)
                .contains("It covers 1 component: Quay " + mark)
                .contains("does not come, the clock is put forward")
                .contains("comes twice, the clock is put back")
                .contains("In the last two weeks it would have held nothing.");
        assertThat(org.jsoup.Jsoup.parse(analyst.post(
                                        "/windows/sentence",
                                        form(Map.of(
                                                "kind",
                                                "again",
                                                "again",
                                                "every day at 22:00",
                                                "lasting",
                                                "25 h",
                                                "pattern",
                                                "none-" + mark)),
                                        "HX-Request",
                                        "true")
                                .body())
                        .text())
                .contains("Nothing in the estate fits.")
                .contains("It is longer than the time until it begins again");
    }
}
