package app.morvet.views.nights;

import app.morvet.core.batch.Crontab;
import app.morvet.core.estate.ComponentKey;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import app.morvet.sources.batch.StoredJob;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Jobs as a file: crontab, CSV or JSON, in with a look before, and out. */
@Component
class JobFile {
    private static final int MOST = 20_000;
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

    /** A job as a file has it. */
    record Entry(
            int line, String key, String name, @Nullable String application, JobSpec spec, @Nullable String fixNote) {}

    private record JsonJob(
            String key, @Nullable String name, @Nullable String application, JobSpec spec, @Nullable String fixNote) {}

    private record JsonJobs(List<JsonJob> jobs) {}

    private final JobBook jobs;
    private final Estate estate;
    private final MorvetSettings settings;
    private final JsonMapper json;
    private final JobCsv csv;

    JobFile(JobBook jobs, Estate estate, MorvetSettings settings, JsonMapper json) {
        this.jobs = jobs;
        this.estate = estate;
        this.settings = settings;
        this.json = json;
        this.csv = new JobCsv(jobs, settings.zone(), this::applicationOf);
    }

    /** What a file would do. */
    Read read(Kind kind, String text) {
        var faults = new ArrayList<Fault>();
        var entries =
                switch (kind) {
                    case CRONTAB -> crontab(text, faults);
                    case CSV -> csv.read(text, faults);
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
                // As those of jobs that a scheduler tells of: what is written here must be read back.
                var unfit = ComponentKey.refusal(entry.key());
                if (unfit != null) throw new IllegalArgumentException("key: " + unfit);
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
                faults.add(new Fault(entry.line(), Sentence.of(bad)));
            }
        }
        if (!faults.isEmpty() || specs.isEmpty()) return;
        try {
            jobs.check(specs);
        } catch (IllegalArgumentException bad) {
            faults.add(new Fault(1, Sentence.of(bad)));
        }
    }

    private List<Entry> crontab(String text, List<Fault> faults) {
        var reading = Crontab.read(text, settings.zone());
        reading.wrong().forEach(wrong -> faults.add(new Fault(wrong.line(), Sentence.of(wrong.why()))));
        return reading.entries().stream()
                .map(one -> {
                    var starts = one.expressions().stream()
                            .map(expression -> JobSpec.Start.cron(expression.toString()))
                            .toList();
                    var before = jobs.byKey(one.key());
                    var spec = before.map(StoredJob::spec)
                            .orElse(JobSpec.unknown(one.zone()))
                            .withSchedules(starts)
                            .withCommand(one.command());
                    var name = before.map(StoredJob::name).orElse(named(one.key()));
                    return new Entry(one.line(), one.key(), name, null, spec, null);
                })
                .toList();
    }

    /** A name for a job of which only the key is known. */
    static String named(String key) {
        var words = key.replace('-', ' ').strip();
        return words.isEmpty() ? key : words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
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
            // What the library says of a mapping names classes of ours; of broken JSON it says what a person can mend.
            var words = bad instanceof DatabindException
                    ? "\"jobs\" is a list of jobs, each with a key and a spec, as this page writes them"
                    : bad.getOriginalMessage();
            faults.add(new Fault(at == null ? 1 : Math.max(1, at.getLineNr()), "This is not read: " + words));
        } catch (IllegalArgumentException bad) {
            faults.add(new Fault(1, Sentence.of(bad)));
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
            case CSV -> csv.write(all);
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

    private String applicationOf(StoredJob job) {
        return estate.applicationKeyOf(job.key());
    }
}
