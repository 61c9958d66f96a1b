package app.morvet.core.tracks;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** Whatever is put into a picture of time is in it once, and nothing lies over anything else. */
class PictureOfTimeProperties {
    private static final Instant FROM = Instant.parse("2027-03-18T02:00:00Z");
    private static final Axis AXIS = new Axis(FROM, FROM.plusSeconds(7200));
    private static final Instant NOW = FROM.plusSeconds(6000);
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");

    private static Track.Span span(int from, int to, String mark, String words) {
        return new Track.Span(FROM.plusSeconds(from), to < 0 ? null : FROM.plusSeconds(to), mark, words, "");
    }

    private static PictureOfTime of(Track... tracks) {
        return PictureOfTime.of(AXIS, List.of(tracks), List.of(), NOW, ZONE);
    }

    @Provide
    Arbitrary<List<Track.Span>> spans() {
        return Combinators.combine(
                        Arbitraries.integers().between(-3000, 9000),
                        Arbitraries.integers().between(0, 2500),
                        Arbitraries.of("steady", "warning", "critical"))
                .as((from, length, mark) -> span(from, Math.max(from, 0) + length, mark, ""))
                .list()
                .ofMaxSize(40)
                .map(some -> {
                    var named = new ArrayList<Track.Span>();
                    for (var one : some)
                        named.add(new Track.Span(one.from(), one.to(), one.mark(), "n" + named.size(), ""));
                    return named;
                });
    }

    @Property(tries = 300)
    void blocksLieInsideOneAfterTheOtherAndEachSpanOnTheAxisIsInOne(@ForAll("spans") List<Track.Span> spans) {
        var shown = spans.stream()
                .filter(one -> one.from().isBefore(AXIS.to())
                        && one.to() != null
                        && one.to().isAfter(FROM))
                .count();
        var lanes = of(Track.relief("x", spans)).lanes();
        if (shown == 0) {
            assertThat(lanes).isEmpty();
            return;
        }
        var pieces = lanes.getFirst().pieces();
        assertThat(pieces.stream().mapToInt(PictureOfTime.Piece::count).sum()).isEqualTo((int) shown);
        double end = 0;
        for (var one : pieces) {
            assertThat(one.x()).isGreaterThanOrEqualTo(end - 1e-6);
            assertThat(one.width()).isGreaterThanOrEqualTo(PictureOfTime.NARROWEST - 1e-6);
            end = one.x() + one.width();
        }
        assertThat(end).isLessThanOrEqualTo(100 + 1e-6);
    }

    @Property(tries = 300)
    void ticksStandApartAndEachMomentIsInOne(@ForAll("spans") List<Track.Span> spans) {
        var shown = spans.stream().filter(one -> AXIS.holds(one.from())).count();
        var lanes = of(Track.marks("x", spans)).lanes();
        if (shown == 0) {
            assertThat(lanes).isEmpty();
            return;
        }
        var pieces = lanes.getFirst().pieces();
        assertThat(pieces.stream().mapToInt(PictureOfTime.Piece::count).sum()).isEqualTo((int) shown);
        for (int i = 1; i < pieces.size(); i++)
            assertThat(pieces.get(i).x() - pieces.get(i - 1).x()).isGreaterThanOrEqualTo(PictureOfTime.TOGETHER);
    }

    @Example
    void whatGoesOnGoesOnUntilNowAndNoFurther() {
        var picture = of(Track.relief("up", List.of(span(1200, -1, "critical", "stopped"))));
        var piece = picture.lanes().getFirst().pieces().getFirst();
        assertThat(piece.x() + piece.width()).isEqualTo(AXIS.x(NOW));
        assertThat(piece.to()).isNull();
        assertThat(picture.now()).isEqualTo(AXIS.x(NOW));
    }

    @Example
    void whatLiesTogetherIsAsBadAsTheWorstAndSaysAll() {
        var piece = of(Track.relief(
                        "up",
                        List.of(
                                span(600, 900, "warning", "slow"),
                                span(800, 1000, "critical", "gone"),
                                span(950, 1100, "notice", "gone"))))
                .lanes()
                .getFirst()
                .pieces();
        assertThat(piece).hasSize(1);
        assertThat(piece.getFirst().mark()).isEqualTo("critical");
        assertThat(piece.getFirst().words()).isEqualTo("slow; gone; gone");
        assertThat(piece.getFirst().to()).isEqualTo(FROM.plusSeconds(1100));
    }

    @Example
    void ofManyThatLieTogetherTheFirstAreSaid() {
        var many = new ArrayList<Track.Span>();
        for (int i = 0; i < 20; i++) many.add(span(600 + i, 600 + i, "act", "note " + i));
        var piece = of(Track.marks("acts", many)).lanes().getFirst().pieces().getFirst();
        assertThat(piece.count()).isEqualTo(20);
        assertThat(piece.words()).isEqualTo("note 0; note 1; note 2; note 3; note 4; note 5; and more");
    }

    @Example
    void columnsAreAsHighAsTheirAmountAndTheLeastIsStillSeen() {
        var from = FROM.plusSeconds(60);
        var columns = Track.columns(
                "failed",
                List.of(
                        new Track.Span(from, from.plusSeconds(60), "critical", "200 failed", "", 200),
                        new Track.Span(from.plusSeconds(60), from.plusSeconds(120), "critical", "100 failed", "", 100),
                        new Track.Span(from.plusSeconds(120), from.plusSeconds(180), "critical", "1 failed", "", 1),
                        new Track.Span(from.plusSeconds(180), from.plusSeconds(240), "critical", "none", "", 0)));
        assertThat(of(columns).lanes().getFirst().pieces())
                .extracting(PictureOfTime.Piece::height)
                .containsExactly(100.0, 50.0, 8.0);
    }

    @Example
    void aTrackWithNothingOnTheAxisIsLeftOutAndTheOthersKeepTheirOrder() {
        var picture = of(
                Track.relief("cause", List.of(span(10, 20, "critical", "a"))),
                Track.relief("later", List.of(span(7300, 7400, "critical", "b"))),
                Track.relief("explained", List.of(span(30, 90, "warning", "c"))).indented(1));
        assertThat(picture.lanes()).extracting(PictureOfTime.Lane::name).containsExactly("cause", "explained");
        assertThat(picture.lanes().getLast().indent()).isEqualTo(1);
    }
}
