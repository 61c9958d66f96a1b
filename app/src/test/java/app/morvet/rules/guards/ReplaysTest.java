package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The past of many series is read at once, and each is measured on its own. */
class ReplaysTest extends MorvetTest {
    private static final int SOME = 60;

    @Autowired
    private Replays replays;

    @Test
    void eachOfManyIsHeldAgainstItsOwnCeiling() throws Exception {
        setUpOnce();
        var name = "berth-" + UUID.randomUUID().toString().substring(0, 8);
        var now = Instant.now();
        var page = new StringBuilder();
        for (int i = 1; i <= SOME; i++)
            for (int minute = 1; minute <= 5; minute++)
                page.append(
                        """
                        cars_aboard{component="%1$s-%2$d",kind="host"} %2$d %3$d
                        cars_rated{component="%1$s-%2$d",kind="host"} %4$d %3$d
                        """
                                .formatted(
                                        name,
                                        i,
                                        now.minusSeconds(60L * minute).getEpochSecond(),
                                        i % 3 == 0 ? i : 4 * i));
        assertThat(tell(page.toString()).statusCode()).isEqualTo(202);

        var rule = new LimitGuard(
                new Window.Sliding(Duration.ofMinutes(5)),
                Amount.of(Amount.Fold.LAST).shareOf(new Amount.Ceiling.Measured("cars_rated")),
                Limits.above(50, 90),
                Terms.clearing(0.85, Duration.ZERO));
        var taken =
                replays.take(rule, Watch.of("cars_aboard").named(name + "-*"), now.minus(Duration.ofMinutes(10)), now);
        assertThat(taken.measured()).hasSize(SOME).allSatisfy(one -> {
            int i = Integer.parseInt(one.subject().component().key().substring(name.length() + 1));
            assertThat(one.heard().readings().values()).containsOnly(i).hasSize(5);
            assertThat(one.heard().ceiling().values()).containsOnly(i % 3 == 0 ? i : 4 * i);
            assertThat(one.course().valueAt(now)).isEqualTo(i % 3 == 0 ? 100 : 25);
        });
        assertThat(replays.run(rule, taken).alerts())
                .extracting(alert -> taken.measured().stream()
                        .filter(one -> one.subject().series().id() == alert.series())
                        .map(one -> one.subject().component().key())
                        .findFirst()
                        .orElseThrow())
                .containsExactlyInAnyOrderElementsOf(IntStream.rangeClosed(1, SOME)
                        .filter(i -> i % 3 == 0)
                        .mapToObj(i -> name + "-" + i)
                        .toList());
    }
}
