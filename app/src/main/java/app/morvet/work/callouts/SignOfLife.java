package app.morvet.work.callouts;

import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Each minute a sign of life goes the whole way that a call-out goes, to whom somebody has chosen: where it does not arrive, people cannot be
 * called.
 */
@Component
class SignOfLife implements Errand {
    private static final String NAME = "sign-of-life";
    private static final String ID = "1";
    /** Among so many of the latest that name the last rule it is looked for one that is stuck. */
    private static final int RECENT = 50;

    private static final Duration EVERY = Duration.ofMinutes(1);

    private final JdbcClient jdbc;
    private final DeliveryStore store;
    private final Recipients recipients;
    private final CallOutRules rules;
    private final Mails mails;
    private final Errands errands;
    private final Audit audit;
    private final Times times;

    SignOfLife(
            JdbcClient jdbc,
            DeliveryStore store,
            Recipients recipients,
            CallOutRules rules,
            Mails mails,
            Errands errands,
            Audit audit,
            Times times) {
        this.jdbc = jdbc;
        this.store = store;
        this.recipients = recipients;
        this.rules = rules;
        this.mails = mails;
        this.errands = errands;
        this.audit = audit;
        this.times = times;
    }

    /** To whom it goes; empty where to nobody. */
    Optional<Whom> whom() {
        return jdbc.sql("select whom from call_out_sign")
                .query(String.class)
                .optional()
                .map(Whom::read);
    }

    /**
     * @param whom something outside, or a mail address; null for nobody
     * @throws IllegalArgumentException where it is somebody who would be woken by it
     */
    @Transactional
    public void set(@Nullable Whom whom, Person by) {
        if (whom != null && !(whom instanceof Whom.Outside) && !(whom instanceof Whom.Address))
            throw new IllegalArgumentException("a sign of life goes to something that watches for it, not to people");
        var before = whom().map(it -> it.words(rules.names())).orElse(null);
        jdbc.sql("delete from call_out_sign").update();
        if (whom != null) {
            jdbc.sql("insert into call_out_sign (whom) values (:whom)")
                    .param("whom", whom.code())
                    .update();
            errands.at(times.now(), NAME, ID);
        }
        audit.record(by, "sign of life", "call-outs", before, whom == null ? null : whom.words(rules.names()));
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        if (whom().isPresent()) errands.unlessWaiting(times.now(), NAME, ID);
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        var whom = whom().orElse(null);
        if (whom == null) return Optional.empty();
        var now = times.now();
        var rule = rules.all().getLast();
        // One that does not get through is tried on; there need not be two of them.
        boolean stuck = store.ofRule(rule.id(), RECENT).stream()
                .anyMatch(one -> one.about() == Delivery.About.SIGN && one.state() == Delivery.State.WAITING);
        if (!stuck)
            recipients.now().of(new Step(Duration.ZERO, whom, List.of(Way.MAIL)), null, now).reached().stream()
                    .findFirst()
                    .ifPresent(to -> mails.post(Delivery.fresh(
                            new Delivery.Of.Rule(rule.id()),
                            to.to(),
                            null,
                            Delivery.About.SIGN,
                            null,
                            "Sign of life: Morvet can call people",
                            "Sent at %s. One comes each minute; where none comes, people cannot be called.\n"
                                    .formatted(times.exact(now)),
                            now,
                            now)));
        return Optional.of(now.plus(EVERY));
    }
}
