package app.morvet.core.checks;

import java.time.Duration;
import java.util.List;

/**
 * What came of one run of a check.
 *
 * @param state    one of {@link #WORDS}
 * @param took     the whole of it
 * @param verdicts of each expectation, where there was an answer
 * @param said     what it said, or why there was no answer
 * @param daysLeft of a certificate; NaN of others
 */
public record Result(String state, Duration took, List<Verdict> verdicts, String said, double daysLeft) {
    public static final String PASSED = "passed";
    public static final String FAILED = "failed";
    public static final String NO_ANSWER = "no answer";

    /** What a check may be in. */
    public static final List<String> WORDS = List.of(PASSED, FAILED, NO_ANSWER);

    public static Result of(Target target, Answer answer) {
        var verdicts = target.expectations().stream().map(one -> one.of(answer)).toList();
        boolean met = verdicts.stream().allMatch(Verdict::met);
        return new Result(met ? PASSED : FAILED, answer.took(), verdicts, answer.body(), Double.NaN);
    }

    public static Result none(Duration took, String why) {
        return new Result(NO_ANSWER, took, List.of(), why, Double.NaN);
    }

    public static Result certificate(Target.Certificate target, Duration took, double daysLeft, String said) {
        var verdict = Verdict.of(
                target.days() + " days left",
                daysLeft >= target.days(),
                "there are %.0f".formatted(Math.floor(daysLeft)));
        return new Result(verdict.met() ? PASSED : FAILED, took, List.of(verdict), said, daysLeft);
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
