package app.morvet.rules.guards;

import static app.morvet.rules.guards.SomeWatches.over;
import static app.morvet.rules.guards.SomeWatches.watching;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.rules.guards.Watches.Watching;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What a round looks at: what has news at once, all else in turn. */
class TurnsTest {
    private static final Instant NOW = Instant.parse("2027-03-18T03:20:00Z");
    /** So many more on other nodes that each has its turn every four seconds. */
    private static final int FOUR_SECONDS = 12_000;

    private final Turns turns = new Turns();

    /** By series, the second until which nothing changes there. */
    private final Map<Long, Integer> still = new HashMap<>();

    /** @param news the series that have some */
    private List<Long> due(Watches watches, @Nullable Set<Long> news, int seconds) {
        var now = NOW.plusSeconds(seconds);
        var over = news == null
                ? null
                : watches.all().values().stream()
                        .filter(one -> news.contains(one.key().series()))
                        .toList();
        var due = List.copyOf(turns.due(watches, over, now));
        turns.looked(due, watches.parts().size(), now, one -> {
            var until = still.get(one.key().series());
            return until == null ? now : NOW.plusSeconds(until).plusMillis(1);
        });
        return due.stream().map(one -> one.key().series()).toList();
    }

    @Test
    void whatHasNewsIsLookedAtAtOnceAndAllElseInTurn() {
        var watches = SomeWatches.of(FOUR_SECONDS, over(1), over(2), over(3));
        assertThat(due(watches, null, 0)).as("all at first").containsExactly(1L, 2L, 3L);
        assertThat(due(watches, Set.of(), 1)).isEmpty();
        assertThat(due(watches, Set.of(2L), 2)).containsExactly(2L);
        assertThat(due(watches, Set.of(), 3)).isEmpty();
        assertThat(due(watches, Set.of(), 4)).containsExactly(1L, 3L);
        assertThat(due(watches, Set.of(3L), 6))
                .as("those with news, and the turn of the second")
                .containsExactlyInAnyOrder(3L, 2L);
        assertThat(due(watches, Set.of(), 8))
                .as("four seconds after its last turn")
                .containsExactly(1L);
        assertThat(due(watches, Set.of(), 11)).containsExactlyInAnyOrder(2L, 3L);
    }

    @Test
    void whoHasNothingToLookAtRestsUntilSomethingHasItsTurnButNeverLong() {
        assertThat(turns.pause(NOW)).as("a clock may be set meanwhile").hasSeconds(3);
        var watches = SomeWatches.of(FOUR_SECONDS, over(1), over(2));
        still.put(1L, 30);
        due(watches, null, 0);
        assertThat(turns.pause(NOW.plusSeconds(2)))
                .as("one has it in two seconds")
                .hasSeconds(2);
        assertThat(turns.pause(NOW.plusSeconds(9))).as("it had it before").hasSeconds(1);
        still.put(2L, 60);
        due(watches, Set.of(), 4);
        assertThat(turns.pause(NOW.plusSeconds(4)))
                .as("none has it within half a minute")
                .hasSeconds(3);
    }

    @Test
    void fewAreAllLookedAtInEachRound() {
        var watches = SomeWatches.of(0, over(1), over(2));
        due(watches, null, 0);
        assertThat(due(watches, Set.of(2L), 0)).containsExactlyInAnyOrder(1L, 2L);
    }

    @Test
    void whatHasNewsTwiceIsLookedAtOnce() {
        var one = over(1);
        var watches = SomeWatches.of(FOUR_SECONDS, one, over(2));
        due(watches, null, 0);
        assertThat(turns.due(watches, List.of(one, one), NOW.plusSeconds(1))).containsExactly(one);
    }

    /** A combination never has to wait for what one of its members will say of a time that has passed. */
    @Test
    void whatACombinationTiesIsLookedAtTogetherOnOneComponent() {
        Watching disk = watching(7, 1, 1, null);
        Watching heat = watching(8, 2, 1, null);
        Watching alone = watching(9, 3, 1, null);
        Watching elsewhere = watching(8, 4, 2, null);
        var watches = SomeWatches.of(FOUR_SECONDS, List.of(7L, 8L), disk, heat, alone, elsewhere);
        due(watches, null, 0);
        assertThat(due(watches, Set.of(1L), 1)).containsExactlyInAnyOrder(1L, 2L);
        assertThat(due(watches, Set.of(3L), 1)).containsExactly(3L);
        assertThat(due(watches, Set.of(4L), 1)).containsExactly(4L);
    }

    @Test
    void whatIsWatchedNoLongerIsNotLookedAt() {
        due(SomeWatches.of(FOUR_SECONDS, over(1), over(2)), null, 0);
        var fewer = SomeWatches.of(FOUR_SECONDS, over(2));
        assertThat(due(fewer, null, 1)).containsExactly(2L);
        assertThat(due(fewer, Set.of(1L), 2)).isEmpty();
        assertThat(due(fewer, Set.of(), 5)).containsExactly(2L);
    }

    /** A series that tells its readings in time is looked at when they come, and not between them. */
    @Test
    void whatNoTimeChangesHasNoTurnUntilThen() {
        var watches = SomeWatches.of(FOUR_SECONDS, over(1), over(2));
        still.put(1L, 60);
        due(watches, null, 0);
        for (int second = 1; second <= 60; second++)
            assertThat(due(watches, Set.of(), second)).as("at %d", second).doesNotContain(1L);
        assertThat(due(watches, Set.of(), 61)).as("just after").contains(1L);
        for (int second = 62; second <= 64; second++)
            assertThat(due(watches, Set.of(), second)).as("at %d", second).doesNotContain(1L);
        assertThat(due(watches, Set.of(), 65))
                .as("silent now, in turn with all else")
                .contains(1L);
    }

    @Test
    void newsPutATurnOffAndBringItForward() {
        var watches = SomeWatches.of(FOUR_SECONDS, over(1));
        still.put(1L, 60);
        due(watches, null, 0);
        still.put(1L, 70);
        assertThat(due(watches, Set.of(1L), 10)).containsExactly(1L);
        assertThat(due(watches, Set.of(), 61)).as("put off").isEmpty();
        assertThat(due(watches, Set.of(), 71)).containsExactly(1L);
        still.put(1L, 200);
        assertThat(due(watches, Set.of(1L), 72)).containsExactly(1L);
        still.clear();
        assertThat(due(watches, Set.of(1L), 73)).containsExactly(1L);
        assertThat(due(watches, Set.of(), 77)).as("brought forward").containsExactly(1L);
        still.put(1L, 300);
        assertThat(due(watches, Set.of(1L), 80)).containsExactly(1L);
        for (int second = 81; second <= 300; second++)
            assertThat(due(watches, Set.of(), second)).as("at %d", second).isEmpty();
        assertThat(due(watches, Set.of(), 301)).containsExactly(1L);
    }
}
