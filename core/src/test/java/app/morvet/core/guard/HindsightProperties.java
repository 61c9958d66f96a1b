package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;

/** A guard held against settled cases, against a look at every minute of each. */
class HindsightProperties {
    private static final Instant START = Instant.parse("2027-03-18T00:00:00Z");
    private static final int END = 600;

    record Span(int subject, int from, @Nullable Integer to, boolean real) {}

    @Provide
    Arbitrary<List<Span>> spans() {
        return Combinators.combine(
                        Arbitraries.integers().between(1, 2),
                        Arbitraries.integers().between(0, END - 1),
                        Arbitraries.integers().between(0, 90).injectNull(0.1),
                        Arbitraries.of(true, false))
                .as((subject, from, length, real) ->
                        new Span(subject, from, length == null ? null : Math.min(END, from + length), real))
                .list()
                .ofMaxSize(8);
    }

    @Property
    void eachTroubleIsCaughtOrMissedAndEachCallIsJudgedOnce(
            @ForAll("spans") List<Span> alerts, @ForAll("spans") List<Span> settled) {
        var calls = alerts.stream()
                .map(one -> new Hindsight.Call(one.subject(), at(one.from()), one.to() == null ? null : at(one.to())))
                .toList();
        var troubles = IntStream.range(0, settled.size())
                .mapToObj(i -> {
                    var one = settled.get(i);
                    return new Hindsight.Trouble(i, one.subject(), at(one.from()), at(end(one)), one.real());
                })
                .toList();
        var hindsight = Hindsight.of(calls, troubles, at(END));

        assertThat(hindsight.caught())
                .extracting(Hindsight.Trouble::id)
                .containsExactlyElementsOf(IntStream.range(0, settled.size())
                        .filter(i -> settled.get(i).real()
                                && alerts.stream().anyMatch(alert -> tells(alert, settled.get(i))))
                        .mapToObj(i -> (long) i)
                        .toList());
        assertThat(hindsight.caught().size() + hindsight.missed().size())
                .isEqualTo((int) settled.stream().filter(Span::real).count());
        assertThat(hindsight.unjudged()).isEqualTo((int) alerts.stream()
                .filter(alert -> settled.stream().noneMatch(one -> tells(alert, one)))
                .count());
        assertThat(hindsight.falseCalls()).isEqualTo((int) alerts.stream()
                .filter(alert -> settled.stream().anyMatch(one -> tells(alert, one)))
                .filter(alert -> settled.stream().noneMatch(one -> one.real() && tells(alert, one)))
                .count());
    }

    /** Up in a minute of the trouble, or in one of the hour before it. */
    private static boolean tells(Span alert, Span trouble) {
        return alert.subject() == trouble.subject()
                && IntStream.rangeClosed(trouble.from() - 60, end(trouble))
                        .anyMatch(minute -> alert.from() <= minute && minute <= end(alert));
    }

    private static int end(Span span) {
        return span.to() == null ? END : span.to();
    }

    private static Instant at(int minute) {
        return START.plusSeconds(60L * minute);
    }
}
