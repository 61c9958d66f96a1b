package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Watch;
import app.morvet.ground.base.Errands;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Guards are looked at in the background, but not over a past of which only a part is there. */
class DoubtRefreshTest extends MorvetTest {
    @Autowired
    GuardStore store;

    @Autowired
    Guards guards;

    @Autowired
    Replays replays;

    @Autowired
    Doubts doubts;

    @Autowired
    Errands errands;

    @Test
    void whileAPastComesInNothingIsReckonedAndAfterwardsAllIs() {
        var refresh = new DoubtRefresh(store, guards, replays, doubts, errands, Clock.systemUTC());
        var soon = Instant.now().plus(Duration.ofMinutes(1));
        refresh.rest();
        for (var id : List.of("all", "changed"))
            assertThat(refresh.run(id)).as("%s, put off", id).hasValueSatisfying(again -> assertThat(again)
                    .isBefore(soon));
        refresh.reckon();
        assertThat(store.notDoubted(1)).isEmpty();
        assertThat(refresh.run("all")).as("and from now on by itself").hasValueSatisfying(again -> assertThat(again)
                .isAfter(soon));
    }

    /** What is said of a guard is said of it as it is now: it goes with a change, and comes again when it is looked at. */
    @Test
    void aGuardThatIsChangedIsLookedAtAgain() throws Exception {
        var subject = subject();
        fail(subject, 1);
        guard(subject, Duration.ofMinutes(10));
        var made = guards.all().stream()
                .filter(one -> one.watch().equals(Watch.of("failed_messages").named(subject.key())))
                .findFirst()
                .orElseThrow();
        long id = made.id();
        var refresh = new DoubtRefresh(store, guards, replays, doubts, errands, Clock.systemUTC());
        eventually(() -> {
            var now = Instant.now();
            assertThat(replays.afresh(made.rule(), made.watch(), now.minus(Duration.ofHours(1)), now)
                            .measured())
                    .anySatisfy(
                            one -> assertThat(one.course().value(one.course().size() - 1))
                                    .isPositive());
        });
        allThatChanged(refresh);
        assertThat(store.doubts(List.of(id)).get(id))
                .containsExactly("Nothing that was ever seen comes near its limit: it was 0 to 1.");
        guards.change(made.switched(false), person("lead"));
        assertThat(store.doubts(List.of(id))).isEmpty();
        assertThat(store.notDoubted(1000)).extracting(StoredGuard::id).contains(id);
        allThatChanged(refresh);
        assertThat(store.doubts(List.of(id)))
                .as("off as it is, it can be switched on")
                .containsKey(id);
    }

    /** A part at a time, and at once again while there are more. */
    private static void allThatChanged(DoubtRefresh refresh) {
        for (int parts = 0; refresh.run("changed").isPresent(); parts++)
            assertThat(parts).isLessThan(100);
    }

    @Test
    void whereReckoningFailsItGoesOnByItselfLater() {
        var fails = new AtomicBoolean();
        InstantSource source = () -> {
            if (fails.get()) throw new IllegalStateException("no time");
            return Instant.now();
        };
        var refresh = new DoubtRefresh(store, guards, replays, doubts, errands, source.withZone(ZoneOffset.UTC));
        guard(subject(), Duration.ofMinutes(10));
        refresh.rest();
        fails.set(true);
        assertThatIllegalStateException().isThrownBy(refresh::reckon);
        fails.set(false);
        assertThat(refresh.run("all")).hasValueSatisfying(again -> assertThat(again)
                .isAfter(Instant.now().plus(Duration.ofMinutes(1))));
    }
}
