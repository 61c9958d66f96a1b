package app.morvet.messages;

import org.jspecify.annotations.Nullable;

/**
 * Which failed messages are meant: those of an interface, of a family, of a rule, or of several of these at once.
 *
 * @param component id of the interface, or null for all
 * @param family    id of the failure family, or null for all
 * @param rule      id of the sorting rule, or null for all
 */
public record MessageScope(@Nullable Long component, @Nullable Long family, @Nullable Long rule) {
    public static final MessageScope ALL = new MessageScope(null, null, null);

    public static MessageScope of(long component) {
        return new MessageScope(component, null, null);
    }
}
