package app.morvet.sources.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class RefusalsTest {
    private final Refusals refusals = new Refusals();
    private final AtomicInteger asked = new AtomicInteger();

    private void refuse(int count) {
        for (int i = 0; i < count; i++) {
            int place = i;
            refusals.add(place, "id " + place, "bad", () -> {
                asked.incrementAndGet();
                return "body " + place;
            });
        }
    }

    @Test
    void theFirstHundredAreToldAndHowManyMoreThereAre() {
        refuse(20_000);
        assertThat(refusals.rejected()).hasSize(101);
        assertThat(refusals.rejected().getLast().reason()).startsWith("… and 19,900 more");
        assertThat(refusals.rejected().getLast().index()).isEqualTo(100);
        assertThat(refusals.all().get(99).body()).isEqualTo("body 99");
        assertThat(asked).hasValue(100);
    }

    @Test
    void aHundredAreToldAsTheyAre() {
        refuse(100);
        assertThat(refusals.rejected()).hasSize(100);
        assertThat(refusals.rejected().getLast().reason()).isEqualTo("bad");
        assertThat(new Refusals().none()).isTrue();
    }

    @Test
    void whatIsKeptIsShortAndPlain() {
        refusals.add(0, "\ud800", "r".repeat(5000), () -> "\\u0000\0" + "x".repeat(50_000));
        var one = refusals.all().getFirst();
        assertThat(one.rejected().id()).isEqualTo("\uFFFD");
        assertThat(one.rejected().reason()).hasSize(1001);
        assertThat(one.body()).startsWith("\uFFFD\uFFFDx").hasSize(16_385);
    }
}
