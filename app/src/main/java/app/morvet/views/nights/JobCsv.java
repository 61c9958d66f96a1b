package app.morvet.views.nights;

import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.Schedule;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.page.Csv;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.StoredJob;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;

/**
 * Jobs as CSV (RFC 4180), a line for each, with a head line that names the columns. Where a column is left out, a job that is
 * known keeps what is agreed about it. Several in one cell are parted by semicolons.
 */
final class JobCsv {
    private static final List<String> COLUMNS = List.of(
            "key",
            "name",
            "application",
            "chain",
            "schedules",
            "zone",
            "calendar",
            "clock change",
            "waits",
            "files",
            "not before",
            "latest",
            "longest",
            "deadline",
            "retries",
            "least seconds",
            "least records",
            "exit codes",
            "command",
            "fix note");
    private static final String NOT_ON_HOLIDAYS = ", not on holidays";
    private static final String NEXT_WORKING_DAY = ", next working day if a holiday";
    private static final Pattern EVERY =
            Pattern.compile("every (\\d{1,4}) min(?: from (\\d{1,2}:\\d{2}) to (\\d{1,2}:\\d{2}))?");
    private static final Pattern WORKING_DAY = Pattern.compile("working day (-?\\d{1,2}) at (\\d{1,2}:\\d{2})");
    private static final Pattern CRON =
            Pattern.compile("cron (.+?)(" + NOT_ON_HOLIDAYS + "|" + NEXT_WORKING_DAY + ")?");

    private final JobBook jobs;
    private final ZoneId zone;
    private final Function<StoredJob, String> applicationOf;

    /** @param zone of new jobs for which none is said */
    JobCsv(JobBook jobs, ZoneId zone, Function<StoredJob, String> applicationOf) {
        this.jobs = jobs;
        this.zone = zone;
        this.applicationOf = applicationOf;
    }

    List<JobFile.Entry> read(String text, List<JobFile.Fault> faults) {
        var entries = new ArrayList<JobFile.Entry>();
        try (var parser = CSVFormat.DEFAULT
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setIgnoreHeaderCase(true)
                .get()
                .parse(new StringReader(text.startsWith("\uFEFF") ? text.substring(1) : text))) {
            var unknown = parser.getHeaderNames().stream()
                    .filter(name -> !COLUMNS.contains(name.toLowerCase(Locale.ROOT)))
                    .toList();
            if (!unknown.isEmpty() || !parser.getHeaderMap().containsKey("key")) {
                faults.add(new JobFile.Fault(
                        1,
                        (unknown.isEmpty()
                                        ? "There is no column key"
                                        : "The column " + String.join(", ", unknown) + " is not known")
                                + "; known are " + String.join(", ", COLUMNS) + "."));
                return entries;
            }
            long before = 1;
            for (var row : parser) {
                int line = (int) before + 1;
                before = parser.getCurrentLineNumber();
                try {
                    entries.add(entry(row, line));
                } catch (IllegalArgumentException bad) {
                    faults.add(new JobFile.Fault(line, Sentence.of(bad)));
                }
            }
        } catch (IOException | IllegalArgumentException | UncheckedIOException bad) {
            faults.add(new JobFile.Fault(1, "This is no CSV: " + bad.getMessage()));
        }
        return entries;
    }

    private JobFile.Entry entry(CSVRecord row, int line) {
        // A scheduler may tell of one with spaces around it.
        var written = row.isSet("key") ? Csv.plain(row.get("key")) : "";
        var key = jobs.byKey(written).isPresent() ? written : written.strip();
        var known = jobs.byKey(key);
        var had = known.map(StoredJob::spec).orElse(JobSpec.unknown(zone));
        var itsZone = cell(row, "zone", had.zone());
        var spec = new JobSpec(
                cell(row, "chain", had.chain()),
                row.isMapped("schedules")
                        ? list(cell(row, "schedules", "")).stream()
                                .map(JobCsv::start)
                                .toList()
                        : had.schedules(),
                itsZone.isEmpty() ? zone.getId() : itsZone,
                cell(row, "calendar", had.calendar()),
                clockChange(cell(row, "clock change", words(had.clockChange()))),
                row.isMapped("waits") ? list(cell(row, "waits", "")) : had.waits(),
                row.isMapped("files") ? list(cell(row, "files", "")) : had.files(),
                cell(row, "not before", had.notBefore()),
                number(row, "latest", had.latestMinutes(), JobSpec.unknown(zone).latestMinutes()),
                number(row, "longest", had.longestMinutes(), 0),
                cell(row, "deadline", had.deadline()),
                number(row, "retries", had.retries(), 0),
                row.isMapped("exit codes") ? lines(cell(row, "exit codes", "")) : had.exitCodes(),
                number(row, "least seconds", had.leastSeconds(), 0),
                number(row, "least records", (int) had.leastRecords(), 0),
                cell(row, "command", had.command()));
        var name = cell(row, "name", known.map(StoredJob::name).orElse(""));
        return new JobFile.Entry(
                line,
                key,
                name.isEmpty() ? JobFile.named(key) : name,
                cell(row, "application", known.map(applicationOf).orElse("")),
                spec,
                row.isMapped("fix note") ? cell(row, "fix note", "") : null);
    }

    /** @param leftOut what stands for a column that the file has not */
    private static String cell(CSVRecord row, String column, String leftOut) {
        if (!row.isMapped(column)) return leftOut;
        var text = row.isSet(column) ? Csv.plain(row.get(column)) : "";
        return text.contains("\n") ? text : text.strip();
    }

    private static List<String> list(String text) {
        return Arrays.stream(text.split(";"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .toList();
    }

    /** Lines in one cell: parted by semicolons, or, where a line has one itself, as they are. */
    private static String inOne(String lines) {
        return lines.contains(";") ? lines + "\n" : lines.replace("\n", "; ");
    }

    private static String lines(String cell) {
        return cell.contains("\n") ? cell : String.join("\n", list(cell));
    }

    private static int number(CSVRecord row, String column, int leftOut, int empty) {
        var text = cell(row, column, "" + leftOut);
        if (text.isEmpty()) return empty;
        if (!text.matches("\\d{1,9}"))
            throw new IllegalArgumentException("%s must be a whole number, was \"%s\"".formatted(column, text));
        return Integer.parseInt(text);
    }

    private static ClockChange clockChange(String text) {
        if (text.isEmpty()) return ClockChange.ONCE;
        for (var one : ClockChange.values()) if (words(one).equals(text)) return one;
        throw new IllegalArgumentException("clock change must be once or as shown, was \"%s\"".formatted(text));
    }

    private static String words(ClockChange change) {
        return change == ClockChange.ONCE ? "once" : "as shown";
    }

    private static JobSpec.Start start(String text) {
        var every = EVERY.matcher(text);
        if (every.matches())
            return JobSpec.Start.every(
                    Integer.parseInt(every.group(1)),
                    every.group(2) == null ? "" : every.group(2),
                    every.group(3) == null ? "" : every.group(3));
        var day = WORKING_DAY.matcher(text);
        if (day.matches()) return JobSpec.Start.workingDay(Integer.parseInt(day.group(1)), day.group(2));
        var cron = CRON.matcher(text);
        if (cron.matches()) {
            var holiday =
                    switch (cron.group(2)) {
                        case NOT_ON_HOLIDAYS -> Schedule.OnHoliday.LEFT_OUT;
                        case NEXT_WORKING_DAY -> Schedule.OnHoliday.NEXT_WORKING_DAY;
                        case null, default -> Schedule.OnHoliday.STARTS;
                    };
            return JobSpec.Start.cron(cron.group(1), holiday);
        }
        throw new IllegalArgumentException(
                "\"%s\" is no schedule; write cron 30 2 * * *, every 20 min from 06:00 to 22:00, or working day -1 at 18:00"
                        .formatted(text));
    }

    private static String text(JobSpec.Start start) {
        return switch (start.kind()) {
            case "every" ->
                "every " + start.minutes() + " min"
                        + (start.from().isEmpty() ? "" : " from " + start.from() + " to " + start.to());
            case "working day" -> "working day " + start.nth() + " at " + start.at();
            default ->
                "cron " + start.cron()
                        + switch (start.onHoliday()) {
                            case STARTS -> "";
                            case LEFT_OUT -> NOT_ON_HOLIDAYS;
                            case NEXT_WORKING_DAY -> NEXT_WORKING_DAY;
                        };
        };
    }

    String write(List<StoredJob> all) {
        var text = new StringBuilder();
        try (var out = new Csv(text)) {
            out.line(COLUMNS);
            for (var job : all) {
                var spec = job.spec();
                out.line(
                        job.key(),
                        job.name(),
                        applicationOf.apply(job),
                        spec.chain(),
                        spec.schedules().stream().map(JobCsv::text).collect(Collectors.joining("; ")),
                        spec.zone(),
                        spec.calendar(),
                        words(spec.clockChange()),
                        String.join("; ", spec.waits()),
                        String.join("; ", spec.files()),
                        spec.notBefore(),
                        spec.latestMinutes(),
                        spec.longestMinutes() == 0 ? "" : spec.longestMinutes(),
                        spec.deadline(),
                        spec.retries(),
                        spec.leastSeconds(),
                        spec.leastRecords(),
                        inOne(spec.exitCodes()),
                        spec.command(),
                        job.fixNote());
            }
        }
        return text.toString();
    }
}
