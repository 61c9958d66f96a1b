package app.morvet.core.windows;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** What somebody who plans a window should know of its times before it is kept. */
public final class Doubts {
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final int LOOKED_AT = 400;
    private static final Duration AHEAD = Duration.ofDays(400);

    private Doubts() {}

    /** In the order of their weight, within thirteen months; none where it is as it seems. */
    public static List<String> of(Plan plan, Instant now) {
        var doubts = new ArrayList<String>();
        var next = plan.next(now, LOOKED_AT).stream()
                .filter(one -> one.span().from().isBefore(now.plus(AHEAD)))
                .toList();
        if (plan.isOver(now)) doubts.add("All its times are over.");
        else if (next.isEmpty()) doubts.add("It does not come within thirteen months.");
        overlaps(next, plan, doubts);
        for (var one : next) clock(one, plan, doubts);
        return List.copyOf(doubts);
    }

    private static void overlaps(List<Plan.Occurrence> next, Plan plan, List<String> doubts) {
        for (int i = 1; i < next.size(); i++) {
            var before = next.get(i - 1).span();
            var after = next.get(i).span();
            if (!after.from().isBefore(before.to())) continue;
            doubts.add("It is longer than the time until it begins again: %s it goes on from one into the next."
                    .formatted(day(after.from(), plan.zone())));
            return;
        }
    }

    private static void clock(Plan.Occurrence one, Plan plan, List<String> doubts) {
        // What was moved by hand is where somebody wanted it.
        if (!plan.recurs() || plan.altered().containsKey(one.meant())) return;
        var zone = plan.zone();
        var offsets = zone.getRules().getValidOffsets(one.meant());
        if (offsets.isEmpty())
            doubts.add("%s %s does not come, the clock is put forward: it begins at %s."
                    .formatted(
                            DAY.format(one.meant()),
                            TIME.format(one.meant()),
                            time(one.span().from(), zone)));
        else if (offsets.size() > 1 && !plan.again().everyHour())
            doubts.add("%s %s comes twice, the clock is put back: it begins the first time."
                    .formatted(DAY.format(one.meant()), TIME.format(one.meant())));
        else {
            var usual = LocalDateTime.ofInstant(one.span().from(), zone).plus(plan.length());
            var end = LocalDateTime.ofInstant(one.span().to(), zone);
            if (!usual.equals(end))
                doubts.add("On %s the clock is changed while it is on: it ends at %s, after %d min as ever."
                        .formatted(
                                DAY.format(one.meant()),
                                TIME.format(end),
                                plan.length().toMinutes()));
        }
    }

    private static String day(Instant at, ZoneId zone) {
        return DAY.format(at.atZone(zone));
    }

    private static String time(Instant at, ZoneId zone) {
        return TIME.format(at.atZone(zone));
    }
}
