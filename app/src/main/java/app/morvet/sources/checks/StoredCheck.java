package app.morvet.sources.checks;

import app.morvet.core.checks.Target;
import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A check as it stands.
 *
 * @param component of what it is, by its id
 * @param tries     how often it is asked before what came of it counts
 * @param headers   that are sent with a call over HTTP, one a line; they may hold secrets
 */
record StoredCheck(
        long id,
        String name,
        long component,
        Duration every,
        int tries,
        Target target,
        String headers,
        boolean active,
        int version,
        @Nullable Last last,
        @Nullable Passed passed) {
    /** What came of it last. */
    record Last(Instant at, String state, Duration took, String why) {}

    record Passed(Instant at, String said) {}

    StoredCheck of(long other) {
        return new StoredCheck(id, name, other, every, tries, target, headers, active, version, last, passed);
    }

    String sentence() {
        return "Every %s, %s%s."
                .formatted(
                        Spans.words(every), target.words(), tries == 1 ? "" : "; of " + tries + " tries one is enough");
    }
}
