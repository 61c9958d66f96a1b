package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.windows.Telling.Said;
import app.morvet.core.windows.Telling.Told;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** Whatever is done to a window, and whenever somebody looks: what was told adds up. */
class TellingProperties {
    private static final Instant NOON = Instant.parse("2027-03-18T12:00:00Z");

    /** One thing that is done, or just a look, some minutes later. */
    private record Act(int minutes, int what, int value) {}

    @Provide
    Arbitrary<List<Act>> stories() {
        return Combinators.combine(
                        Arbitraries.integers().between(1, 40),
                        Arbitraries.integers().between(0, 5),
                        Arbitraries.integers().between(1, 90))
                .as(Act::new)
                .list()
                .ofMinSize(3)
                .ofMaxSize(25);
    }

    /** Looked at, moved, lengthened, ended, deleted and made anew: each follows from what was told before. */
    @Property(tries = 400)
    void whatIsToldFollowsFromWhatWasToldBefore(@ForAll("stories") List<Act> story) {
        var now = NOON;
        Plan plan = once(NOON.plus(Duration.ofMinutes(90)), 60);
        Map<LocalDateTime, Told> last = new LinkedHashMap<>();
        var heard = new ArrayList<Said>();
        for (var act : story) {
            now = now.plus(Duration.ofMinutes(act.minutes()));
            var from = plan == null ? now : plan.first();
            plan = switch (act.what()) {
                case 0 -> once(now.plus(Duration.ofMinutes(act.value())), 60);
                case 1 -> plan == null ? null : once(from, act.value());
                case 2 -> null;
                case 3 -> plan == null ? once(now.plus(Duration.ofMinutes(act.value())), 30) : plan;
                default -> plan;
            };
            for (var one : Telling.due(plan, Duration.ofMinutes(45), List.copyOf(last.values()), now)) {
                follows(last.get(one.meant()), one);
                if (one.said().last()) last.remove(one.meant());
                else last.put(one.meant(), one);
                heard.add(one.said());
            }
            // Looked at once more, there is nothing more to say.
            assertThat(Telling.due(plan, Duration.ofMinutes(45), List.copyOf(last.values()), now))
                    .isEmpty();
            assertThat(last).hasSizeLessThanOrEqualTo(1);
        }
        // Where the window is gone in the end, nobody goes on waiting for it.
        for (var one : Telling.due(null, Duration.ZERO, List.copyOf(last.values()), now)) {
            follows(last.get(one.meant()), one);
            last.remove(one.meant());
        }
        assertThat(last).isEmpty();
        long begun = heard.stream().filter(one -> one == Said.BEGINS).count();
        long ended = heard.stream().filter(one -> one == Said.ENDS).count();
        assertThat(begun).isBetween(0L, ended + 1);
    }

    private static void follows(Told before, Told now) {
        switch (now.said()) {
            case COMES -> assertThat(before).isNull();
            case MOVED -> {
                assertThat(before.said()).isIn(Said.COMES, Said.MOVED);
                assertThat(before.span()).isNotEqualTo(now.span());
            }
            case OFF -> assertThat(before.said()).isIn(Said.COMES, Said.MOVED);
            case BEGINS -> {
                if (before != null) assertThat(before.said()).isIn(Said.COMES, Said.MOVED);
            }
            case LASTS -> {
                assertThat(before.said()).isIn(Said.BEGINS, Said.LASTS);
                assertThat(before.span().to()).isNotEqualTo(now.span().to());
            }
            case ENDS -> assertThat(before).isNotNull();
        }
    }

    private static Plan once(Instant from, int minutes) {
        return Plan.once(from, from.plus(Duration.ofMinutes(minutes)), ZoneOffset.UTC);
    }
}
