package app.morvet.work.actions;

import app.morvet.ground.base.Rounds;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Sees to it that an order that comes to nothing says so, and that of one that a guard gave it is said whether it helped. */
@Component
class LapseRound extends Rounds {
    private final Actions actions;
    private final OwnInitiative own;

    LapseRound(Actions actions, OwnInitiative own) {
        super(
                "orders-lapse",
                new Undone("Orders to outposts do not lapse", "Orders to outposts lapse late", "/services/outposts"),
                Duration.ofSeconds(5));
        this.actions = actions;
        this.own = own;
    }

    @Override
    protected boolean round() {
        actions.lapse();
        own.judge();
        return false;
    }
}
