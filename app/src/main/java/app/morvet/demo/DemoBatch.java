package app.morvet.demo;

import app.morvet.core.alert.Severity;
import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.HolidayCalendar;
import app.morvet.core.batch.RunGuard;
import app.morvet.core.batch.RunTrouble;
import app.morvet.core.batch.Schedule;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.IntakeKeys;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.connections.Connections;
import app.morvet.ground.estate.Estate;
import app.morvet.rules.runguards.RunGuards;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.Schedulers;
import app.morvet.work.actions.WebActions;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The jobs of Sundrava Ferries, their calendar, the guards over their runs, and the scheduler that runs them. */
@Component
@Profile("demo")
class DemoBatch {
    private static final String CHAIN = "Close of sailing day";
    private static final String CALENDAR = "Office days of Sundrava";
    private static final String CODES =
            "4 = warning: nothing to do\n12 = failed: the input is not as agreed\n28 = failed: no space left\n1 = failed: the database does not answer";

    private static final String SETTLE_NOTE =
            """
            1. *Running long*: look in the output whether it is still settling. Much put aside means a bad fare list.
            2. The bank file needs it by **04:55**. Later than that: tell Finance Systems, they can ask the bank for an hour.
            3. It can be run again from its start at any time; what was settled is settled only once.
            """;
    private static final String ARCHIVE_NOTE =
            """
            *No space left*: ask Platform for room on `/archive`, then run it again. Nothing waits for it before the weekend.
            """;
    private static final String FUEL_NOTE =
            """
            *The input is not as agreed*: the supplier has sent its long list. Take the three added columns out of the file on
            `landing-1`, then run it again.
            """;

    private final Estate estate;
    private final JobBook jobs;
    private final RunGuards guards;
    private final Connections connections;
    private final WebActions actions;
    private final IntakeKeys keys;
    private final DemoSettings demo;
    private final MorvetSettings settings;
    private final Clock clock;

    DemoBatch(
            Estate estate,
            JobBook jobs,
            RunGuards guards,
            Connections connections,
            WebActions actions,
            IntakeKeys keys,
            DemoSettings demo,
            MorvetSettings settings,
            Clock clock) {
        this.estate = estate;
        this.jobs = jobs;
        this.guards = guards;
        this.connections = connections;
        this.actions = actions;
        this.keys = keys;
        this.demo = demo;
        this.settings = settings;
        this.clock = clock;
    }

    void add(Map<String, Long> applications) {
        long feed = estate.addFeed("scheduler", "Batch scheduler", Duration.ofMinutes(30));
        keys.add("batch scheduler", feed, demo.key() + "-batch");
        connections.keep(Schedulers.connection(
                feed,
                "Batch scheduler",
                demo.desk(),
                "/scheduler/api/orders",
                "Authorization: Bearer " + demo.deskToken(),
                4,
                0));
        estate.add("batch-scheduler", "Batch scheduler", "instance", applications.get("integration-hub"));
        actions.set(
                "slots of the scheduler",
                "batch-scheduler",
                demo.desk() + "/scheduler/api/slots",
                "Authorization: Bearer " + demo.deskToken(),
                "{\"slots\": {slots}}",
                "slots: 2, 4, 6, 8",
                demo.desk() + "/scheduler/status",
                "$.slots");
        jobs.keep(holidays(), null);
        chain(applications);
        alone(applications);
        addGuards();
    }

    private HolidayCalendar holidays() {
        var days = new TreeMap<LocalDate, String>();
        int year = LocalDate.ofInstant(clock.instant(), settings.zone()).getYear();
        for (int i = year - 1; i <= year + 3; i++) {
            days.put(LocalDate.of(i, 1, 1), "New Year");
            days.put(LocalDate.of(i, 6, 21), "Harbour Day");
            days.put(LocalDate.of(i, 12, 6), "Founding Day");
            days.put(LocalDate.of(i, 12, 24), "Last Sailing before the feast");
            days.put(LocalDate.of(i, 12, 25), "Feast");
        }
        return new HolidayCalendar(CALENDAR, days);
    }

    private void chain(Map<String, Long> applications) {
        job(
                applications,
                "collect-sailings",
                "Collect sailings",
                "sailing-planner",
                "",
                spec(CHAIN, 120, "", 30, 50, cron("0 1 * * *")));
        job(
                applications,
                "rate-fares",
                "Rate fares",
                "passenger-booking",
                "",
                spec(CHAIN, 150, "", 60, 1000).withWaits("collect-sailings"));
        job(
                applications,
                "settle-bookings",
                "Settle bookings",
                "settlement-ledger",
                SETTLE_NOTE,
                spec(CHAIN, 240, "", 60, 1000).withWaits("rate-fares"));
        job(
                applications,
                "post-to-ledger",
                "Post to ledger",
                "settlement-ledger",
                "",
                spec(CHAIN, 180, "", 60, 1000).withWaits("settle-bookings"));
        job(
                applications,
                "bank-file",
                "Bank file",
                "settlement-ledger",
                "",
                spec(CHAIN, 90, "06:30", 60, 10).withWaits("post-to-ledger"));
        job(
                applications,
                "load-warehouse",
                "Load warehouse",
                "report-warehouse",
                "",
                spec(CHAIN, 150, "", 60, 1000).withWaits("bank-file"));
        job(
                applications,
                "morning-figures",
                "Morning figures",
                "report-warehouse",
                "",
                spec(CHAIN, 60, "07:00", 10, 5).withWaits("load-warehouse"));
    }

    private void alone(Map<String, Long> applications) {
        job(
                applications,
                "publish-crew-roster",
                "Publish crew roster",
                "crew-rostering",
                "",
                spec("", 40, "06:00", 10, 50, cron("0 4 * * *")));
        job(
                applications,
                "import-fuel-prices",
                "Import fuel prices",
                "fuel-stores",
                FUEL_NOTE,
                spec("", 30, "", 5, 10, cron("15 5 * * mon-fri")).withFiles("fuel-prices-*.csv"));
        job(
                applications,
                "archive-manifests",
                "Archive manifests",
                "sailing-archive",
                ARCHIVE_NOTE,
                spec("", 180, "", 60, 100, cron("15 2 * * *")));
        job(
                applications,
                "rebuild-timetable-search",
                "Rebuild timetable search",
                "sailing-planner",
                "",
                spec("", 20, "", 20, 100, JobSpec.Start.every(30, "00:10", "23:40")));
        job(
                applications,
                "rotate-gate-keys",
                "Rotate gate keys",
                "departure-displays",
                "",
                spec("", 15, "", 5, 5, cron("30 3 * * *")));
        job(
                applications,
                "weigh-fuel-stores",
                "Weigh fuel stores",
                "fuel-stores",
                "",
                spec("", 20, "", 5, 5, cron("45 0-22/2 * * *")));
        job(
                applications,
                "back-up-ledger",
                "Back up ledger",
                "settlement-ledger",
                "",
                spec("", 120, "", 300, 0, cron("0 23 * * *")));
        job(
                applications,
                "refresh-customer-groups",
                "Refresh customer groups",
                "passenger-booking",
                "",
                spec("", 90, "", 30, 100, cron("30 22 * * *")));
        job(
                applications,
                "print-boarding-lists",
                "Print boarding lists",
                "departure-displays",
                "",
                spec("", 20, "", 10, 10, cron("20 5-21 * * *")));
        job(
                applications,
                "purge-sea-state",
                "Purge sea-state readings",
                "sailing-planner",
                "",
                spec("", 240, "", 60, 100, cron("0 3 * * sun")));
        job(
                applications,
                "invoices-to-markentide",
                "Invoices to Markentide",
                "settlement-ledger",
                "",
                spec("", 90, "20:00", 10, 1, JobSpec.Start.workingDay(-1, "18:00"))
                        .withCalendar(CALENDAR));
        job(
                applications,
                "payroll-to-pellaroo",
                "Payroll to Pellaroo",
                "crew-rostering",
                "",
                spec("", 60, "12:00", 10, 1, JobSpec.Start.workingDay(3, "10:00"))
                        .withCalendar(CALENDAR));
    }

    private static JobSpec.Start cron(String expression) {
        return JobSpec.Start.cron(expression, Schedule.OnHoliday.STARTS);
    }

    private JobSpec spec(
            String chain, int longest, String deadline, int leastSeconds, long leastRecords, JobSpec.Start... starts) {
        return new JobSpec(
                chain,
                Arrays.asList(starts),
                settings.zone().getId(),
                "",
                ClockChange.ONCE,
                List.of(),
                List.of(),
                "",
                10,
                longest,
                deadline,
                1,
                CODES,
                leastSeconds,
                leastRecords,
                "");
    }

    private void job(
            Map<String, Long> applications, String key, String name, String application, String note, JobSpec spec) {
        estate.add(key, name, Estate.JOB, applications.get(application));
        jobs.set(key, spec.withCommand("/opt/sundrava/batch/" + key + ".sh"), note);
    }

    private void addGuards() {
        guard("Job failed", RunTrouble.FAILED, Severity.WARNING, "");
        guard("Job did not start", RunTrouble.DID_NOT_START, Severity.WARNING, "");
        guard("Job running long", RunTrouble.RUNNING_LONG, Severity.NOTICE, "");
        guard("Job out of time", RunTrouble.OUT_OF_TIME, Severity.WARNING, "");
        guard("Success that is hard to believe", RunTrouble.SUSPICIOUS_SUCCESS, Severity.WARNING, "");
        guard("Run that nobody expected", RunTrouble.NOT_EXPECTED, Severity.NOTICE, "");
        guards.set(
                "Deadline at risk",
                new RunGuard(RunTrouble.DEADLINE_AT_RISK, Scope.ALL, Severity.WARNING, 60, 15),
                "Open the plan of the night: *what if* shows what a rerun, a skipped job or another slot would change.");
    }

    private void guard(String name, RunTrouble trouble, Severity severity, String note) {
        guards.set(name, RunGuard.of(trouble, Scope.ALL, severity), note);
    }
}
