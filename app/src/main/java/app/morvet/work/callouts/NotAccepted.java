package app.morvet.work.callouts;

import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.ResponseTime;
import app.morvet.core.handoff.HandoffState;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.handoffs.HandoffDesk;
import app.morvet.work.handoffs.HandoffMade;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Looks whether the team that a case was handed to has accepted it, when the response time of its severity is over. */
@Component
class NotAccepted implements Errand {
    static final String NAME = "call-out-not-accepted";

    private final CallOuts callOuts;
    private final HandoffDesk handoffs;
    private final CaseBook cases;
    private final Estate estate;
    private final Errands errands;
    private final Times times;

    NotAccepted(CallOuts callOuts, HandoffDesk handoffs, CaseBook cases, Estate estate, Errands errands, Times times) {
        this.callOuts = callOuts;
        this.handoffs = handoffs;
        this.cases = cases;
        this.estate = estate;
        this.errands = errands;
        this.times = times;
    }

    @EventListener
    void on(HandoffMade made) {
        var one = cases.find(made.caseId()).orElseThrow();
        var tier = estate.tierOf(estate.component(one.component()));
        errands.at(
                made.at().plus(ResponseTime.of(one.severity(), tier)),
                NAME,
                made.id().toString());
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        run(UUID.fromString(id), times.now());
        return Optional.empty();
    }

    void run(UUID id, Instant now) {
        var handoff = handoffs.standing(id).orElse(null);
        if (handoff == null || !waits(handoff.state())) return;
        var one = cases.lock(handoff.caseId()).orElse(null);
        if (one == null || one.overSince() != null || one.state() != CaseState.HANDED_OFF) return;
        callOuts.notAccepted(one, now);
    }

    private static boolean waits(HandoffState state) {
        return state == HandoffState.QUEUED || state == HandoffState.SENT || state == HandoffState.GIVEN_UP;
    }
}
