package app.morvet.core.actions;

import static app.morvet.core.actions.OrderState.ASKED;
import static app.morvet.core.actions.OrderState.DONE;
import static app.morvet.core.actions.OrderState.FAILED;
import static app.morvet.core.actions.OrderState.FETCHED;
import static app.morvet.core.actions.OrderState.LAPSED;
import static app.morvet.core.actions.OrderState.UNKNOWN;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** An order is begun at most once and ends once; and what a guard may have done by itself. */
class OrderStateTest {
    private static final Instant ASKED_AT = Instant.parse("2027-03-18T02:38:00Z");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    ASKED   | FETCHED DONE FAILED REFUSED LAPSED UNKNOWN
                    FETCHED | DONE FAILED REFUSED UNKNOWN
                    DONE    |
                    FAILED  |
                    REFUSED |
                    LAPSED  | DONE FAILED
                    UNKNOWN | DONE FAILED
                    """)
    void whatMayFollowOnWhat(OrderState state, String next) {
        var may = next == null ? "" : next;
        for (var one : OrderState.values()) {
            assertThat(state.mayBecome(one)).as(one.name()).isEqualTo(may.contains(one.name()));
            assertThat(one.before().contains(state)).isEqualTo(state.mayBecome(one));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "ASKED,     119,      , ",
        "ASKED,     121,      , LAPSED",
        "FETCHED,   3600,  2700, ",
        "FETCHED,   3600,  2699, UNKNOWN",
        "DONE,      99999,    , ",
        "UNKNOWN,   99999,    , ",
    })
    void whatIsWaitedForNoMore(OrderState state, int now, Integer fetched, OrderState becomes) {
        var at = fetched == null ? null : ASKED_AT.plusSeconds(fetched);
        assertThat(state.overdue(ASKED_AT, at, ASKED_AT.plusSeconds(now)).orElse(null))
                .isEqualTo(becomes);
    }

    @Test
    void soLongItMayBeFetched() {
        assertThat(OrderState.left(ASKED_AT, ASKED_AT.plusSeconds(30))).isEqualTo(Duration.ofSeconds(90));
        assertThat(OrderState.left(ASKED_AT, ASKED_AT.plusSeconds(130))).isNegative();
        assertThat(java.util.List.of(ASKED, FETCHED, DONE, FAILED, LAPSED, UNKNOWN))
                .allMatch(one -> !one.words().isBlank());
    }

    private static GuardAction action(String name, int most, Duration within) {
        return new GuardAction(1, name, Map.of(), most, within, 2);
    }

    @Test
    void oneActionIsMeantForWhateverAnAlertIsAbout() {
        assertThat(GuardAction.general("restart ledger-post", "ledger-post")).isEqualTo("restart *");
        assertThat(GuardAction.general("clear the queue", "ledger-post")).isEqualTo("clear the queue");
        assertThat(GuardAction.general("clear the queue", "")).isEqualTo("clear the queue");
        var general = action("restart *", 2, Duration.ofHours(1));
        assertThat(general.means("restart ledger-post", "ledger-post")).isTrue();
        assertThat(general.means("restart ledger-post", "fare-engine")).isFalse();
        assertThat(action("restart ledger-post", 2, Duration.ofHours(1)).means("restart ledger-post", "fare-engine"))
                .isTrue();
        assertThat(general.words()).isEqualTo("restart * by itself, 2 times in 1 h at most");
    }

    @Test
    void whatCannotBeSet() {
        assertThatThrownBy(() -> action(" ", 1, Duration.ofHours(1))).hasMessageContaining("1 to 100 characters");
        assertThatThrownBy(() -> action("x", 0, Duration.ofHours(1))).hasMessageContaining("1 to 100 times");
        assertThatThrownBy(() -> action("x", 1, Duration.ofSeconds(59))).hasMessageContaining("1 min to 7 days");
        assertThatThrownBy(() -> action("x", 1, Duration.ofDays(8))).hasMessageContaining("1 min to 7 days");
    }
}
