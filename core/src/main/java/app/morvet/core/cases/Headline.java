package app.morvet.core.cases;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Numbers;
import app.morvet.core.guard.Projection;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.StateWords;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What is wrong, in one line of words. */
public final class Headline {
    /** The measure whose readings are failed messages. */
    public static final String FAILED = "failed_messages";

    private static final String OVER = "Over on ";

    private Headline() {}

    /**
     * What an alert is about.
     *
     * @param measure name of the measure
     * @param words   the measure in words
     * @param unit    its unit; may be empty
     * @param subject the name of what it was raised on, with the labels that tell series of it apart
     * @param level   the severity of the alert
     * @param value   the value it was last judged by; NaN when nothing is known
     * @param seen    where a trend is heading, for a trend; else null
     */
    public record Told(
            String measure,
            String words,
            String unit,
            String subject,
            Severity level,
            double value,
            @Nullable Projection seen) {}

    /**
     * {@code 37 failed since midnight on Manifest to harbour authority, over the warning limit of 12};
     * {@code Disk used on quay-03 /data heads above 95 %: Thursday about 14:00, between 09:00 and 21:00}.
     */
    public static String of(Guard guard, Told told) {
        if (Double.isNaN(told.value())) return "Nothing is heard of %s on %s".formatted(told.words(), told.subject());
        // A notice is raised where nothing is heard, whatever else is watched.
        if (told.level() == Severity.NOTICE && !isWrong(guard, told)) return heardAgain(told);
        return switch (guard) {
            case LimitGuard limit -> limit(limit, told);
            case SilenceGuard silence ->
                isWrong(guard, told)
                        ? "Readings of %s not heard on %s: %s or more promised ones in a row have not come"
                                .formatted(told.words(), told.subject(), Numbers.rounded(told.value()))
                        : heardAgain(told);
            case TrendGuard trend ->
                "%s on %s heads %s %s%s: %s"
                        .formatted(
                                capital(told.words()),
                                told.subject(),
                                trend.side().word(),
                                Numbers.with(Numbers.exact(trend.target()), told.unit()),
                                isWrong(guard, told) ? "" : ", but not so soon any more",
                                crossing(trend, told));
            case BandGuard band ->
                "%s on %s is %s, %s"
                        .formatted(
                                capital(told.words()),
                                told.subject(),
                                isWrong(guard, told) ? "unusual for this hour" : "usual for this hour again",
                                fromMiddle(band.side(), told.value()));
            case StateGuard state -> state(state, told);
            case CombinationGuard combination ->
                "%s on %s".formatted("What is watched for together holds", told.subject());
        };
    }

    /** What is raised stays up for a while after that; who reads what it says by then is told that it is so no more. */
    private static boolean isWrong(Guard guard, Told told) {
        return guard.limits().mildest().breachedBy(told.value());
    }

    private static String heardAgain(Told told) {
        return "Readings of %s are heard again on %s".formatted(told.words(), told.subject());
    }

    private static String fromMiddle(Side side, double spreads) {
        var off = Numbers.rounded(Math.abs(spreads)) + " spreads ";
        if (side == Side.OUTSIDE) return off + "off";
        boolean above = (side == Side.ABOVE) == spreads >= 0;
        return off + (above ? Side.ABOVE : Side.BELOW).word() + " its middle";
    }

    private static String state(StateGuard guard, Told told) {
        var now = StateGuard.word(told.value(), StateWords.parse(told.unit()));
        var when = told.level() == Severity.CRITICAL ? guard.critical() : guard.warning();
        var on = capital(told.words()) + " on " + told.subject();
        if (when == null || when.manner() == StateGuard.Manner.IN) {
            var is = on + (now.contains(" ") ? ": " : " is ") + now;
            var bad = when == null ? guard.words() : when.words();
            // It is up until that has lasted: who reads that it runs is told why it is there.
            return guard.mark(now).isPresent() ? is : is + ", back from " + String.join(" or ", bad);
        }
        return "%s %s %s%s"
                .formatted(
                        on,
                        when.manner() == StateGuard.Manner.CAME ? "came into" : "left",
                        String.join(" or ", when.words()),
                        when.manner() == StateGuard.Manner.CAME && when.words().contains(now)
                                ? ""
                                : ", is " + now + " now");
    }

    private static String limit(LimitGuard guard, Told told) {
        var unit = GuardSentence.unit(guard, told.unit());
        var line = guard.limits().of(told.level()).orElse(guard.limits().mildest());
        boolean breached = line.breachedBy(told.value());
        if (told.measure().equals(FAILED) && guard.amount().fold() == Amount.Fold.SUM) {
            return "%s failed %s on %s, %s the %s limit of %s"
                    .formatted(
                            Numbers.rounded(told.value()),
                            window(guard.window()),
                            told.subject(),
                            breached ? "over" : "now at or under",
                            told.level().word(),
                            Numbers.exact(line.low()));
        }
        return "%s on %s is %s, %s"
                .formatted(
                        capital(told.words()),
                        told.subject(),
                        Numbers.with(Numbers.rounded(told.value()), unit),
                        breached
                                ? breach(line, told.level(), unit)
                                : "back from its " + told.level().word() + " limit");
    }

    private static String breach(Limit line, Severity level, String unit) {
        var words =
                switch (line.side()) {
                    case ABOVE -> "over the %s limit of %s";
                    case BELOW -> "under the %s limit of %s";
                    case OUTSIDE -> "outside the %s limits of %s";
                    case EQUAL -> "at the %s value of %s";
                };
        return words.formatted(
                level.word(),
                line.side() == Side.OUTSIDE
                        ? Numbers.exact(line.low()) + " to " + Numbers.with(Numbers.exact(line.high()), unit)
                        : Numbers.with(Numbers.exact(line.low()), unit));
    }

    private static String window(Window window) {
        return window instanceof Window.Sliding ? "in" + window.words().substring("over".length()) : window.words();
    }

    private static String crossing(TrendGuard guard, Told told) {
        var seen = told.seen();
        if (told.value() <= 0) return "it is there";
        if (seen == null) return "in about " + Numbers.rounded(told.value()) + " h";
        return crossing(seen, guard);
    }

    /** {@code Thursday about 14:00, between 09:00 and 21:00}. */
    public static String crossing(Projection seen, TrendGuard guard) {
        var crossing = seen.crossing(guard.target(), guard.side());
        var at = crossing.at();
        var early = crossing.early();
        var late = crossing.late();
        if (at == null || early == null) return "not within " + Projection.FARTHEST.toDays() + " days";
        if (at.equals(seen.seen())) return "it is there";
        var zone = guard.zone();
        var between = late == null
                ? ", not before " + when(early, at, seen.seen(), guard)
                : ", between %s and %s"
                        .formatted(when(early, at, seen.seen(), guard), when(late, at, seen.seen(), guard));
        return day(at.atZone(zone), seen.seen().atZone(zone)) + " about " + time(at.atZone(zone)) + between;
    }

    private static String when(Instant one, Instant beside, Instant seen, TrendGuard guard) {
        var there = one.atZone(guard.zone());
        return there.toLocalDate().equals(beside.atZone(guard.zone()).toLocalDate())
                ? time(there)
                : day(there, seen.atZone(guard.zone())) + " " + time(there);
    }

    private static String time(ZonedDateTime at) {
        return at.format(DateTimeFormatter.ofPattern("HH:mm"));
    }

    private static String day(ZonedDateTime at, ZonedDateTime now) {
        if (at.toLocalDate().equals(now.toLocalDate())) return "today";
        if (at.isBefore(now.plusDays(6))) return at.getDayOfWeek().getDisplayName(TextStyle.FULL, Locale.ENGLISH);
        return at.format(DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH));
    }

    private static String capital(String words) {
        return words.isEmpty() ? words : Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    /** Whether it is one of a case whose alerts are all over. */
    public static boolean tellsOfOver(String headline) {
        return headline.startsWith(OVER);
    }

    /** Of a case whose alerts are all over. */
    public static String over(String subject, String worst) {
        return OVER + subject + "; at worst: " + worst;
    }
}
