package app.morvet.views.nights;

import static app.morvet.Browser.encoded;
import static app.morvet.Browser.to;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.Schedule;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.Schedulers;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Jobs in and out of files, edited as a sentence, ordered about, and what their pages say. */
class JobPagesTest extends MorvetTest {
    private static final AtomicInteger COUNT = new AtomicInteger();

    @Autowired
    private JobBook jobs;

    @Autowired
    private Connections connections;

    @Autowired
    private Schedulers schedulers;

    private String key() {
        setUpOnce();
        return "paged-" + COUNT.incrementAndGet();
    }

    @Test
    void aCrontabWithTwoBadLinesChangesNothingAndSaysWhichTheyAre() throws Exception {
        var lead = loggedIn("lead");
        var good = key();
        var text = "# nightly\n30 2 * * * /opt/" + good + ".sh\n0 25 * * * rotate\n@reboot warm-up\n";
        var read = lead.post("/batch/file", "text=" + encoded(text));
        assertThat(read.body())
                .contains("2 lines are wrong")
                .contains("The hour &quot;25&quot; is wrong: it may be 0 to 23")
                .contains("@reboot starts with the machine")
                .doesNotContain("Make the jobs so");
        lead.post("/batch/file/apply", "kind=crontab&text=" + encoded(text));
        assertThat(jobs.byKey(good)).isEmpty();

        var mended = "30 2 * * * /opt/" + good + ".sh\n";
        assertThat(lead.post("/batch/file", "text=" + encoded(mended)).body())
                .contains("1 job would change")
                .contains("every day at 02:30");
        assertThat(to(lead.post("/batch/file/apply", "kind=crontab&text=" + encoded(mended))))
                .isEqualTo("/batch/jobs");
        assertThat(jobs.byKey(good).orElseThrow().spec().command()).isEqualTo("/opt/" + good + ".sh");
        assertThat(lead.get("/batch/file/jobs.txt").body()).contains("30 2 * * * /opt/" + good + ".sh");
    }

    @Test
    void whatIsWrittenAsCsvOrJsonIsReadBackWithoutAChange() throws Exception {
        var lead = loggedIn("lead");
        var first = key();
        // A scheduler calls its jobs as it likes.
        var second = "=" + key() + " > (ö)";
        // Jobs of other tests go by the clock of now, in some zone.
        var at = LocalTime.now(ZoneOffset.UTC).plusHours(8).truncatedTo(ChronoUnit.MINUTES);
        jobs.agree(
                List.of(
                        new JobBook.Agreement(
                                first,
                                "First, \"quoted\"",
                                null,
                                JobSpec.of(
                                        ZoneId.of("Europe/Helsinki"),
                                        List.of(
                                                JobSpec.Start.every(20, "06:00", "22:00"),
                                                JobSpec.Start.workingDay(-1, "" + at))),
                                "Two\nlines",
                                0),
                        new JobBook.Agreement(
                                second,
                                "Second",
                                null,
                                JobSpec.unknown(ZoneId.of("UTC"))
                                        .withWaits(first)
                                        .withFiles("a-*.csv"),
                                "",
                                0)),
                person("lead"));
        for (var kind : List.of("csv", "json")) {
            var text = lead.get("/batch/file/jobs." + kind).body();
            var read = lead.post("/batch/file", "kind=" + kind + "&text=" + encoded(text));
            assertThat(read.body()).as(kind).contains("Nothing would change");
            var changed = text.replace("" + at, "" + at.plusHours(1));
            assertThat(lead.post("/batch/file", "kind=" + kind + "&text=" + encoded(changed))
                            .body())
                    .contains("1 job would change")
                    .contains("on the last working day of the month at " + at.plusHours(1));
        }
        assertThat(lead.post("/batch/file", "kind=csv&text=" + encoded("key,schedules\nbad-one,cron 1 2 3\n"))
                        .body())
                .contains("1 line is wrong")
                .contains("five fields");
        assertThat(lead.post("/batch/file", "kind=json&text=" + encoded("{\"jobs\": [\n{\"key\": 7,,\n"))
                        .body())
                .contains("1 line is wrong");
    }

    @Test
    void aFileWithFewColumnsLeavesAllElseAsItIsAgreed() throws Exception {
        var lead = loggedIn("lead");
        var key = key();
        var agreed = new JobSpec(
                "Close",
                List.of(JobSpec.Start.cron("30 2 * * *", Schedule.OnHoliday.NEXT_WORKING_DAY)),
                "Europe/Helsinki",
                "",
                ClockChange.AS_SHOWN,
                List.of(),
                List.of("fares-*.csv"),
                "",
                7,
                90,
                "06:30",
                2,
                "3 = fine: nothing to do\n12 = failed: no input; ask the sender",
                30,
                1000,
                "/opt/sundrava/fares.sh");
        jobs.agree(List.of(new JobBook.Agreement(key, "Fares", null, agreed, "Look.", 0)), person("lead"));
        assertThat(lead.post(
                                "/batch/file",
                                "kind=csv&text="
                                        + encoded(
                                                lead.get("/batch/file/jobs.csv").body()))
                        .body())
                .contains("Nothing would change");
        var file = "key,deadline,retries\n" + key + ",05:45,\n";
        assertThat(lead.post("/batch/file", "kind=csv&text=" + encoded(file)).body())
                .contains("1 job would change");
        lead.post("/batch/file/apply", "kind=csv&text=" + encoded(file));
        var then = jobs.byKey(key).orElseThrow();
        assertThat(then.spec())
                .usingRecursiveComparison()
                .ignoringFields("deadline", "retries")
                .isEqualTo(agreed);
        assertThat(then.spec().deadline()).isEqualTo("05:45");
        assertThat(then.spec().retries()).isZero();
        assertThat(then.fixNote()).isEqualTo("Look.");
        assertThat(lead.post("/batch/file", "kind=csv&text=" + encoded("key,clock change\n" + key + ",never\n"))
                        .body())
                .contains("Clock change must be once or as shown, was &quot;never&quot;");
    }

    @Test
    void aJobIsEditedAsItsSentenceAndWhatIsWrongStandsAtItsField() throws Exception {
        var lead = loggedIn("lead");
        var name = "Weigh the anchors " + COUNT.incrementAndGet();
        var form = "name=" + encoded(name) + "&zone=Europe%2FHelsinki&kind=cron&cron=" + encoded("30 3 * * *")
                + "&onHoliday=STARTS&minutes=&from=&to=&nth=1&at=&clockChange=AS_SHOWN&latestMinutes=5&deadline=06:30";
        var means =
                lead.post("/batch/jobs/sentence", form, "HX-Request", "true").body();
        assertThat(means)
                .contains("It runs every day at 03:30")
                .contains("would run twice on")
                .contains("Its next starts");
        var refused = lead.post(
                "/batch/jobs/save",
                form.replace(encoded("30 3 * * *"), encoded("30 33 * * *"))
                        .replace("latestMinutes=5", "latestMinutes=soon"));
        assertThat(refused.statusCode()).isEqualTo(422);
        assertThat(refused.body())
                .contains("The hour &quot;33&quot; is wrong")
                .contains("must be a whole number")
                .contains("30 33 * * *")
                .contains("soon");
        var saved = lead.post("/batch/jobs/save", form);
        assertThat(lead.get(to(saved)).body())
                .contains(name)
                .contains("every day at 03:30")
                .contains("06:30");
        assertThat(loggedIn("analyst").post("/batch/jobs/save", form).statusCode())
                .isEqualTo(403);
    }

    private void ran(String key, String run, int minutesAgo, int code, String output) throws Exception {
        var at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(Duration.ofMinutes(minutesAgo));
        var data = Map.<String, Object>of(
                "exitCode", code, "started", at.minusSeconds(60).toString(), "output", output, "records", 7);
        var event = ofRun("finished", key, run, at, data);
        assertThat(send(List.of(event)).statusCode()).isEqualTo(202);
    }

    @Test
    void theOutputIsSearchedDownloadedAndComparedAndShownAsText() throws Exception {
        var key = key();
        ran(key, "one", 90, 0, "begins\nreads 58 records\ndone <script>alert(1)</script>");
        ran(key, "two", 30, 12, "begins\nreads 61 records\nERROR no rate table");
        var analyst = loggedIn("analyst");
        long id = jdbc.sql(
                        "select r.id from job_run r join component c on c.id = r.component_id where c.key = :key and run_ref = 'two'")
                .param("key", key)
                .query(Long.class)
                .single();
        assertThat(analyst.get("/batch/runs/" + id).body()).contains("failed").contains("ERROR no rate table");
        assertThat(analyst.get("/batch/runs/" + id + "?q=error").body())
                .contains("1 line")
                .doesNotContain("reads 61");
        assertThat(analyst.get("/batch/runs/" + id + "/output.txt").body())
                .isEqualTo("begins\nreads 61 records\nERROR no rate table");
        var both = analyst.get("/batch/jobs/" + key + "/compare").body();
        assertThat(both)
                .contains("class=\"only\">ERROR no rate table")
                .contains("class=\"only\">done &lt;script&gt;")
                .doesNotContain("class=\"only\">reads");
        assertThat(analyst.get("/batch/runs/999999999").statusCode()).isEqualTo(404);
    }

    @Test
    void ordersGoToTheSchedulerAreFollowedAndStandInTheRecord() throws Exception {
        var key = key();
        ran(key, "one", 10, 12, "ERROR");
        var job = jobs.byKey(key).orElseThrow();
        var analyst = loggedIn("analyst");
        assertThat(analyst.post("/batch/jobs/" + key + "/orders", "kind=RERUN").statusCode())
                .isEqualTo(409);
        var answer = new String[] {"{\"outcome\":\"done\",\"run\":\"two\"}"};
        DESK.page("/orders-" + key, () -> answer[0]);
        connections.keep(Schedulers.connection(
                job.feed(),
                "The scheduler",
                DESK.url(),
                "/orders-" + key,
                "Authorization: Bearer x",
                4,
                schedulers.of(job.feed()).map(Connection::version).orElse(0)));
        try {
            analyst.post("/batch/jobs/" + key + "/orders", "kind=HOLD");
            eventually(() -> assertThat(analyst.get("/batch/jobs/" + key).body())
                    .contains("hold</span>: <b>done")
                    .contains("held at the scheduler"));
            answer[0] = "{\"outcome\":\"refused\",\"words\":\"it is running\"}";
            analyst.post("/batch/jobs/" + key + "/orders", "kind=RERUN");
            eventually(() -> assertThat(analyst.get("/batch/jobs/" + key).body())
                    .contains("run again</span>: <b>refused")
                    .contains("it is running"));
            answer[0] = "";
            analyst.post("/batch/jobs/" + key + "/orders", "kind=RELEASE");
            eventually(
                    () -> assertThat(analyst.get("/batch/jobs/" + key).body()).contains("The scheduler answered 500"));
            answer[0] = "{\"outcome\":\"done\"}";
            eventually(() -> assertThat(analyst.get("/batch/jobs/" + key).body())
                    .contains("release</span>: <b>done")
                    .doesNotContain("held at the scheduler"));
            assertThat(jdbc.sql(
                                    "select count(*) from audit_entry where what like 'scheduler asked to%' and subject = :subject")
                            .param("subject", "job " + job.name())
                            .query(Long.class)
                            .single())
                    .isEqualTo(3);
        } finally {
            forgetSchedulers();
        }
    }

    @Test
    void calendarsAreReadFromICalendarAfterALookAndUsedOnesStay() throws Exception {
        var lead = loggedIn("lead");
        var name = "Feasts " + COUNT.incrementAndGet();
        var text =
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:t\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:20250101T000000Z\r\nDTSTART;VALUE=DATE:20250621\r\nRRULE:FREQ=YEARLY\r\nSUMMARY:Harbour Day\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";
        var form = "name=" + encoded(name) + "&text=" + encoded(text);
        assertThat(lead.post("/batch/calendars", form).body())
                .contains("Harbour Day")
                .contains("Keep it");
        assertThat(jobs.calendar(name)).isNull();
        lead.post("/batch/calendars", form + "&keep=true");
        assertThat(lead.get("/batch/calendars/calendar.ics?name=" + encoded(name))
                        .body())
                .contains("SUMMARY:Harbour Day");
        assertThat(lead.post("/batch/calendars", "name=x&text=hello").body()).contains("This is no iCalendar file");
        var key = key();
        var spec = JobSpec.of(ZoneId.of("UTC"), List.of(JobSpec.Start.cron("0 1 * * *")));
        jobs.agree(
                List.of(new JobBook.Agreement(
                        key,
                        "Goes by it",
                        null,
                        new JobSpec(
                                "",
                                spec.schedules(),
                                "UTC",
                                name,
                                spec.clockChange(),
                                List.of(),
                                List.of(),
                                "",
                                10,
                                0,
                                "",
                                0,
                                "",
                                0,
                                0,
                                ""),
                        "",
                        0)),
                person("lead"));
        assertThat(lead.post("/batch/calendars/delete", "name=" + encoded(name)).body())
                .contains("These jobs go by it: Goes by it");
    }

    @Test
    void theNightIsPlayedThroughWithWhatSomebodyMightDo() throws Exception {
        setUpOnce();
        var key = key();
        var soon = Instant.now()
                .plus(Duration.ofMinutes(40))
                .atZone(ZoneId.of("UTC"))
                .toLocalTime()
                .truncatedTo(ChronoUnit.MINUTES);
        var start = Instant.now().plus(Duration.ofMinutes(30)).atZone(ZoneId.of("UTC"));
        var spec = JobSpec.of(
                ZoneId.of("UTC"), List.of(JobSpec.Start.cron(start.getMinute() + " " + start.getHour() + " * * *")));
        jobs.agree(
                List.of(new JobBook.Agreement(
                        key,
                        "Slow " + key,
                        null,
                        new JobSpec(
                                "",
                                spec.schedules(),
                                "UTC",
                                "",
                                spec.clockChange(),
                                List.of(),
                                List.of(),
                                "",
                                10,
                                20,
                                soon.toString(),
                                0,
                                "",
                                0,
                                0,
                                ""),
                        "",
                        0)),
                person("lead"));
        var analyst = loggedIn("analyst");
        eventually(() ->
                assertThat(analyst.get("/batch").body()).contains("Slow " + key).contains("Deadlines ahead"));
        // Up to twenty minutes from a start ten minutes before: every other night. Started now, always.
        var then = analyst.get("/batch/what-if?do=start:" + key).body();
        assertThat(then).contains("Slow " + key + " is started now").contains("<b>100 %</b>");
        assertThat(analyst.get("/batch/what-if?do=rerun:nothing").body())
                .contains("That cannot be played through: the night has no nothing");
        assertThat(analyst.get("/batch/what-if?do=moon:x").body()).contains("That cannot be played through");
        var plan = analyst.get("/batch").body();
        var live = java.util.regex.Pattern.compile("id=\"night-plan\"[^>]*data-live-src=\"([^\"]+)\"")
                .matcher(plan);
        assertThat(live.find()).isTrue();
        assertThat(analyst.get(live.group(1).replace("&amp;", "&"), "HX-Request", "true", "HX-Target", "night-plan")
                        .statusCode())
                .isEqualTo(200);
        assertThat(analyst.get("/batch?from=yesterday").statusCode()).isEqualTo(400);
        for (var zoom : List.of("hour", "six", "night", "day"))
            assertThat(analyst.get("/batch?zoom=" + zoom + "&from="
                                    + Instant.now().minus(Duration.ofDays(40)))
                            .statusCode())
                    .isEqualTo(200);
        assertThat(analyst.get("/batch/month").body()).contains("Slow " + key);
    }
}
