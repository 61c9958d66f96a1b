package app.morvet.core.windows;

import app.morvet.core.batch.Job;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;

/**
 * A maintenance window: a planned time, once or again and again, for part of the estate.
 *
 * @param name   by which people know it; at most 100 letters
 * @param scope  over what it is
 * @param effect what becomes of alerts and checks inside
 * @param jobs   what becomes of starts of jobs inside
 * @param reason what is done in it, for people; at most 1,000 letters, may be empty
 */
public record MaintenanceWindow(String name, Scope scope, Plan plan, Effect effect, Jobs jobs, String reason) {
    /** The longest that an analyst makes, ends or lengthens; longer ones, and all that recur, are a lead's. */
    public static final Duration ANALYSTS = Duration.ofHours(8);

    private static final DateTimeFormatter WHEN = DateTimeFormatter.ofPattern("EEE d MMM yyyy HH:mm", Locale.ENGLISH);

    /** What becomes of alerts and checks inside; the later the stronger. */
    public enum Effect {
        /** Nothing: it is over jobs alone. */
        NONE("for jobs alone"),
        /** Alerts are held: recorded, and nobody's work. */
        HOLD("hold call-outs"),
        /** Alerts are held, and what asks does not ask. */
        PAUSE("pause checks");

        private final String words;

        Effect(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What becomes of starts of jobs inside. */
    public enum Jobs {
        /** They are expected as ever. */
        AS_EVER,
        /** They are not expected; what runs all the same is judged as ever. */
        NOT_EXPECTED
    }

    public MaintenanceWindow {
        if (name.isBlank() || name.length() > 100)
            throw new IllegalArgumentException("a window has a name of at most 100 letters");
        if (reason.length() > 1000) throw new IllegalArgumentException("the reason has at most 1000 letters");
        if (effect == Effect.NONE && jobs == Jobs.AS_EVER)
            throw new IllegalArgumentException("a window that neither holds call-outs nor is over jobs does nothing");
    }

    public MaintenanceWindow during(Plan other) {
        return new MaintenanceWindow(name, scope, other, effect, jobs, reason);
    }

    /** Whether it takes a lead to make or change it. */
    public boolean isLeads() {
        return plan.recurs() || plan.length().compareTo(ANALYSTS) > 0;
    }

    public boolean holds() {
        return effect != Effect.NONE;
    }

    public boolean pauses() {
        return effect == Effect.PAUSE;
    }

    /**
     * {@code Every Tuesday at 22:40 for 50 min, hold call-outs for quay-05 with all that stands on it, because new gate firmware.}
     *
     * @param names gives the name that people know for the key of an application or a component
     */
    public String sentence(UnaryOperator<String> names) {
        var what =
                switch (effect) {
                    case NONE -> "expect no start of a job of " + scope.words(names);
                    case HOLD, PAUSE -> effect.words() + " for " + scope.words(names);
                };
        var jobsToo = effect != Effect.NONE && jobs == Jobs.NOT_EXPECTED ? ", expecting no start of a job" : "";
        var why = reason.isBlank()
                ? ""
                : ", because " + reason.strip().lines().findFirst().orElse("");
        return "%s, %s%s%s."
                .formatted(when(), what, jobsToo, why.endsWith(".") ? why.substring(0, why.length() - 1) : why);
    }

    private String when() {
        var lasting = Spans.words(plan.length());
        var first = plan.first();
        if (first != null) return "%s for %s".formatted(WHEN.format(first.atZone(plan.zone())), lasting);
        var rhythm = java.util.Objects.requireNonNull(plan.again());
        var words = RhythmText.of(rhythm);
        var last = plan.until() == null ? "" : " until " + day(plan.until());
        var begin = rhythm instanceof Rhythm.OnDays ? capital(words) : "By " + words;
        return "%s%s for %s".formatted(begin, last, lasting);
    }

    private static String day(LocalDate day) {
        return DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH).format(day);
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    /** A job with so many starts inside. */
    public record Inside(String job, int starts) {}

    /** The starts of jobs inside a time, by their own timetables; what only waits for others follows those. */
    public static List<Inside> inside(Plan.Span span, List<Job> jobs) {
        return jobs.stream()
                .map(job -> new Inside(
                        job.key(),
                        job.timetable().schedules().isEmpty()
                                ? 0
                                : job.timetable().starts(span.from(), span.to()).size()))
                .filter(one -> one.starts() > 0)
                .toList();
    }
}
