package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What need not be saved again, since a restart would go on from what was saved alike. */
class GuardStateTest {
    private static final Instant AT = Instant.parse("2026-03-18T02:00:00Z");

    private static GuardState raised(double value, @Nullable Instant calmSince) {
        return new GuardState(AT, true, Severity.WARNING, AT, calmSince, null, value, 9, false, List.of(AT));
    }

    @Test
    void laterWithNothingNewSaysTheSame() {
        assertThat(raised(5, null).evaluatedTo(AT.plusSeconds(60)).saysTheSameAs(raised(5, null)))
                .isTrue();
        assertThat(GuardState.startingAt(AT).calmAt(AT, 3).saysTheSameAs(GuardState.startingAt(AT)))
                .as("now it is known")
                .isFalse();
        assertThat(GuardState.startingAt(AT)
                        .calmAt(AT, 3)
                        .saysTheSameAs(GuardState.startingAt(AT).calmAt(AT, 4)))
                .as("nothing is raised, so nobody is shown the value")
                .isTrue();
    }

    @Test
    void anotherValueOfWhatIsRaisedOrAnotherCalmDoesNot() {
        assertThat(raised(6, null).saysTheSameAs(raised(5, null))).isFalse();
        assertThat(raised(5, AT).saysTheSameAs(raised(5, null))).isFalse();
        assertThat(raised(Double.NaN, null).saysTheSameAs(raised(Double.NaN, null)))
                .as("no value stays no value")
                .isTrue();
        assertThat(raised(5, null).saysTheSameAs(GuardState.startingAt(AT).calmAt(AT, 5)))
                .isFalse();
    }
}
