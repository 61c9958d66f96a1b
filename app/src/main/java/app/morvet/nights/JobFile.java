package app.morvet.nights;

import app.morvet.base.MorvetSettings;
import app.morvet.batch.JobBook;
import app.morvet.batch.JobSpec;
import app.morvet.batch.StandingJob;
import app.morvet.core.batch.Crontab;
import app.morvet.core.batch.Schedule;
import app.morvet.estate.Estate;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Jobs as a file: crontab, CSV or JSON, in with a look before, and out. */
@Component
class JobFile {
    private static final int MOST = 20_000;
    private static final List<String> COLUMNS = List.of(
            "key",
            "name",
            "application",
            "chain",
            "schedules",
            "zone",
            "calendar",
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
    private static final Pattern EVERY =
            Pattern.compile("every (\\d{1,4}) min(?: from (\\d{1,2}:\\d{2}) to (\\d{1,2}:\\d{2}))?");
    private static final Pattern WORKING_DAY = Pattern.compile("working day (-?\\d{1,2}) at (\\d{1,2}:\\d{2})");
    private static final Pattern CRON =
            Pattern.compile("cron (.+?)(, not on holidays|, next working day if a holiday)?");

    /** A kind of file. */
    enum Kind {
        CRONTAB("crontab"),
        CSV("csv"),
        JSON("json");

        private final String key;

        Kind(String key) {
            this.key = key;
        }

        public String key() {
            return key;
        }

        static Kind of(String key, String text) {
            for (var kind : values()) if (kind.key.equals(key)) return kind;
            var start = text.stripLeading();
            if (start.startsWith("{") || start.startsWith("[")) return JSON;
            return start.toLowerCase(Locale.ROOT).startsWith("key,") ? CSV : CRONTAB;
        }
    }

    /** @param line counted from 1 */
    record Fault(int line, String words) {}

    /** @param change {@code new}, {@code changed} or {@code as it is} */
    record Change(String key, String name, String change, String words) {}

    record Read(List<Change> changes, List<Fault> faults, List<JobBook.Agreement> agreements) {
        public long touched() {
            return agreements.size();
        }
    }

    private record Entry(
            int line, String key, String name, @Nullable String application, JobSpec spec, @Nullable String fixNote) {}

    private record JsonJob(
            String key, @Nullable String name, @Nullable String application, JobSpec spec, @Nullable String fixNote) {}

    private record JsonJobs(List<JsonJob> jobs) {}

    private final JobBook jobs;
    private final Estate estate;
    private final MorvetSettings settings;
    private final JsonMapper json;

    JobFile(JobBook jobs, Estate estate, MorvetSettings settings, JsonMapper json) {
        this.jobs = jobs;
        this.estate = estate;
        this.settings = settings;
        this.json = json;
    }

    /** What a file would do. */
    Read read(Kind kind, String text) {
        var faults = new ArrayList<Fault>();
        var entries =
                switch (kind) {
                    case CRONTAB -> crontab(text, faults);
                    case CSV -> csv(text, faults);
                    case JSON -> json(text, faults);
                };
        if (entries.size() > MOST) faults.add(new Fault(1, "more than %,d jobs".formatted(MOST)));
        check(entries, faults);
        faults.sort(java.util.Comparator.comparingInt(Fault::line));
        var changes = new ArrayList<Change>();
        var agreements = new ArrayList<JobBook.Agreement>();
        for (var entry : entries) {
            var before = jobs.byKey(entry.key()).orElse(null);
            var note = entry.fixNote() != null ? entry.fixNote() : before == null ? "" : before.fixNote();
            boolean same = before != null
                    && before.spec().equals(entry.spec())
                    && before.fixNote().equals(note);
            changes.add(new Change(
                    entry.key(), entry.name(), before == null ? "new" : same ? "as it is" : "changed", words(entry)));
            if (!same)
                agreements.add(new JobBook.Agreement(
                        entry.key(),
                        entry.name(),
                        application(entry.application()),
                        entry.spec(),
                        note,
                        before == null ? 0 : before.version()));
        }
        return new Read(changes, faults, agreements);
    }

    private String words(Entry entry) {
        try {
            return jobs.words(entry.spec().job(entry.key(), jobs::calendar), entry.spec());
        } catch (IllegalArgumentException bad) {
            return "";
        }
    }

    private @Nullable Long application(@Nullable String name) {
        if (name == null || name.isBlank()) return null;
        return estate.applications().stream()
                .filter(one -> one.key().equals(name) || one.name().equalsIgnoreCase(name))
                .map(Estate.Application::id)
                .findFirst()
                .orElse(null);
    }

    /** Each by itself, then all together, since they may wait for each other. */
    private void check(List<Entry> entries, List<Fault> faults) {
        Map<String, JobSpec> specs = new LinkedHashMap<>();
        for (var entry : entries) {
            try {
                if (!entry.key().matches("[A-Za-z0-9][A-Za-z0-9._-]{0,99}"))
                    throw new IllegalArgumentException(
                            "a key has letters, digits, points and dashes, \"" + entry.key() + "\" has not");
                if (specs.containsKey(entry.key()))
                    throw new IllegalArgumentException("\"" + entry.key() + "\" stands twice in the file");
                var kind = estate.byKey(entry.key()).map(Estate.Component::kind).orElse(Estate.JOB);
                if (!kind.equals(Estate.JOB))
                    throw new IllegalArgumentException("\"" + entry.key() + "\" is a " + kind + " and no job");
                if (entry.application() != null
                        && !entry.application().isBlank()
                        && application(entry.application()) == null)
                    throw new IllegalArgumentException("there is no application \"" + entry.application() + "\"");
                entry.spec().job(entry.key(), jobs::calendar);
                specs.put(entry.key(), entry.spec());
            } catch (IllegalArgumentException bad) {
                faults.add(new Fault(entry.line(), JobForm.sentence(bad)));
            }
        }
        if (!faults.isEmpty() || specs.isEmpty()) return;
        try {
            jobs.check(specs);
        } catch (IllegalArgumentException bad) {
            faults.add(new Fault(1, JobForm.sentence(bad)));
        }
    }

    private List<Entry> crontab(String text, List<Fault> faults) {
        var reading = Crontab.read(text, settings.zone());
        reading.wrong()
                .forEach(wrong -> faults.add(
                        new Fault(wrong.line(), JobForm.sentence(new IllegalArgumentException(wrong.why())))));
        return reading.entries().stream()
                .map(one -> {
                    var starts = one.expressions().stream()
                            .map(expression -> JobSpec.Start.cron(expression.toString()))
                            .toList();
                    var before = jobs.byKey(one.key());
                    var spec = before.map(StandingJob::spec)
                            .orElse(JobSpec.unknown(one.zone()))
                            .withSchedules(starts)
                            .withCommand(one.command());
                    var name = before.map(StandingJob::name).orElse(named(one.key()));
                    return new Entry(one.line(), one.key(), name, null, spec, null);
                })
                .toList();
    }

    private static String named(String key) {
        var words = key.replace('-', ' ').strip();
        return words.isEmpty() ? key : words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    private List<Entry> csv(String text, List<Fault> faults) {
        var entries = new ArrayList<Entry>();
        try (var parser = CSVFormat.DEFAULT
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setIgnoreHeaderCase(true)
                .setTrim(true)
                .get()
                .parse(new StringReader(text))) {
            var unknown = parser.getHeaderNames().stream()
                    .filter(name -> !COLUMNS.contains(name.toLowerCase(Locale.ROOT)))
                    .toList();
            if (!unknown.isEmpty() || !parser.getHeaderMap().containsKey("key")) {
                faults.add(new Fault(
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
                    faults.add(new Fault(line, JobForm.sentence(bad)));
                }
            }
        } catch (IOException | IllegalArgumentException | java.io.UncheckedIOException bad) {
            faults.add(new Fault(1, "This is no CSV: " + bad.getMessage()));
        }
        return entries;
    }

    private Entry entry(CSVRecord row, int line) {
        var key = cell(row, "key");
        var starts = Arrays.stream(cell(row, "schedules").split(";"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .map(JobFile::start)
                .toList();
        var usual = JobSpec.unknown(settings.zone());
        var zone = cell(row, "zone");
        var spec = new JobSpec(
                cell(row, "chain"),
                starts,
                zone.isEmpty() ? usual.zone() : zone,
                cell(row, "calendar"),
                usual.clockChange(),
                list(cell(row, "waits")),
                list(cell(row, "files")),
                cell(row, "not before"),
                number(row, "latest", usual.latestMinutes()),
                number(row, "longest", 0),
                cell(row, "deadline"),
                number(row, "retries", 0),
                cell(row, "exit codes").replace("; ", "\n").replace(";", "\n"),
                number(row, "least seconds", 0),
                number(row, "least records", 0),
                cell(row, "command"));
        var name = cell(row, "name");
        return new Entry(
                line,
                key,
                name.isEmpty() ? named(key) : name,
                cell(row, "application"),
                spec,
                row.isMapped("fix note") ? cell(row, "fix note") : null);
    }

    private static List<String> list(String text) {
        return Arrays.stream(text.split(";"))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .toList();
    }

    private static int number(CSVRecord row, String column, int otherwise) {
        var text = cell(row, column);
        if (text.isEmpty()) return otherwise;
        if (!text.matches("\\d{1,9}"))
            throw new IllegalArgumentException("%s must be a whole number, was \"%s\"".formatted(column, text));
        return Integer.parseInt(text);
    }

    private static String cell(CSVRecord row, String column) {
        return row.isMapped(column) && row.isSet(column) ? row.get(column) : "";
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
                        case ", not on holidays" -> Schedule.OnHoliday.LEFT_OUT;
                        case ", next working day if a holiday" -> Schedule.OnHoliday.NEXT_WORKING_DAY;
                        case null, default -> Schedule.OnHoliday.STARTS;
                    };
            return JobSpec.Start.cron(cron.group(1), holiday);
        }
        throw new IllegalArgumentException(
                "\"%s\" is no schedule; write cron 30 2 * * *, every 20 min from 06:00 to 22:00, or working day -1 at 18:00"
                        .formatted(text));
    }

    private List<Entry> json(String text, List<Fault> faults) {
        var entries = new ArrayList<Entry>();
        try {
            var read = json.readValue(text, JsonJobs.class);
            if (read == null || read.jobs() == null)
                throw new IllegalArgumentException("there is no list \"jobs\" in it");
            for (var one : read.jobs()) {
                if (one == null || one.key() == null || one.spec() == null)
                    throw new IllegalArgumentException("each job has a key and a spec");
                var name = one.name();
                entries.add(new Entry(
                        line(text, one.key()),
                        one.key(),
                        name == null || name.isBlank() ? named(one.key()) : name,
                        one.application(),
                        one.spec(),
                        one.fixNote()));
            }
        } catch (JacksonException bad) {
            var at = bad.getLocation();
            faults.add(new Fault(
                    at == null ? 1 : Math.max(1, at.getLineNr()), "This is not read: " + bad.getOriginalMessage()));
        } catch (IllegalArgumentException bad) {
            faults.add(new Fault(1, JobForm.sentence(bad)));
        }
        return entries;
    }

    private static int line(String text, String key) {
        int at = text.indexOf("\"" + key + "\"");
        return at < 0
                ? 1
                : 1 + (int) text.substring(0, at).chars().filter(c -> c == '\n').count();
    }

    /** All jobs. */
    String write(Kind kind) {
        var all = jobs.all();
        return switch (kind) {
            case CRONTAB ->
                all.stream()
                        .collect(Collectors.groupingBy(
                                job -> job.spec().zone(), java.util.TreeMap::new, Collectors.toList()))
                        .entrySet()
                        .stream()
                        .map(zone -> "CRON_TZ=" + zone.getKey() + "\n"
                                + zone.getValue().stream()
                                        .map(job -> Crontab.write(
                                                job.job(),
                                                job.spec().command().isEmpty()
                                                        ? job.key()
                                                        : job.spec().command()))
                                        .collect(Collectors.joining()))
                        .collect(Collectors.joining("\n"));
            case CSV -> csv(all);
            case JSON ->
                json.rebuild()
                        .enable(SerializationFeature.INDENT_OUTPUT)
                        .build()
                        .writeValueAsString(new JsonJobs(all.stream()
                                .map(job -> new JsonJob(
                                        job.key(), job.name(), applicationOf(job), job.spec(), job.fixNote()))
                                .toList()));
        };
    }

    private String applicationOf(StandingJob job) {
        return estate.applicationOf(job.component())
                .map(Estate.Application::key)
                .orElse("");
    }

    private String csv(List<StandingJob> all) {
        var text = new StringBuilder();
        try (var printer = CSVFormat.DEFAULT
                .builder()
                .setHeader(COLUMNS.toArray(String[]::new))
                .get()
                .print(text)) {
            for (var job : all) {
                var spec = job.spec();
                printer.printRecord(
                        job.key(),
                        job.name(),
                        applicationOf(job),
                        spec.chain(),
                        spec.schedules().stream().map(JobFile::text).collect(Collectors.joining("; ")),
                        spec.zone(),
                        spec.calendar(),
                        String.join("; ", spec.waits()),
                        String.join("; ", spec.files()),
                        spec.notBefore(),
                        spec.latestMinutes(),
                        spec.longestMinutes() == 0 ? "" : spec.longestMinutes(),
                        spec.deadline(),
                        spec.retries(),
                        spec.leastSeconds(),
                        spec.leastRecords(),
                        spec.exitCodes().strip().replace("\n", "; "),
                        spec.command(),
                        job.fixNote());
            }
        } catch (IOException never) {
            throw new java.io.UncheckedIOException(never);
        }
        return text.toString();
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
                            case LEFT_OUT -> ", not on holidays";
                            case NEXT_WORKING_DAY -> ", next working day if a holiday";
                        };
        };
    }
}
