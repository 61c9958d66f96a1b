package app.morvet.core.vendors;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.states.StateTrack;
import app.morvet.core.windows.Plan;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

/** For how much of a month something served, planned work left out. */
class AvailabilityTest {
    private static final Instant START = Instant.parse("2027-03-01T00:00:00Z");

    private static Instant at(int minute) {
        return START.plus(Duration.ofMinutes(minute));
    }

    private static Availability of(List<StateTrack.Stretch> stretches, List<Plan.Span> planned, int from, int to) {
        return Availability.of(stretches, "serves"::equals, planned, at(from), at(to));
    }

    @Test
    void whatIsPlannedAndWhatIsNotKnownDoesNotCount() {
        var stretches = List.of(
                new StateTrack.Stretch("serves", at(0), at(600)),
                new StateTrack.Stretch("down", at(600), at(700)),
                new StateTrack.Stretch(null, at(700), at(800)),
                new StateTrack.Stretch("serves", at(800), at(1000)));
        var whole = of(stretches, List.of(), 0, 1000);
        assertThat(whole.known()).isEqualTo(Duration.ofMinutes(900));
        assertThat(whole.down()).isEqualTo(Duration.ofMinutes(100));
        assertThat(whole.share()).isEqualTo(1 - 100 / 900.0);
        var planned = of(stretches, List.of(new Plan.Span(at(580), at(650)), new Plan.Span(at(640), at(660))), 0, 1000);
        assertThat(planned.known()).isEqualTo(Duration.ofMinutes(820));
        assertThat(planned.down()).isEqualTo(Duration.ofMinutes(40));
        assertThat(of(stretches, List.of(), 700, 800).share()).isNaN();
    }

    /** Against counting the minutes. */
    @Property(tries = 200)
    void itIsWhatCountingTheMinutesGives(@ForAll long seed) {
        var random = new Random(seed);
        var words = new String[400];
        var stretches = new ArrayList<StateTrack.Stretch>();
        for (int minute = 0; minute < words.length; ) {
            int length = Math.min(1 + random.nextInt(60), words.length - minute);
            var word = List.of("serves", "down", "").get(random.nextInt(3));
            for (int i = 0; i < length; i++) words[minute + i] = word;
            stretches.add(new StateTrack.Stretch(word.isEmpty() ? null : word, at(minute), at(minute + length)));
            minute += length;
        }
        var out = new boolean[words.length];
        var planned = new ArrayList<Plan.Span>();
        for (int i = 0; i < random.nextInt(6); i++) {
            int from = random.nextInt(words.length - 1);
            int to = Math.min(words.length, from + 1 + random.nextInt(80));
            planned.add(new Plan.Span(at(from), at(to)));
            for (int minute = from; minute < to; minute++) out[minute] = true;
        }
        int begin = random.nextInt(200);
        int end = begin + 1 + random.nextInt(200);
        int known = 0;
        int down = 0;
        for (int minute = begin; minute < Math.min(end, words.length); minute++) {
            if (out[minute] || words[minute].isEmpty()) continue;
            known++;
            if (words[minute].equals("down")) down++;
        }
        var found = of(stretches, planned, begin, end);
        assertThat(found.known()).isEqualTo(Duration.ofMinutes(known));
        assertThat(found.down()).isEqualTo(Duration.ofMinutes(down));
    }
}
