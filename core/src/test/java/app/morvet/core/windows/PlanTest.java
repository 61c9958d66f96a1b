package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.batch.HolidayCalendar;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When windows are, over changes of the clock, and with single times that are otherwise. */
class PlanTest {
    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    private static Plan again(String rhythm, int minutes) {
        return Plan.again(RhythmText.read(rhythm, HolidayCalendar.NONE), HELSINKI, Duration.ofMinutes(minutes));
    }

    private static Instant at(String text) {
        return Instant.parse(text + ":00Z");
    }

    private static List<String> spans(Plan plan, String from, String to) {
        return plan.occurrences(at(from), at(to)).stream()
                .map(one -> one.span().from() + "/" + one.span().to())
                .toList();
    }

    @ParameterizedTest
    @CsvSource({
        // On 29 March 2026 Helsinki goes from 03:00 to 04:00, at 01:00 UTC.
        "02:30, 20, 2026-03-29T00:30:00Z, 2026-03-29T00:50:00Z",
        "02:30, 120, 2026-03-29T00:30:00Z, 2026-03-29T02:30:00Z",
        "03:00, 20, 2026-03-29T01:00:00Z, 2026-03-29T01:20:00Z",
        "03:30, 20, 2026-03-29T01:30:00Z, 2026-03-29T01:50:00Z",
        "04:00, 20, 2026-03-29T01:00:00Z, 2026-03-29T01:20:00Z",
        // On 25 October it goes from 04:00 to 03:00, at 01:00 UTC.
        "02:30, 60, 2026-10-24T23:30:00Z, 2026-10-25T00:30:00Z",
        "03:30, 20, 2026-10-25T00:30:00Z, 2026-10-25T00:50:00Z",
        "03:30, 60, 2026-10-25T00:30:00Z, 2026-10-25T01:30:00Z",
        "04:00, 20, 2026-10-25T02:00:00Z, 2026-10-25T02:20:00Z"
    })
    void aTimeThatDoesNotComeIsLaterAndOneThatComesTwiceIsMeantTheFirstTime(
            String time, int minutes, String from, String to) {
        var night = Instant.parse(from).atZone(HELSINKI).toLocalDate();
        assertThat(again("every day at " + time, minutes)
                        .occurrences(
                                night.atStartOfDay(HELSINKI).toInstant(),
                                night.plusDays(1).atStartOfDay(HELSINKI).toInstant()))
                .extracting(Plan.Occurrence::span)
                .containsExactly(new Plan.Span(Instant.parse(from), Instant.parse(to)));
    }

    @Test
    void whatRecursInEveryHourGoesOnThroughTheDoubledOne() {
        assertThat(spans(again("cron 50 * * * *", 5), "2026-10-25T00:00", "2026-10-25T02:00"))
                .containsExactly(
                        "2026-10-25T00:50:00Z/2026-10-25T00:55:00Z", "2026-10-25T01:50:00Z/2026-10-25T01:55:00Z");
    }

    @Test
    void oneThatReachesIntoASpanIsOfItAndOneThatTouchesItIsNot() {
        var plan = again("every day at 22:00", 120);
        assertThat(spans(plan, "2026-06-01T20:59", "2026-06-01T21:30")).hasSize(1);
        assertThat(spans(plan, "2026-06-01T21:00", "2026-06-02T19:00")).isEmpty();
        assertThat(spans(plan, "2026-06-01T21:00", "2026-06-01T21:00")).isEmpty();
        assertThat(spans(
                        Plan.once(at("2026-06-01T10:00"), at("2026-06-01T11:00"), HELSINKI),
                        "2026-06-01T10:59",
                        "2026-06-01T12:00"))
                .containsExactly("2026-06-01T10:00:00Z/2026-06-01T11:00:00Z");
    }

    @Test
    void singleTimesAreLeftOutMovedAndEndedAndTheSeriesEnds() {
        var plan = again("every day at 22:00", 60)
                .until(LocalDate.of(2026, 6, 5))
                .without(LocalDateTime.parse("2026-06-02T22:00"))
                .with(
                        LocalDateTime.parse("2026-06-03T22:00"),
                        new Plan.Span(at("2026-06-04T06:00"), at("2026-06-04T06:30")))
                .with(
                        LocalDateTime.parse("2026-06-05T22:00"),
                        new Plan.Span(at("2026-06-05T19:00"), at("2026-06-05T19:10")));
        assertThat(spans(plan, "2026-06-01T00:00", "2026-07-01T00:00"))
                .containsExactly(
                        "2026-06-01T19:00:00Z/2026-06-01T20:00:00Z",
                        "2026-06-04T06:00:00Z/2026-06-04T06:30:00Z",
                        "2026-06-04T19:00:00Z/2026-06-04T20:00:00Z",
                        "2026-06-05T19:00:00Z/2026-06-05T19:10:00Z");
        assertThat(plan.isOver(at("2026-06-05T19:09"))).isFalse();
        assertThat(plan.isOver(at("2026-06-05T19:10"))).isTrue();
        // What was moved and is then left out is left out.
        assertThat(plan.without(LocalDateTime.parse("2026-06-03T22:00")).altered())
                .hasSize(1);
    }

    @Test
    void theNextBeginWithTheOneThatIsOn() {
        var plan = again("on the second Tuesday of the month at 22:40", 50);
        assertThat(plan.next(at("2027-03-09T20:45"), 3))
                .extracting(one -> one.span().from())
                .containsExactly(at("2027-03-09T20:40"), at("2027-04-13T19:40"), at("2027-05-11T19:40"));
        assertThat(Plan.once(at("2099-05-01T10:00"), at("2099-05-01T11:00"), HELSINKI)
                        .isOver(at("2027-03-09T20:45")))
                .isFalse();
        assertThat(again("on day 29 of the month in February at 01:00", 10).next(at("2096-03-01T00:00"), 1))
                .extracting(one -> one.meant().toLocalDate())
                .containsExactly(LocalDate.of(2104, 2, 29));
    }

    /** Cutting a span anywhere gives what it gives whole: what reaches over the cut is in both parts. */
    @Property(tries = 200)
    void aSpanThatIsCutHasTheSameTimes(
            @ForAll @IntRange(max = 400 * 24 * 60) int cutMinutes,
            @ForAll @IntRange(min = 1, max = 3 * 24 * 60) int length,
            @ForAll @IntRange(max = 3) int which) {
        var plan = again(
                List.of(
                                "every day at 03:30",
                                "cron 15 3 * * *",
                                "every 3 weeks on Sunday from 2026-01-04 at 03:10",
                                "rule FREQ=MONTHLY;BYDAY=-1SU from 2026-01-25T03:30")
                        .get(which),
                length);
        var from = at("2026-01-01T00:00");
        var to = from.plus(Duration.ofDays(400));
        var cut = from.plus(Duration.ofMinutes(cutMinutes));
        assertThat(Stream.concat(plan.occurrences(from, cut).stream(), plan.occurrences(cut, to).stream())
                        .distinct())
                .containsExactlyElementsOf(plan.occurrences(from, to));
    }

    @Test
    void whatCannotBeIsRefused() {
        var from = at("2026-06-01T10:00");
        assertThatThrownBy(() -> Plan.once(from, from, HELSINKI)).hasMessageContaining("end after it has begun");
        assertThatThrownBy(() -> Plan.once(from, from.plus(Duration.ofDays(15)), HELSINKI))
                .hasMessage("a window is at most 14 days long");
        assertThatThrownBy(
                        () -> Plan.once(from, from.plusSeconds(600), HELSINKI).until(LocalDate.MAX))
                .hasMessageContaining("only what recurs");
    }

    @Test
    void whatIsEndedEndsThenAndInItsFirstMinuteLastsThatMinute() {
        var span = new Plan.Span(at("2026-06-04T06:00"), at("2026-06-04T06:30"));
        assertThat(span.endedAt(at("2026-06-04T06:12")).to()).isEqualTo(at("2026-06-04T06:12"));
        assertThat(span.endedAt(at("2026-06-04T07:12")).to()).isEqualTo(at("2026-06-04T07:12"));
        assertThat(span.endedAt(at("2026-06-04T06:00")).to()).isEqualTo(at("2026-06-04T06:01"));
        assertThat(span.endedAt(at("2026-06-04T05:00")).from()).isEqualTo(span.from());
    }
}
