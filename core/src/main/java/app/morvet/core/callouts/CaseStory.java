package app.morvet.core.callouts;

import app.morvet.core.alert.Severity;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What happened to a case, as far as call-outs ask: from it follow where it stands at any instant, and what people were to be told of. */
public record CaseStory(List<Event> events) {
    /** What may happen. */
    public enum What {
        /** It has come to be of a severity: opened, rose, came back, was opened again. */
        TURNED,
        TAKEN,
        /** Nobody has it any more. */
        FREE,
        QUIET,
        HANDED_OFF,
        RETURNED,
        OVER
    }

    /**
     * @param severity of {@link What#TURNED}; else null
     * @param until    of {@link What#QUIET}: null where it speaks again
     */
    public record Event(Instant at, What what, @Nullable Severity severity, @Nullable Instant until) {
        public static Event of(What what, Instant at) {
            return new Event(at, what, null, null);
        }

        public static Event turned(Severity severity, Instant at) {
            return new Event(at, What.TURNED, severity, null);
        }
    }

    /** An instant at which people may have to be told. */
    public record Happened(Happening what, Severity severity, @Nullable Severity before, Instant at) {}

    public CaseStory {
        // What happened at one instant stays in the order in which it was said.
        var sorted = new ArrayList<>(events);
        sorted.sort(Comparator.comparing(Event::at));
        events = List.copyOf(sorted);
    }

    /** Where it stood at an instant, with all that happened until then. */
    public Standing at(Instant now) {
        var standing = Standing.NEW;
        for (var one : events) if (!one.at().isAfter(now)) standing = after(standing, one);
        return standing;
    }

    private static Standing after(Standing was, Event one) {
        return switch (one.what()) {
            case TURNED -> was.over() ? Standing.NEW : was;
            case TAKEN -> new Standing(was.over(), true, false, false, null);
            case FREE -> new Standing(was.over(), false, false, was.returned(), null);
            case QUIET -> new Standing(was.over(), was.taken(), was.handedOff(), was.returned(), one.until());
            case HANDED_OFF -> new Standing(was.over(), was.taken(), true, false, null);
            case RETURNED -> new Standing(was.over(), was.taken(), false, true, null);
            case OVER -> new Standing(true, was.taken(), was.handedOff(), was.returned(), null);
        };
    }

    /** All of which people may have to be told, in order of time. */
    public List<Happened> happened(java.util.function.Function<Severity, Duration> responseTime) {
        var found = new ArrayList<Happened>();
        Severity worst = null;
        for (var one : events) {
            var severity = one.severity();
            switch (one.what()) {
                case TURNED -> {
                    if (severity == null) throw new IllegalArgumentException("it turns to a severity");
                    found.add(new Happened(Happening.OPENED, severity, worst, one.at()));
                    var late = one.at().plus(responseTime.apply(severity));
                    if ((worst == null || severity.worseThan(worst)) && isFreeFrom(one.at(), late))
                        found.add(new Happened(Happening.LATE, severity, worst, late));
                    if (worst == null || severity.worseThan(worst)) worst = severity;
                }
                case RETURNED -> {
                    if (worst != null) found.add(new Happened(Happening.RETURNED, worst, worst, one.at()));
                }
                case OVER -> {
                    if (worst != null) found.add(new Happened(Happening.OVER, worst, worst, one.at()));
                    worst = null;
                }
                case TAKEN, FREE, QUIET, HANDED_OFF -> {}
            }
        }
        found.sort(Comparator.comparing(Happened::at));
        return found;
    }

    private boolean isFreeFrom(Instant from, Instant to) {
        return events.stream()
                .filter(one -> one.at().isAfter(from) && !one.at().isAfter(to))
                .noneMatch(one -> one.what() == What.TAKEN || one.what() == What.HANDED_OFF || one.what() == What.OVER);
    }
}
