package app.morvet.sources.messages;

import app.morvet.core.alert.Topic;
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

    private static final String FAILURES = "failures";
    private static final String RULE = "rule ";
    private static final String FAMILY = "family ";

    public static MessageScope of(long component) {
        return new MessageScope(component, null, null);
    }

    /** Which of a component's trouble is about failed messages: all of it by its interface, a family, or a rule or a family everywhere. */
    public Topic topic() {
        if (rule != null) return Topic.everywhere(FAILURES, RULE + rule);
        if (component == null && family != null) return Topic.everywhere(FAILURES, FAMILY + family);
        return family == null ? Topic.all(FAILURES) : Topic.one(FAILURES, Long.toString(family));
    }

    /** The failed messages that trouble of a component is about; all of its messages where the topic is another. */
    public static MessageScope of(long component, @Nullable Topic topic) {
        if (topic == null || !topic.of().equals(FAILURES) || topic.id().isEmpty()) return of(component);
        if (topic.everywhere())
            return topic.id().startsWith(FAMILY)
                    ? new MessageScope(null, Long.valueOf(topic.id().substring(FAMILY.length())), null)
                    : new MessageScope(null, null, Long.valueOf(topic.id().substring(RULE.length())));
        return new MessageScope(component, Long.valueOf(topic.id()), null);
    }

    /** Whether trouble with a topic is trouble with failed messages. */
    public static boolean isTopic(@Nullable Topic topic) {
        return topic != null && topic.of().equals(FAILURES);
    }
}
