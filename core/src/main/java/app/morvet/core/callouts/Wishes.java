package app.morvet.core.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.guard.Hours;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * How somebody wishes to be told. What is critical is told at once, whatever they wish.
 *
 * @param first     the way by which they are told first, of those that a rule names; null as the rule says
 * @param quietFrom from when on they are told only of what is critical, each day by their own clock; null where never
 * @param quietTo   until when; where it is not after {@code quietFrom}, on the next day
 * @param digest    when they are told of what is not critical, all in one message; null at once
 * @param windows   whether they are told that windows begin and end, where a rule says so
 */
public record Wishes(
        @Nullable Way first,
        @Nullable LocalTime quietFrom,
        @Nullable LocalTime quietTo,
        @Nullable Digest digest,
        boolean windows) {
    public static final Wishes NONE = new Wishes(null, null, null, null, true);

    /** @throws IllegalArgumentException where half of the quiet hours is missing, or they have no end */
    public Wishes {
        if (first != null && !first.isPersonal())
            throw new IllegalArgumentException("people are told by mail or by text message");
        if ((quietFrom == null) != (quietTo == null))
            throw new IllegalArgumentException("say from when and until when it is quiet");
        if (quietFrom != null && quietFrom.equals(quietTo))
            throw new IllegalArgumentException("quiet hours end at another time than they begin");
    }

    /** What a rule names, in the order in which they are told: by the way that they wish first, then as the rule says. */
    public <T> List<T> order(List<T> named, Function<T, Way> way) {
        return named.stream()
                .sorted(Comparator.comparing(one -> way.apply(one) != first))
                .toList();
    }

    /**
     * When they are told of something: of what is critical at once; of what is less at the next time of their digest, and not before the
     * end of quiet hours. Where the clock is changed meanwhile, quiet hours end when it shows their end, or first does not show them any
     * more.
     *
     * @param zone by whose clock they live
     */
    public Instant due(Severity severity, Instant at, ZoneId zone) {
        if (severity == Severity.CRITICAL) return at;
        var due = digest == null ? at : digest.next(at, zone);
        if (quietFrom == null || quietTo == null) return due;
        var quiet = new Hours(EnumSet.allOf(DayOfWeek.class), quietFrom, quietTo, zone);
        if (!quiet.apply(due)) return due;
        return quiet.edges(due, due.plus(Duration.ofDays(2))).stream()
                .filter(edge -> !quiet.apply(edge))
                .findFirst()
                .orElse(due);
    }

    /** Whether they wish to hear of something that happened. */
    public boolean hearOf(Happening what) {
        return windows || what != Happening.WINDOW;
    }

    /** {@code text message first; quiet from 22:00 to 06:00; what is not critical every day at 07:00}, or {@code as rules say} */
    public String words() {
        var words = new ArrayList<String>();
        if (first != null) words.add(first.words() + " first");
        if (quietFrom != null) words.add("quiet from " + quietFrom + " to " + quietTo);
        if (digest != null) words.add("what is not critical " + digest.words());
        if (!windows) words.add("nothing of windows that begin and end");
        return words.isEmpty() ? "as rules say" : String.join("; ", words);
    }
}
