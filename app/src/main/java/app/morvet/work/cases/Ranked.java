package app.morvet.work.cases;

import app.morvet.core.cases.Urgency;
import app.morvet.ground.estate.Estate;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;

/** A case with how soon somebody should look at it, by which a list is ordered. */
record Ranked(WorkCase of, Urgency.Facts facts, Urgency urgent) {
    /** @param touched the components on which it shows; its own is one of them anyway */
    static Ranked of(WorkCase one, Set<Long> touched, Instant now, Estate estate) {
        var tier = estate.tierOf(estate.component(one.component()));
        int elsewhere = 0;
        for (long id : touched) {
            if (id == one.component()) continue;
            elsewhere++;
            var there = estate.tierOf(estate.component(id));
            if (there.number() < tier.number()) tier = there;
        }
        var facts = new Urgency.Facts(
                one.severity(),
                one.overSince() != null,
                tier,
                one.failures(),
                1 + elsewhere,
                one.late(now) ? Duration.between(one.respondBy(), now) : Duration.ZERO,
                one.progress().returned());
        return new Ranked(one, facts, Urgency.of(facts));
    }

    long id() {
        return of.id();
    }

    int urgency() {
        return urgent.total();
    }
}
