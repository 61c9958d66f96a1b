package app.morvet.core.actions;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What became of an order. It is begun at most once and ends once; only what lapsed or is not known may turn out to have been done
 * after all, when the one who did it is heard again.
 */
public enum OrderState {
    ASKED("asked"),
    FETCHED("being done"),
    DONE("done"),
    FAILED("failed"),
    REFUSED("refused"),
    LAPSED("lapsed"),
    UNKNOWN("not known");

    /** What is not fetched within this is not done any more. */
    public static final Duration LAPSES_AFTER = Duration.ofMinutes(2);

    /** What was fetched and of which nothing is heard for so long is not known. */
    public static final Duration UNKNOWN_AFTER = Duration.ofMinutes(15);

    private final String words;

    OrderState(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    /** Whether another may follow on it. */
    public boolean mayBecome(OrderState next) {
        return switch (this) {
            case ASKED -> next != ASKED;
            case FETCHED -> next != ASKED && next != FETCHED && next != LAPSED;
            case LAPSED, UNKNOWN -> next == DONE || next == FAILED;
            case DONE, FAILED, REFUSED -> false;
        };
    }

    /** On which it may follow. */
    public List<OrderState> before() {
        return Arrays.stream(values()).filter(one -> one.mayBecome(this)).toList();
    }

    /** How long is left for it to be fetched; not positive where it is too late. */
    public static Duration left(Instant asked, Instant now) {
        return Duration.between(now, asked.plus(LAPSES_AFTER));
    }

    /**
     * What an order of which nothing is heard has become by now.
     *
     * @param fetched when it was; null while it is not
     * @return empty while it may still be waited for
     */
    public Optional<OrderState> overdue(Instant asked, @Nullable Instant fetched, Instant now) {
        if (this == ASKED && left(asked, now).isNegative()) return Optional.of(LAPSED);
        if (this == FETCHED && fetched != null && fetched.plus(UNKNOWN_AFTER).isBefore(now))
            return Optional.of(UNKNOWN);
        return Optional.empty();
    }
}
