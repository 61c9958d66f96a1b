package app.morvet.core.duty;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.duty.Rota.Change;
import app.morvet.core.duty.Turns.Every;
import app.morvet.core.guard.Hours;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** Whatever the rota: its stretches fill the time, and say of each minute what is so at that minute. */
class RotaProperties {
    private static final LocalDate FIRST = LocalDate.parse("2027-03-22");
    private static final Instant FROM = Instant.parse("2027-03-26T00:00:00Z");
    private static final Instant TO = Instant.parse("2027-03-30T00:00:00Z");

    @Provide
    Arbitrary<Rota> rotas() {
        var zones = Arbitraries.of("Europe/Helsinki", "UTC", "America/St_Johns", "Australia/Lord_Howe")
                .map(ZoneId::of);
        var line = turns().list().ofMinSize(0).ofMaxSize(2);
        return Combinators.combine(
                        zones,
                        line.list().ofMinSize(1).ofMaxSize(2),
                        change().list().ofMaxSize(4))
                .as(Rota::new);
    }

    private static Arbitrary<Turns> turns() {
        var length = Arbitraries.of(
                new Length(Every.HOURS, 1),
                new Length(Every.HOURS, 8),
                new Length(Every.HOURS, 12),
                new Length(Every.DAYS, 1),
                new Length(Every.DAYS, 3),
                new Length(Every.WEEKS, 1));
        var hours = Arbitraries.integers()
                .between(0, 23)
                .map(hour -> new Hours(
                        EnumSet.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY, DayOfWeek.MONDAY),
                        LocalTime.of(hour, 0),
                        LocalTime.of((hour + 9) % 24, 30),
                        ZoneId.of("Europe/Helsinki")))
                .injectNull(0.6);
        return Combinators.combine(
                        Arbitraries.integers().between(0, 6),
                        Arbitraries.integers().between(0, 47),
                        length,
                        Arbitraries.longs().between(1, 4).list().ofMinSize(1).ofMaxSize(4),
                        hours)
                .as((day, half, one, people, open) -> new Turns(
                        FIRST.plusDays(day),
                        LocalTime.MIDNIGHT.plusMinutes(30L * half),
                        one.every(),
                        one.count(),
                        people,
                        open));
    }

    private record Length(Every every, int count) {}

    private static Arbitrary<Change> change() {
        return Combinators.combine(
                        Arbitraries.longs().between(1, 4),
                        Arbitraries.integers().between(-1, 1),
                        Arbitraries.integers().between(0, 96 * 2),
                        Arbitraries.integers().between(1, 40))
                .as((person, line, half, length) -> {
                    var from = FROM.plus(Duration.ofMinutes(30L * half));
                    var to = from.plus(Duration.ofMinutes(30L * length));
                    return line < 0 ? new Change.Away(person, from, to) : new Change.Covers(person, line, from, to);
                });
    }

    @Property(tries = 150)
    void stretchesFillTheTimeAndSayWhatIsSoAtEachMinute(@ForAll("rotas") Rota rota) {
        for (int line = 0; line < 2; line++) {
            var duties = new ArrayList<>(rota.duties(line, FROM, TO));
            assertThat(duties.getFirst().from()).isEqualTo(FROM);
            assertThat(duties.getLast().to()).isEqualTo(TO);
            for (int i = 1; i < duties.size(); i++) {
                assertThat(duties.get(i).from()).isEqualTo(duties.get(i - 1).to());
                assertThat(words(duties.get(i))).isNotEqualTo(words(duties.get(i - 1)));
            }
            int at = 0;
            for (var minute = FROM; minute.isBefore(TO); minute = minute.plusSeconds(600)) {
                while (!minute.isBefore(duties.get(at).to())) at++;
                assertThat(rota.on(line, minute))
                        .as("%s", minute)
                        .isEqualTo(duties.get(at).person());
            }
        }
    }

    private static String words(Rota.Duty one) {
        return one.person() + " " + one.covers() + " " + one.closed();
    }

    /** Turns of people who are never away follow one another in their order, whatever the clock does. */
    @Property(tries = 100)
    void turnsGoRoundInTheirOrder(@ForAll("rotas") Rota rota) {
        for (var line : rota.lines())
            for (var turns : line) {
                // A turn of the very hour that the clock leaves out is nobody's.
                if (turns.every() == Every.HOURS && turns.count() == 1) continue;
                var alone = new Rota(
                        rota.zone(),
                        List.of(List.of(new Turns(
                                turns.from(), turns.at(), turns.every(), turns.count(), List.of(1L, 2L, 3L), null))),
                        List.of());
                var people = alone.duties(0, FROM, TO.plus(Duration.ofDays(40))).stream()
                        .map(Rota.Duty::person)
                        .filter(java.util.Objects::nonNull)
                        .toList();
                for (int i = 1; i < people.size(); i++)
                    assertThat(people.get(i)).isEqualTo(people.get(i - 1) % 3 + 1);
            }
    }
}
