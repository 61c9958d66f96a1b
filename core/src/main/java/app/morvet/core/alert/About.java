package app.morvet.core.alert;

import org.jspecify.annotations.Nullable;

/**
 * What an alert is about. Alerts fold into cases on this alone.
 *
 * @param component the component on which it shows, by id
 * @param cause     the component that brings it about; the same where it is its own
 * @param topic     tells two troubles of one component apart; null where it is about the component itself
 */
public record About(long component, long cause, @Nullable Topic topic) {
    public static About of(long component) {
        return new About(component, component, null);
    }

    public static About of(long component, @Nullable Topic topic) {
        return new About(component, component, topic);
    }

    public static About causedBy(long cause, long component) {
        return new About(component, cause, null);
    }
}
