package app.morvet.work.callouts;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.ResponseTime;
import app.morvet.core.estate.Tier;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.page.Times;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Instant;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Looks whether a case was taken when its response time is over. */
@Component
class LateCases implements Errand {
    static final String NAME = "call-out-late";

    private final CallOuts callOuts;
    private final CourseStore courses;
    private final CaseBook cases;
    private final Times times;

    LateCases(CallOuts callOuts, CourseStore courses, CaseBook cases, Times times) {
        this.callOuts = callOuts;
        this.courses = courses;
        this.cases = cases;
        this.times = times;
    }

    /** Has it looked at in time. */
    static void watch(Errands errands, WorkCase one, Severity severity, Tier tier, Instant turned) {
        errands.at(
                turned.plus(ResponseTime.of(severity, tier)),
                NAME,
                "%d %s %d".formatted(one.id(), severity, turned.toEpochMilli()));
    }

    @Override
    public String name() {
        return NAME;
    }

    @Override
    @Transactional
    public Optional<Instant> run(String id) {
        run(id, times.now());
        return Optional.empty();
    }

    void run(String id, Instant now) {
        var parts = id.split(" ");
        var one = cases.lock(Long.parseLong(parts[0])).orElse(null);
        var turned = Instant.ofEpochMilli(Long.parseLong(parts[2]));
        if (one == null || one.settled() || courses.wasOverSince(one.id(), turned)) return;
        var standing = CallOuts.standing(one);
        if (standing.taken() || standing.handedOff() || standing.over()) return;
        callOuts.late(one, Severity.valueOf(parts[1]), now);
    }
}
