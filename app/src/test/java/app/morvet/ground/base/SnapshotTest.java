package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Which transactions a read has seen. */
class SnapshotTest {
    @Test
    void whatHadEndedBeforeItIsSeenAndWhatWasRunningOrCameAfterIsNot() {
        var snapshot = Snapshot.parse("10:20:12,15");
        assertThat(snapshot.saw(9)).isTrue();
        assertThat(snapshot.saw(10)).isTrue();
        assertThat(snapshot.saw(12)).isFalse();
        assertThat(snapshot.saw(14)).isTrue();
        assertThat(snapshot.saw(15)).isFalse();
        assertThat(snapshot.saw(20)).isFalse();
        assertThat(snapshot.saw(21)).isFalse();
    }

    @Test
    void whereNothingIsRunningAllBeforeItIsSeen() {
        var snapshot = Snapshot.parse("20:20:");
        assertThat(snapshot.saw(19)).isTrue();
        assertThat(snapshot.saw(20)).isFalse();
    }
}
