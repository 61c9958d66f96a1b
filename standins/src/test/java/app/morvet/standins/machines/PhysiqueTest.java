package app.morvet.standins.machines;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** How machines behave, well and ill: what the guards of the demo stand over must be there to be seen. */
class PhysiqueTest {
    /** A Wednesday noon in Helsinki. */
    private static final Instant NOON = Instant.parse("2027-03-17T10:00:00Z");

    private static final Physique PHYSIQUE = new Physique(20260318);
    private static final Machine QUAY = Machine.of("quay-03");
    private static final Machine GANGWAY = Machine.of("gangway-1");

    private static List<Illness> ill(Machine machine, Ailment ailment, double hours) {
        return List.of(new Illness(machine.key(), ailment, NOON.minusSeconds((long) (hours * 3600)), null));
    }

    @Test
    void theSameInstantIsTheSameHoweverOftenItIsAskedFor() {
        var again = new Physique(20260318);
        for (int minute = 0; minute < 600; minute += 7) {
            var at = NOON.plusSeconds(60L * minute);
            assertThat(again.processor(QUAY, at, List.of())).isEqualTo(PHYSIQUE.processor(QUAY, at, List.of()));
            assertThat(again.buckets(GANGWAY, at, List.of())).isEqualTo(PHYSIQUE.buckets(GANGWAY, at, List.of()));
        }
        assertThat(IntStream.range(0, 60)
                        .mapToDouble(i -> new Physique(1).processor(QUAY, NOON.plusSeconds(60L * i), List.of()))
                        .toArray())
                .isNotEqualTo(IntStream.range(0, 60)
                        .mapToDouble(i -> PHYSIQUE.processor(QUAY, NOON.plusSeconds(60L * i), List.of()))
                        .toArray());
    }

    /** Each minute of a past of weeks asks for it, and most trouble was long ago or elsewhere. */
    @Test
    void whatIsFeltAtAnInstantIsAllThatCounts() {
        var key = "stores-meter";
        var longAgo = new Illness(key, Ailment.NOT_UP, NOON.minusSeconds(7200), NOON.minusSeconds(600));
        var healed = new Illness(key, Ailment.STOPPED, NOON.minusSeconds(400), NOON.minusSeconds(100));
        var lasts = new Illness("quay-03", Ailment.PROCESSOR_STUCK, NOON.minusSeconds(60), null);
        var toCome = new Illness(key, Ailment.COMES_AND_GOES, NOON.plusSeconds(300), NOON.plusSeconds(900));
        var all = List.of(longAgo, healed, lasts, toCome);
        assertThat(Illness.feltAt(NOON, all)).containsExactly(healed, lasts);
        for (int second = -8000; second < 2000; second += 10) {
            var at = NOON.plusSeconds(second);
            var felt = Illness.feltAt(at, all);
            assertThat(Physique.service(Machine.of(key), at, felt))
                    .isEqualTo(Physique.service(Machine.of(key), at, all));
            assertThat(PHYSIQUE.processor(QUAY, at, felt)).isEqualTo(PHYSIQUE.processor(QUAY, at, all));
        }
    }

    @Test
    void theCompanyIsBusyByDayAndLessAtWeekends() {
        var night = NOON.minus(Duration.ofHours(9));
        var saturday = NOON.plus(Duration.ofDays(3));
        assertThat(PHYSIQUE.bustle(NOON)).isGreaterThan(PHYSIQUE.bustle(night));
        assertThat(PHYSIQUE.bustle(NOON)).isGreaterThan(PHYSIQUE.bustle(saturday));
        for (int hour = 0; hour < 24 * 7; hour++)
            assertThat(PHYSIQUE.bustle(NOON.plus(Duration.ofHours(hour)))).isBetween(0.0, 1.0);
    }

    @Test
    void whatIsAShareStaysOneWhateverBefallsAMachine() {
        for (var machine : Machine.ALL)
            for (var ailment : Ailment.values())
                for (int hours : new int[] {0, 1, 40, 4000}) {
                    var ills = ill(machine, ailment, hours);
                    if (machine.kind().equals("host")) {
                        assertThat(PHYSIQUE.processor(machine, NOON, ills)).isBetween(0.0, 100.0);
                        assertThat(PHYSIQUE.memory(machine, NOON, ills)).isBetween(0.0, 100.0);
                        assertThat(PHYSIQUE.disk(machine, "/data", NOON, ills)).isBetween(0.0, 100.0);
                    }
                    if (machine.kind().equals("licence"))
                        assertThat(PHYSIQUE.seatsUsed(machine, NOON, ills)).isBetween(0.0, machine.size());
                }
    }

    @ParameterizedTest
    @EnumSource
    void eachAilmentShowsInWhatItsMachineTells(Ailment ailment) {
        var machine = Machine.ALL.stream().filter(ailment::befalls).findFirst().orElseThrow();
        assertThat(page(machine, ill(machine, ailment, 3))).isNotEqualTo(page(machine, List.of()));
        var other = Machine.ALL.stream()
                .filter(it -> !it.key().equals(machine.key()) && it.collector().equals(machine.collector()))
                .findFirst()
                .orElseThrow();
        assertThat(page(other, ill(machine, ailment, 3))).isEqualTo(page(other, List.of()));
    }

    private static String page(Machine machine, List<Illness> ills) {
        var page = new StringBuilder();
        var totals = Pages.Totals.none();
        totals.counters().put(machine.key() + " errors", PHYSIQUE.errors(machine, NOON, ills));
        totals.counters().put(machine.key() + " requests", PHYSIQUE.requests(machine, NOON, ills));
        Pages.lines(page, machine.collector(), NOON, PHYSIQUE, ills, totals, true);
        return page.toString()
                .lines()
                .filter(line -> line.contains("\"" + machine.key() + "\""))
                .reduce("", (one, next) -> one + next + "\n");
    }

    @Test
    void anIllnessLastsFromItsBeginningUpToItsEnd() {
        var one = new Illness("quay-03", Ailment.SILENT, NOON, NOON.plusSeconds(60));
        assertThat(one.lastsAt(NOON.minusNanos(1))).isFalse();
        assertThat(one.lastsAt(NOON)).isTrue();
        assertThat(one.lastsAt(NOON.plusSeconds(60))).isFalse();
        assertThat(new Illness("quay-03", Ailment.SILENT, NOON, null).lastsAt(NOON.plusSeconds(1_000_000)))
                .isTrue();
        assertThat(one.hours(NOON.plusSeconds(1800))).isEqualTo(0.5);
    }

    @Test
    void bucketsAreCumulativeAndMoreAnswersAreSlowWhenItIsIll() {
        for (var ills : List.of(List.<Illness>of(), ill(GANGWAY, Ailment.SLOW, 1))) {
            var counts = PHYSIQUE.buckets(GANGWAY, NOON, ills);
            for (int i = 1; i < counts.length; i++) assertThat(counts[i]).isGreaterThanOrEqualTo(counts[i - 1]);
            assertThat(counts[counts.length - 1]).isEqualTo(PHYSIQUE.requests(GANGWAY, NOON, ills));
        }
        assertThat(PHYSIQUE.buckets(GANGWAY, NOON, ill(GANGWAY, Ailment.SLOW, 1))[3])
                .isLessThan(PHYSIQUE.buckets(GANGWAY, NOON, List.of())[3]);
    }

    @Test
    void percentilesGrowWithTheirShare() {
        double before = 0;
        for (double share : new double[] {0.5, 0.95, 0.99}) {
            double now = PHYSIQUE.response(GANGWAY, share, NOON, List.of());
            assertThat(now).isGreaterThan(before);
            before = now;
        }
    }

    /** Every line of every page is a head, or a name, labels and a value; each series is there once. */
    @Test
    void aPageIsWhatCollectorsWrite() {
        for (var collector : Machine.COLLECTORS)
            for (boolean past : new boolean[] {true, false}) {
                var page = new StringBuilder(Pages.heads());
                Pages.lines(page, collector, NOON, PHYSIQUE, List.of(), Pages.Totals.none(), past);
                Set<String> series = new HashSet<>();
                for (var line : page.toString().lines().toList()) {
                    assertThat(line)
                            .matches("# (TYPE|UNIT|HELP) \\w+ .+|\\w+\\{(\\w+=\"[^\"]*\",?)+} -?[0-9.E+-]+( \\d{13})?");
                    if (!line.startsWith("#"))
                        assertThat(series.add(line.substring(0, line.indexOf('}'))))
                                .as(line)
                                .isTrue();
                }
                assertThat(series).isNotEmpty();
            }
    }
}
