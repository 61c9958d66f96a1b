package app.morvet.work.callouts;

import app.morvet.core.callouts.Whom;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tries a rule: whoever is told first is told, by the way that they would be, and the message says that it is a test. */
@Service
class RuleTests {
    private final DeliveryStore store;
    private final Recipients recipients;
    private final Mails mails;
    private final Audit audit;
    private final Times times;

    RuleTests(DeliveryStore store, Recipients recipients, Mails mails, Audit audit, Times times) {
        this.store = store;
        this.recipients = recipients;
        this.mails = mails;
        this.audit = audit;
        this.times = times;
    }

    /**
     * @param owner as if it were about something of theirs; null where it is nobody's
     * @throws IllegalArgumentException where nobody can be told; says why
     */
    @Transactional
    public void run(CallOutRules.Stored rule, Estate.@Nullable Team owner, Person by) {
        var now = times.now();
        var known = recipients.now();
        var missing = new java.util.ArrayList<String>();
        for (var step : rule.rule().steps()) {
            // A test makes no ticket: whoever is told next is told.
            if (step.whom() instanceof Whom.Desk) continue;
            var meant = known.of(step, owner, now);
            missing.addAll(meant.missing());
            if (meant.reached().isEmpty()) continue;
            for (var one : meant.reached())
                mails.post(Delivery.fresh(
                        new Delivery.Of.Rule(rule.id()),
                        one.to(),
                        by.id(),
                        Delivery.About.TEST,
                        null,
                        "Test of the call-out rule \"%s\": there is nothing to do"
                                .formatted(rule.rule().name()),
                        "%s tries the call-out rule \"%s\". You are told first. There is nothing to do.\n"
                                .formatted(by.name(), rule.rule().name()),
                        now,
                        now));
            audit.record(
                    by, "call-out rule tried", "call-out rule " + rule.rule().name(), null, names(meant));
            return;
        }
        throw new IllegalArgumentException("nobody would be told: " + String.join("; ", missing));
    }

    private static String names(Recipients.Meant meant) {
        return String.join(
                ", ", meant.reached().stream().map(Recipients.Recipient::name).toList());
    }

    /** The latest first. */
    List<Delivery> of(long rule, int most) {
        return store.ofRule(rule, most);
    }
}
