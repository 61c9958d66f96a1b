package app.morvet.core.checks;

import app.morvet.core.readings.Sort;
import java.time.Duration;
import java.util.List;
import java.util.Map;

/**
 * What came of one run of a check.
 *
 * @param state    one of {@link #WORDS}
 * @param took     the whole of it
 * @param verdicts of each expectation, where there was an answer
 * @param said     what it said, or why there was no answer
 * @param figures  what was measured beside it
 * @param facts    what the component said of itself, by name: what differs from before is a change
 * @param memory   what the next run is to know of this one; empty where nothing
 */
public record Result(
        String state,
        Duration took,
        List<Verdict> verdicts,
        String said,
        List<Figure> figures,
        Map<String, String> facts,
        String memory) {
    /** The measure that says what a check is in. */
    public static final String MEASURE = "check";

    public static final String PASSED = "passed";
    public static final String FAILED = "failed";
    public static final String NO_ANSWER = "no answer";
    public static final String CHANGED = "changed";

    /** What a check may be in. Only ever added to at the end. */
    public static final List<String> WORDS = List.of(PASSED, FAILED, NO_ANSWER, CHANGED);

    /**
     * Something measured.
     *
     * @param labels beside that of the check
     * @param words  of a state all that it may be; its value is the place of one of them. Empty where it is a number
     */
    public record Figure(
            String measure, Sort sort, String unit, Map<String, String> labels, double value, List<String> words) {
        public static Figure gauge(String measure, String unit, double value) {
            return new Figure(measure, Sort.GAUGE, unit, Map.of(), value, List.of());
        }

        public static Figure count(String measure, Map<String, String> labels, double value) {
            return new Figure(measure, Sort.COUNT, "", labels, value, List.of());
        }

        public static Figure state(String measure, List<String> words, String word) {
            return new Figure(measure, Sort.STATE, "", Map.of(), words.indexOf(word), words);
        }
    }

    public Result {
        verdicts = List.copyOf(verdicts);
        figures = List.copyOf(figures);
        facts = Map.copyOf(facts);
    }

    public static Result of(List<Verdict> verdicts, Duration took, String said) {
        return new Result(
                verdicts.stream().allMatch(Verdict::met) ? PASSED : FAILED,
                took,
                verdicts,
                said,
                List.of(),
                Map.of(),
                "");
    }

    public static Result of(List<Expectation> expectations, Answer answer) {
        return of(expectations.stream().map(one -> one.of(answer)).toList(), answer.took(), answer.body());
    }

    public static Result none(Duration took, String why) {
        return new Result(NO_ANSWER, took, List.of(), why, List.of(), Map.of(), "");
    }

    /** It is no longer as it was when it was first looked at. */
    public static Result changed(Duration took, String what, String difference) {
        return new Result(
                CHANGED,
                took,
                List.of(Verdict.of(what + " as before", false, "it differs")),
                difference,
                List.of(),
                Map.of(),
                "");
    }

    public Result with(Figure... more) {
        return with(List.of(more), facts, memory);
    }

    public Result with(List<Figure> more, Map<String, String> facts, String memory) {
        return new Result(state, took, verdicts, said, more, facts, memory);
    }

    public Result remembering(String what) {
        return with(figures, facts, what);
    }

    public boolean passed() {
        return state.equals(PASSED);
    }

    /** In one line: what was not met, or why there was no answer. */
    public String why() {
        if (state.equals(NO_ANSWER)) return said;
        return verdicts.stream()
                .filter(one -> !one.met())
                .map(one -> "expected " + one.expected() + ", " + one.found())
                .reduce((one, other) -> one + "; " + other)
                .orElse("");
    }
}
