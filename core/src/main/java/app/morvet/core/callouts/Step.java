package app.morvet.core.callouts;

import app.morvet.core.guard.Spans;
import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;

/**
 * One telling of a rule.
 *
 * @param after so long whoever was told before has to take it; for the first step, so long after what happened it is told
 * @param ways how, in this order: the next where one fails. What is outside has a way of its own, whatever stands here
 */
public record Step(Duration after, Whom whom, List<Way> ways) {
    private static final Duration LONGEST_WAIT = Duration.ofDays(1);

    public Step {
        if (after.isNegative() || after.compareTo(LONGEST_WAIT) > 0)
            throw new IllegalArgumentException("a step waits for 1 day at most, not " + Spans.words(after));
        ways = List.copyOf(ways);
        if (ways.isEmpty() && !whom.hasOwnWay()) throw new IllegalArgumentException("say by which way they are told");
        if (!ways.stream().allMatch(Way::isPersonal))
            throw new IllegalArgumentException("people are told by mail or by text message");
    }

    /** {@code the first line of its team by text message, else by mail} */
    public String words(Whom.Names names) {
        if (whom.hasOwnWay()) return whom.words(names);
        return whom.words(names) + " "
                + ways.stream().map(way -> "by " + way.words()).collect(Collectors.joining(", else "));
    }
}
