package app.morvet.core.messages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.offset;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** What is usual on an interface, whatever its past and wherever one looks, also in the weeks of a clock change. */
class UsualTrafficProperties {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant MONDAY = Instant.parse("2027-03-14T22:00:00Z");

    /** Four weeks with so many in each hour of the week, by a seed. */
    private static List<UsualTraffic.Hour> past(long seed) {
        var random = new Random(seed);
        var byHour = new long[UsualTraffic.SLOTS];
        for (int i = 0; i < byHour.length; i++) byHour[i] = random.nextInt(200);
        var hours = new ArrayList<UsualTraffic.Hour>();
        for (int i = 0; i < 4 * UsualTraffic.SLOTS; i++) {
            var at = MONDAY.minus(Duration.ofDays(28)).plus(Duration.ofHours(i));
            hours.add(new UsualTraffic.Hour(at, byHour[i % UsualTraffic.SLOTS], 1));
        }
        return hours;
    }

    @Property(tries = 200)
    void whatIsExpectedOfTwoSpansIsThatOfBothTogether(
            @ForAll @IntRange(max = 1000) int seed,
            @ForAll @IntRange(max = 20_000) int first,
            @ForAll @IntRange(max = 20_000) int second) {
        var usual = UsualTraffic.of(past(seed), ZONE);
        var middle = MONDAY.plusSeconds(60L * first);
        var end = middle.plusSeconds(60L * second);
        assertThat(usual.expected(MONDAY, middle) + usual.expected(middle, end))
                .isEqualTo(usual.expected(MONDAY, end), offset(1e-6));
        assertThat(usual.expected(end, MONDAY))
                .as("backwards nothing is expected")
                .isZero();
    }

    /** Hour by hour on the clock of the zone, as one would count it on paper; some zones change by half an hour, some twice within a month. */
    @Property(tries = 300)
    void whatIsExpectedFollowsTheClockOnTheWall(
            @ForAll("zones") ZoneId zone,
            @ForAll @IntRange(max = 1000) int seed,
            @ForAll @IntRange(max = 500_000) int first,
            @ForAll @IntRange(max = 20_000) int length) {
        var byHour = new Random(seed).doubles(UsualTraffic.SLOTS, 0, 100).toArray();
        var usual = new UsualTraffic(zone, byHour, Double.NaN);
        var from = MONDAY.plusSeconds(60L * first);
        double sum = 0;
        for (int minute = 0; minute < length; minute++)
            sum += byHour[UsualTraffic.slot(from.plusSeconds(60L * minute).atZone(zone))] / 60;
        assertThat(usual.expected(from, from.plusSeconds(60L * length))).isEqualTo(sum, offset(1e-6));
    }

    @Provide
    Arbitrary<ZoneId> zones() {
        return Arbitraries.of("Europe/Helsinki", "UTC", "Australia/Lord_Howe", "Asia/Kathmandu", "Africa/Casablanca")
                .map(ZoneId::of);
    }

    @Property(tries = 50)
    void theOrderInWhichThePastIsToldMakesNoDifference(@ForAll @IntRange(max = 1000) int seed) {
        var mixed = past(seed);
        Collections.shuffle(mixed, new Random(seed));
        assertThat(UsualTraffic.of(mixed, ZONE)).isEqualTo(UsualTraffic.of(past(seed), ZONE));
    }

    /** A week in which all is as it was each week before is expected to the message. */
    @Property(tries = 50)
    void aWeekThatIsAsEveryWeekIsExpectedAsItWas(@ForAll @IntRange(max = 1000) int seed) {
        var hours = past(seed);
        long each = hours.stream()
                .limit(UsualTraffic.SLOTS)
                .mapToLong(UsualTraffic.Hour::carried)
                .sum();
        assertThat(UsualTraffic.of(hours, ZONE).expected(MONDAY, MONDAY.plus(Duration.ofDays(7))))
                .isEqualTo(each, offset(1e-6));
    }

    @Example
    void oneWildWeekOfFourTeachesNothing() {
        var hours = past(7);
        var usual = UsualTraffic.of(hours, ZONE);
        var wild = new ArrayList<>(hours);
        for (int i = 0; i < UsualTraffic.SLOTS; i++)
            wild.set(i, new UsualTraffic.Hour(hours.get(i).at(), 100_000, 1));
        var learned = UsualTraffic.of(wild, ZONE);
        for (int i = 0; i < UsualTraffic.SLOTS; i++)
            assertThat(learned.byHour()[i]).isEqualTo(usual.byHour()[i], offset(1e-9));
    }

    @Example
    void ofWhatIsUnknownNothingIsExpectedAndNothingIsSilentOrLate() {
        var unknown = UsualTraffic.unknown(ZONE);
        assertThat(unknown.expected(MONDAY, MONDAY.plus(Duration.ofDays(7)))).isZero();
        assertThat(unknown.silent(MONDAY, MONDAY.plus(Duration.ofDays(365)))).isFalse();
        assertThat(unknown.late(1e9, 1000)).isFalse();
    }
}
