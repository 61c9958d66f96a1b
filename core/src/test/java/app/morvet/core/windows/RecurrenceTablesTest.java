package app.morvet.core.windows;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.batch.HolidayCalendar;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** When windows begin, over ten years in three zones, against another implementation of RFC 5545; {@code windows/rules.py} made the tables. */
class RecurrenceTablesTest {
    private static final Instant END = Instant.parse("2036-01-02T00:00:00Z");

    record Row(String rule, String words, LocalDateTime start, ZoneId zone, List<Instant> begins) {
        @Override
        public String toString() {
            return rule + " in " + zone;
        }
    }

    static Stream<Row> rows() {
        try (var file = RecurrenceTablesTest.class.getResourceAsStream("/windows/rules.csv")) {
            return new String(file.readAllBytes(), StandardCharsets.UTF_8)
                    .lines().map(RecurrenceTablesTest::row).toList().stream();
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    private static Row row(String line) {
        var part = line.split(";");
        var begins = new ArrayList<Instant>();
        long at = 0;
        for (var step : part[4].split(" ")) begins.add(Instant.ofEpochSecond(60 * (at += Long.parseLong(step))));
        return new Row(part[0].replace('|', ';'), part[1], LocalDateTime.parse(part[2]), ZoneId.of(part[3]), begins);
    }

    private static List<Instant> begins(Rhythm rhythm, Row row) {
        return Plan.again(rhythm, row.zone(), Duration.ofMinutes(1))
                .occurrences(row.begins().getFirst(), END)
                .stream()
                .map(one -> one.span().from())
                .filter(at -> LocalDateTime.ofInstant(at, row.zone()).getYear() < 2036)
                .toList();
    }

    @ParameterizedTest
    @MethodSource("rows")
    void aRuleBeginsWhenAnotherImplementationSays(Row row) {
        var last = row.begins().getLast();
        assertThat(begins(new Rhythm.ByRule(row.start(), row.rule()), row))
                .filteredOn(at -> !at.isAfter(last))
                .isEqualTo(row.begins());
    }

    @ParameterizedTest
    @MethodSource("rows")
    void soDoesWhatIsSaidInWords(Row row) {
        if (row.words().isEmpty()) return;
        var last = row.begins().getLast();
        assertThat(begins(RhythmText.read(row.words(), HolidayCalendar.NONE), row))
                .filteredOn(at -> !at.isAfter(last))
                .isEqualTo(row.begins());
    }
}
