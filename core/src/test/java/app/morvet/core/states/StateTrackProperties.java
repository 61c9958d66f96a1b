package app.morvet.core.states;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** A strip has no gaps, and at each instant the word that was told last, while it is known. */
class StateTrackProperties {
    private static final Instant FROM = Instant.parse("2026-11-24T04:00:00Z");
    private static final Instant TO = FROM.plus(Duration.ofHours(10));

    @Provide
    Arbitrary<List<StateTrack.Change>> changes() {
        return Combinators.combine(
                        Arbitraries.integers().between(-200, 700), Arbitraries.of("running", "starting", "stopped"))
                .as((minute, word) -> new StateTrack.Change(FROM.plusSeconds(60L * minute), word))
                .list()
                .ofMaxSize(12)
                .map(some -> {
                    var sorted = new ArrayList<>(some);
                    sorted.sort(Comparator.comparing(StateTrack.Change::at));
                    return sorted;
                });
    }

    @Property(tries = 300)
    void eachInstantHasTheWordThatWasToldLast(
            @ForAll("changes") List<StateTrack.Change> changes, @ForAll @IntRange(max = 700) int known) {
        var knownTo = FROM.plusSeconds(60L * known);
        var track = StateTrack.of(changes, FROM, TO, knownTo);
        assertThat(track.getFirst().from()).isEqualTo(FROM);
        assertThat(track.getLast().to()).isEqualTo(TO);
        for (int i = 1; i < track.size(); i++) {
            assertThat(track.get(i).from()).isEqualTo(track.get(i - 1).to());
            assertThat(track.get(i).word()).isNotEqualTo(track.get(i - 1).word());
        }
        var last = changes.stream()
                .filter(one -> one.at().isBefore(TO))
                .map(StateTrack.Change::at)
                .reduce(FROM, (a, b) -> b);
        for (var at = FROM.plusSeconds(30); at.isBefore(TO); at = at.plusSeconds(60)) {
            var now = at;
            var told = changes.stream().filter(one -> !one.at().isAfter(now)).reduce((one, other) -> other);
            boolean stands = !now.isAfter(knownTo) || now.isBefore(last);
            var expected = stands ? told.map(StateTrack.Change::word).orElse(null) : null;
            var found = track.stream()
                    .filter(one -> !now.isBefore(one.from()) && now.isBefore(one.to()))
                    .findFirst()
                    .orElseThrow();
            assertThat(found.word()).as("at %s", now).isEqualTo(expected);
        }
    }

    @Property(tries = 200)
    void aStripLiesWithinItsWidthAndShowsTheShortestToo(@ForAll("changes") List<StateTrack.Change> changes) {
        var pieces = StateTrack.pieces(StateTrack.of(changes, FROM, TO, TO), 190);
        assertThat(pieces).allSatisfy(one -> {
            assertThat(one.width()).isGreaterThanOrEqualTo(1.5);
            assertThat(one.x()).isBetween(0.0, 188.5);
            assertThat(one.x() + one.width()).isLessThanOrEqualTo(190.001);
        });
    }

    @Example
    void itBeginsBeforeItEnds() {
        assertThatThrownBy(() -> StateTrack.of(List.of(), TO, FROM, TO)).hasMessageContaining("begins before it ends");
        assertThat(StateTrack.pieces(List.of(), 10)).isEmpty();
    }
}
