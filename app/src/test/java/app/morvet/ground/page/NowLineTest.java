package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.ground.base.MorvetSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** The line under the head of every page is made once for all that are drawn in one second, and anew when what it tells changes. */
class NowLineTest extends MorvetTest {
    @Autowired
    private Live live;

    @Autowired
    private TransactionTemplate transaction;

    @Autowired
    private MorvetSettings settings;

    private final AtomicInteger stored = new AtomicInteger(1);
    private final AtomicInteger readings = new AtomicInteger();
    private final AtomicReference<Instant> now = new AtomicReference<>(Instant.parse("2027-03-18T01:20:00Z"));
    private NowLine line;

    private final class Counting implements NowSource {
        @Override
        public List<NowItem> now() {
            readings.incrementAndGet();
            return List.of(new NowItem("notice", stored + " of a test", "/of-a-test"));
        }

        @Override
        public List<String> topics() {
            return List.of("of-this-line");
        }
    }

    @BeforeEach
    void aLine() {
        var clock = new Clock() {
            @Override
            public ZoneId getZone() {
                return settings.zone();
            }

            @Override
            public Clock withZone(ZoneId zone) {
                return this;
            }

            @Override
            public Instant instant() {
                return now.get();
            }
        };
        line = new NowLine(List.of(new Counting()), new Times(clock, settings), live);
    }

    private String said() {
        return line.line().items().getFirst().words();
    }

    @Test
    void pagesOfOneSecondHaveOneLine() {
        for (int page = 0; page < 5; page++) assertThat(said()).isEqualTo("1 of a test");
        assertThat(readings).hasValue(1);
        now.updateAndGet(it -> it.plus(Duration.ofSeconds(1)));
        stored.set(2);
        assertThat(said()).isEqualTo("2 of a test");
        // Wherever the clock goes.
        now.updateAndGet(it -> it.minus(Duration.ofHours(1)));
        stored.set(3);
        assertThat(said()).isEqualTo("3 of a test");
    }

    @Test
    void whatItTellsOfIsReadAnewAtOnceWhenItChanges() {
        said();
        stored.set(2);
        live.changed("of-another-line");
        assertThat(said()).as("of no interest here").isEqualTo("1 of a test");
        for (var topic : List.of("of-this-line", "now", Live.ALL)) {
            int changed = stored.incrementAndGet();
            live.changed(topic);
            assertThat(said()).as(topic).isEqualTo(changed + " of a test");
        }
    }

    /** What a transaction has changed it sees itself; others see it when it is stored, and never what is taken back. */
    @Test
    void whatIsNotStoredYetIsShownToNobodyElse() throws Exception {
        said();
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> {
                    stored.set(7);
                    live.changed("of-this-line");
                    assertThat(said()).isEqualTo("7 of a test");
                    assertThat(elsewhere(this::said)).isEqualTo("1 of a test");
                    stored.set(1);
                    throw new IllegalStateException("taken back");
                }))
                .hasMessage("taken back");
        assertThat(said()).isEqualTo("1 of a test");
    }

    private static String elsewhere(Supplier<String> asked) {
        var answer = new AtomicReference<String>();
        try {
            Thread.ofVirtual().start(() -> answer.set(asked.get())).join();
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
        return answer.get();
    }
}
