package app.morvet.core.windows;

import app.morvet.core.estate.Scope;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * The windows about some time, and what each covers. Of several the strongest counts, and of those the one that ends last; what
 * holds nothing covers nothing.
 */
public record Cover(List<On> on) {
    public static final Cover NONE = new Cover(List.of());

    /** A window by its id. */
    public record Known(long id, MaintenanceWindow window) {}

    /** A window at one of its times. */
    public record On(long id, MaintenanceWindow window, Plan.Occurrence occurrence) {
        public Instant from() {
            return occurrence.span().from();
        }

        public Instant to() {
            return occurrence.span().to();
        }
    }

    private static final Comparator<On> STRENGTH = Comparator.comparing(
                    (On one) -> one.window().effect())
            .thenComparing(On::to)
            .thenComparing(On::id);

    public Cover {
        on = List.copyOf(on);
    }

    /** All that have to do with a half-open span. */
    public static Cover within(Collection<Known> windows, Instant from, Instant to) {
        return new Cover(windows.stream()
                .flatMap(one -> one.window().plan().occurrences(from, to).stream()
                        .map(occurrence -> new On(one.id(), one.window(), occurrence)))
                .toList());
    }

    /** Those that are on at an instant, and hold something or not. */
    public List<On> at(Instant at) {
        return on.stream().filter(one -> one.occurrence().span().has(at)).toList();
    }

    /** What covers a component at an instant. */
    public Optional<On> of(Scope.Facts component, Instant at) {
        On strongest = null;
        for (var one : on)
            if (one.window().holds()
                    && one.occurrence().span().has(at)
                    && (strongest == null || STRENGTH.compare(one, strongest) > 0)
                    && one.window().scope().takes(component)) strongest = one;
        return Optional.ofNullable(strongest);
    }

    /**
     * What had covered a component and ended at most so long before an instant, the last to end. What is over each thing of a sort, or over
     * all, is left out: that two things were in it says nothing.
     */
    public Optional<On> endedOver(Scope.Facts component, Instant at, Duration before) {
        return on.stream()
                .filter(one -> !one.to().isAfter(at) && !one.to().isBefore(at.minus(before)))
                .filter(one -> one.window().holds()
                        && one.window().scope().isOverSomething()
                        && one.window().scope().takes(component))
                .max(Comparator.comparing(On::to).thenComparing(On::id));
    }

    /** Whether checks of a component do not run at an instant. */
    public boolean pauses(Scope.Facts component, Instant at) {
        return of(component, at).filter(one -> one.window().pauses()).isPresent();
    }
}
