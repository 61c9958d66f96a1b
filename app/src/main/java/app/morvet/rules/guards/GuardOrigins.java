package app.morvet.rules.guards;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.DrawnSpan;
import app.morvet.alerting.alerts.OriginKind;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Trouble;
import app.morvet.core.cases.Comeback;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.GuardSentence;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.TrendGuard;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.readings.Measure;
import app.morvet.sources.vendors.Vendors;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Guards, as what raised an alert. */
@Component
class GuardOrigins implements OriginKind {
    static final String KIND = "guard";
    /** How many points a curve has, about; enough for a pixel or two each. */
    private static final int POINTS = 288;

    private final Guards guards;
    private final Curves curves;
    private final Matching matching;
    private final Times times;

    GuardOrigins(Guards guards, Curves curves, Matching matching, Times times) {
        this.guards = guards;
        this.curves = curves;
        this.matching = matching;
        this.times = times;
    }

    static Origin origin(long guard) {
        return new Origin(KIND, guard);
    }

    private Guard judging(Alert alert) {
        return guards.byId(alert.origin().id()).rule();
    }

    private StoredGuard guard(Alert alert) {
        return guards.byId(alert.origin().id());
    }

    @Override
    public String kind() {
        return KIND;
    }

    @Override
    public String noun() {
        return "the guard";
    }

    @Override
    public String name(Alert alert) {
        return guard(alert).name();
    }

    @Override
    public Trouble trouble(Alert alert) {
        return switch (judging(alert)) {
            case TrendGuard trend -> Trouble.AHEAD;
            case BandGuard band -> Trouble.UNUSUAL;
            case SilenceGuard silence -> Trouble.SILENT;
            case StateGuard state -> Trouble.STATE;
            case LimitGuard limit ->
                MessageScope.isTopic(alert.about().topic())
                        ? Trouble.FAILING
                        : guard(alert).watch().measure().equals(Measure.UNPLANNED_CHANGES)
                                ? Trouble.CHANGED
                                : Trouble.LIMIT;
            case CombinationGuard combination -> Trouble.LIMIT;
        };
    }

    @Override
    public String sentence(Alert alert) {
        return guards.sentence(guard(alert));
    }

    @Override
    public String link(Alert alert) {
        return "/guards/" + alert.origin().id();
    }

    @Override
    public String fixNote(Alert alert) {
        return guard(alert).fixNote();
    }

    @Override
    public String value(Alert alert, double value) {
        var guard = guard(alert);
        return GuardSentence.value(guard.rule(), value, guards.unit(guard));
    }

    @Override
    public String limits(Alert alert) {
        var guard = guard(alert);
        return GuardSentence.limits(guard.rule(), guards.unit(guard));
    }

    @Override
    public Optional<Estate.Team> owner(Alert alert) {
        return guards.owner(alert.origin().id());
    }

    @Override
    public double worse(Origin origin, double one, double other) {
        return guards.byId(origin.id()).rule().limits().worse(one, other);
    }

    @Override
    public boolean overItsLimit(Alert alert) {
        return judging(alert)
                .limits()
                .of(alert.level())
                .filter(line -> line.breachedBy(alert.value()))
                .isPresent();
    }

    /** The start of the window that is judged at that instant. */
    @Override
    public Instant troubleBegan(Alert alert) {
        return guards.windowStart(alert.origin().id(), alert.raisedAt());
    }

    @Override
    public boolean foretells(Alert alert) {
        return judging(alert) instanceof TrendGuard;
    }

    @Override
    public boolean grewAgain(Alert alert, double atSettling) {
        return Comeback.grewAgain(judging(alert), atSettling, alert.value());
    }

    /** That what a vendor rents out does not serve explains failures of who needs it. */
    @Override
    public Set<String> explainedBy(Alert alert) {
        return MessageScope.isTopic(alert.about().topic()) ? Set.of(Vendors.KIND) : Set.of();
    }

    @Override
    public Optional<Long> series(Alert alert) {
        return Optional.ofNullable(alert.subject());
    }

    @Override
    public boolean standsOnPast(Alert alert) {
        return Comeback.standsOnPast(judging(alert));
    }

    @Override
    public Optional<MessageScope> messages(Alert alert) {
        var about = alert.about();
        return MessageScope.isTopic(about.topic())
                ? Optional.of(MessageScope.of(about.component(), about.topic()))
                : Optional.empty();
    }

    /** What is joined of others has none. */
    @Override
    public boolean drawn(Alert alert) {
        return !(judging(alert) instanceof CombinationGuard);
    }

    /** A day at most, for what runs longer its last day; as far as a trend looks back. */
    @Override
    public Curve curve(Alert alert, Instant firstSeen) {
        var guard = guard(alert);
        var span = DrawnSpan.of(alert, firstSeen, times.now());
        var from = guard.rule() instanceof TrendGuard trend
                ? span.to().minus(trend.lookback())
                : span.from(Duration.ofHours(2));
        var subject = Optional.ofNullable(alert.subject())
                .flatMap(matching::subject)
                .or(() -> guards.matches(guard.rule(), guard.watch()).stream()
                        .filter(it -> it.component().id() == alert.about().component())
                        .findFirst());
        if (subject.isEmpty() || !drawn(alert))
            return Curve.nothing(times.zone().getId());
        return curves.of(guard.rule(), subject.get(), from, span.to(), POINTS);
    }

    @Override
    public String breached(Alert alert, double value) {
        var rule = judging(alert);
        if (rule instanceof TrendGuard) return "";
        var level = rule.limits().breachedBy(value);
        return level == null ? "" : level.word();
    }
}
