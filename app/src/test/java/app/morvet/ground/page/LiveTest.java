package app.morvet.ground.page;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.Browser;
import app.morvet.MorvetTest;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** The stream by which open pages hear what has changed. */
class LiveTest extends MorvetTest {
    @Autowired
    private Live live;

    @Autowired
    private TransactionTemplate transaction;

    /** Whoever goes on listening is told of all that the tests after this one do. */
    private final List<InputStream> listening = new ArrayList<>();

    @AfterEach
    void nobodyListensAnyMore() throws IOException {
        for (var stream : listening) stream.close();
    }

    /** Somebody who listens, and what they have heard by now. */
    private List<String> listener() throws Exception {
        var answer = loggedIn("analyst").listen("/live");
        listening.add(answer.body());
        assertThat(answer.headers().firstValue("content-type").orElse("")).startsWith("text/event-stream");
        var heard = new CopyOnWriteArrayList<String>();
        Thread.ofVirtual().start(() -> {
            try (var lines = new BufferedReader(new InputStreamReader(answer.body(), StandardCharsets.UTF_8))) {
                for (var line = lines.readLine(); line != null; line = lines.readLine())
                    if (line.startsWith("data:")) heard.add(line.substring(5).strip());
            } catch (IOException gone) {
                heard.add("gone");
            }
        });
        eventually(() -> assertThat(heard).anyMatch(one -> one.startsWith("/assets/")));
        return heard;
    }

    @Test
    void everyOpenPageHearsAChangeOnceItIsStored() throws Exception {
        var one = listener();
        var other = listener();
        transaction.executeWithoutResult(status -> {
            live.changed("of-a-test");
            assertThat(one).doesNotContain("of-a-test");
        });
        eventually(() -> assertThat(one).contains("of-a-test"));
        eventually(() -> assertThat(other).contains("of-a-test"));
    }

    /** It stays open and takes nothing in, as a page does on a line that has gone dead. */
    @Test
    void aPageThatTakesNothingInKeepsNoOtherWaiting() throws Exception {
        listening.add(loggedIn("analyst").listen("/live").body());
        var heard = listener();
        var long7000 = "x".repeat(7000);
        // More than the buffers on the way hold.
        for (int batch = 0; batch < 2; batch++) {
            int from = batch * 1000;
            transaction.executeWithoutResult(status -> {
                for (int i = 0; i < 1000; i++) live.changed(from + i + long7000);
            });
        }
        live.changed("after-it-all");
        // All that was heard is too much to be shown each time that it is looked for.
        eventually(() -> assertThat(heard.contains("after-it-all")).isTrue());
    }

    @Test
    void whatIsTakenBackIsToldToNobody() throws Exception {
        var heard = listener();
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> {
                    live.changed("never-was");
                    throw new IllegalStateException("taken back");
                }))
                .hasMessage("taken back");
        live.changed("after-it");
        eventually(() -> assertThat(heard).contains("after-it"));
        assertThat(heard).doesNotContain("never-was");
    }

    @Test
    void theSameChangeManyTimesIsToldOnceOrAFewTimes() throws Exception {
        var heard = listener();
        transaction.executeWithoutResult(status -> {
            for (int i = 0; i < 500; i++) live.changed("often");
        });
        live.changed("at-last");
        eventually(() -> assertThat(heard).contains("at-last"));
        assertThat(heard).filteredOn("often"::equals).hasSize(1);
    }

    /** The mark of a page as it is drawn now. */
    private static String drawn(Browser reader) throws Exception {
        var page = reader.get("/cases").body();
        return page.replaceAll("(?s).*data-drawn=\"([^\"]+)\".*", "$1");
    }

    private static String missed(Browser reader, String since) throws Exception {
        return reader.get("/live/missed?since=" + URLEncoder.encode(since, StandardCharsets.UTF_8))
                .body();
    }

    /** Nobody hears it at that moment: the page is on its way, and its stream is not there yet. */
    @Test
    void whatChangesBetweenTheDrawingOfAPageAndItsListeningIsNotMissed() throws Exception {
        var heard = listener();
        var reader = loggedIn("analyst");
        live.changed("before-the-page");
        eventually(() -> assertThat(heard).contains("before-the-page"));
        var mark = drawn(reader);
        assertThat(missed(reader, mark)).doesNotContain("before-the-page").doesNotContain(Live.ALL);
        live.changed("after-the-page");
        eventually(() -> assertThat(missed(reader, mark)).contains("\"after-the-page\""));
        assertThat(missed(reader, mark)).doesNotContain("before-the-page");
        assertThat(browser().get("/live/missed").statusCode()).isIn(302, 401);
    }

    /** Clocks of nodes differ a little, so what was told some seconds before counts as well. */
    @Test
    void aPageThatAnotherNodeHasDrawnMissesNothingEither() throws Exception {
        var heard = listener();
        var reader = loggedIn("analyst");
        live.changed("just-now");
        eventually(() -> assertThat(heard).contains("just-now"));
        eventually(() -> assertThat(missed(reader, drawn(reader).replaceAll(".*/", "another-node/")))
                .contains("\"just-now\""));
        for (var unknown : List.of("", "nonsense", "another-node/1000", "another-node/99999999999999999999"))
            assertThat(missed(reader, unknown)).as(unknown).isEqualTo("[\"*\"]");
    }

    @Test
    void aFailureIsHeardOnTheListOfCases() throws Exception {
        var heard = listener();
        var subject = subject();
        guard(subject, java.time.Duration.ofMinutes(10));
        fail(subject, 3);
        eventually(() -> assertThat(heard).contains("cases", "now"));
        assertThat(browser().get("/live").statusCode()).isIn(302, 401);
    }
}
