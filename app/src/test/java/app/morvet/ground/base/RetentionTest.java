package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.MorvetTest;
import app.morvet.ground.estate.Estate;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is dropped by age, and what is not. */
class RetentionTest extends MorvetTest {
    @Autowired
    List<AgedData> aged;

    @Autowired
    DayPartitions partitions;

    private void dropOld() {
        var now = Instant.now();
        aged.forEach(one -> one.dropOld(now));
    }

    private long count(String sql, Object id) {
        return jdbc.sql(sql).param("id", id).query(Long.class).single();
    }

    @Test
    void oldMessagesGoByTheDayUnlessOneIsOpen() throws Exception {
        var done = subject();
        var open = subject();
        sorting(open, "jammed", false);
        assertThat(send(List.of(failed(done, Map.of("error", "old and done")), failed(open, Map.of("error", "jammed"))))
                        .statusCode())
                .isEqualTo(202);
        var told = "select count(*) from untold_failure u join failed_message m on m.at = u.at and m.id = u.id"
                + " where m.component_id in (select id from component where key = :id)";
        eventually(() ->
                assertThat(count(told, done.key()) + count(told, open.key())).isZero());
        moveBack(done, 500);
        moveBack(open, 501);

        dropOld();
        var kept = "select count(*) from failed_message where component_id = :id";
        assertThat(count(kept, done.id())).isZero();
        assertThat(count(kept, open.id())).isEqualTo(1);

        jdbc.sql("update failed_message set open = false where component_id = :id")
                .param("id", open.id())
                .update();
        dropOld();
        assertThat(count(kept, open.id())).isZero();
        assertThat(partitions.days("failed_message")).allSatisfy(day -> assertThat(day)
                .isAfter(java.time.LocalDate.now().minusDays(499)));
    }

    private void moveBack(Subject subject, int days) {
        var at = Instant.now().minus(Duration.ofDays(days));
        partitions.ensure("failed_message", List.of(at));
        jdbc.sql("update failed_message set at = :at where component_id = :id")
                .param("at", Stamp.of(at))
                .param("id", subject.id())
                .update();
    }

    @Test
    void whatWasRefusedGoesWithTheMessages() throws Exception {
        setUpOnce();
        var subject = subject();
        for (var name : List.of("old", "young"))
            assertThat(send(List.of(Map.of("specversion", "0.3", "id", name + subject.key())))
                            .statusCode())
                    .isEqualTo(202);
        jdbc.sql("update rejected_event set received_at = now() - interval '500 days' where event_id = :id")
                .param("id", "old" + subject.key())
                .update();
        dropOld();
        assertThat(count("select count(*) from rejected_event where event_id = :id", "old" + subject.key()))
                .isZero();
        assertThat(count("select count(*) from rejected_event where event_id = :id", "young" + subject.key()))
                .isEqualTo(1);
    }

    @Test
    void theDaysToComeAreThereBeforeAnythingIsWrittenToThem() {
        setUpOnce();
        var far = Instant.now().plus(Duration.ofDays(40));
        partitions.makeAhead(far);
        var day = far.atOffset(java.time.ZoneOffset.UTC).toLocalDate();
        for (var table : List.of("failed_message", "message_words", "message_attachment", "carried_count", "reading"))
            assertThat(partitions.days(table)).as(table).contains(day, day.plusDays(1), day.plusDays(3));
        for (int i = 0; i <= 3; i++)
            for (var table : List.of(
                    "failed_message", "message_words", "message_attachment", "carried_count", "reading", "sealed_day"))
                partitions.drop(table, day.plusDays(i));
    }

    @Test
    void oldRunsGoAndOutputsBeforeThem() {
        var owner = subject();
        var application =
                estate.applicationOf(estate.component(owner.id())).orElseThrow().id();
        long job = estate.add("aged-" + owner.key(), "Aged", Estate.JOB, application);
        jdbc.sql(
                        """
                        with runs as (insert into job_run (component_id, feed_id, run_ref, at, started_at, started_by, node, reason)
                                      select :job, (select min(id) from feed), age, now() - age * interval '1 day',
                                             now() - age * interval '1 day', 'SCHEDULE', '', ''
                                        from unnest(array[10, 200, 399, 401, 500]) as age returning id, at),
                             outputs as (insert into run_output select id, 'done', false from runs)
                        insert into expected_start (component_id, cycle, planned, outcome, run_id)
                        select :job, at, at, 'ON_TIME', id from runs""")
                .param("job", job)
                .update();

        dropOld();
        assertThat(count("select count(*) from job_run where component_id = :id", job))
                .isEqualTo(3);
        assertThat(count("select count(*) from expected_start where component_id = :id", job))
                .isEqualTo(3);
        assertThat(count(
                        "select count(*) from run_output o join job_run r on r.id = o.run_id where r.component_id = :id",
                        job))
                .isEqualTo(1);
    }

    @Test
    void nothingIsKeptShorterThanEventsMayBeLate() {
        assertThatThrownBy(() -> new MorvetSettings(
                        ZoneId.of("UTC"),
                        URI.create("http://localhost"),
                        Duration.ZERO,
                        null,
                        List.of(),
                        "a@b",
                        Duration.ofDays(400),
                        Duration.ofDays(30),
                        Duration.ofDays(400),
                        Duration.ofDays(120)))
                .hasMessage("morvet.keep-messages is 30 days and must be at least 92: events may be 90 days old");
    }
}
