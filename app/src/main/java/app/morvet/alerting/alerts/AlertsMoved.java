package app.morvet.alerting.alerts;

import app.morvet.core.alert.Transition;
import java.util.List;

/** What was found changed alerts. Published once for all of it, inside the transaction that stores it. */
public record AlertsMoved(List<Moved> moved) {
    /**
     * @param alert as it is after the change
     * @param why   of one that is released, why it was held until now, in a sentence; else empty
     */
    public record Moved(Alert alert, Transition transition, String why) {
        public Moved(Alert alert, Transition transition) {
            this(alert, transition, "");
        }
    }
}
