package app.morvet.rules.failures;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A past is gone through as it would have been live, though nobody looks while nothing fails and no fold is open. */
class PastFailuresTest extends MorvetTest {
    private static final Instant T = Instant.now().truncatedTo(ChronoUnit.HOURS).minus(Duration.ofDays(2));

    @Autowired
    private FailureRound round;

    private Subject subject;

    @BeforeEach
    void nothingIsOpen() {
        subject = subject();
        sorting(subject, "winch", false);
        round.stop();
        jdbc.sql("delete from failure_fold").update();
    }

    @AfterEach
    void roundsGoOn() {
        round.start();
    }

    private static Instant at(int minutes) {
        return T.plusSeconds(60L * minutes);
    }

    private void failed(int minute) throws Exception {
        var event = new HashMap<>(failed(subject, Map.of("error", "winch jammed on deck")));
        event.put("time", at(minute).toString());
        assertThat(send(List.of(event)).statusCode()).isEqualTo(202);
    }

    /** When it was raised, and when it was over, each in minutes; of all its alerts. */
    private List<String> alerts() {
        return jdbc.sql("select * from alert where component_id = :id order by raised_at")
                .param("id", subject.id())
                .query((row, number) -> {
                    var over = row.getTimestamp("cleared_at");
                    return minute(row.getTimestamp("raised_at").toInstant()) + " to "
                            + (over == null ? "" : minute(over.toInstant()));
                })
                .list();
    }

    private static long minute(Instant at) {
        return Duration.between(T, at).toMinutes();
    }

    /** A fold lasts four hours after the last that failed. */
    @Test
    void whatFailedIsRaisedWhenItDidAndIsOverWhenItsFoldIs() throws Exception {
        failed(62);
        failed(130);
        failed(900);
        var walk = round.walk(at(0), at(2000));
        for (int now = 0; now <= 60; now += 5) walk.goTo(at(now));
        assertThat(alerts()).as("nothing is told before it happened").isEmpty();
        walk.goTo(at(65));
        assertThat(alerts()).containsExactly("62 to ");
        for (int now = 70; now <= 365; now += 5) walk.goTo(at(now));
        assertThat(alerts()).as("the second goes on with the first").containsExactly("62 to ");
        for (int now = 370; now <= 895; now += 5) walk.goTo(at(now));
        assertThat(alerts()).containsExactly("62 to 370");
        for (int now = 900; now <= 1200; now += 5) walk.goTo(at(now));
        assertThat(alerts()).containsExactly("62 to 370", "900 to 1140");
        assertThat(jdbc.sql("select count(*) from failure_fold")
                        .query(Long.class)
                        .single())
                .isZero();
    }

    /** What is told of a stretch at once, as after an outage, is raised as of when it happened, too. */
    @Test
    void nothingIsLostInALargeStep() throws Exception {
        for (int minute = 10; minute < 60; minute += 10) failed(minute);
        var walk = round.walk(at(0), at(2000));
        walk.goTo(at(55));
        assertThat(alerts()).containsExactly("10 to ");
        assertThat(caseOf(subject)).containsEntry("failures", 5L);
        walk.goTo(at(500));
        assertThat(alerts()).singleElement().asString().startsWith("10 to ").doesNotEndWith("to ");
    }
}
