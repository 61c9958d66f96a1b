package app.morvet.work.callouts;

import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** What whoever is told of a case says to that from outside, without a page of Morvet's. */
@Component
class CaseAnswers {
    private static final Duration QUIET = Duration.ofHours(1);

    private final CaseBook cases;
    private final People people;

    CaseAnswers(CaseBook cases, People people) {
        this.cases = cases;
        this.people = people;
    }

    /** Whether anybody who is told may take it: nobody has it, or its team gave it back and nobody has dealt with that yet. */
    static boolean isFree(WorkCase one) {
        return one.progress().takenBy() == null || one.progress().returned();
    }

    /** @throws IllegalArgumentException where it is settled */
    static void openOnly(WorkCase one) {
        if (one.settled()) throw new IllegalArgumentException("the case is settled meanwhile");
    }

    private void freeOnly(WorkCase one) {
        openOnly(one);
        var taken = one.progress().takenBy();
        if (taken != null && !isFree(one))
            throw new IllegalArgumentException(people.names().getOrDefault(taken, "somebody") + " has it already");
    }

    /** @throws IllegalArgumentException where somebody has it, or it is settled; says so */
    void take(WorkCase one, Person who, Instant now) {
        freeOnly(one);
        cases.take(one.id(), one.version(), who, now);
    }

    /** Nobody is told of it for an hour; the same is refused. */
    void quiet(WorkCase one, Person who, Instant now) {
        freeOnly(one);
        cases.quiet(one.id(), one.version(), who, now.plus(QUIET), "", now);
    }
}
