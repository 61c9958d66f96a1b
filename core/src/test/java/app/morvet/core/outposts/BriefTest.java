package app.morvet.core.outposts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Who asks nearest wins, and each line says who asks. */
class BriefTest {
    private static Ask ask(Ask.Whence whence, String name, String what, int seconds) {
        return new Ask(whence, name, what, "", Duration.ofSeconds(Math.abs(seconds)), seconds > 0);
    }

    private static String shown(Brief brief) {
        return brief.lines().stream()
                .map(line -> line.ask().what() + " "
                        + (line.ask().active() ? line.ask().every().toSeconds() : "not") + " by "
                        + line.ask().words() + " over " + line.over().size())
                .reduce((a, b) -> a + "; " + b)
                .orElse("");
    }

    /** A number of seconds for each who asks; negative where it is not to be measured, 0 where nobody asks there. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    30 |  0 |  0 |  0 | disks 30 by all outposts over 0
                    30 | 60 |  0 |  0 | disks 60 by the group Quays over 1
                    30 | 60 | 20 |  0 | disks 20 by the group Gates over 2
                    30 | 60 |  0 | 10 | disks 10 by this outpost over 2
                    30 |  0 |  0 | -5 | disks not by this outpost over 1
                    30 | -9 | 60 |  0 | disks 60 by the group Gates over 2
                     0 |  0 |  0 |  0 | ''
                    """)
    void theNearestWins(int all, int quays, int gates, int one, String brief) {
        var asks = new ArrayList<Ask>();
        if (all != 0) asks.add(ask(Ask.Whence.ALL, "", "disks", all));
        if (quays != 0) asks.add(ask(Ask.Whence.GROUP, "Quays", "disks", quays));
        if (gates != 0) asks.add(ask(Ask.Whence.GROUP, "Gates", "disks", gates));
        if (one != 0) asks.add(ask(Ask.Whence.ONE, "", "disks", one));
        assertThat(shown(Brief.of(asks))).isEqualTo(brief);
    }

    @Test
    void theOrderInWhichItIsAskedDoesNotMatter() {
        var asks = new ArrayList<>(List.of(
                ask(Ask.Whence.ALL, "", "disks", 30),
                ask(Ask.Whence.GROUP, "Quays", "disks", 60),
                ask(Ask.Whence.GROUP, "Gates", "disks", 60),
                ask(Ask.Whence.ALL, "", "load", 10),
                ask(Ask.Whence.ONE, "", "load", -10),
                ask(Ask.Whence.ONE, "", "memory", 15)));
        var brief = Brief.of(asks);
        assertThat(brief.active()).extracting(Ask::what).containsExactly("disks", "memory");
        var random = new Random(7);
        for (int i = 0; i < 50; i++) {
            Collections.shuffle(asks, random);
            assertThat(Brief.of(asks)).isEqualTo(brief);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "processor",
                "page http://127.0.0.1:9100/metrics",
                "bean 127.0.0.1:9010 java.lang:type=Threading ThreadCount",
                "counter \\Processor(_Total)\\% Processor Time"
            })
    void whatCanBeMeasured(String what) {
        assertThat(ask(Ask.Whence.ALL, "", what, 30).what()).isEqualTo(what);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "disk",
                "page file:///etc/passwd",
                "bean 127.0.0.1:9010",
                "counter Processor",
                "page http://a b"
            })
    void whatCannot(String what) {
        assertThatThrownBy(() -> ask(Ask.Whence.ALL, "", what, 30))
                .hasMessageContaining("cannot be measured; write processor");
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 4, 86_401})
    void howOften(int seconds) {
        assertThatThrownBy(() -> ask(Ask.Whence.ALL, "", "disks", seconds))
                .hasMessageContaining("every 5 s to every day");
    }
}
