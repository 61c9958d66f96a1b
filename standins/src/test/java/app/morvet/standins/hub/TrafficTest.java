package app.morvet.standins.hub;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class TrafficTest {
    private static final Instant MINUTE = Instant.parse("2026-11-24T10:00:00Z");
    private static final Carrier BUSY = Carrier.of("booking-settlement");

    private final Traffic traffic = new Traffic(1);

    private static Episode broken(Fault fault) {
        return new Episode(BUSY.key(), fault, MINUTE, null, 1);
    }

    @Test
    void theSameMinuteIsTheSameHoweverItIsAskedFor() {
        var episodes = List.of(broken(Fault.DUPLICATE_KEY));
        var whole = traffic.carry(BUSY, MINUTE, MINUTE, MINUTE.plusSeconds(60), episodes);
        var parts = new ArrayList<Traffic.Failed>();
        for (int second = 0; second < 60; second++) {
            parts.addAll(
                    traffic.carry(BUSY, MINUTE, MINUTE.plusSeconds(second), MINUTE.plusSeconds(second + 1), episodes)
                            .failed());
        }
        assertThat(whole.failed()).isNotEmpty().isEqualTo(parts);
        assertThat(whole.failed()).extracting(Traffic.Failed::id).doesNotHaveDuplicates();
    }

    @Test
    void trafficFollowsTheHourAndTheWeekday() {
        assertThat(carried(Carrier.of("bunker-delivery-notes"), "2026-11-24T08:00:00Z"))
                .isGreaterThan(20);
        assertThat(carried(Carrier.of("bunker-delivery-notes"), "2026-11-24T00:00:00Z"))
                .isZero();
        assertThat(carried(Carrier.of("bunker-delivery-notes"), "2026-11-22T08:00:00Z"))
                .isLessThan(carried(Carrier.of("bunker-delivery-notes"), "2026-11-24T08:00:00Z"));
    }

    private int carried(Carrier carrier, String from) {
        int carried = 0;
        var start = Instant.parse(from);
        for (var at = start; at.isBefore(start.plus(Duration.ofHours(2))); at = at.plusSeconds(60)) {
            carried += traffic.carry(carrier, at, at, at.plusSeconds(60), List.of())
                    .delivered();
        }
        return carried;
    }

    @ParameterizedTest
    @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "SLOW")
    void aBrokenInterfaceFailsInItsOwnWordsUntilItIsMended(Fault fault) {
        var mended = new Episode(BUSY.key(), fault, MINUTE, MINUTE.plusSeconds(60), 1);
        var during = traffic.carry(BUSY, MINUTE, MINUTE, MINUTE.plusSeconds(60), List.of(mended));
        assertThat(during.delivered()).isZero();
        assertThat(during.failed()).isNotEmpty().allSatisfy(failed -> {
            assertThat(failed.fault()).isEqualTo(fault);
            assertThat(failed.error()).contains("hub.");
        });
        var next = MINUTE.plusSeconds(60);
        assertThat(traffic.carry(BUSY, next, next, next.plusSeconds(60), List.of(mended))
                        .delivered())
                .isPositive();
    }

    @Test
    void aSlowInterfaceDeliversAllOfItAndTakesLonger() {
        var slow = new Episode(BUSY.key(), Fault.SLOW, MINUTE, MINUTE.plusSeconds(60), 1);
        var during = traffic.carry(BUSY, MINUTE, MINUTE, MINUTE.plusSeconds(60), List.of(slow));
        var usual = traffic.carry(BUSY, MINUTE, MINUTE, MINUTE.plusSeconds(60), List.of());
        assertThat(during.failed()).isEmpty();
        assertThat(during.delivered()).isEqualTo(usual.delivered());
        assertThat(mean(during)).isGreaterThan(2 * mean(usual));
    }

    private static double mean(Traffic.Minute carried) {
        return carried.delays().stream()
                .mapToDouble(Double::doubleValue)
                .average()
                .orElseThrow();
    }

    @Test
    void theSamePastFollowsFromTheSameSeed() {
        var past = Duration.ofDays(21);
        assertThat(traffic.past(MINUTE, past)).hasSizeGreaterThan(15).isEqualTo(new Traffic(1).past(MINUTE, past));
        assertThat(new Traffic(2).past(MINUTE, past)).isNotEqualTo(traffic.past(MINUTE, past));
    }
}
