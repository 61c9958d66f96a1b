package app.morvet.core.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * How soon somebody should look at a case: a sum of parts, so that a row can show why it stands where it stands.
 *
 * <ul>
 *   <li><b>severity</b>: critical 60, warning 30, notice 10
 *   <li><b>tier</b>: 1 adds 20, 2 adds 12, 3 adds 6, 4 nothing
 *   <li><b>spread</b>: 5 for each tenfold of failures, and 5 for each further component, together at most 20
 *   <li><b>waiting</b>: nothing within the response time; after it 10 at once and 10 more for each further response time
 *       that passes, at most 30; nothing once somebody has taken the case
 *   <li><b>returned</b>: 150 when the owning team gave the case back, more than all other parts together
 * </ul>
 *
 * A case whose alerts are all over counts half of its severity: it wants settling, not running.
 */
public record Urgency(int severity, int tier, int spread, int waiting, int returned) {
    private static final int MOST_SPREAD = 20;
    private static final int MOST_WAITING = 30;

    /**
     * What urgency is made from.
     *
     * @param severity   the worst severity of the case's alerts
     * @param over       whether all its alerts have cleared
     * @param tier       of the application; the most important one where several are touched
     * @param failures   how many failures are folded into the case, 0 or more
     * @param components how many components are touched, 1 or more
     * @param late       for how long somebody should have had it whom it still waits for; not above zero where that is not so
     * @param returned   whether the owning team gave it back and nobody has dealt with that yet
     */
    public record Facts(
            Severity severity,
            boolean over,
            Tier tier,
            long failures,
            int components,
            Duration late,
            boolean returned) {}

    public static Urgency of(Facts facts) {
        return new Urgency(
                severityPart(facts),
                tierPart(facts.tier()),
                spreadPart(facts),
                waitingPart(facts),
                facts.returned() ? 150 : 0);
    }

    public int total() {
        return severity + tier + spread + waiting + returned;
    }

    /** The parts that count, in words: {@code critical +60 · tier 1 +20 · waiting +20}. */
    public String words(Facts facts) {
        var parts = new ArrayList<String>();
        add(parts, "returned", returned);
        add(
                parts,
                facts.over()
                        ? facts.severity().word() + ", over"
                        : facts.severity().word(),
                severity);
        add(parts, "tier " + facts.tier().number(), tier);
        add(parts, "spread", spread);
        add(parts, "waiting", waiting);
        return String.join(" · ", parts);
    }

    private static void add(List<String> parts, String name, int points) {
        if (points > 0) parts.add(name + " +" + points);
    }

    private static int severityPart(Facts facts) {
        int whole =
                switch (facts.severity()) {
                    case CRITICAL -> 60;
                    case WARNING -> 30;
                    case NOTICE -> 10;
                };
        return facts.over() ? whole / 2 : whole;
    }

    private static int tierPart(Tier tier) {
        return switch (tier.number()) {
            case 1 -> 20;
            case 2 -> 12;
            case 3 -> 6;
            default -> 0;
        };
    }

    private static int spreadPart(Facts facts) {
        int tenfolds = (int) Math.floor(Math.log10(Math.max(1, facts.failures())));
        return Math.min(MOST_SPREAD, 5 * tenfolds + 5 * (Math.max(1, facts.components()) - 1));
    }

    private static int waitingPart(Facts facts) {
        if (!facts.late().isPositive()) return 0;
        var response = ResponseTime.of(facts.severity(), facts.tier());
        return (int) Math.min(MOST_WAITING, 10 + 10 * facts.late().dividedBy(response));
    }
}
