package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Alerts;
import app.morvet.core.cases.Together;
import app.morvet.core.guard.Spans;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Other open cases that began at about the same time or fail with the same error, with how often such trouble went together before. It is a
 * suggestion and no more: nothing is folded by it.
 */
@Component
@Order(3)
class BeganTogether implements DossierPart {
    private static final Duration NEAR = Duration.ofMinutes(3);
    private static final Duration SPAN = Duration.ofDays(90);
    private static final int LOOKED_AT = 10;
    private static final int SHOWN = 4;

    /** @param often how often before, in words */
    record Row(long id, String headline, String apart, String often, boolean tells) {}

    /** @param version of the case that is shown */
    record Shown(long id, int version, List<Row> rows) {}

    private final CaseAlerts cases;
    private final JoinedCases joined;
    private final Alerts alerts;
    private final Times times;

    BeganTogether(CaseAlerts cases, JoinedCases joined, Alerts alerts, Times times) {
        this.cases = cases;
        this.joined = joined;
        this.alerts = alerts;
        this.times = times;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        if (shown.settled()) return Optional.empty();
        var open = cases.openTrouble().cases();
        var others = Stream.concat(
                        open.stream()
                                .filter(one -> apart(shown, one).compareTo(NEAR) <= 0)
                                .sorted(Comparator.comparing((WorkCase one) -> apart(shown, one))
                                        .thenComparing(WorkCase::id)),
                        sameFamily(shown, open))
                .filter(one -> one.id() != shown.id())
                .filter(distinct(new HashSet<>()))
                .limit(LOOKED_AT)
                .toList();
        if (others.isEmpty()) return Optional.empty();
        var firsts = firsts(Stream.concat(Stream.of(shown), others.stream()).toList());
        var first = firsts.get(shown.id());
        if (first == null) return Optional.empty();
        var own = began(first);
        record Known(WorkCase other, Together together) {}
        var rows = others.stream()
                .filter(other -> firsts.containsKey(other.id()))
                .map(other -> new Known(other, Together.of(own, began(firsts.get(other.id())), NEAR, SPAN)))
                .sorted(Comparator.comparing((Known one) ->
                                one.together().tells() ? one.together().lift() : 0)
                        .reversed())
                .limit(SHOWN)
                .map(one -> new Row(
                        one.other().id(),
                        one.other().headline(),
                        words(shown, one.other()),
                        one.together().words(),
                        one.together().tells()))
                .toList();
        return rows.isEmpty()
                ? Optional.empty()
                : Optional.of(new Part("seen-parts :: together", new Shown(shown.id(), shown.version(), rows)));
    }

    private static Predicate<WorkCase> distinct(Set<Long> seen) {
        return one -> seen.add(one.id());
    }

    /** Open cases of other interfaces whose messages fail with the same error. */
    private static Stream<WorkCase> sameFamily(WorkCase shown, List<WorkCase> open) {
        return family(shown) == null
                ? Stream.of()
                : open.stream().filter(one -> Objects.equals(family(one), family(shown)));
    }

    private static @Nullable Long family(WorkCase one) {
        return one.isAboutFailures() ? one.scope().family() : null;
    }

    private static Duration apart(WorkCase one, WorkCase other) {
        return Duration.between(one.openedAt(), other.openedAt()).abs();
    }

    private static String words(WorkCase shown, WorkCase other) {
        if (family(shown) != null && Objects.equals(family(shown), family(other))) return "fails with the same error";
        var apart = apart(shown, other);
        if (apart.toSeconds() == 0) return "began at the same time";
        var span = Spans.words(apart.truncatedTo(ChronoUnit.SECONDS));
        return "began " + span + (other.openedAt().isBefore(shown.openedAt()) ? " before" : " after");
    }

    /** The alert with which each case began. */
    private Map<Long, Alert> firsts(List<WorkCase> some) {
        var ids = joined.alertsOf(some.stream().map(WorkCase::id).toList());
        var known = alerts.byIds(ids.values().stream().flatMap(List::stream).toList()).stream()
                .collect(Collectors.toMap(Alert::id, it -> it));
        var firsts = new HashMap<Long, Alert>();
        ids.forEach((id, its) -> its.stream()
                .map(known::get)
                .filter(Objects::nonNull)
                .min(Comparator.comparing(Alert::raisedAt).thenComparing(Alert::id))
                .ifPresent(first -> firsts.put(id, first)));
        return firsts;
    }

    /** When the same was raised before; the time that is looked at now does not count for it. */
    private List<Instant> began(Alert one) {
        return alerts.raisedTimes(one, times.now().minus(SPAN), one.raisedAt().minus(NEAR.multipliedBy(2)));
    }
}
