package app.morvet.core.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Tier;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Within what time somebody should have taken a case. */
public final class ResponseTime {
    private static final int[] CRITICAL_MINUTES = {15, 30, 60, 120};
    private static final int[] WARNING_MINUTES = {60, 120, 240, 480};
    private static final int[] NOTICE_MINUTES = {480, 480, 1440, 1440};

    private ResponseTime() {}

    /** From a quarter of an hour (critical, tier 1) to a day (notice, tier 4). */
    public static Duration of(Severity severity, Tier tier) {
        var minutes =
                switch (severity) {
                    case CRITICAL -> CRITICAL_MINUTES;
                    case WARNING -> WARNING_MINUTES;
                    case NOTICE -> NOTICE_MINUTES;
                };
        return Duration.ofMinutes(minutes[tier.number() - 1]);
    }

    /**
     * By when somebody should have a case that turned to a severity: within that severity's time from then on, or as was promised
     * before, where that is sooner. So what turns worse is not late at once, and what was late does not stop being so.
     *
     * @param promised by when it was to be before; null where nobody was waited for: it is new, or was over, settled, or with a team
     */
    public static Instant by(@Nullable Instant promised, Instant turned, Severity severity, Tier tier) {
        var by = turned.plus(of(severity, tier));
        return promised != null && promised.isBefore(by) ? promised : by;
    }
}
