package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Watch;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

/** What was found to fit is remembered, and never beyond what is so. */
class MatchedTest {
    private static final Instant MADE_AT = Instant.parse("2027-03-18T03:20:00Z");
    private static final List<Watch> WATCHES = List.of(
            Watch.of("heat"),
            Watch.of("heat").named("quay-*"),
            Watch.of("load").named("quay-*"),
            Watch.of("load").ofKind("disk"),
            Watch.of("load").over(Scope.ALL.inGroup("pier")),
            Watch.of("load").over(Scope.ALL.named("quay-1").withAllOnIt()));

    private final List<Subject> all = new ArrayList<>();
    private final Matched matched = new Matched(new Matching(null, null) {
        @Override
        List<Subject> all(String measure) {
            return all.stream()
                    .filter(one -> one.series().measure().name().equals(measure))
                    .toList();
        }
    });

    private static Subject subject(
            long id, String measure, String name, String kind, Set<String> groups, String below) {
        var series = new Series(id, id, new Measure(1, measure, Sort.GAUGE, "", ""), Map.of(), null, false, null);
        var component = new Estate.Component(id, name, name, kind, null, null, MADE_AT);
        var standsOn = below.isEmpty() ? null : new Scope.Facts(below, below, "host", "", 0, "", Set.of(), "", null);
        return new Subject(series, component, null, new Scope.Facts(name, name, kind, "", 0, "", groups, "", standsOn));
    }

    private static Subject any(Random random) {
        return subject(
                random.nextInt(8),
                random.nextBoolean() ? "heat" : "load",
                (random.nextBoolean() ? "quay-" : "yard-") + random.nextInt(3),
                random.nextBoolean() ? "host" : "disk",
                random.nextBoolean() ? Set.of("pier") : Set.of(),
                random.nextBoolean() ? "quay-1" : "");
    }

    @RepeatedTest(20)
    void whateverChangesItIsWhatAFreshLookFinds(RepetitionInfo repetition) {
        var random = new Random(repetition.getCurrentRepetition());
        for (int look = 0; look < 50; look++) {
            switch (random.nextInt(4)) {
                case 0 -> all.add(any(random));
                case 1 -> all.replaceAll(one -> random.nextInt(4) == 0 ? any(random) : one);
                case 2 -> all.removeIf(one -> random.nextInt(6) == 0);
                default -> {}
            }
            var now = matched.now();
            for (var watch : WATCHES) {
                if (random.nextInt(4) == 0) continue;
                var fresh = Matching.of(watch, all);
                assertThat(now.apply(watch)).as("%s, look %d", watch, look).isEqualTo(fresh);
            }
        }
    }

    @Test
    void onlyWhatMayHaveChangedIsComparedAgain() {
        all.add(subject(1, "heat", "quay-1", "host", Set.of(), ""));
        all.add(subject(2, "load", "quay-1", "host", Set.of(), ""));
        var heat = Watch.of("heat").named("quay-*");
        var load = Watch.of("load").named("quay-*");
        var first = matched.now();
        var hot = first.apply(heat);
        var loaded = first.apply(load);
        all.add(subject(3, "load", "quay-2", "host", Set.of(), ""));
        var second = matched.now();
        assertThat(second.apply(heat)).as("nothing of its measure is new").isSameAs(hot);
        assertThat(second.apply(load)).hasSize(2).isNotSameAs(loaded);
    }

    @Test
    void whatNoGuardAskedForAtTheLastLookIsForgotten() {
        all.add(subject(1, "heat", "quay-1", "host", Set.of(), ""));
        var hot = matched.now().apply(Watch.of("heat"));
        matched.now().apply(Watch.of("heat").named("yard-*"));
        assertThat(matched.now().apply(Watch.of("heat"))).isEqualTo(hot).isNotSameAs(hot);
    }
}
