package app.morvet.demo;

import app.morvet.core.alert.Severity;
import app.morvet.core.sorting.Condition;
import app.morvet.core.sorting.Criteria;
import app.morvet.core.sorting.FoldBy;
import app.morvet.core.sorting.FoldWindow;
import app.morvet.ground.estate.Estate;
import app.morvet.sources.messages.Masks;
import app.morvet.sources.sorting.SortingRules;
import app.morvet.sources.sorting.StoredRule;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** The sorting rules of Sundrava Ferries, and what is hidden in their messages. */
@Component
@Profile("demo")
class DemoRules {
    private final SortingRules rules;
    private final Masks masks;
    private final Estate estate;

    DemoRules(SortingRules rules, Masks masks, Estate estate) {
        this.rules = rules;
        this.masks = masks;
        this.estate = estate;
    }

    void add() {
        var list = new ArrayList<StoredRule>();
        list.add(rule(
                "Harbour code unknown",
                Severity.WARNING,
                team("freight-systems"),
                true,
                true,
                Set.of(),
                """
                The harbour is missing from the authority's list, or the booking carries an old code.

                1. Compare the code with the **harbour list** in Freight Manifests.
                2. Wrong in the list: have Freight Systems add it, then *send again*.
                3. Wrong in the booking: correct it there; the manifest comes by itself.
                """,
                new Condition.OnInterface(Set.of("manifest-to-harbour-authority")),
                new Condition.ErrorContains("unknown harbour code")));
        list.add(rule(
                "Partner refuses the connection",
                Severity.WARNING,
                team("integration"),
                true,
                true,
                Set.of("endpoint", "vendor instance"),
                """
                Nothing listens at the partner's gateway. Look whether it is planned; call the partner's desk after ten minutes.
                Nothing is lost: *send again* when the gateway answers.
                """,
                new Condition.AtStep("deliver"),
                new Condition.ErrorContains("connection refused")));
        list.add(rule(
                "Certificate ran out",
                Severity.CRITICAL,
                team("platform"),
                true,
                true,
                Set.of("certificate"),
                """
                Nothing goes through until the certificate is replaced. Platform keeps the new one in the key store a week ahead.
                *Send again* afterwards, oldest first.
                """,
                Condition.ErrorMatches.of("certificate .{0,200}expired|expired certificate")));
        list.add(rule(
                "Sent twice",
                Severity.NOTICE,
                team("bookings-fares"),
                false,
                false,
                Set.of(),
                "The receiver has it already. Do **not** send it again.",
                new Condition.ErrorContains("duplicate key")));
        list.add(rule(
                "Payload cut short",
                Severity.WARNING,
                null,
                true,
                false,
                Set.of(),
                """
                The sender stopped in the middle. Ask the owner of the sending application to send it anew; sending the half
                of it again fails again.
                """,
                new Condition.AtStep("transform"),
                new Condition.ErrorContains("unexpected end of input")));
        list.add(rule(
                "Partner answers too late",
                Severity.NOTICE,
                team("integration"),
                false,
                true,
                Set.of(),
                "Single ones happen every day. Many within an hour: see the guard on the interface.",
                new Condition.ErrorContains("no answer from partner")));
        var last = rules.fresh().catchAll();
        list.add(new StoredRule(
                last.id(),
                last.name(),
                Criteria.EVERYTHING,
                Severity.NOTICE,
                team("integration"),
                "Nobody has said yet what this is. Look at it, then *make a rule from it*.",
                true,
                FoldBy.FAMILY,
                new FoldWindow(Duration.ofHours(4)),
                false,
                Set.of(),
                null,
                0,
                null));
        rules.set(list);
        masks.set("Crew member's number", Set.of("crew-hours-to-payroll"), "member/@no", "");
        masks.set("Customer's mail and name", Set.of("customer-updates"), "contact", "");
        masks.set("Bank account", Set.of(), "", "\\bSX\\d{2}(?: ?\\d{4}){3,5}\\b");
    }

    private @Nullable Long team(String key) {
        return estate.team(key).map(Estate.Team::id).orElse(null);
    }

    private static StoredRule rule(
            String name,
            Severity severity,
            @Nullable Long owner,
            boolean alerts,
            boolean sendAgain,
            Set<String> explainedBy,
            String fixNote,
            Condition... conditions) {
        return new StoredRule(
                0,
                name,
                new Criteria(List.of(conditions), null),
                severity,
                owner,
                fixNote,
                alerts,
                FoldBy.FAMILY,
                new FoldWindow(Duration.ofHours(4)),
                sendAgain,
                explainedBy,
                null,
                0,
                null);
    }
}
