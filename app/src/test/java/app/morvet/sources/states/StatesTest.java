package app.morvet.sources.states;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.sources.readings.Series;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** States as they are told in each of the ways, when they changed, and what they said. */
class StatesTest extends MorvetTest {
    @Autowired
    States states;

    @Autowired
    SeriesBook series;

    private static final Instant AT = Instant.now().minusSeconds(3600).truncatedTo(ChronoUnit.MINUTES);

    private String mark;
    private String measure;

    @BeforeEach
    void names() {
        mark = "st" + UUID.randomUUID().toString().substring(0, 8);
        measure = "run_" + mark;
    }

    private Series of(String component) {
        return series.find(estate.byKey(component).orElseThrow().id(), measure, Map.of())
                .orElseThrow();
    }

    private List<String> words(String component) {
        var one = of(component);
        return states
                .changes(List.of(one.id()), AT.minus(Duration.ofDays(1)), AT.plus(Duration.ofDays(1)))
                .getOrDefault(one.id(), List.of())
                .stream()
                .map(it -> Duration.between(AT, it.at()).toMinutes() + " "
                        + one.measure().stateWords().word(it.place()))
                .toList();
    }

    private static String time(int minute) {
        return AT.plusSeconds(60L * minute).toString();
    }

    private String json(String component, int minute, String state, String more) throws Exception {
        return tell(
                        "application/json",
                        "[{\"component\":\"%s\",\"kind\":\"service\",\"measure\":\"%s\",\"state\":\"%s\",\"at\":\"%s\"%s}]"
                                .formatted(component, measure, state, time(minute), more))
                .body();
    }

    private String page(int minute, String... lines) {
        var page = new StringBuilder("# TYPE %s stateset\n".formatted(measure));
        for (var line : lines) {
            var part = line.split(" ");
            page.append("%s{component=\"%s\",kind=\"service\",%s=\"%s\"} %s %d\n"
                    .formatted(
                            measure,
                            mark,
                            measure,
                            part[0],
                            part[1],
                            AT.plusSeconds(60L * minute).getEpochSecond()));
        }
        return page.append("# EOF\n").toString();
    }

    private String tellPage(int minute, String... lines) throws Exception {
        return tell("application/openmetrics-text; version=1.0.0", page(minute, lines))
                .body();
    }

    @Test
    void aStateSetIsOneReadingAndItsChangesAreKept() throws Exception {
        for (int minute : List.of(0, 1, 2)) tellPage(minute, "running 1", "starting 0", "stopped 0");
        for (int minute : List.of(3, 4)) tellPage(minute, "running 0", "starting 0", "stopped 1");
        tellPage(5, "running 1", "starting 0", "stopped 0");
        assertThat(words(mark)).containsExactly("0 running", "3 stopped", "5 running");
        assertThat(of(mark).measure().unit()).isEqualTo("running, starting, stopped");
        assertThat(estate.byKey(mark).orElseThrow().kind()).isEqualTo("service");
        var now = states.of(List.of(of(mark).id())).get(of(mark).id());
        assertThat(now.since()).isEqualTo(AT.plusSeconds(300));
        // What comes late is a reading, and no news.
        tellPage(2, "running 0", "starting 1", "stopped 0");
        assertThat(words(mark)).hasSize(3);
    }

    @Test
    void ofAStateSetExactlyOneIsTrue() throws Exception {
        assertThat(tellPage(0, "running 1", "stopped 1")).contains("exactly one is true, but running and stopped are");
        assertThat(tellPage(0, "running 0", "stopped 0")).contains("exactly one is true, but none is");
        assertThat(tellPage(0, "running 2", "stopped 1")).contains("a state has the value 0 or 1");
        assertThat(series.measure(measure)).isEmpty();
    }

    @Test
    void wordsComeAtTheEndAndKeepTheirPlaces() throws Exception {
        json(mark, 0, "stopped", ",\"words\":[\"running\",\"stopped\"]");
        json(mark, 1, "lost", "");
        json(mark, 2, "running", ",\"words\":[\"lost\",\"running\",\"starting\"]");
        assertThat(of(mark).measure().stateWords().all()).containsExactly("running", "stopped", "lost", "starting");
        assertThat(words(mark)).containsExactly("0 stopped", "1 lost", "2 running");
    }

    @Test
    void whatIsNoStateAndWhatIsNoWordIsRefused() throws Exception {
        json(mark, 0, "running", "");
        assertThat(tell(
                                "application/json",
                                "[{\"component\":\"%s\",\"measure\":\"%s\",\"value\":3}]".formatted(mark, measure))
                        .body())
                .contains(measure + " is a state; send the word that it is in, not a number");
        tell("application/json", "[{\"component\":\"%s\",\"measure\":\"heat_%s\",\"value\":3}]".formatted(mark, mark));
        assertThat(tell(
                                "application/json",
                                "[{\"component\":\"%s\",\"measure\":\"heat_%s\",\"state\":\"hot\"}]"
                                        .formatted(mark, mark))
                        .body())
                .contains("is a gauge; send a number, not a word");
        assertThat(json(mark, 1, "on, off", "")).contains("has no comma and no line break");
        assertThat(json(mark, 1, "running", ",\"words\":\"running\"")).contains("words must be a list");
        assertThat(tell("application/json", "[{\"component\":\"%s\",\"measure\":\"%s\"}]".formatted(mark, measure))
                        .body())
                .contains("value must be a number, or state a word");
        assertThat(words(mark)).containsExactly("0 running");
    }

    @Test
    void whatIsToldByEventsStandsUntilItIsToldOtherwise() throws Exception {
        var stopped = event(
                "state.changed",
                mark,
                AT,
                Map.of(
                        "measure",
                        measure,
                        "state",
                        "stopped",
                        "words",
                        List.of("running", "stopped"),
                        "said",
                        "exit code 3"));
        assertThat(tree(send(List.of(stopped, stopped))).path("rejected")).isEmpty();
        send(List.of(
                event("state.changed", mark, AT.plusSeconds(120), Map.of("measure", measure, "state", "running"))));
        assertThat(words(mark)).containsExactly("0 stopped", "2 running");
        assertThat(of(mark).toldOnChange()).isTrue();
        assertThat(states.latest(List.of(of(mark).id()), 2_000_000, 5))
                .extracting(States.Change::said)
                .containsExactly("", "exit code 3");
        var unfit = event("state.changed", mark, AT, Map.of("measure", measure));
        assertThat(send(List.of(unfit)).body()).contains("data.state is missing: the word for what it is in");
    }

    @Test
    void whatItSaidIsKeptWhenItChangesElseOnceAnHour() throws Exception {
        json(mark, 0, "running", ",\"said\":\"all well\"");
        json(mark, 1, "running", ",\"said\":\"all well\"");
        json(mark, 2, "running", ",\"said\":\"two retries\"");
        json(mark, 3, "stopped", ",\"said\":\"two retries\"");
        json(mark, 50, "stopped", ",\"said\":\"two retries\"");
        json(mark, 64, "stopped", ",\"said\":\"two retries\"");
        assertThat(states.latest(List.of(of(mark).id()), 2_000_000, 9).stream()
                        .map(it -> Duration.between(AT, it.at()).toMinutes() + " " + it.changed() + " " + it.said()))
                .containsExactly(
                        "64 false two retries", "3 true two retries", "2 false two retries", "0 true all well");
        json(mark, 65, "stopped", ",\"said\":\"" + "x".repeat(1_100_000) + "\"");
        var longest =
                states.latest(List.of(of(mark).id()), 2_000_000, 1).getFirst().said();
        assertThat(longest).hasSize(1_048_576).endsWith("… cut here, it was longer than 1 MiB");
    }

    /** What is seen only of a batch as a whole keeps no other item of it out. */
    @Test
    void aBatchThatContradictsItselfIsTakenAsFarAsItGoes() throws Exception {
        var many = java.util.stream.IntStream.range(0, 40)
                .mapToObj(it -> "\"w%d-%s\"".formatted(it, mark))
                .toList();
        var more = java.util.stream.IntStream.range(40, 80)
                .mapToObj(it -> "\"w%d-%s\"".formatted(it, mark))
                .toList();
        var item = "{\"component\":\"%s\",\"measure\":\"%s\",\"at\":\"%s\",\"state\":%s,\"words\":%s}";
        var answer = tree(tell(
                "application/json",
                "[" + item.formatted(mark, measure, time(0), many.getFirst(), many) + ","
                        + item.formatted(mark, measure, time(1), more.getFirst(), more) + "]"));
        assertThat(answer.path("accepted").asInt()).isEqualTo(1);
        assertThat(answer.path("rejected").toString()).contains("a state has at most 64 words, were 80");

        var other = "heat_" + mark;
        var mixed = tree(tell(
                "application/json",
                "[{\"component\":\"%1$s\",\"measure\":\"%2$s\",\"state\":\"hot\"},{\"component\":\"%1$s\",\"measure\":\"%2$s\",\"value\":7}]"
                        .formatted(mark, other)));
        assertThat(mixed.path("accepted").asInt()).isEqualTo(1);
        assertThat(mixed.path("rejected").toString())
                .contains(other + " is a state; send the word that it is in, not a number");
    }
}
