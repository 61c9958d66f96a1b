package app.morvet.rules.guards;

import app.morvet.alerting.windows.Windows;
import app.morvet.core.windows.Cover;
import java.time.Instant;
import java.util.List;

/** The windows over the subjects of a replay: what they would have held is said, and shown, beside what the guard would have done. */
final class ReplayedWindows {
    private static final int MOST_DRAWN = 200;

    /** A time in which a window was over a subject, in seconds since 1970. */
    record Hatched(double from, double to, String name) {}

    private final Windows windows;
    private final Matching matching;
    private final Cover cover;

    ReplayedWindows(Windows windows, Matching matching, Instant from, Instant to) {
        this.windows = windows;
        this.matching = matching;
        this.cover = windows.within(from, to);
    }

    /** The window that would have held what is raised on a series at an instant; empty where none would. */
    String holding(long series, Instant at) {
        if (cover.on().isEmpty()) return "";
        return matching.subject(series)
                .flatMap(one -> cover.of(windows.factsOf(one.component()), at))
                .map(on -> on.window().name())
                .orElse("");
    }

    List<Hatched> over(Subject subject) {
        if (cover.on().isEmpty()) return List.of();
        var facts = windows.factsOf(subject.component());
        return cover.on().stream()
                .filter(on -> on.window().holds() && on.window().scope().takes(facts))
                .limit(MOST_DRAWN)
                .map(on -> new Hatched(
                        on.from().toEpochMilli() / 1000.0,
                        on.to().toEpochMilli() / 1000.0,
                        on.window().name()))
                .toList();
    }
}
