package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.base.Errands;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
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
}
