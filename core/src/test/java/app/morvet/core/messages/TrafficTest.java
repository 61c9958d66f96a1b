package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.morvet.core.alert.ReliefTrack;
import app.morvet.core.alert.Severity;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What an interface usually carries, how long it takes, where it is drawn, and in which order it is mended. */
class TrafficTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant MONDAY = Instant.parse("2026-11-23T00:00:00Z");

    /** Four weeks of 10 an hour by day, of 100 at noon on Mondays, of none at night. */
    private static UsualTraffic usual() {
        var hours = new ArrayList<UsualTraffic.Hour>();
        for (var at = MONDAY.minus(Duration.ofDays(28)); at.isBefore(MONDAY); at = at.plus(1, ChronoUnit.HOURS)) {
            var local = at.atZone(ZONE);
            boolean noon = local.getHour() == 12 && local.getDayOfWeek().getValue() == 1;
            hours.add(new UsualTraffic.Hour(at, noon ? 100 : local.getHour() >= 6 ? 10 : 0, 2));
        }
        return UsualTraffic.of(hours, ZONE);
    }

    @Test
    void whatIsUsualGoesByTheHourOfTheWeek() {
        var usual = usual();
        var noon = MONDAY.atZone(ZONE).withHour(12).toInstant();
        assertThat(usual.expected(noon, noon.plus(1, ChronoUnit.HOURS))).isEqualTo(100);
        assertThat(usual.expected(noon.plus(1, ChronoUnit.DAYS), noon.plus(25, ChronoUnit.HOURS)))
                .isEqualTo(10);
        assertThat(usual.expected(noon.minus(30, ChronoUnit.MINUTES), noon.plus(30, ChronoUnit.MINUTES)))
                .isEqualTo(55);
    }

    @Test
    void nothingAtNightIsNoSilenceAndNothingByDayIs() {
        var usual = usual();
        var midnight = MONDAY.atZone(ZONE).withHour(0).plusDays(1).toInstant();
        assertThat(usual.silent(midnight, midnight.plus(6, ChronoUnit.HOURS))).isFalse();
        var morning = midnight.plus(8, ChronoUnit.HOURS);
        assertThat(usual.silent(morning, morning.plus(30, ChronoUnit.MINUTES))).isFalse();
        assertThat(usual.silent(morning, morning.plus(42, ChronoUnit.MINUTES))).isTrue();
        assertThat(UsualTraffic.unknown(ZONE).silent(morning, morning.plus(30, ChronoUnit.DAYS)))
                .isFalse();
    }

    @ParameterizedTest
    @CsvSource({"6.1, 5, true", "5.9, 5, false", "60, 4, false"})
    void itIsLateWhereItTakesThreeTimesTheUsualAndNotOnlyOnce(double p95, long delays, boolean late) {
        assertThat(usual().late(p95, delays)).isEqualTo(late);
    }

    @Property(tries = 300)
    void aPercentileToldFromStepsIsOffByAQuarterAtMost(
            @ForAll @Size(min = 1, max = 200) List<@DoubleRange(min = 0.02, max = 9000) Double> seconds) {
        var sorted = seconds.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        var delays = Delays.of(sorted);
        for (double share : new double[] {0.5, 0.95, 1}) {
            double exact = sorted[(int) Math.ceil(share * sorted.length) - 1];
            assertThat(delays.quantile(share).orElseThrow()).isBetween(exact / 1.2501, exact * 1.2501);
        }
        var half = Delays.of(Arrays.copyOf(sorted, sorted.length / 2));
        var rest = Delays.of(Arrays.copyOfRange(sorted, sorted.length / 2, sorted.length));
        assertThat(half.plus(rest)).isEqualTo(delays);
    }

    @Provide
    Arbitrary<List<InterfaceMap.Flow>> flows() {
        var party = Arbitraries.integers().between(0, 11).map(i -> "p" + i);
        return Combinators.combine(party, party)
                .as((a, b) -> a + ">" + b)
                .list()
                .ofMinSize(1)
                .ofMaxSize(40)
                .map(all -> {
                    var flows = new ArrayList<InterfaceMap.Flow>();
                    for (var one : all)
                        flows.add(new InterfaceMap.Flow("f" + flows.size(), one.split(">")[0], one.split(">")[1]));
                    return flows;
                });
    }

    @Property(tries = 200)
    void theMapShowsEachPartyAndInterfaceOnceAndNothingOverlaps(@ForAll("flows") List<InterfaceMap.Flow> flows) {
        var map = InterfaceMap.of(flows, InterfaceMap.Measures.USUAL);
        var wanted = new HashSet<String>();
        flows.forEach(one -> wanted.addAll(List.of(one.id(), one.from(), one.to())));
        assertThat(map.nodes()).extracting(InterfaceMap.Node::id).containsExactlyInAnyOrderElementsOf(wanted);
        assertThat(map.lines())
                .extracting(InterfaceMap.Line::flow)
                .containsOnlyOnceElementsOf(
                        flows.stream().map(InterfaceMap.Flow::id).distinct().toList());
        var nodes = map.nodes();
        for (int i = 0; i < nodes.size(); i++)
            for (int j = 0; j < i; j++) {
                var a = nodes.get(i);
                var b = nodes.get(j);
                boolean apart = a.x() + a.width() <= b.x()
                        || b.x() + b.width() <= a.x()
                        || a.y() + a.height() <= b.y()
                        || b.y() + b.height() <= a.y();
                assertThat(apart).as("%s and %s", a, b).isTrue();
            }
    }

    @Test
    void messagesGoFromLeftToRightAndTheSameFlowsGiveTheSameMap() {
        var flows = List.of(
                new InterfaceMap.Flow("a", "one", "two"),
                new InterfaceMap.Flow("b", "two", "three"),
                new InterfaceMap.Flow("c", "three", "one"));
        var map = InterfaceMap.of(flows, InterfaceMap.Measures.USUAL);
        var x = new HashMap<String, Double>();
        map.nodes().forEach(node -> x.put(node.id(), node.x()));
        assertThat(map.lines().stream().filter(InterfaceMap.Line::back)).hasSize(1);
        assertThat(x.get("one")).isLessThan(x.get("a"));
        assertThat(x.get("a")).isLessThan(x.get("two"));
        assertThat(InterfaceMap.of(flows.reversed(), InterfaceMap.Measures.USUAL))
                .isEqualTo(map);
    }

    @Test
    void twoPairsThatNeedNotCrossDoNot() {
        var flows = new ArrayList<InterfaceMap.Flow>();
        // Named so that the order of names would cross all of them.
        for (int i = 0; i < 20; i++) flows.add(new InterfaceMap.Flow("f%02d".formatted(i), "a" + (19 - i), "b" + i));
        assertThat(InterfaceMap.of(flows, InterfaceMap.Measures.USUAL).crossings())
                .isZero();
    }

    @Test
    void aTrackRisesToTheWorstAtEachMoment() {
        var from = MONDAY;
        var to = from.plus(10, ChronoUnit.HOURS);
        var rises = ReliefTrack.of(
                List.of(
                        new ReliefTrack.Stretch(
                                Severity.WARNING, from.plus(1, ChronoUnit.HOURS), from.plus(5, ChronoUnit.HOURS)),
                        new ReliefTrack.Stretch(
                                Severity.CRITICAL, from.plus(3, ChronoUnit.HOURS), from.plus(4, ChronoUnit.HOURS)),
                        new ReliefTrack.Stretch(Severity.NOTICE, from.plus(9, ChronoUnit.HOURS), null)),
                from,
                to,
                100);
        assertThat(rises)
                .extracting(ReliefTrack.Rise::severity)
                .containsExactly(Severity.WARNING, Severity.CRITICAL, Severity.WARNING, Severity.NOTICE);
        assertThat(rises).extracting(ReliefTrack.Rise::x).containsExactly(10.0, 30.0, 40.0, 90.0);
        assertThat(rises.getLast().width()).isEqualTo(10, within(1e-9));
        assertThatThrownBy(() -> ReliefTrack.of(List.of(), to, from, 100)).isInstanceOf(IllegalArgumentException.class);
    }

    @Property(tries = 200)
    void noMessageOvertakesAnEarlierOneOfItsKey(
            @ForAll @Size(max = 60) List<@net.jqwik.api.constraints.IntRange(min = 0, max = 40) Integer> draws) {
        var waiting = new ArrayList<SendOrder.Waiting>();
        for (int draw : draws)
            waiting.add(new SendOrder.Waiting(
                    MONDAY.plusSeconds(draw % 7), waiting.size(), draw % 5 == 0 ? "" : "k" + draw % 5));
        var order = new SendOrder(List.of());
        var failedAt = new HashMap<String, Instant>();
        Instant before = Instant.MIN;
        for (var one : SendOrder.oldestFirst(waiting, it -> it)) {
            assertThat(one.at()).isAfterOrEqualTo(before);
            before = one.at();
            assertThat(order.holdsBack(one.key())).isEqualTo(failedAt.containsKey(one.key()));
            if (one.id() % 4 == 0 && !one.key().isEmpty()) {
                order.didNotArrive(one.key());
                failedAt.put(one.key(), one.at());
            } else if (one.id() % 4 == 0) order.didNotArrive(one.key());
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<harbour code='FIXQV'/>           | FIXQV",
                "{\"ship\":\"Isolde Bay\"}         | Isolde Bay",
                "java.net.ReadTimeoutException     | ReadTimeoutException Read Timeout Exception",
                "HTTPServer v2 isOK                | HTTPServer v2 isOK is OK",
                "a;b,c                             | a b c"
            })
    void whatIsSearchedIsFreeOfMarks(String text, String words) {
        assertThat(SearchWords.of(text).replaceAll("\\s+", " ")).contains(words);
    }
}
