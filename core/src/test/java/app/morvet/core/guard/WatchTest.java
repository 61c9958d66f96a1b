package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import java.util.regex.Pattern;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which series a guard stands over. */
class WatchTest {
    private static final Watch.Facts QUAY = new Watch.Facts(
            "disk_used",
            "quay-03",
            "Quay host 3",
            "host",
            "freight-manifests",
            1,
            "production",
            Map.of("volume", "/data"));

    private static final Watch.Facts STRAY =
            new Watch.Facts("disk_used", "stray", "stray", "host", "", 0, "", Map.of());

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
        var watch = new Watch("disk_used", application, kind, tier, environment, name, label, value);
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
        assertThat(new Watch("disk_used", "", "", 1, "", "", "", "").matches(STRAY))
                .isFalse();
        assertThat(new Watch("disk_used", "", "", 0, "production", "", "", "").matches(STRAY))
                .isFalse();
    }

    @Test
    void signsOfPatternsOfOtherSortsMeanThemselves() {
        assertThat(Watch.fits("a.c", "abc")).isFalse();
        assertThat(Watch.fits("a.c*", "a.cd")).isTrue();
        assertThat(Watch.fits("[a]*", "[a]")).isTrue();
        assertThat(Watch.fits("\\Qa\\E*", "a")).isFalse();
        assertThat(Watch.fits("*", "")).isTrue();
        assertThat(Watch.fits("line*", "line\nbreak")).isTrue();
    }

    /** A star is any text: whatever is put for it fits. */
    @Property
    void whateverIsPutForAStarFits(
            @ForAll @StringLength(max = 5) @CharRange(from = 'a', to = 'c') String head,
            @ForAll @StringLength(max = 5) String middle,
            @ForAll @StringLength(max = 5) @CharRange(from = 'a', to = 'c') String tail) {
        assertThat(Watch.fits(head + "*" + tail, head + middle + tail)).isTrue();
        assertThat(Watch.fits(head + "*" + tail, "x" + head + middle + tail)).isEqualTo(head.isEmpty());
    }

    /** The oracle is what regular expressions say of the same. */
    @Property(tries = 5000)
    void anyPatternFitsAsTheRegularExpressionOfItDoes(
            @ForAll @StringLength(min = 1, max = 7) @Chars({'a', 'B', '*'}) String pattern,
            @ForAll @StringLength(max = 9) @Chars({'a', 'b', 'A'}) String text) {
        var expression = Pattern.compile(pattern.replace("*", ".*"), Pattern.CASE_INSENSITIVE);
        assertThat(Watch.fits(pattern, text)).isEqualTo(expression.matcher(text).matches());
    }

    @Test
    void itSaysInWordsWhatItStandsOver() {
        assertThat(Watch.of("disk_used").words(it -> it)).isEqualTo("each component of the estate");
        assertThat(new Watch("disk_used", "freight-manifests", "host", 0, "", "", "", "")
                        .words(it -> "Freight Manifests"))
                .isEqualTo("each host of Freight Manifests");
        assertThat(Watch.of("disk_used").named("quay-03").words(it -> "Quay host 3"))
                .isEqualTo("Quay host 3");
        assertThat(new Watch("disk_used", "", "host", 1, "production", "quay-*", "volume", "/data").words(it -> it))
                .isEqualTo("each tier 1 host in production named quay-* with volume /data");
    }

    @Test
    void aTierThatThereIsNotAndAValueOfNoLabelAreRefused() {
        assertThatThrownBy(() -> new Watch("m", "", "", 5, "", "", "", "")).hasMessage("a tier is 1, 2, 3 or 4, was 5");
        assertThatThrownBy(() -> new Watch("m", "", "", 0, "", "", "", "/data"))
                .hasMessage("name the label whose value must be \"/data\"");
    }
}
