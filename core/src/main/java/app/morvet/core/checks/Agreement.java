package app.morvet.core.checks;

import java.util.HashMap;
import java.util.List;

/** What a check is in when several ask the same from different places. */
public final class Agreement {
    private Agreement() {}

    /**
     * It passes unless so many do not; then it is in what most of those say, the worse of two that are said as often.
     *
     * @param states one of each that was heard lately
     * @param agree  so many must not pass; of fewer that are heard all
     * @throws IllegalArgumentException where nobody was heard
     */
    public static String of(List<String> states, int agree) {
        if (states.isEmpty()) throw new IllegalArgumentException("nobody was heard");
        var bad = states.stream().filter(one -> !one.equals(Result.PASSED)).toList();
        if (bad.isEmpty() || bad.size() < Math.min(agree, states.size())) return Result.PASSED;
        var counts = new HashMap<String, Integer>();
        bad.forEach(one -> counts.merge(one, 1, Integer::sum));
        return counts.entrySet().stream()
                .max(java.util.Map.Entry.<String, Integer>comparingByValue()
                        .thenComparing(one -> one.getKey().equals(Result.NO_ANSWER) ? 1 : 0)
                        .thenComparing(java.util.Map.Entry::getKey))
                .orElseThrow()
                .getKey();
    }
}
