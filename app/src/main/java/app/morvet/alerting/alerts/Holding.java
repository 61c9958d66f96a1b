package app.morvet.alerting.alerts;

import app.morvet.core.alert.Move;

/** Something that covers alerts, so that they are recorded but nobody's work. */
public interface Holding {
    /** Whether an alert that is being raised is covered. */
    boolean covers(Move raised);
}
