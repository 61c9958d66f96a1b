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
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
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

    private final CaseStore store;
    private final JoinedCases joined;
    private final CaseAlerts caseAlerts;
    private final Alerts alerts;
    private final Times times;

    BeganTogether(CaseStore store, JoinedCases joined, CaseAlerts caseAlerts, Alerts alerts, Times times) {
        this.store = store;
        this.joined = joined;
        this.caseAlerts = caseAlerts;
        this.alerts = alerts;
        this.times = times;
    }

    @Override
    public Optional<Part> of(WorkCase shown) {
        if (shown.settled()) return Optional.empty();
        var others = joined
                .openBetween(shown.openedAt().minus(NEAR), shown.openedAt().plus(NEAR))
                .stream()
                .filter(one -> one.id() != shown.id())
                .sorted(Comparator.comparing(one -> apart(shown, one)))
                .limit(LOOKED_AT)
                .toList();
        if (others.isEmpty()) return Optional.empty();
        var first = first(shown);
        if (first.isEmpty()) return Optional.empty();
        var own = began(first.get());
        record Known(WorkCase other, Together together) {}
        var rows = others.stream()
                .flatMap(other ->
                        first(other).stream().map(it -> new Known(other, Together.of(own, began(it), NEAR, SPAN))))
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
    private List<WorkCase> sameFamily(WorkCase shown) {
        return family(shown) == null
                ? List.of()
                : store.open().stream()
                        .filter(one -> Objects.equals(family(one), family(shown)))
                        .toList();
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

    /** The alert with which a case began. */
    private Optional<Alert> first(WorkCase one) {
        return caseAlerts.of(one.id()).stream()
                .min(Comparator.comparing(Alert::raisedAt).thenComparing(Alert::id));
    }

    /** When the same was raised before; the time that is looked at now does not count for it. */
    private List<Instant> began(Alert one) {
        var until = one.raisedAt().minus(NEAR.multipliedBy(2));
        return alerts.raisedTimes(
                one.origin(), one.about().component(), times.now().minus(SPAN), until);
    }
}
