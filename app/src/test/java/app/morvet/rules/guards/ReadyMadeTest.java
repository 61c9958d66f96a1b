package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Transition;
import app.morvet.core.guard.GuardEvaluator;
import app.morvet.core.guard.GuardState;
import app.morvet.core.guard.Heard;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Guards that are switched on with one click: they say nothing on a calm day, and speak of what they are for. */
class ReadyMadeTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Instant START = Instant.parse("2026-11-16T00:00:00Z");
    private static final int TROUBLE = 7 * 1440;
    private static final int END = TROUBLE + 240;
    private static final List<ReadyMade.Offer> ALL = ReadyMade.offers(ZONE);

    /** A week of what is usual, then four hours of trouble. */
    @ParameterizedTest
    @CsvSource({
        // guard, usual, how far it goes up and down by itself, in trouble, counted up or not
        "host-processor,      40, 20,   97, GAUGE",
        "host-memory,         70,  8,   98, GAUGE",
        "instance-latency,   120, 15,  900, GAUGE",
        "instance-errors,      2,  1,   40, COUNTER",
        "instance-workers,    20,  6,    0, GAUGE",
        "instance-pending,    60, 40,  700, GAUGE",
        "instance-sessions,  300, 20,    2, GAUGE",
        "queue-depth,        100, 90, 2500, GAUGE",
        "licences,            60,  9,   99, GAUGE",
        "interface-failures,   0,  1,   12, COUNT"
    })
    void itIsQuietOnACalmWeekAndSpeaksOfTrouble(String key, double usual, double sway, double trouble, String sort) {
        var offer =
                ALL.stream().filter(one -> one.key().equals(key)).findFirst().orElseThrow();
        var told = told(
                offer,
                Sort.valueOf(sort),
                i -> i < TROUBLE ? usual + sway * Math.sin(i / 7.0) * Math.sin(i / 97.0) : trouble);
        assertThat(told).as("raised in trouble only").isNotEmpty().allSatisfy(one -> assertThat(one.at())
                .isAfterOrEqualTo(at(TROUBLE)));
        assertThat(told.getFirst().kind()).isEqualTo(Transition.Kind.RAISED);
        assertThat(told.getFirst().at()).as("within half an hour of trouble").isBeforeOrEqualTo(at(TROUBLE + 30));
        assertThat(told.getLast().kind()).isNotEqualTo(Transition.Kind.CLEARED);
    }

    @Test
    void aHostThatIsNotHeardAnyMoreIsTold() {
        var offer = ALL.stream()
                .filter(one -> one.key().equals("host-silence"))
                .findFirst()
                .orElseThrow();
        var ring = new ReadingRing();
        for (int i = 0; i < TROUBLE; i++) ring.add(at(i), 40);
        var told = step(offer, Heard.of(ring.all(), Sort.GAUGE, Duration.ofMinutes(1)));
        assertThat(told).extracting(Transition::kind).containsExactly(Transition.Kind.RAISED, Transition.Kind.ROSE);
        assertThat(told.getFirst().at()).isBetween(at(TROUBLE + 2), at(TROUBLE + 4));
    }

    @Test
    void aDiskThatGrowsIsToldDaysBeforeItIsFull() {
        var offer = ALL.stream()
                .filter(one -> one.key().equals("host-disk"))
                .findFirst()
                .orElseThrow();
        // Half a percent an hour from 60 % on the fourth day: full at 95 % after 70 hours.
        var told = told(offer, Sort.GAUGE, i -> 60 + Math.max(0, i - 4 * 1440) / 60.0 * 0.5);
        assertThat(told).isNotEmpty();
        assertThat(told.getFirst().kind()).isEqualTo(Transition.Kind.RAISED);
        var full = at(4 * 1440 + 70 * 60);
        assertThat(Duration.between(told.getFirst().at(), full)).isGreaterThan(Duration.ofHours(12));
        assertThat(told(offer, Sort.GAUGE, i -> 60 + Math.sin(i / 50.0))).isEmpty();
    }

    @Test
    void eachHasAKeyAndANameOfItsOwnAndAFixNote() {
        assertThat(ALL).extracting(ReadyMade.Offer::key).doesNotHaveDuplicates();
        assertThat(ALL).extracting(ReadyMade.Offer::name).doesNotHaveDuplicates();
        assertThat(ALL).allSatisfy(one -> assertThat(one.note()).isNotBlank());
    }

    private static List<Transition> told(ReadyMade.Offer offer, Sort sort, IntToDoubleFunction values) {
        var ring = new ReadingRing();
        double total = 0;
        for (int i = 0; i < END; i++) {
            double value = values.applyAsDouble(i);
            total += value;
            ring.add(at(i), sort == Sort.COUNTER ? total : value);
        }
        return step(offer, Heard.of(ring.all(), sort, Duration.ofMinutes(1)));
    }

    /** What may be used in all, where that is measured too, is 100. */
    private static List<Transition> step(ReadyMade.Offer offer, Heard of) {
        var ceiling = new ReadingRing();
        for (int i = -1440; i < END; i += 10) ceiling.add(at(i), 100);
        var heard = new Heard(of.readings(), ceiling.all(), of.past(), of.sort(), of.cadence());
        return GuardEvaluator.step(offer.rule(), GuardState.startingAt(START.minusSeconds(1)), heard, at(END - 1))
                .transitions();
    }

    private static Instant at(int minutes) {
        return START.plusSeconds(minutes * 60L);
    }
}
