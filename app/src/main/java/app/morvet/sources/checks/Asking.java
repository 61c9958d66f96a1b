package app.morvet.sources.checks;

import app.morvet.core.checks.Kind;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.PlainText;
import app.morvet.probe.Around;
import app.morvet.probe.Prober;
import app.morvet.probe.Turns;
import java.util.List;
import org.springframework.stereotype.Component;

/** Asks from Morvet itself: only hosts on the allow-list, and never a host's own files, commands and processes. */
@Component
class Asking {
    private final Outgoing outgoing;
    private final Turns turns;

    Asking(Outgoing outgoing) {
        this.outgoing = outgoing;
        this.turns = new Turns(Prober.ofNetwork(outgoing::reach, List.of(new SqlLooking(outgoing))));
    }

    /** @throws IllegalArgumentException where it may not be asked from here; says how it may be */
    void allowed(Kind kind, Target target) {
        if (kind.onHost())
            throw new IllegalArgumentException(
                    "A check of a %s is made by an outpost; choose from which.".formatted(kind.name()));
        target.hosts().forEach(outgoing::reach);
    }

    /** @param tries of which one is enough */
    Result ask(Target target, Around around, int tries) throws InterruptedException {
        return plain(turns.ask(target, around, tries));
    }

    /** As the store takes it. */
    static Result plain(Result it) {
        return new Result(
                it.state(),
                it.took(),
                it.verdicts(),
                PlainText.of(it.said()),
                it.figures(),
                it.facts(),
                PlainText.of(it.memory()));
    }
}
