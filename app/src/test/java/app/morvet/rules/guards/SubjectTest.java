package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.estate.Scope;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.readings.Series;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SubjectTest {
    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '`',
            nullValues = "none",
            value = {"none, Fares API", "/data, Fares API /data", "Fares are open, Fares API \"Fares are open\""})
    void aLabelOfSeveralWordsIsSeenToBeOne(String label, String name) {
        var labels = label == null ? Map.<String, String>of() : Map.of("check", label);
        var series = new Series(1, 1, new Measure(1, "check", Sort.GAUGE, "", ""), labels, null, false, null);
        var component = new Estate.Component(1, "fares-api", "Fares API", "endpoint", null, null, Instant.EPOCH);
        var about = new Scope.Facts("fares-api", "Fares API", "endpoint", "", 0, "", Set.of(), "", null);
        assertThat(new Subject(series, component, null, about).name()).isEqualTo(name);
    }
}
