package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.time.Duration;
import java.util.LinkedHashSet;
import org.junit.jupiter.api.Test;

/** A whole outpost beside something that speaks as Morvet does, with a clock that is set. */
class OutpostTest extends BesideMorvet {
    @Test
    void aBriefIsFetchedAndInForceAndWhatCannotBeDoneIsSaid() throws Exception {
        brief =
                "{\"version\":\"b\",\"measures\":[{\"what\":\"memory\",\"everySeconds\":30},{\"what\":\"page http://%s/metrics\",\"everySeconds\":30},{\"what\":\"bean 127.0.0.1:1 a:type=b C\",\"everySeconds\":30}],\"checks\":[%s,%s,%s,%s]}"
                        .formatted(
                                address(),
                                check(1, 1, "command", "\"command\":\"hello\",\"expected\":\"text \\\"hello\\\"\""),
                                check(
                                        2,
                                        1,
                                        "port",
                                        "\"host\":\"127.0.0.1\",\"port\":\""
                                                + morvet.getAddress().getPort() + "\""),
                                check(3, 1, "port", "\"host\":\"192.0.2.1\",\"port\":\"22\""),
                                check(4, 1, "of tomorrow", ""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 3
                && taken.stream().anyMatch(one -> one.has("page"))
                && taken.stream().anyMatch(one -> one.has("readings")));
        assertThat(results()).containsExactlyInAnyOrder("1.1 passed", "2.1 passed", "3.1 no answer");
        assertThat(taken.toString()).contains("memory_used", "gate_depth 17", "does not let checks reach 192.0.2.1:22");
        outpost.word();
        var last = words.getLast();
        assertThat(last.path("brief").asString()).isEqualTo("b");
        assertThat(last.path("faults").toString())
                .contains(
                        "the check c4: \\\"of tomorrow\\\" is no kind of check",
                        "bean 127.0.0.1:1 a:type=b C: the file of the outpost");
        assertThat(last.path("may").path("actions").toString()).contains("admins only");
        assertThat(last.path("offers").toString()).contains("processor", "memory");
        // Nothing is due again, until time has passed.
        outpost.lookOnce();
        Thread.sleep(300);
        outpost.word();
        assertThat(results()).hasSize(3);
        clock.ahead(Duration.ofSeconds(61));
        outpost.lookOnce();
        until(() -> results().size() == 6);
        // One that was changed is looked at at once; one that is gone no more.
        brief = "{\"version\":\"c\",\"checks\":[%s]}".formatted(check(1, 2, "command", "\"command\":\"hello\""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 7);
        assertThat(results().getLast()).isEqualTo("1.2 passed");
    }

    @Test
    void whileMorvetIsAwayNothingIsLostAndNothingDoubled() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 1);
        away = true;
        var expected = 1;
        for (int minute = 0; minute < 10; minute++) {
            clock.ahead(Duration.ofSeconds(61));
            outpost.lookOnce();
            expected++;
            long wanted = expected - 1;
            for (int i = 0; i < 100 && outpost.waiting() < wanted; i++) Thread.sleep(50);
            outpost.word();
            // In the middle of it the program is killed and begun anew; it knows its brief when Morvet is back.
            if (minute == 4) {
                outpost = begun();
                away = false;
                losesAnswers = true;
                outpost.word();
                losesAnswers = false;
                outpost.word();
                outpost.lookOnce();
                expected++;
                int count = expected;
                until(() -> results().size() == count);
                away = true;
                expected = 1;
                taken.clear();
            }
        }
        assertThat(results()).isEmpty();
        assertThat(alarms).hasSize(3);
        assertThat(alarms.get(0)).contains("\"event\":\"away\"", "has not answered the outpost quay-03 for 2 min");
        assertThat(alarms.get(1)).as("told by the one that began anew").contains("\"event\":\"back\"");
        assertThat(alarms.get(2)).contains("\"event\":\"away\"");
        away = false;
        losesAnswers = true;
        outpost.word();
        losesAnswers = false;
        until(() -> outpost.waiting() == 0);
        var times = taken.stream()
                .map(one -> one.path("checks").path("at").asString())
                .toList();
        assertThat(times).hasSize(5).isSorted();
        assertThat(new LinkedHashSet<>(times)).hasSize(5);
        assertThat(alarms).hasSize(4).last().asString().contains("\"event\":\"back\"", "Morvet answers again");
    }

    /** Its host was started anew while Morvet is away: it looks at what it was to look at, and tells it later. */
    @Test
    void aBriefHoldsAlsoWhereItBeginsWithoutMorvet() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        away = true;
        outpost = begun();
        outpost.lookOnce();
        for (int i = 0; i < 100 && outpost.waiting() == 0; i++) Thread.sleep(50);
        outpost.word();
        away = false;
        until(() -> results().size() == 1);
        assertThat(words.getLast().path("brief").asString()).isEqualTo("b");
    }

    /** A line that cannot be read any more, since the disk was full, keeps none behind it. */
    @Test
    void aBrokenLineIsLeftOut() throws Exception {
        brief = "{\"version\":\"b\",\"checks\":[%s]}".formatted(check(1, 1, "command", "\"command\":\"hello\""));
        outpost.word();
        Files.writeString(folder.resolve("spool/000000000000000001.lines"), "{\"checks\":{\"id\":\n[1]\n\n");
        outpost = begun();
        outpost.word();
        outpost.lookOnce();
        until(() -> results().size() == 1);
        until(() -> outpost.waiting() == 0);
        assertThat(results()).hasSize(1);
    }
}
