package app.morvet.work.actions;

import app.morvet.core.actions.OrderState;
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
        OrderState state,
        String words,
        Instant askedAt,
        @Nullable Instant fetchedAt,
        @Nullable Instant doneAt) {
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
