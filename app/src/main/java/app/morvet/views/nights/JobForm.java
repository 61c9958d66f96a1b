package app.morvet.views.nights;

import app.morvet.core.batch.ClockChange;
import app.morvet.core.batch.Schedule;
import app.morvet.ground.base.Sentence;
import app.morvet.sources.batch.JobBook;
import app.morvet.sources.batch.JobSpec;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** What is typed about a job, and what is wrong with it, by field. What was typed stays, whatever it was. */
final class JobForm {
    /** One rule by which it starts, as typed. */
    record Start(
            String kind, String cron, String onHoliday, String minutes, String from, String to, String nth, String at) {
        static Start of(JobSpec.Start start) {
            return new Start(
                    start.kind(),
                    start.cron(),
                    start.onHoliday().name(),
                    start.minutes() == 0 ? "" : "" + start.minutes(),
                    start.from(),
                    start.to(),
                    start.nth() == 0 ? "" : "" + start.nth(),
                    start.at());
        }

        static Start fresh() {
            return new Start("cron", "", Schedule.OnHoliday.STARTS.name(), "", "", "", "", "");
        }

        public boolean is(String other) {
            return kind.equals(other);
        }
    }

    private final MultiValueMap<String, String> typed;
    private final Map<String, String> errors = new LinkedHashMap<>();
    private final List<Start> starts = new ArrayList<>();

    JobForm(MultiValueMap<String, String> typed) {
        this.typed = typed;
        int count = typed.getOrDefault("kind", List.of()).size();
        for (int i = 0; i < count; i++)
            starts.add(new Start(
                    at("kind", i),
                    at("cron", i),
                    at("onHoliday", i),
                    at("minutes", i),
                    at("from", i),
                    at("to", i),
                    at("nth", i),
                    at("at", i)));
    }

    static JobForm of(
            String key,
            String name,
            @Nullable Long application,
            JobSpec spec,
            String fixNote,
            int version,
            JobBook jobs) {
        var typed = new LinkedMultiValueMap<String, String>();
        typed.add("key", key);
        typed.add("name", name);
        typed.add("application", application == null ? "" : "" + application);
        typed.add("chain", spec.chain());
        typed.add("zone", spec.zone());
        typed.add("calendar", spec.calendar());
        typed.add("clockChange", spec.clockChange().name());
        typed.add(
                "waits",
                String.join(", ", spec.waits().stream().map(jobs::nameOf).toList()));
        typed.add("files", String.join(", ", spec.files()));
        typed.add("notBefore", spec.notBefore());
        typed.add("latestMinutes", "" + spec.latestMinutes());
        typed.add("longestMinutes", spec.longestMinutes() == 0 ? "" : "" + spec.longestMinutes());
        typed.add("deadline", spec.deadline());
        typed.add("retries", "" + spec.retries());
        typed.add("exitCodes", spec.exitCodes());
        typed.add("leastSeconds", "" + spec.leastSeconds());
        typed.add("leastRecords", "" + spec.leastRecords());
        typed.add("command", spec.command());
        typed.add("fixNote", fixNote);
        typed.add("version", "" + version);
        var form = new JobForm(typed);
        spec.schedules().forEach(one -> form.starts.add(Start.of(one)));
        return form;
    }

    private String at(String name, int index) {
        var all = typed.getOrDefault(name, List.of());
        var value = index < all.size() ? all.get(index) : null;
        return value == null ? "" : value.strip();
    }

    public String get(String name) {
        var value = typed.getFirst(name);
        return value == null ? "" : value;
    }

    public boolean has(String name, String value) {
        return get(name).equals(value);
    }

    public List<Start> starts() {
        return starts;
    }

    public Map<String, String> errors() {
        return errors;
    }

    void wrong(String field, String words) {
        errors.putIfAbsent(field, words);
    }

    void addStart() {
        starts.add(Start.fresh());
    }

    void removeStart(int index) {
        if (index >= 0 && index < starts.size()) starts.remove(index);
    }

    /** What was typed, as far as it can be read; see {@link #errors}. */
    JobSpec spec(JobBook jobs) {
        var schedules = new ArrayList<JobSpec.Start>();
        for (int i = 0; i < starts.size(); i++) {
            var start = start(starts.get(i), i);
            if (start == null) continue;
            try {
                start.check();
                schedules.add(start);
            } catch (IllegalArgumentException bad) {
                wrong("start" + i, Sentence.of(bad));
            }
        }
        return new JobSpec(
                get("chain"),
                schedules,
                get("zone"),
                get("calendar"),
                get("clockChange").equals(ClockChange.AS_SHOWN.name()) ? ClockChange.AS_SHOWN : ClockChange.ONCE,
                waits(jobs),
                list(get("files")),
                get("notBefore"),
                number("latestMinutes", 10),
                number("longestMinutes", 0),
                get("deadline"),
                number("retries", 0),
                get("exitCodes").replace("\r\n", "\n"),
                number("leastSeconds", 0),
                number("leastRecords", 0),
                get("command"));
    }

    private JobSpec.@Nullable Start start(Start one, int index) {
        return switch (one.kind()) {
            case "every" -> {
                int minutes = number(one.minutes(), "start" + index, "how often, in minutes");
                yield minutes < 0 ? null : JobSpec.Start.every(minutes, one.from(), one.to());
            }
            case "working day" -> {
                int nth = one.nth().matches("-?\\d{1,2}") ? Integer.parseInt(one.nth()) : 0;
                yield JobSpec.Start.workingDay(nth, one.at());
            }
            default ->
                JobSpec.Start.cron(
                        one.cron(),
                        one.onHoliday().isEmpty()
                                ? Schedule.OnHoliday.STARTS
                                : Schedule.OnHoliday.valueOf(one.onHoliday()));
        };
    }

    private List<String> waits(JobBook jobs) {
        var keys = new ArrayList<String>();
        for (var name : list(get("waits"))) {
            var found = jobs.all().stream()
                    .filter(job -> job.key().equals(name) || job.name().equalsIgnoreCase(name))
                    .findFirst();
            if (found.isPresent()) keys.add(found.get().key());
            else wrong("waits", "There is no job \"" + name + "\".");
        }
        return keys;
    }

    private static List<String> list(String text) {
        return java.util.Arrays.stream(text.split(","))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .toList();
    }

    private int number(String field, int otherwise) {
        if (get(field).isBlank()) return otherwise;
        int found = number(get(field).strip(), field, "this");
        return found < 0 ? otherwise : found;
    }

    private int number(String text, String field, String what) {
        if (text.matches("\\d{1,9}")) return Integer.parseInt(text);
        wrong(field, Sentence.of(what + " must be a whole number, 0 or more"));
        return -1;
    }

    /** @throws IllegalArgumentException where it is none of the kind */
    static <E extends Enum<E>> E chosen(Class<E> kind, String text, String what) {
        for (var one : kind.getEnumConstants()) if (one.name().equals(text)) return one;
        throw new IllegalArgumentException("choose " + what);
    }

    /** What was typed into a field; nothing where the field was not sent. */
    static String given(@Nullable String text) {
        return text == null ? "" : text.strip();
    }
}
