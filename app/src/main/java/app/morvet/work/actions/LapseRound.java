package app.morvet.work.actions;

import app.morvet.ground.base.Rounds;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Sees to it that an order that comes to nothing says so. */
@Component
class LapseRound extends Rounds {
    private final Actions actions;

    LapseRound(Actions actions) {
        super(
                "orders-lapse",
                new Undone("Orders to outposts do not lapse", "Orders to outposts lapse late", "/services/outposts"),
                Duration.ofSeconds(5));
        this.actions = actions;
    }

    @Override
    protected boolean round() {
        actions.lapse();
        return false;
    }
}
