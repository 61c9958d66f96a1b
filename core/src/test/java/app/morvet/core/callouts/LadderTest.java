package app.morvet.core.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.callouts.Ladder.Next;
import app.morvet.core.callouts.Ladder.Told;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Who is told next of a critical case. */
class LadderTest {
    private static final Instant NIGHT = Instant.parse("2027-03-18T01:00:00Z");
    private static final Duration PATIENCE = Duration.ofMinutes(15);
    private static final List<String> RUNGS = List.of("otso", "linnea", "team");

    private static Instant at(int minute) {
        return NIGHT.plus(Duration.ofMinutes(minute));
    }

    private static Told told(String who, int minute) {
        return new Told(who, at(minute), false);
    }

    private static Told cannot(String who, int minute) {
        return new Told(who, at(minute), true);
    }

    private static Next next(List<Told> told, int now) {
        return Ladder.next(RUNGS, told, PATIENCE, at(now)).orElseThrow();
    }

    @Test
    void theFirstIsToldAtOnceAndEachNextAfterTheTimeOfTheOneBefore() {
        assertThat(next(List.of(), 0)).isEqualTo(new Next("otso", at(0)));
        assertThat(next(List.of(told("otso", 0)), 3)).isEqualTo(new Next("linnea", at(15)));
        assertThat(next(List.of(told("otso", 0), told("linnea", 15)), 16)).isEqualTo(new Next("team", at(30)));
        assertThat(Ladder.next(RUNGS, List.of(told("otso", 0), told("linnea", 15), told("team", 30)), PATIENCE, at(31)))
                .isEmpty();
    }

    @Test
    void whoCannotIsNotWaitedFor() {
        assertThat(next(List.of(cannot("otso", 0)), 4)).isEqualTo(new Next("linnea", at(4)));
        // It is the one who was told last who is waited for.
        assertThat(next(List.of(cannot("otso", 0), told("linnea", 4)), 5)).isEqualTo(new Next("team", at(19)));
    }

    /** The rota was handed over meanwhile: whoever is on duty now is told, and nobody again. */
    @Test
    void whoIsOnDutyMeanwhileIsToldAndNobodyTwice() {
        assertThat(Ladder.next(List.of("reija", "otso", "team"), List.of(told("otso", 0)), PATIENCE, at(20)))
                .contains(new Next("reija", at(15)));
    }

    @Test
    void thatNobodyTakesItIsPlainOnceTheLastHasHadTheirTime() {
        var all = List.of(told("otso", 0), told("linnea", 15), told("team", 30));
        assertThat(Ladder.nobodySince(RUNGS, List.of(), PATIENCE, at(0))).isEmpty();
        assertThat(Ladder.nobodySince(RUNGS, all.subList(0, 2), PATIENCE, at(90)))
                .isEmpty();
        assertThat(Ladder.nobodySince(RUNGS, all, PATIENCE, at(31))).contains(at(45));
        assertThat(Ladder.nobodySince(
                        RUNGS, List.of(told("otso", 0), told("linnea", 15), cannot("team", 30)), PATIENCE, at(31)))
                .contains(at(31));
        assertThat(Ladder.nobodySince(List.of(), List.of(), PATIENCE, at(2))).contains(at(2));
    }

    /** Whenever it is looked at, and whoever says that they cannot: each is told once, in order, and none is passed over. */
    @Property(tries = 300)
    void eachIsToldOnceInOrder(
            @ForAll @Size(min = 1, max = 6) List<@IntRange(min = 1, max = 40) Integer> looks,
            @ForAll @IntRange(max = 63) int whoCannot) {
        var told = new ArrayList<Told>();
        var now = NIGHT;
        for (int round = 0; round < 12; round++) {
            now = now.plus(Duration.ofMinutes(looks.get(round % looks.size())));
            var next = Ladder.next(RUNGS, told, PATIENCE, now);
            if (next.isEmpty() || next.get().at().isAfter(now)) continue;
            boolean cannot = (whoCannot >> told.size() & 1) == 1;
            if (!told.isEmpty() && !told.getLast().cannot())
                assertThat(Duration.between(told.getLast().at(), now)).isGreaterThanOrEqualTo(PATIENCE);
            told.add(new Told(next.get().who(), now, cannot));
        }
        assertThat(told).extracting(Told::who).isEqualTo(RUNGS.subList(0, told.size()));
        assertThat(new HashSet<>(told.stream().map(Told::who).toList())).hasSameSizeAs(told);
    }
}
