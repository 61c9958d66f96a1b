package app.morvet.core.batch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** The picture of a night, whatever jobs it has: nothing is lost, nothing leaves the picture, nothing lies on another row. */
class PlanLayoutProperties {
    private static final Instant FROM = Instant.parse("2027-03-17T16:00:00Z");
    private static final Instant TO = FROM.plus(Duration.ofHours(14));
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final double WIDTH = 760;

    @Provide
    Arbitrary<List<PlanLayout.Line>> nights() {
        var piece = Combinators.combine(
                        Arbitraries.of(PlanLayout.Kind.values()),
                        Arbitraries.integers().between(-300, 1140),
                        Arbitraries.integers().between(0, 400),
                        Arbitraries.of(Outcome.values()))
                .as((kind, from, length, outcome) ->
                        new PlanLayout.Piece(kind, at(from), at(from + length), outcome, "", () -> kind.name()));
        var flag = Arbitraries.integers()
                .between(-100, 940)
                .map(minute -> new PlanLayout.Flag(at(minute), minute % 2 == 0, "deadline"));
        return Combinators.combine(
                        Arbitraries.of("", "", "settlement", "archive"),
                        piece.list().ofMaxSize(5),
                        flag.list().ofMaxSize(2),
                        Arbitraries.of(true, true, false))
                .as((chain, pieces, flags, quiet) -> new PlanLayout.Line("", "", chain, pieces, flags, quiet))
                .list()
                .ofMaxSize(60)
                .map(lines -> IntStream.range(0, lines.size())
                        .mapToObj(i -> new PlanLayout.Line(
                                "job-" + i,
                                "Job " + i,
                                lines.get(i).chain(),
                                lines.get(i).pieces(),
                                lines.get(i).flags(),
                                lines.get(i).quiet()))
                        .toList());
    }

    private static Instant at(int minute) {
        return FROM.plusSeconds(60L * minute);
    }

    private static PlanLayout.Picture picture(List<PlanLayout.Line> lines, boolean whole) {
        return PlanLayout.of(lines, FROM, TO, at(300), ZONE, "Jobs that stand alone", WIDTH, whole);
    }

    @Property(tries = 300)
    void nothingLeavesThePicture(@ForAll("nights") List<PlanLayout.Line> lines, @ForAll boolean whole) {
        var picture = picture(lines, whole);
        for (var bar : picture.bars()) {
            assertThat(bar.x()).isBetween(0.0, WIDTH);
            assertThat(bar.x() + bar.width()).as(bar.toString()).isBetween(0.0, WIDTH + 1e-9);
            assertThat(bar.width()).isNotNegative();
            assertThat(bar.height()).isPositive();
            assertThat(bar.y() + bar.height()).isLessThanOrEqualTo(picture.height());
        }
        for (var pole : picture.poles()) assertThat(pole.x()).isBetween(0.0, WIDTH);
        for (var tick : picture.ticks()) assertThat(tick.x()).isBetween(0.0, WIDTH);
        assertThat(picture.now()).isEqualTo(WIDTH * 300 / (14 * 60));
    }

    @Property(tries = 300)
    void everyJobIsInItsLaneOrFoldedIntoIt(@ForAll("nights") List<PlanLayout.Line> lines, @ForAll boolean whole) {
        var picture = picture(lines, whole);
        assertThat(picture.lanes().stream().mapToInt(PlanLayout.Lane::jobs).sum())
                .isEqualTo(lines.size());
        long shown = picture.rows().stream().filter(row -> !row.key().isEmpty()).count();
        int folded = picture.lanes().stream().mapToInt(PlanLayout.Lane::folded).sum();
        assertThat(shown + folded).isEqualTo(lines.size());
        if (whole || lines.size() <= 34) assertThat(folded).isZero();
        // Whatever needs eyes is never folded away.
        var keys = picture.rows().stream().map(PlanLayout.Row::key).toList();
        assertThat(keys)
                .containsAll(lines.stream()
                        .filter(line -> !line.quiet())
                        .map(PlanLayout.Line::key)
                        .toList());
    }

    @Property(tries = 300)
    void rowsFollowOneAnotherAndLanesHoldTheirRows(@ForAll("nights") List<PlanLayout.Line> lines) {
        var picture = picture(lines, false);
        double before = -1;
        for (var row : picture.rows()) {
            assertThat(row.y()).isGreaterThan(before);
            before = row.y();
            assertThat(picture.lanes())
                    .anyMatch(lane -> lane.y() < row.y() && row.y() + 19 <= lane.y() + lane.height());
        }
        for (int i = 1; i < picture.lanes().size(); i++)
            assertThat(picture.lanes().get(i).y())
                    .isGreaterThan(picture.lanes().get(i - 1).y()
                            + picture.lanes().get(i - 1).height());
        for (var bar : picture.bars())
            assertThat(picture.rows())
                    .anyMatch(row -> row.key().equals(bar.key())
                            && row.y() <= bar.y()
                            && bar.y() + bar.height() <= row.y() + 19);
    }

    @Property(tries = 300)
    void whatIsInViewOfAJobThatIsShownHasItsBar(@ForAll("nights") List<PlanLayout.Line> lines) {
        var picture = picture(lines, true);
        for (var line : lines) {
            long inView = line.pieces().stream()
                    .filter(piece -> piece.from().isBefore(TO) && !piece.to().isBefore(FROM))
                    .count();
            assertThat(picture.bars().stream()
                            .filter(bar -> bar.key().equals(line.key()))
                            .count())
                    .isEqualTo(inView);
        }
    }

    @Example
    void aSpanThatIsNoneIsRefused() {
        assertThatThrownBy(() -> PlanLayout.of(List.of(), TO, FROM, FROM, ZONE, "", WIDTH, true))
                .hasMessage("a plan begins before it ends");
        assertThat(PlanLayout.of(List.of(), FROM, TO, TO.plusSeconds(1), ZONE, "", WIDTH, true)
                        .now())
                .isNull();
    }

    /** On the night on which the clock is put forward the hour that is not there has no line, and no other goes missing. */
    @Example
    void theHoursOfANightOfAClockChangeAreTheTrueOnes() {
        var from = Instant.parse("2027-03-27T20:00:00Z");
        var picture = PlanLayout.of(List.of(), from, from.plus(Duration.ofHours(12)), from, ZONE, "", WIDTH, true);
        assertThat(picture.ticks().stream().map(PlanLayout.Tick::label))
                .containsExactly(
                        "22:00", "23:00", "00:00", "01:00", "02:00", "04:00", "05:00", "06:00", "07:00", "08:00",
                        "09:00", "10:00");
        assertThat(picture.ticks().stream().filter(PlanLayout.Tick::day).map(PlanLayout.Tick::label))
                .containsExactly("00:00");
    }
}
