package app.morvet.core.sorting;

import app.morvet.core.guard.Truth;
import java.util.ArrayList;
import java.util.List;

/**
 * Sorts failed messages by an ordered list: the first rule that takes a message has it, and the last takes whatever is
 * left. A rule of which a part fails takes nothing of that message and is told of; the others go on.
 */
public final class Sorter {
    /**
     * Where a message went.
     *
     * @param rule    place of the rule, from 0
     * @param stopped places of the rules that failed on the way
     */
    public record Sorted(int rule, List<Integer> stopped) {}

    private final List<Criteria> rules;

    /**
     * @param rules in order
     * @throws IllegalArgumentException where the last does not take everything
     */
    public Sorter(List<Criteria> rules) {
        this.rules = List.copyOf(rules);
        if (rules.isEmpty() || !rules.getLast().takesEverything())
            throw new IllegalArgumentException("the last rule must take everything that is left");
    }

    public Sorted sort(Candidate message) {
        List<Integer> stopped = List.of();
        for (int place = 0; place < rules.size(); place++) {
            try {
                if (rules.get(place).of(message) == Truth.TRUE) return new Sorted(place, stopped);
            } catch (RuntimeException | StackOverflowError failed) {
                if (stopped.isEmpty()) stopped = new ArrayList<>();
                stopped.add(place);
            }
        }
        throw new IllegalStateException("the last rule takes everything");
    }
}
