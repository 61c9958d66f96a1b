package app.morvet.sources.readings;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Morvet measures itself, and what it measures is there as of any component. */
class OwnFiguresTest extends MorvetTest {
    @Autowired
    OwnFigures own;

    @Autowired
    SeriesBook series;

    @Autowired
    ReadingHistory history;

    private double newest(String measure, String of) {
        long component = estate.byKey(OwnFigures.COMPONENT).orElseThrow().id();
        var one = series.ofComponent(component).stream()
                .filter(it -> it.measure().name().equals(measure))
                .filter(it -> of.isEmpty() || it.labels().equals(Map.of("of", of)))
                .findFirst()
                .orElseThrow();
        return history.newest(one.id(), Instant.now().minusSeconds(120))
                .orElseThrow()
                .value();
    }

    @Test
    void whatItMeasuresOfItselfIsAReading() throws Exception {
        setUpOnce();
        estate.addFeed("own-silent", "Never heard", java.time.Duration.ofSeconds(1));
        own.round();
        assertThat(newest("morvet_database_size", "")).isGreaterThan(1_000_000);
        assertThat(newest("morvet_rounds_behind", "")).isBetween(0.0, 60.0);
        assertThat(newest("morvet_errands_waiting", "")).isNotNegative();
        assertThat(newest("morvet_feeds_silent", "")).isNotNegative();
        assertThat(newest("morvet_deliveries_given_up", "handoffs")).isNotNegative();
        assertThat(newest("morvet_deliveries_given_up", "call-outs")).isNotNegative();
        assertThat(loggedIn("lead").page("/guards/ready-made").text()).contains("Morvet is behind", "Feeds are silent");
    }
}
