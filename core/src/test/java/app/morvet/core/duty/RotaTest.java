package app.morvet.core.duty;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.duty.Rota.Change;
import app.morvet.core.duty.Turns.Every;
import app.morvet.core.guard.Hours;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Who is on duty, by turns, with who is away and who covers. */
class RotaTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final LocalDate MONDAY = LocalDate.parse("2027-03-01");

    private static Turns turns(Every every, int count, String at, Long... people) {
        return new Turns(MONDAY, LocalTime.parse(at), every, count, List.of(people), null);
    }

    private static Instant at(String wall) {
        return LocalDateTime.parse(wall).atZone(ZONE).toInstant();
    }

    private static Rota rota(Turns turns, Change... changes) {
        return new Rota(ZONE, List.of(List.of(turns)), List.of(changes));
    }

    private static List<String> told(Rota rota, int line, String from, String to) {
        return rota.duties(line, at(from), at(to)).stream()
                .map(one -> "%s %s%s"
                        .formatted(
                                LocalDateTime.ofInstant(one.from(), ZONE),
                                one.person() != null ? one.person() : one.closed() ? "closed" : "nobody",
                                one.covers() ? " covers" : ""))
                .toList();
    }

    @ParameterizedTest
    @CsvSource({
        // Weeks from Monday 08:00.
        "WEEKS, 1, 08:00, 2027-03-01T07:59, ",
        "WEEKS, 1, 08:00, 2027-03-01T08:00, 1",
        "WEEKS, 1, 08:00, 2027-03-08T07:59, 1",
        "WEEKS, 1, 08:00, 2027-03-08T08:00, 2",
        "WEEKS, 1, 08:00, 2027-03-22T08:00, 1",
        "WEEKS, 2, 08:00, 2027-03-14T08:00, 1",
        "WEEKS, 2, 08:00, 2027-03-15T08:00, 2",
        "DAYS, 1, 08:00, 2027-03-02T07:59, 1",
        "DAYS, 1, 08:00, 2027-03-02T08:00, 2",
        "DAYS, 1, 08:00, 2027-03-04T12:00, 1",
        // Around the clock in three turns.
        "HOURS, 8, 06:00, 2027-03-01T13:59, 1",
        "HOURS, 8, 06:00, 2027-03-01T14:00, 2",
        "HOURS, 8, 06:00, 2027-03-01T22:00, 3",
        "HOURS, 8, 06:00, 2027-03-02T05:59, 3",
        "HOURS, 8, 06:00, 2027-03-02T06:00, 1",
    })
    void eachHasItsTurn(Every every, int count, String handedOver, String wall, @Nullable Long who) {
        assertThat(rota(turns(every, count, handedOver, 1L, 2L, 3L)).on(0, at(wall)))
                .isEqualTo(who);
    }

    /** The clock is put forward on 28 March at 03:00, back on 31 October at 04:00: turns go by the wall. */
    @Test
    void aTurnIsHandedOverByTheWallAcrossAChangeOfTheClock() {
        var nights = rota(turns(Every.HOURS, 12, "06:00", 1L, 2L));
        assertThat(nights.duties(0, at("2027-03-27T18:00"), at("2027-03-28T18:00")))
                .extracting(one -> Duration.between(one.from(), one.to()).toHours())
                .containsExactly(11L, 12L);
        assertThat(nights.duties(0, at("2027-10-30T18:00"), at("2027-10-31T18:00")))
                .extracting(one -> Duration.between(one.from(), one.to()).toHours())
                .containsExactly(13L, 12L);
        // Handed over at 03:30, an hour that is left out: at 04:30, and at 03:30 the first time where it is there
        // twice.
        var odd = rota(turns(Every.DAYS, 1, "03:30", 1L, 2L));
        assertThat(odd.duties(0, Instant.parse("2027-03-28T00:00:00Z"), Instant.parse("2027-03-28T03:00:00Z")))
                .extracting(Rota.Duty::from)
                .containsExactly(Instant.parse("2027-03-28T00:00:00Z"), Instant.parse("2027-03-28T01:30:00Z"));
        assertThat(odd.duties(0, Instant.parse("2027-10-31T00:00:00Z"), Instant.parse("2027-10-31T03:00:00Z")))
                .extracting(Rota.Duty::from)
                .containsExactly(Instant.parse("2027-10-31T00:00:00Z"), Instant.parse("2027-10-31T00:30:00Z"));
    }

    @Test
    void whoCoversIsOnDutyAndOfTwoTheOneSaidLast() {
        var rota = rota(
                turns(Every.DAYS, 1, "08:00", 1L, 2L),
                new Change.Covers(7, 0, at("2027-03-01T18:00"), at("2027-03-01T23:00")),
                new Change.Covers(8, 0, at("2027-03-01T20:00"), at("2027-03-01T21:00")));
        assertThat(told(rota, 0, "2027-03-01T08:00", "2027-03-02T09:00"))
                .containsExactly(
                        "2027-03-01T08:00 1",
                        "2027-03-01T18:00 7 covers",
                        "2027-03-01T20:00 8 covers",
                        "2027-03-01T21:00 7 covers",
                        "2027-03-01T23:00 1",
                        "2027-03-02T08:00 2");
    }

    @Test
    void whoIsAwayLeavesAGapUntilSomebodyCovers() {
        var away = new Change.Away(2, at("2027-03-02T00:00"), at("2027-03-03T00:00"));
        var rota = rota(turns(Every.DAYS, 1, "08:00", 1L, 2L), away);
        assertThat(told(rota, 0, "2027-03-02T00:00", "2027-03-03T08:00"))
                .containsExactly("2027-03-02T00:00 1", "2027-03-02T08:00 nobody", "2027-03-03T00:00 2");
        assertThat(rota.gaps(0, at("2027-03-01T08:00"), at("2027-03-05T00:00"))).hasSize(1);
        var covered = rota(
                turns(Every.DAYS, 1, "08:00", 1L, 2L),
                new Change.Covers(1, 0, at("2027-03-02T08:00"), at("2027-03-03T00:00")),
                away);
        assertThat(covered.gaps(0, at("2027-03-01T08:00"), at("2027-03-05T00:00")))
                .isEmpty();
    }

    /** Two swap: each covers the other's turn. */
    @Test
    void aSwapIsTwoWhoCover() {
        var rota = rota(
                turns(Every.WEEKS, 1, "08:00", 1L, 2L),
                new Change.Covers(2, 0, at("2027-03-01T08:00"), at("2027-03-08T08:00")),
                new Change.Covers(1, 0, at("2027-03-08T08:00"), at("2027-03-15T08:00")));
        assertThat(told(rota, 0, "2027-03-01T08:00", "2027-03-16T00:00"))
                .containsExactly("2027-03-01T08:00 2 covers", "2027-03-08T08:00 1 covers", "2027-03-15T08:00 1");
    }

    @Test
    void outsideItsHoursNobodyIs() {
        var hours = new Hours(
                Set.of(DayOfWeek.MONDAY, DayOfWeek.TUESDAY), LocalTime.parse("08:00"), LocalTime.parse("16:00"), ZONE);
        var rota = rota(new Turns(MONDAY, LocalTime.MIDNIGHT, Every.WEEKS, 1, List.of(1L), hours));
        assertThat(told(rota, 0, "2027-03-01T00:00", "2027-03-04T00:00"))
                .containsExactly(
                        "2027-03-01T00:00 closed",
                        "2027-03-01T08:00 1",
                        "2027-03-01T16:00 closed",
                        "2027-03-02T08:00 1",
                        "2027-03-02T16:00 closed");
        assertThat(rota.gaps(0, at("2027-03-01T00:00"), at("2027-03-04T00:00"))).isEmpty();
        assertThat(rota.gaps(0, at("2027-02-26T00:00"), at("2027-03-04T00:00")))
                .as("before its first turn")
                .hasSize(1);
    }

    @Test
    void fromADayOnTurnsAreTakenOtherwise() {
        var later =
                new Turns(LocalDate.parse("2027-03-03"), LocalTime.parse("10:00"), Every.DAYS, 1, List.of(5L), null);
        var rota = new Rota(ZONE, List.of(List.of(later, turns(Every.DAYS, 1, "08:00", 1L, 2L))), List.of());
        assertThat(told(rota, 0, "2027-03-02T09:00", "2027-03-05T00:00"))
                .containsExactly("2027-03-02T09:00 2", "2027-03-03T08:00 1", "2027-03-03T10:00 5");
    }

    @Test
    void linesGoEachTheirWay() {
        var rota = new Rota(
                ZONE,
                List.of(List.of(turns(Every.DAYS, 1, "08:00", 1L, 2L)), List.of(turns(Every.WEEKS, 1, "08:00", 9L))),
                List.of(new Change.Away(9, at("2027-03-02T00:00"), at("2027-03-02T12:00"))));
        assertThat(rota.on(0, at("2027-03-02T09:00"))).isEqualTo(2);
        assertThat(rota.on(1, at("2027-03-02T09:00"))).isNull();
        assertThat(rota.on(1, at("2027-03-02T12:00"))).isEqualTo(9);
        assertThat(rota.on(2, at("2027-03-02T12:00"))).isNull();
    }

    @ParameterizedTest
    @CsvSource({"HOURS, 5", "HOURS, 24", "DAYS, 0", "DAYS, 61", "WEEKS, 27"})
    void turnsThatCannotBeAreRefused(Every every, int count) {
        assertThatThrownBy(() -> turns(every, count, "08:00", 1L)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void nobodyTakesNoTurns() {
        assertThatThrownBy(() -> turns(Every.DAYS, 1, "08:00")).hasMessageContaining("1 to 50 people");
        assertThatThrownBy(() -> rota(
                        turns(Every.DAYS, 1, "08:00", 1L),
                        new Change.Away(1, at("2027-03-02T09:00"), at("2027-03-02T09:00"))))
                .hasMessageContaining("to a later one");
    }
}
