package app.morvet.core.batch;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import java.util.function.UnaryOperator;

/**
 * A standing rule over runs.
 *
 * @param severity of its alerts
 * @param below    for deadlines at risk: the chance in percent under which it calls, more than 0 and at most 100
 * @param criticalBelow for deadlines at risk: the chance in percent under which it is critical; 0 for never
 */
public record RunGuard(RunTrouble trouble, Scope scope, Severity severity, int below, int criticalBelow) {
    /** The chance under which a deadline is at risk where nothing else is said. */
    public static final int USUAL_BELOW = 60;

    /** A chance that has risen this far over the limit is believed to stay there. */
    static final double EASES = 0.1;

    public RunGuard {
        if (trouble == RunTrouble.DEADLINE_AT_RISK) {
            if (below < 1 || below > 100)
                throw new IllegalArgumentException("the chance must be 1 to 100 %, was " + below);
            if (criticalBelow < 0 || criticalBelow > below)
                throw new IllegalArgumentException("critical must not lie above the chance at which it calls");
        }
    }

    public static RunGuard of(RunTrouble trouble, Scope scope, Severity severity) {
        return new RunGuard(trouble, scope, severity, USUAL_BELOW, 0);
    }

    /**
     * The guard as a sentence.
     *
     * @param naming the name of what the scope names
     */
    public String sentence(UnaryOperator<String> naming) {
        var who = scope.equals(Scope.ALL) ? "any job" : scope.jobWords("a", naming);
        if (trouble != RunTrouble.DEADLINE_AT_RISK)
            return "When %s %s, raise %s.".formatted(who, trouble.words(), article(severity));
        var critical = criticalBelow == 0 || severity == Severity.CRITICAL
                ? ""
                : "; below %d %%, a critical".formatted(criticalBelow);
        return "When %s has a chance below %d %% to make its deadline, raise %s%s."
                .formatted(who, below, article(severity), critical);
    }

    private static String article(Severity severity) {
        return "a " + severity.word();
    }

    /**
     * Whether it calls for a finding of its trouble. Of deadlines at risk only for those under its own chance; once it is up,
     * until the chance has risen well over that.
     */
    public boolean calls(RunWatch.Finding finding, boolean up) {
        if (finding.trouble() != trouble) return false;
        return trouble != RunTrouble.DEADLINE_AT_RISK || atRisk(finding.value() / 100, below, up);
    }

    static boolean atRisk(double chance, int below, boolean up) {
        double limit = below / 100.0;
        return chance < (up ? Math.min(1, limit + EASES) : limit);
    }

    /** How bad a chance is; only for deadlines at risk. */
    public Severity severityOf(double chance) {
        return chance * 100 < criticalBelow ? Severity.CRITICAL : severity;
    }
}
