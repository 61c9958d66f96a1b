package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.estate.Scope;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which series a guard stands over. */
class WatchTest {
    private static final Watch.Facts QUAY = new Watch.Facts(
            "disk_used",
            new Scope.Facts("quay-03", "Quay host 3", "host", "freight-manifests", 1, "production", Set.of(), "", null),
            Map.of("volume", "/data"));

    private static final Watch.Facts STRAY = new Watch.Facts(
            "disk_used", new Scope.Facts("stray", "stray", "host", "", 0, "", Set.of(), "", null), Map.of());

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    freight-manifests, host, 1, production, quay-*,      volume, /data, true
                    '',                '',   0, '',         '',          '',     '',    true
                    crew-rostering,    '',   0, '',         '',          '',     '',    false
                    '',                queue, 0, '',        '',          '',     '',    false
                    '',                '',   2, '',         '',          '',     '',    false
                    '',                '',   0, test,       '',          '',     '',    false
                    '',                '',   0, '',         quay-03,     '',     '',    true
                    '',                '',   0, '',         QUAY-03,     '',     '',    true
                    '',                '',   0, '',         Quay host *, '',     '',    true
                    '',                '',   0, '',         quay-0,      '',     '',    false
                    '',                '',   0, '',         *-03,        '',     '',    true
                    '',                '',   0, '',         '',          volume, '',    true
                    '',                '',   0, '',         '',          volume, /d*,   true
                    '',                '',   0, '',         '',          volume, /var,  false
                    '',                '',   0, '',         '',          device, '',    false
                    """)
    void allThatIsSaidMustFit(
            String application,
            String kind,
            int tier,
            String environment,
            String name,
            String label,
            String value,
            boolean fits) {
        var watch = new Watch(
                "disk_used", new Scope(application, kind, tier, environment, name, "", "", false), label, value);
        assertThat(watch.matches(QUAY)).isEqualTo(fits);
    }

    @Test
    void ofAnotherMeasureNothingFits() {
        assertThat(Watch.of("memory_used").matches(QUAY)).isFalse();
        assertThat(Watch.of("memory_used").matchesComponent(QUAY)).isTrue();
    }

    @Test
    void whatIsNotAssignedFitsWhereNothingIsAskedOfItsApplication() {
        assertThat(Watch.of("disk_used").matches(STRAY)).isTrue();
        assertThat(new Watch("disk_used", new Scope("", "", 1, "", "", "", "", false), "", "").matches(STRAY))
                .isFalse();
        assertThat(new Watch("disk_used", new Scope("", "", 0, "production", "", "", "", false), "", "").matches(STRAY))
                .isFalse();
    }

    @Test
    void itSaysInWordsWhatItStandsOver() {
        assertThat(Watch.of("disk_used").words(it -> it)).isEqualTo("each component of the estate");
        assertThat(Watch.of("disk_used")
                        .over(Scope.ALL.ofKind("host").ofApplication("freight-manifests"))
                        .words(it -> "Freight Manifests"))
                .isEqualTo("each host of Freight Manifests");
        assertThat(Watch.of("disk_used").named("quay-03").words(it -> "Quay host 3"))
                .isEqualTo("Quay host 3");
        assertThat(new Watch(
                                "disk_used",
                                new Scope("", "host", 1, "production", "quay-*", "", "", false),
                                "volume",
                                "/data")
                        .words(it -> it))
                .isEqualTo("each tier 1 host in production named quay-* with volume /data");
    }

    @Test
    void aTierThatThereIsNotAndAValueOfNoLabelAreRefused() {
        assertThatThrownBy(() -> new Scope("", "", 5, "", "", "", "", false))
                .hasMessage("a tier is 1, 2, 3 or 4, was 5");
        assertThatThrownBy(() -> new Watch("m", Scope.ALL, "", "/data"))
                .hasMessage("name the label whose value must be \"/data\"");
    }
}
