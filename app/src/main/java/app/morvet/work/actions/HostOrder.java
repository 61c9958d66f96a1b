package app.morvet.work.actions;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Something asked of an outpost, or done by a web call.
 *
 * @param outpost   that is asked; null for a web call
 * @param webAction which web call it is; null for an outpost, and for one that is gone
 * @param component that it is done to
 * @param caseId    from which it was asked; null where from none
 * @param by        who asked, or in whose name a guard did
 * @param alert     for which a guard had it done by itself; null where a person asked
 * @param words     what came of it, as the outpost says
 */
public record HostOrder(
        long id,
        @Nullable Long outpost,
        @Nullable Long webAction,
        String action,
        Map<String, String> arguments,
        long component,
        @Nullable Long caseId,
        long by,
        @Nullable Long alert,
        State state,
        String words,
        Instant askedAt,
        @Nullable Instant fetchedAt,
        @Nullable Instant doneAt) {
    /** What is not fetched within this is not done any more. */
    static final Duration LAPSES_AFTER = Duration.ofMinutes(2);

    /** What was fetched and of which nothing is heard for so long is not known. */
    static final Duration UNKNOWN_AFTER = Duration.ofMinutes(15);

    /** What became of it. */
    public enum State {
        ASKED("asked", "nodata"),
        FETCHED("being done", "nodata"),
        DONE("done", "steady"),
        FAILED("failed", "critical"),
        REFUSED("refused", "warning"),
        LAPSED("lapsed", "warning"),
        UNKNOWN("not known", "critical");

        private final String words;
        private final String mark;

        State(String words, String mark) {
            this.words = words;
            this.mark = mark;
        }

        public String words() {
            return words;
        }

        public String mark() {
            return mark;
        }
    }

    /** As {@code restart ledger-post with depth=full}. */
    public String what() {
        if (arguments.isEmpty()) return action;
        return action + " with "
                + String.join(
                        ", ",
                        arguments.entrySet().stream()
                                .map(one -> one.getKey() + "=" + one.getValue())
                                .sorted()
                                .toList());
    }
}
