package app.morvet.core.duty;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Hours;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * In which hours a team may be called, by the tier of what is in trouble. Outside of them nobody of it is called of what is critical, so
 * that whoever comes next is; what is less waits until they begin.
 *
 * @param byTier for tiers of which nothing is said it may be called at any time
 */
public record CallHours(Map<Tier, Hours> byTier) {
    public static final CallHours ALWAYS = new CallHours(Map.of());

    /** Hours come again within a week, on whatever days they are, and a day later where the clock left them out. */
    private static final Duration A_WEEK = Duration.ofDays(9);

    public CallHours {
        byTier = Map.copyOf(byTier);
    }

    private boolean open(Tier tier, Instant at) {
        var hours = byTier.get(tier);
        return hours == null || hours.apply(at);
    }

    /** Whether nobody of the team is called of this just now. */
    public boolean closed(Tier tier, Severity severity, Instant at) {
        return severity == Severity.CRITICAL && !open(tier, at);
    }

    /** When the team is told of something that is found at an instant: of what is not critical not before its hours begin. */
    public Instant due(Tier tier, Severity severity, Instant at) {
        var hours = byTier.get(tier);
        if (severity == Severity.CRITICAL || hours == null || hours.apply(at)) return at;
        return hours.edges(at, at.plus(A_WEEK)).stream()
                .filter(hours::apply)
                .findFirst()
                .orElse(at);
    }

    /** {@code on weekdays from 08:00 to 16:00}, or {@code at all times}. */
    public String words(Tier tier) {
        return Hours.words(byTier.get(tier));
    }

    /** {@code Tier 3 on weekdays from 08:00 to 16:00} for each tier of which something is said, and the others in one line. */
    public List<String> lines() {
        if (byTier.isEmpty()) return List.of("At all times.");
        var lines = byTier.entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .map(one -> "Tier %d %s".formatted(one.getKey().number(), Hours.words(one.getValue())));
        var others = byTier.size() < 4 ? Stream.of("Other tiers at all times") : Stream.<String>empty();
        return Stream.concat(lines, others).toList();
    }

    @Override
    public String toString() {
        return String.join("; ", lines());
    }
}
