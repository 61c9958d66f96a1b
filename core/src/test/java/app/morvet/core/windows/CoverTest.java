package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow.Effect;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which of several windows covers something, and which was the last to. */
class CoverTest {
    private static final Instant FROM = Instant.parse("2027-03-18T02:00:00Z");
    private static final Scope.Facts GATE =
            new Scope.Facts("quay-05", "Quay 5", "host", "gates", 1, "production", Set.of("quays"), "", null);

    private static Instant at(int minute) {
        return FROM.plus(Duration.ofMinutes(minute));
    }

    private static Cover.Known known(long id, Scope scope, int from, int to, Effect effect) {
        var plan = Plan.once(at(from), at(to), ZoneId.of("Europe/Helsinki"));
        return new Cover.Known(id, new MaintenanceWindow("Window " + id, scope, plan, effect, jobs(effect), ""));
    }

    private static MaintenanceWindow.Jobs jobs(Effect effect) {
        return effect == Effect.NONE ? MaintenanceWindow.Jobs.NOT_EXPECTED : MaintenanceWindow.Jobs.AS_EVER;
    }

    private static Cover cover(Cover.Known... known) {
        return Cover.within(List.of(known), at(-600), at(600));
    }

    private static String ended(Cover cover, int minute) {
        return cover.endedOver(GATE, at(minute), Duration.ofMinutes(30))
                .map(one -> "" + one.id())
                .orElse("none");
    }

    @Test
    void theStrongestCoversAndOfThoseTheOneThatEndsLast() {
        var holds = known(1, Scope.ALL.named("quay-05"), 0, 90, Effect.HOLD);
        var pauses = known(2, Scope.ALL.named("quay-*"), 0, 30, Effect.PAUSE);
        var longer = known(3, Scope.ALL.named("quay-*"), 0, 60, Effect.PAUSE);
        var nothing = known(4, Scope.ALL.named("quay-05"), 0, 120, Effect.NONE);
        var order = new ArrayList<>(List.of(holds, pauses, longer, nothing));
        for (int turn = 0; turn < order.size(); turn++) {
            order.add(order.removeFirst());
            var cover = Cover.within(order, at(-10), at(200));
            assertThat(cover.of(GATE, at(10)).orElseThrow().id()).isEqualTo(3);
            assertThat(cover.of(GATE, at(60)).orElseThrow().id())
                    .as("half-open")
                    .isEqualTo(1);
            assertThat(cover.of(GATE, at(90))).isEmpty();
            assertThat(cover.pauses(GATE, at(59))).isTrue();
            assertThat(cover.pauses(GATE, at(61))).isFalse();
            assertThat(cover.at(at(100))).extracting(Cover.On::id).containsExactly(4L);
        }
    }

    @ParameterizedTest
    @CsvSource({"59, none", "60, 1", "75, 1", "90, 1", "91, none"})
    void whatHasEndedOverSomethingIsKnownForAWhile(int minute, String which) {
        assertThat(ended(cover(known(1, Scope.ALL.named("quay-05"), 0, 60, Effect.HOLD)), minute))
                .isEqualTo(which);
    }

    @Test
    void theLastToEndIsTheOneAndOfTwoThatEndAtOnceTheLaterMade() {
        assertThat(ended(
                        cover(
                                known(1, Scope.ALL.named("quay-*"), 0, 60, Effect.HOLD),
                                known(2, Scope.ALL.ofApplication("gates"), 0, 50, Effect.PAUSE)),
                        70))
                .isEqualTo("1");
        assertThat(ended(
                        cover(
                                known(1, Scope.ALL.named("quay-*"), 0, 60, Effect.HOLD),
                                known(2, Scope.ALL.inGroup("quays"), 10, 60, Effect.HOLD)),
                        70))
                .isEqualTo("2");
    }

    /** That two things were in a window over all hosts says nothing of what they have to do with each other. */
    @Test
    void whatIsOverEachOfASortOrHeldNothingIsLeftOut() {
        for (var scope : List.of(
                Scope.ALL,
                Scope.ALL.ofKind("host"),
                new Scope("", "", 1, "", "", "", "", false),
                new Scope("", "", 0, "production", "", "", "", true),
                Scope.ALL.named("quay-06")))
            assertThat(ended(cover(known(1, scope, 0, 60, Effect.HOLD)), 70))
                    .as("%s", scope)
                    .isEqualTo("none");
        assertThat(ended(cover(known(1, Scope.ALL.named("quay-05"), 0, 60, Effect.NONE)), 70))
                .isEqualTo("none");
    }
}
