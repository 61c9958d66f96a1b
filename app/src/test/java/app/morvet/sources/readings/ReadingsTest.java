package app.morvet.sources.readings;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Heard;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Measuring;
import app.morvet.core.guard.Replay;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.rules.guards.StoredGuard;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;

/** Readings from the API to the store, to the guards, and sealed. */
class ReadingsTest extends MorvetTest {
    @Autowired
    SeriesBook book;

    @Autowired
    ReadingHistory history;

    @Autowired
    Sealing sealing;

    @Autowired
    DataSource dataSource;

    @Autowired
    app.morvet.ground.base.DayPartitions partitions;

    @Autowired
    app.morvet.rules.guards.GuardRound round;

    private static String fresh() {
        return "host-" + UUID.randomUUID().toString().substring(0, 8);
    }

    private Series series(String component, String measure, Map<String, String> labels) {
        return book.find(estate.byKey(component).orElseThrow().id(), measure, labels)
                .orElseThrow();
    }

    private double[] values(String component, String measure) {
        return history.between(
                        series(component, measure, Map.of()).id(),
                        Instant.EPOCH,
                        Instant.now().plusSeconds(600))
                .values();
    }

    @Test
    void whatIsSeenForTheFirstTimeRegistersItselfAndWaitsToBeAssigned() throws Exception {
        var host = fresh();
        var answer = tell(
                """
                # TYPE disk_used gauge
                # UNIT disk_used percent
                disk_used{component="%s",kind="host",volume="/data"} 61.5
                # EOF
                """
                        .formatted(host));
        assertThat(answer.statusCode()).isEqualTo(202);
        assertThat(tree(answer).path("accepted").asInt()).isEqualTo(1);
        var component = estate.byKey(host).orElseThrow();
        assertThat(component.kind()).isEqualTo("host");
        assertThat(component.applicationId()).isNull();
        var series = series(host, "disk_used", Map.of("volume", "/data"));
        assertThat(series.measure().unitWords()).isEqualTo("%");
        assertThat(history.newest(series.id(), Instant.now().minusSeconds(60))
                        .orElseThrow()
                        .value())
                .isEqualTo(61.5);
        assertThat(loggedIn("analyst").get("/estate?q=" + host).body()).contains(host, "not assigned");
    }

    @Test
    void lateAndUnorderedReadingsFindTheirPlaceAndRepeatsChangeNothing() throws Exception {
        var host = fresh();
        long now = Instant.now().getEpochSecond();
        var page =
                "heat{component=\"%s\"} 3 %d\nheat{component=\"%s\"} 1 %d\n".formatted(host, now - 60, host, now - 180);
        tell(page);
        tell("heat{component=\"%s\"} 2 %d\n".formatted(host, now - 120));
        // The first that was heard of an instant stands, so a sender may send again.
        tell(page.replace("} 3 ", "} 33 "));
        assertThat(values(host, "heat")).containsExactly(1, 2, 3);
    }

    @Test
    void whatIsNoReadingIsRefusedWithItsLineAndTheRestIsTaken() throws Exception {
        var host = fresh();
        var answer = tree(tell(
                """
                heat{component="%s"} NaN
                heat{component="%s"} 7
                heat{component="%s" 8
                heat{component="%s"} 9 95617584000
                """
                        .formatted(host, host, host, host)));
        assertThat(answer.path("accepted").asInt()).isEqualTo(1);
        assertThat(answer.path("rejected")).hasSize(3);
        assertThat(answer.path("rejected").toString()).contains("NaN, which is no reading", "ahead of Morvet's clock");
        var lines = new java.util.TreeSet<Integer>();
        answer.path("rejected").forEach(one -> lines.add(one.path("index").asInt()));
        assertThat(lines).containsExactly(1, 3, 4);
        // A histogram is judged as readings are, and takes nothing else down with it.
        var endless = "h".repeat(300);
        var mixed = tree(tell("# TYPE w histogram\nw_bucket{component=\"%s\",le=\"+Inf\"} 1\nheat{component=\"%s\"} 8\n"
                .formatted(endless, host)));
        assertThat(mixed.path("accepted").asInt()).isEqualTo(1);
        assertThat(mixed.path("rejected").toString())
                .contains("it has 300 characters; a key is one line of at most 200");
        assertThat(loggedIn("analyst").get("/messages/refused").body()).contains("NaN, which is no reading");
    }

    @Test
    void jsonIsJudgedReadingByReading() throws Exception {
        var host = fresh();
        var body =
                """
                {"readings": [
                  {"component": "%s", "kind": "host", "measure": "seats", "value": 4, "labels": {"deck": "3"}},
                  {"component": "%s", "measure": "seats", "value": "many"},
                  {"component": "%s", "measure": "failed_messages", "value": 1},
                  {"component": "%s", "measure": "seats", "value": 4, "at": "yesterday"}]}"""
                        .formatted(host, host, host, host);
        var answer = tree(tell("application/json", body));
        assertThat(answer.path("accepted").asInt()).isEqualTo(1);
        assertThat(answer.path("rejected").toString())
                .contains("value must be a number", "counted from events, not sent", "must be a time as in RFC 3339");
        assertThat(tell("application/json", "{}").statusCode()).isEqualTo(400);
        assertThat(tell("application/json", "{\"readings\"").statusCode()).isEqualTo(400);
        assertThat(tell("application/xml", "<a/>").statusCode()).isEqualTo(415);
    }

    @Test
    void aHistogramBecomesPercentilesFromItsSecondPageOn() throws Exception {
        var host = fresh();
        var page =
                """
                # TYPE wait histogram
                wait_bucket{component="%s",le="1"} %d
                wait_bucket{component="%s",le="2"} %d
                wait_bucket{component="%s",le="+Inf"} %d
                """;
        tell(page.formatted(host, 100, host, 100, host, 100));
        tell(page.formatted(host, 150, host, 200, host, 200));
        assertThat(values(host, "wait_p50")).containsExactly(1);
    }

    private void tellEachMinute(String host, Instant from, int minutes) throws Exception {
        var page = new StringBuilder();
        for (int i = 0; i < minutes; i++)
            page.append("heat{component=\"%s\"} %s %d\n"
                    .formatted(host, 20 + i % 7 / 10.0, from.getEpochSecond() + i * 60L));
        tell(page.toString());
    }

    @Test
    void aSealedDayReadsAsItDidAndTakesLateReadings() throws Exception {
        var host = fresh();
        var day = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(5, ChronoUnit.DAYS);
        tellEachMinute(host, day, 600);
        var before = values(host, "heat");
        sealing.sealUpTo(Instant.now().minus(Duration.ofDays(2)));
        var series = series(host, "heat", Map.of());
        assertThat(jdbc.sql("select count(*) from reading where series_id = :id")
                        .param("id", series.id())
                        .query(Long.class)
                        .single())
                .isZero();
        assertThat(values(host, "heat")).isEqualTo(before);
        tell("heat{component=\"%s\"} 99 %d\n".formatted(host, day.getEpochSecond() + 30));
        assertThat(values(host, "heat")).hasSize(601);
        sealing.sealUpTo(Instant.now().minus(Duration.ofDays(2)));
        assertThat(values(host, "heat")).hasSize(601).contains(99.0);
    }

    /** Days are sealed beside each other; what was measured when is kept to the microsecond. */
    @Test
    void manyDaysAreSealedAtOnceAndEachReadingKeepsItsTime() throws Exception {
        var host = fresh();
        var first = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(13, ChronoUnit.DAYS);
        var page = new StringBuilder();
        for (int i = 0; i < 400; i++) {
            long micros = Micros.of(first) + i * 1_000_000_007L;
            page.append(
                    "heat{component=\"%s\"} %d %d.%06d\n".formatted(host, i, micros / 1_000_000, micros % 1_000_000));
        }
        tell(page.toString());
        var one = List.of(series(host, "heat", Map.of()).id());
        var history = new HistoryStore(new JdbcTemplate(dataSource));
        var before = history.between(one, first, Instant.now()).get(one.getFirst());
        assertThat(before.times())
                .hasSize(400)
                .startsWith(Micros.of(first))
                .endsWith(Micros.of(first) + 399 * 1_000_000_007L);
        sealing.sealUpTo(Instant.now().minus(Duration.ofDays(2)));
        assertThat(jdbc.sql("select count(*) from sealed_day where series_id = :id")
                        .param("id", one.getFirst())
                        .query(Integer.class)
                        .single())
                .isEqualTo(5);
        var after = history.between(one, first, Instant.now()).get(one.getFirst());
        assertThat(after.times()).containsExactly(before.times());
        assertThat(after.values()).containsExactly(before.values());
    }

    @Test
    void aDayThatIsSealedWhileItIsReadIsRead() throws Exception {
        var host = fresh();
        var day = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(6, ChronoUnit.DAYS);
        tellEachMinute(host, day, 60);
        // Reading takes more than one look into the store; here the day is sealed after the first.
        var looks = new AtomicInteger();
        var template = new JdbcTemplate(dataSource) {
            @Override
            public void query(String sql, RowCallbackHandler each, @Nullable Object... values) {
                super.query(sql, each, values);
                if (looks.getAndIncrement() == 0) sealing.sealUpTo(Instant.now().minus(Duration.ofDays(2)));
            }
        };
        long id = series(host, "heat", Map.of()).id();
        var read = new HistoryStore(template).between(List.of(id), day, day.plus(Duration.ofDays(1)));
        assertThat(looks).hasValueGreaterThan(1);
        assertThat(read.get(id).values()).hasSize(60);
        assertThat(jdbc.sql("select count(*) from reading where series_id = :id")
                        .param("id", id)
                        .query(Long.class)
                        .single())
                .as("it is sealed by now")
                .isZero();
    }

    @Test
    void keepingLessIsDroppingDays() {
        setUpOnce();
        partitions.ensure(
                "reading", List.of(Instant.parse("2020-01-05T00:00:00Z"), Instant.parse("2020-02-05T00:00:00Z")));
        partitions.dropBefore("reading", java.time.LocalDate.of(2020, 2, 1));
        assertThat(partitions.days("reading"))
                .doesNotContain(java.time.LocalDate.of(2020, 1, 5))
                .contains(java.time.LocalDate.of(2020, 2, 5));
    }

    @Test
    void aFeedIsFetchedOnItsCadenceAndSaysWhyItFails() throws Exception {
        setUpOnce();
        var host = fresh();
        var answer = new AtomicReference<>("heat{component=\"" + host + "\"} 5\n");
        var refused =
                loggedIn("admin").post("/estate/feeds", "name=Elsewhere&seconds=10&url=http%3A%2F%2F127.0.0.1%3A1%2F");
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(estate.feeds()).noneMatch(feed -> feed.name().equals("Elsewhere"));
        DESK.page("/metrics-" + host, answer::get);
        estate.addFetchedFeed(host, "Feed of " + host, Duration.ofSeconds(1), DESK.url() + "/metrics-" + host);
        eventually(() -> assertThat(values(host, "heat")).contains(5));
        answer.set("");
        eventually(() -> assertThat(estate.feeds().stream()
                        .filter(feed -> feed.key().equals(host))
                        .findFirst()
                        .orElseThrow()
                        .failure())
                .contains("500"));
    }

    /** Live is what the replay shows: a night of readings in a few seconds, with rounds that are stopped and started. */
    @Test
    void aLiveNightAndItsReplayGiveTheSameAlerts() throws Exception {
        var host = fresh();
        tell("# TYPE load gauge\nload{component=\"%s\",kind=\"host\"} 10\n".formatted(host));
        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(1)),
                Amount.of(Amount.Fold.LAST),
                Limits.above(50, 80),
                Terms.clearing(0.9, Duration.ofMillis(400)));
        long id = guards.add(
                new StoredGuard(0, "Load of " + host, true, Watch.of("load").named(host), rule, "", null, 0),
                person("lead"));
        eventually(() -> assertThat(states(id)).isEqualTo(1));
        var start = jdbc.sql("select evaluated_to from guard_state where guard_id = :id")
                .param("id", id)
                .query((row, number) -> row.getTimestamp(1).toInstant())
                .single();
        var random = new java.util.SplittableRandom(11);
        for (int i = 1; i < 90; i++) {
            double load = i / 6 % 2 == 1 ? 60 + random.nextInt(40) : 20 + random.nextInt(20);
            tell("load{component=\"%s\"} %s\n".formatted(host, load));
            if (i % 30 == 0) {
                round.stop();
                round.start();
            }
            Thread.sleep(60);
        }
        Thread.sleep(500);
        tell("load{component=\"%s\"} 1\n".formatted(host));
        var series = series(host, "load", Map.of());
        var end = history.newest(series.id(), start).orElseThrow().at();
        var readings = history.between(series.id(), start.minusSeconds(60), end.plusMillis(1));
        var course = Measuring.course(rule, Heard.of(readings, Sort.GAUGE, Duration.ofMinutes(1)), start, end);
        var expected = Replay.of(rule, List.of(new Replay.Run(series.id(), "one", course)), start, end)
                .alerts();
        assertThat(expected).hasSizeGreaterThan(3);
        eventually(() -> assertThat(jdbc.sql(
                                "select raised_at, cleared_at from alert where origin_kind = 'guard' and origin_id = :id order by raised_at")
                        .param("id", id)
                        .query((row, number) -> row.getTimestamp("raised_at").toInstant() + " "
                                + (row.getTimestamp("cleared_at") == null
                                        ? null
                                        : row.getTimestamp("cleared_at").toInstant()))
                        .list())
                .isEqualTo(expected.stream()
                        .map(one -> one.start() + " " + one.end())
                        .toList()));
    }

    @Test
    void aCombinationSpeaksWhereItsMembersKeepSilent() throws Exception {
        var host = fresh();
        var page = "load{component=\"%s\",kind=\"host\"} %d\nheat{component=\"%s\",kind=\"host\"} %d\n";
        tell(page.formatted(host, 1, host, 1));
        var members = new java.util.ArrayList<Long>();
        for (var measure : List.of("load", "heat")) {
            var rule = new LimitGuard(
                    new Window.Sliding(Duration.ofMinutes(1)),
                    Amount.of(Amount.Fold.LAST),
                    Limits.above(50, 90),
                    Terms.clearing(1, Duration.ZERO));
            members.add(guards.add(
                    new StoredGuard(
                            0, measure + " of " + host, true, Watch.of(measure).named(host), rule, "", null, 0),
                    person("lead")));
        }
        var both = new CombinationGuard(
                Expression.parse("a and not b"), members, Severity.CRITICAL, true, Terms.clearing(1, Duration.ZERO));
        long id = guards.add(
                new StoredGuard(0, "Loaded and cool " + host, true, Watch.of("").named(host), both, "", null, 0),
                person("lead"));
        eventually(() -> assertThat(states(id)).isEqualTo(1));
        tell(page.formatted(host, 70, host, 70));
        tell(page.formatted(host, 70, host, 20));
        eventually(() -> assertThat(jdbc.sql(
                                "select words from alert where origin_kind = 'guard' and origin_id = :id and cleared_at is null")
                        .param("id", id)
                        .query(String.class)
                        .list())
                .containsExactly("Loaded and cool " + host + " on " + host));
        tell(page.formatted(host, 10, host, 20));
        eventually(() -> assertThat(jdbc.sql(
                                "select count(*) from alert where origin_kind = 'guard' and origin_id = :id and cleared_at is not null")
                        .param("id", id)
                        .query(Long.class)
                        .single())
                .isEqualTo(1));
        assertThat(jdbc.sql("select count(*) from alert where origin_kind = 'guard' and origin_id = any(:ids)")
                        .param("ids", members.toArray(Long[]::new))
                        .query(Long.class)
                        .single())
                .isZero();
    }

    private long states(long guard) {
        return jdbc.sql("select count(*) from guard_state where guard_id = :id")
                .param("id", guard)
                .query(Long.class)
                .single();
    }
}
