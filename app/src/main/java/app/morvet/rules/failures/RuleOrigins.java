package app.morvet.rules.failures;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.DrawnSpan;
import app.morvet.alerting.alerts.OriginKind;
import app.morvet.core.alert.Origin;
import app.morvet.core.alert.Trouble;
import app.morvet.core.guard.Spans;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.MessageScope;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import app.morvet.sources.vendors.Vendors;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Sorting rules, as what raised an alert. */
@Component
class RuleOrigins implements OriginKind {
    private static final String KIND = "sorting rule";
    private static final int STEPS = 96;

    private final SortingRules rules;
    private final MessageStore messages;
    private final Times times;

    RuleOrigins(SortingRules rules, MessageStore messages, Times times) {
        this.rules = rules;
        this.messages = messages;
        this.times = times;
    }

    static Origin origin(long rule) {
        return new Origin(KIND, rule);
    }

    private StoredRule rule(Alert alert) {
        return rules.byId(alert.origin().id());
    }

    @Override
    public String kind() {
        return KIND;
    }

    @Override
    public boolean hearsAllMessages() {
        return true;
    }

    @Override
    public String noun() {
        return "the sorting rule";
    }

    @Override
    public String name(Alert alert) {
        return rule(alert).name();
    }

    @Override
    public Trouble trouble(Alert alert) {
        return Trouble.FAILING;
    }

    @Override
    public String sentence(Alert alert) {
        return rules.sentence(rule(alert));
    }

    @Override
    public String link(Alert alert) {
        return "/messages/rules/" + alert.origin().id();
    }

    @Override
    public String fixNote(Alert alert) {
        return rule(alert).fixNote();
    }

    @Override
    public String value(Alert alert, double value) {
        return "%,d".formatted((long) value);
    }

    @Override
    public Optional<Estate.Team> owner(Alert alert) {
        return rules.owner(rule(alert));
    }

    @Override
    public boolean standsOnPast(Alert alert) {
        return true;
    }

    @Override
    public boolean grewAgain(Alert alert, double atSettling) {
        return alert.value() > atSettling;
    }

    @Override
    public Set<String> explainedBy(Alert alert) {
        // Whatever its rule names; and that what a vendor rents out does not serve explains any failure of who needs
        // it.
        var kinds = new HashSet<>(rule(alert).explainedBy());
        kinds.add(Vendors.KIND);
        return kinds;
    }

    @Override
    public Optional<MessageScope> messages(Alert alert) {
        return Optional.of(
                MessageScope.of(alert.about().component(), alert.about().topic()));
    }

    @Override
    public boolean drawn(Alert alert) {
        return true;
    }

    /** What failed of its messages, counted in equal stretches of time. */
    @Override
    public Curve curve(Alert alert, Instant firstSeen) {
        var span = DrawnSpan.of(alert, firstSeen, times.now());
        var from = span.from(Duration.ofHours(1));
        var step =
                Duration.ofMinutes(Math.max(1, Duration.between(from, span.to()).toMinutes() / STEPS));
        var at = new ArrayList<Double>();
        var values = new ArrayList<@Nullable Double>();
        var nothing = new ArrayList<@Nullable Double>();
        var counts = messages.counts(messages(alert).orElseThrow(), from, span.to(), step);
        for (int i = 0; i < counts.length; i++) {
            at.add(from.plus(step.multipliedBy(i)).toEpochMilli() / 1000.0);
            values.add((double) counts[i]);
            nothing.add(null);
        }
        return new Curve(
                at,
                values,
                nothing,
                nothing,
                nothing,
                List.of(),
                List.of(),
                times.zone().getId(),
                "failed in " + Spans.words(step),
                "",
                "");
    }
}
