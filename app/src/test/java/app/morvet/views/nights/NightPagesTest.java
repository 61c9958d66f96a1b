package app.morvet.views.nights;

import static app.morvet.Browser.encoded;
import static app.morvet.Browser.to;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.ground.base.Stamp;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.StoredJob;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The plan of a night, lists of jobs, months, guards over runs and schedulers, as people see them. */
class NightPagesTest extends MorvetTest {
    private static final AtomicInteger COUNT = new AtomicInteger();
    private static final ZoneId UTC = ZoneId.of("UTC");

    @Autowired
    private JobBook jobs;

    @Autowired
    private Connections connections;

    /** A job that is known for a year, in an application of its own. */
    private StoredJob job(String name, JobSpec spec) {
        var owner = subject();
        var key = "night-" + COUNT.incrementAndGet();
        estate.add(
                key,
                name + " " + key,
                Estate.JOB,
                estate.applicationOf(estate.component(owner.id())).orElseThrow().id());
        jobs.set(key, spec, "");
        return jobs.byKey(key).orElseThrow();
    }

    private static JobSpec daily(Instant at) {
        var there = at.atZone(ZoneOffset.UTC);
        return JobSpec.of(UTC, List.of(JobSpec.Start.cron(there.getMinute() + " " + there.getHour() + " * * *")));
    }

    private static Instant ago(int minutes) {
        return Instant.now().truncatedTo(ChronoUnit.MINUTES).minus(Duration.ofMinutes(minutes));
    }

    private void ran(StoredJob job, Instant from, int minutes, int code) throws Exception {
        var data = Map.<String, Object>of("exitCode", code, "started", from.toString(), "records", 2000);
        var event = ofRun("finished", job.key(), "r" + UUID.randomUUID(), from.plus(Duration.ofMinutes(minutes)), data);
        assertThat(send(List.of(event)).statusCode()).isEqualTo(202);
    }

    @Test
    void theListBeginsWithWhatNeedsEyesAndIsSearched() throws Exception {
        var chain = "Chain " + COUNT.incrementAndGet();
        var fine = job("A calm one", daily(ago(50)));
        var broken = job("Zealous", daily(ago(40)));
        ran(fine, ago(50), 5, 0);
        ran(broken, ago(40), 5, 12);
        var analyst = loggedIn("analyst");
        eventually(() -> {
            var page = analyst.get("/batch/jobs").body();
            assertThat(page.indexOf(broken.name())).isPositive().isLessThan(page.indexOf(fine.name()));
        });
        var search = "/batch/jobs?q=" + encoded("zealous " + broken.key().substring(0, 5));
        // Until a round has seen its run, it is one that did not start.
        eventually(() -> assertThat(analyst.get(search).body())
                .contains(broken.name())
                .contains("failed")
                .doesNotContain(fine.name()));
        assertThat(analyst.get("/batch/jobs?q=" + encoded(chain)).body()).contains("0 jobs");
        assertThat(analyst.get("/batch/jobs?after=-5").statusCode()).isEqualTo(200);
        assertThat(analyst.get("/batch/jobs/nothing").statusCode()).isEqualTo(404);
    }

    @Test
    void thePathThatDecidesIsLitFromItsBeginningToItsEnd() throws Exception {
        var first = job("First", daily(ago(30)));
        var second = job("Second", JobSpec.unknown(UTC).withWaits(first.key()));
        var third = job("Third", JobSpec.unknown(UTC).withWaits(second.key()));
        for (int day = 1; day <= 6; day++) {
            var start = ago(30).minus(Duration.ofDays(day));
            ran(first, start, 20, 0);
            ran(second, start.plus(Duration.ofMinutes(20)), 25, 0);
            ran(third, start.plus(Duration.ofMinutes(45)), 15, 0);
        }
        var analyst = loggedIn("analyst");
        eventually(() -> {
            var plan = analyst.get("/batch?path=" + third.key()).body();
            assertThat(plan)
                    .contains(first.name() + " → " + second.name() + " → " + third.name() + ", done likely")
                    .contains("class=\"deciding\"");
        });
        var hidden = analyst.get("/batch?path=nothing");
        assertThat(hidden.statusCode()).isEqualTo(200);
        assertThat(hidden.body()).doesNotContain("class=\"deciding\"");
    }

    @Test
    void aMonthShowsWhatBecameOfEachDayAndWhatItsFailuresHaveInCommon() throws Exception {
        var job = job("Monthly", daily(ago(300)));
        var today = LocalDate.now(ZoneOffset.UTC);
        // Every second Tuesday has failed.
        for (int back = 1; back <= 84; back++) {
            var day = today.minusDays(back);
            boolean bad = day.getDayOfWeek().getValue() == 2 && Math.floorMod(day.toEpochDay(), 14) < 7;
            jdbc.sql(
                            "insert into expected_start (component_id, cycle, planned, outcome) values (:id, :at, :at, :outcome)"
                                    + " on conflict do nothing")
                    .param("id", job.component().id())
                    .param("at", Stamp.of(day.atTime(3, 0).toInstant(ZoneOffset.UTC)))
                    .param("outcome", bad ? "FAILED" : "ON_TIME")
                    .update();
        }
        var analyst = loggedIn("analyst");
        var yesterday = today.minusDays(1);
        var page = analyst.get("/batch/jobs/" + job.key() + "?month=" + YearMonth.from(yesterday))
                .body();
        assertThat(page)
                .containsPattern("Failed, or did not start, on \\d days: \\d of \\d on a Tuesday, every second one")
                .contains(yesterday + ": ")
                .contains("nothing was to start");
        var all = analyst.get("/batch/month?month=" + YearMonth.from(yesterday)).body();
        assertThat(all).contains(job.name());
        assertThat(analyst.get("/batch/month?month=never").statusCode()).isEqualTo(400);
        assertThat(analyst.get("/batch/jobs/" + job.key() + "?month=2026-13").statusCode())
                .isEqualTo(400);
    }

    @Test
    void theCurveOfAJobHasItsRunsItsBandAndTheRunThatIsTooLong() throws Exception {
        var at = ago(200);
        var job = job("Curved", daily(at));
        for (int day = 1; day <= 8; day++) ran(job, at.minus(Duration.ofDays(day)), 20 + day % 3, 0);
        var started = ofRun("started", job.key(), "going", at, Map.of());
        assertThat(send(List.of(started)).statusCode()).isEqualTo(202);
        var analyst = loggedIn("analyst");
        eventually(() -> {
            var curve = tree(analyst.get("/batch/jobs/" + job.key() + "/durations"));
            assertThat(curve.get("values")).hasSize(9);
            // It runs since 200 minutes, longer than any other.
            assertThat(curve.get("values").get(8).asDouble()).isBetween(199.0, 210.0);
            assertThat(curve.get("values").get(0).asDouble()).isBetween(20.0, 22.0);
            assertThat(curve.get("name").asString()).isEqualTo("ran for");
        });
    }

    @Test
    void whatIsAgreedIsChangedTakenBackAndNeverOverwritten() throws Exception {
        var lead = loggedIn("lead");
        var job = job("Edited", daily(ago(100)));
        var form = lead.get("/batch/jobs/" + job.key() + "/edit").body();
        assertThat(form).contains("It runs every day at").contains("Its next starts");
        assertThat(lead.get("/batch/jobs/new/edit").body()).contains("A new job");
        var fields = "key=" + job.key() + "&name=" + encoded(job.name())
                + "&zone=UTC&kind=cron&cron=" + encoded("5 5 * * *")
                + "&onHoliday=STARTS&minutes=&from=&to=&nth=1&at=&clockChange=ONCE&latestMinutes=5&deadline=06:30";
        var more = lead.post("/batch/jobs/starts", fields, "HX-Request", "true").body();
        assertThat(more.split("name=\"kind\"", -1)).hasSize(3);
        assertThat(lead.post("/batch/jobs/starts", fields + "&remove=0", "HX-Request", "true")
                        .body())
                .doesNotContain("5 5 * * *");
        assertThat(to(lead.post("/batch/jobs/save", fields + "&version=" + job.version())))
                .startsWith("/batch/jobs/" + job.key());
        // Somebody who had opened it before.
        var late = lead.post("/batch/jobs/save", fields.replace("06:30", "07:45") + "&version=" + job.version());
        assertThat(late.statusCode()).isEqualTo(422);
        assertThat(late.body()).contains("Nothing was saved").contains("07:45");
        assertThat(jobs.byKey(job.key()).orElseThrow().spec().deadline()).isEqualTo("06:30");
        assertThat(lead.get("/batch/jobs/" + job.key()).body()).contains("Joel Varis");

        var follower = job("Follower", JobSpec.unknown(UTC).withWaits(job.key()));
        int version = jobs.byKey(job.key()).orElseThrow().version();
        var kept = lead.post("/batch/jobs/" + job.key() + "/forget", "version=" + version);
        assertThat(kept.statusCode()).isEqualTo(409);
        assertThat(kept.body()).contains(follower.name());
        assertThat(to(lead.post("/batch/jobs/" + follower.key() + "/forget", "version=" + follower.version())))
                .isEqualTo("/batch/jobs/" + follower.key());
        assertThat(lead.get("/batch/jobs/" + follower.key()).body()).contains("Nothing is agreed about it yet");
    }

    @Test
    void aGuardOverRunsIsEditedAndSaysOverWhatItCanSayNothing() throws Exception {
        var lead = loggedIn("lead");
        var job = job("Guarded", daily(ago(100)));
        var form = "id=0&version=0&name=Over+one&trouble=OUT_OF_TIME&component=job&pattern=" + encoded(job.key())
                + "&severity=CRITICAL&below=60&criticalBelow=15&owner=&fixNote=**Ask**+them.&active=true";
        assertThat(lead.post("/batch/guards/sentence", form, "HX-Request", "true")
                        .body())
                .contains("When " + job.name() + " runs longer than it may, raise a critical.")
                .contains("1 of them has no longest run, and it says nothing of those.");
        var page = to(lead.post("/batch/guards/save", form)).replaceAll("\\?.*", "");
        assertThat(lead.get(page).body()).contains("<strong>Ask</strong>").contains("whoever owns");
        assertThat(lead.get(page + "/edit").body())
                .contains("value=\"Over one\"")
                .contains("value=\"" + job.key() + "\"", "<option value=\"job\" selected");
        assertThat(lead.get("/batch/guards/new/edit").body()).contains("A new guard over runs");
        assertThat(lead.get("/batch/guards/x7/edit").statusCode()).isEqualTo(404);
        assertThat(lead.get("/batch/guards").body()).contains("Over one").contains("over 1 job");
        for (var wrong : Map.of(
                        "trouble=OUT_OF_TIME", "trouble=BOREDOM",
                        "component=job", "tier=9",
                        "severity=CRITICAL", "severity=",
                        "owner=", "owner=999999999",
                        "name=Over+one", "name=")
                .entrySet()) {
            var refused = lead.post("/batch/guards/save", form.replace(wrong.getKey(), wrong.getValue()));
            assertThat(refused.statusCode()).as(wrong.getValue()).isEqualTo(422);
            assertThat(refused.body()).as(wrong.getValue()).doesNotContain("No enum constant");
        }
        assertThat(lead.post("/batch/guards/save", "").statusCode()).isEqualTo(400);
        lead.post(page + "/delete", "version=1");
    }

    @Test
    void whereASchedulerTakesOrdersIsSetAndItsSecretsAreKept() throws Exception {
        setUpOnce();
        long feed = estate.addFeed("sched-" + COUNT.incrementAndGet(), "Night scheduler", Duration.ofMinutes(5));
        var admin = loggedIn("admin");
        var form = "feed=" + feed + "&url=" + encoded(DESK.url()) + "&path=/orders&headers="
                + encoded("Authorization: Bearer s3cret\nX-Site: quay") + "&slots=4&version=0";
        try {
            assertThat(to(admin.post("/setup/scheduler", form))).startsWith("/setup/scheduler");
            var page = admin.get("/setup/scheduler?feed=" + feed).body();
            assertThat(page)
                    .contains("Night scheduler")
                    .contains("Authorization: (kept)")
                    .doesNotContain("s3cret");
            admin.post(
                    "/setup/scheduler",
                    form.replace("version=0", "version=1")
                            .replace(encoded("Bearer s3cret"), encoded("(kept)"))
                            .replace("slots=4", "slots=6"));
            var kept = connections.ofFeed("scheduler", feed).orElseThrow();
            assertThat(kept.headers()).contains("Bearer s3cret");
            assertThat(kept.get("slots")).isEqualTo("6");
            var wrong = admin.post(
                    "/setup/scheduler",
                    "feed=0&url=" + encoded("http://169.254.1.1") + "&path=orders&headers=nonsense&slots=many");
            assertThat(wrong.statusCode()).isEqualTo(422);
            assertThat(wrong.body())
                    .contains("Choose the feed by which this scheduler reports")
                    .contains("A path begins with /")
                    .contains("Each line must read Name: value")
                    .contains("A whole number from 0 to 9999")
                    .contains("morvet.outgoing");
            assertThat(admin.post(
                                    "/setup/scheduler",
                                    form.replace("version=0", "version=2")
                                            .replace("X-Site%3A+quay", encoded("X-Other: (kept)")))
                            .body())
                    .contains("There is no value of X-Other to be kept; write it anew.");
            assertThat(admin.post("/setup/scheduler", form).body()).contains("Somebody else changed this");
            assertThat(loggedIn("lead").post("/setup/scheduler", form).statusCode())
                    .isEqualTo(403);
        } finally {
            forgetSchedulers();
        }
    }

    private static String window(String name, StoredJob job, String kind, String from, String to) {
        return "id=0&version=0&name=" + encoded(name) + "&component=job&pattern=" + encoded(job.key()) + "&kind=" + kind
                + "&from=" + encoded(from) + "&to=" + encoded(to) + "&again=" + encoded("every Saturday at 22:00")
                + "&lasting=" + encoded("2 h") + "&effect=NONE&jobs=yes&reason=Sensors+are+calibrated";
    }

    private static String local(Instant at) {
        return at.atZone(ZoneId.of("Europe/Helsinki")).toLocalDateTime().toString();
    }

    @Test
    void aStartInAWindowIsSkippedAndWakesNobody() throws Exception {
        var lead = loggedIn("lead");
        var at = ago(90);
        var skipped = job("Skipped", daily(at));
        var missed = job("Missed", daily(at));
        var form = window(
                "Calibration of " + skipped.key(),
                skipped,
                "once",
                local(at.minus(Duration.ofMinutes(5))),
                local(at.plus(Duration.ofMinutes(30))));
        assertThat(lead.post("/windows/sentence", form, "HX-Request", "true").body())
                .contains("for 35 min, expect no start of a job of " + skipped.name())
                .contains("All its times are over.");
        var page = to(lead.post("/windows/save", form));
        assertThat(page).matches("/windows/\\d+");
        eventually(() ->
                assertThat(lead.get("/batch/jobs/" + skipped.key()).body()).contains("skipped by a window"));
        eventually(
                () -> assertThat(lead.get("/batch/jobs/" + missed.key()).body()).contains("did not start"));
        eventually(() -> assertThat(jdbc.sql("select outcome from expected_start where component_id = :id")
                        .param("id", skipped.component().id())
                        .query(String.class)
                        .list())
                .contains("SKIPPED"));
        assertThat(lead.get("/batch").body())
                .contains("window Calibration of " + skipped.key())
                .contains("fill=\"url(#hatch)\"");
        lead.post("/windows/save", window("Next of " + missed.key(), missed, "once", local(ago(5)), local(ago(-1600))));
        assertThat(lead.get("/batch/jobs/" + missed.key()).body()).contains("(in a window)");
        lead.post(page + "/delete", "");
        eventually(() ->
                assertThat(lead.get("/batch/jobs/" + skipped.key()).body()).contains("did not start"));
        assertThat(jdbc.sql("select string_agg(what, ', ' order by id) from audit_entry where subject = :subject")
                        .param("subject", "window Calibration of " + skipped.key())
                        .query(String.class)
                        .single())
                .isEqualTo("window made, window deleted");
    }

    @Test
    void aWindowThatRecursSaysWhichStartsFallInside() throws Exception {
        var lead = loggedIn("lead");
        var job = job("Recurring", JobSpec.of(UTC, List.of(JobSpec.Start.cron("*/30 * * * *"))));
        assertThat(lead.post("/windows/sentence", window("Every Saturday", job, "again", "", ""), "HX-Request", "true")
                        .body())
                .contains("Every Saturday at 22:00 for 2 h, expect no start of a job of " + job.name())
                .contains("4 starts of jobs fall inside its next time and are not expected: " + job.name()
                        + " (4 times).");
    }
}
