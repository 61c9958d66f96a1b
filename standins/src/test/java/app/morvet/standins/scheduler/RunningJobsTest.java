package app.morvet.standins.scheduler;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RunningJobsTest {
    private static final Instant START = Instant.parse("2026-11-24T10:00:00Z");
    private static final Duration DAY = Duration.ofDays(1);

    private static RunningJobs jobs(Duration past) {
        return new RunningJobs(7, RunningJobs.Memory.fresh(START, past));
    }

    /** Of one job, in order: what of its runs was told. */
    private static List<Map<String, Object>> told(RunningJobs jobs, String job) {
        return jobs.untold().stream()
                .filter(one -> job.equals(one.get("subject")))
                .toList();
    }

    private static List<String> words(List<Map<String, Object>> events) {
        return events.stream()
                .map(RunningJobsTest::what)
                .filter(what -> !what.equals("progress"))
                .toList();
    }

    private static String what(Map<String, Object> event) {
        var type = event.get("type").toString();
        return type.substring(type.lastIndexOf('.') + 1);
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> data(Map<String, Object> event) {
        return (Map<String, Object>) event.get("data");
    }

    @Test
    void threeWeeksAreTheSameInOneGoAndWithRestartsBetween() {
        var whole = jobs(Duration.ofDays(21));
        whole.advance(START);
        var told = new ArrayList<Map<String, Object>>();
        var memory = RunningJobs.Memory.fresh(START, Duration.ofDays(21));
        while (memory.at().isBefore(START)) {
            var part = new RunningJobs(7, memory);
            var to = memory.at().plus(Duration.ofHours(5)).plusMillis(1);
            part.advance(to.isBefore(START) ? to : START);
            told.addAll(part.untold());
            memory = part.memory();
        }
        assertThat(told).hasSizeGreaterThan(1000).isEqualTo(whole.untold());
        assertThat(told).extracting(one -> one.get("id")).doesNotHaveDuplicates();
    }

    @Test
    void noMoreRunThanThereAreSlotsAndAChainGoesInItsOrder() {
        var jobs = jobs(Duration.ofDays(21));
        jobs.advance(START);
        int running = 0;
        var doneAt = new HashMap<String, String>();
        for (var event : jobs.untold()) {
            var job = event.get("subject").toString();
            switch (what(event)) {
                case "started" -> {
                    assertThat(++running).isLessThanOrEqualTo(RunningJobs.SLOTS);
                    for (var before : Task.of(job).after())
                        assertThat(doneAt.get(before)).isLessThanOrEqualTo((String) event.get("time"));
                }
                case "finished" -> {
                    running--;
                    if (data(event).get("exitCode").equals(0)) doneAt.put(job, (String) event.get("time"));
                }
                default -> assertThat(what(event)).isIn("progress", "arrived");
            }
        }
        assertThat(doneAt).containsKeys("morning-figures", "payroll-to-pellaroo", "purge-sea-state");
    }

    @Test
    void eachTroubleHappensOnceToTheNextRun() {
        var jobs = jobs(Duration.ZERO);
        jobs.breakIt("rotate-gate-keys", Trouble.DO_NOT_START, 0);
        jobs.breakIt("publish-crew-roster", Trouble.TWICE, 0);
        jobs.breakIt("back-up-ledger", Trouble.FAIL, 28);
        jobs.breakIt("collect-sailings", Trouble.NOTHING, 0);
        jobs.advance(START.plus(DAY));
        assertThat(told(jobs, "rotate-gate-keys")).isEmpty();
        assertThat(words(told(jobs, "publish-crew-roster")))
                .filteredOn("started"::equals)
                .hasSize(2);
        assertThat(data(told(jobs, "back-up-ledger").getLast())).containsEntry("exitCode", 28);
        assertThat(data(told(jobs, "collect-sailings").getLast()))
                .containsEntry("exitCode", 0)
                .containsEntry("records", 0L);
        jobs.told(jobs.untold().size());
        jobs.advance(START.plus(DAY).plus(DAY));
        for (var job : List.of("rotate-gate-keys", "publish-crew-roster", "back-up-ledger"))
            assertThat(words(told(jobs, job))).as(job).first().isEqualTo("started");
        assertThat(data(told(jobs, "collect-sailings").getLast()).get("records"))
                .isNotEqualTo(0L);
    }

    @Test
    void whatHangsIsDoneOnlyOnceItIsMended() {
        var jobs = jobs(Duration.ZERO);
        jobs.breakIt("back-up-ledger", Trouble.HANG, 0);
        jobs.advance(START.plus(DAY));
        jobs.tellProgress();
        assertThat(words(told(jobs, "back-up-ledger"))).containsExactly("started");
        jobs.mend("back-up-ledger");
        jobs.advance(START.plus(DAY).plus(Duration.ofHours(3)));
        assertThat(words(told(jobs, "back-up-ledger"))).startsWith("started", "finished");
    }

    @Test
    void ordersHoldReleaseKillAndRunAgain() {
        var jobs = jobs(Duration.ZERO);
        var keys = Task.of("rotate-gate-keys");
        jobs.order("hold", keys, "");
        jobs.advance(START.plus(DAY));
        assertThat(told(jobs, keys.key())).isEmpty();
        jobs.order("release", keys, "");
        jobs.advance(START.plus(DAY).plusSeconds(1));
        assertThat(words(told(jobs, keys.key()))).containsExactly("started");
        assertThat(jobs.order("rerun", keys, "").outcome()).isEqualTo("refused");
        assertThat(jobs.order("kill", keys, "another-run").outcome()).isEqualTo("refused");
        assertThat(jobs.order("kill", keys, "").run()).startsWith(keys.key());
        assertThat(words(told(jobs, keys.key()))).containsExactly("started", "cancelled");
        var again = jobs.order("rerun", keys, "");
        assertThat(again.outcome()).isEqualTo("done");
        assertThat(data(told(jobs, keys.key()).getLast()))
                .containsEntry("run", again.run())
                .containsEntry("trigger", "manual");
        assertThat(jobs.order("dance", keys, "").outcome()).isEqualTo("refused");
    }

    @Test
    void workingDaysLeaveTheCompanysHolidaysOut() {
        var payroll = Task.of("payroll-to-pellaroo");
        // The first is a Friday and a holiday, so the third working day is the Wednesday after.
        assertThat(payroll.nextDue(Instant.parse("2027-01-01T00:00:00Z")))
                .contains(Instant.parse("2027-01-06T08:00:00Z"));
        assertThat(payroll.lastDue(Instant.parse("2027-01-06T07:59:00Z")))
                .contains(Instant.parse("2026-12-03T08:00:00Z"));
    }
}
