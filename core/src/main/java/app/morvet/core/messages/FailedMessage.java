package app.morvet.core.messages;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A message that an interface could not deliver, as its middleware told it.
 *
 * @param at          when it failed
 * @param reference   the middleware's own id of the message, the same each time that it is tried; may be empty, at most 200
 * @param businessKey what people know it by, such as a manifest's number; may be empty, at most 200 characters
 * @param step        the step of the interface at which it failed; at most 200 characters
 * @param error       the error text; not blank, at most 64 Ki characters
 * @param attributes  what else is known, at most 50
 * @param payloadType media type of the payload; empty where there is no payload
 * @param payload     the message as it was carried, where it is text; at most 24 Mi characters
 * @param binary      the message as it was carried, where it is no text; or null
 * @param steps       what it went through, in order; at most 100
 * @param attachments what came with it; at most 20, together at most 16 MiB
 */
public record FailedMessage(
        Instant at,
        String reference,
        String businessKey,
        String step,
        String error,
        Map<String, String> attributes,
        String payloadType,
        String payload,
        byte @Nullable [] binary,
        List<Step> steps,
        List<Attachment> attachments) {
    public static final int LONGEST_ERROR = 64 * 1024;
    public static final int LONGEST_PAYLOAD = 24 * 1024 * 1024;
    private static final int LARGEST_ATTACHMENTS = 16 * 1024 * 1024;

    /**
     * One step that a message went through.
     *
     * @param name  at most 200 characters
     * @param at    when it began
     * @param words what was said of it; may be empty, at most 2,000 characters
     * @param failed whether it failed there
     */
    public record Step(String name, Instant at, String words, boolean failed) {
        public Step {
            atMost("the name of a step", name, 200);
            atMost("the words of a step", words, 2000);
        }
    }

    /** @param type media type */
    public record Attachment(String name, String type, byte[] content) {
        public Attachment {
            if (name.isBlank()) throw new IllegalArgumentException("an attachment needs a name");
            atMost("the name of an attachment", name, 200);
            atMost("the type of an attachment", type, 100);
        }
    }

    public FailedMessage {
        atMost("message", reference, 200);
        atMost("businessKey", businessKey, 200);
        atMost("step", step, 200);
        atMost("error", error, LONGEST_ERROR);
        atMost("payloadType", payloadType, 100);
        atMost("payload", payload, LONGEST_PAYLOAD);
        if (error.isBlank())
            throw new IllegalArgumentException("error is missing: a failed message needs its error text");
        if (attributes.size() > 50)
            throw new IllegalArgumentException("attributes: at most 50, were " + attributes.size());
        attributes.forEach((name, value) -> {
            atMost("the name of an attribute", name, 100);
            atMost("attribute " + name, value, 2000);
        });
        attributes = Map.copyOf(attributes);
        steps = List.copyOf(steps);
        if (steps.size() > 100) throw new IllegalArgumentException("steps: at most 100, were " + steps.size());
        attachments = List.copyOf(attachments);
        if (attachments.size() > 20)
            throw new IllegalArgumentException("attachments: at most 20, were " + attachments.size());
        if (attachments.stream().mapToLong(one -> one.content().length).sum() > LARGEST_ATTACHMENTS)
            throw new IllegalArgumentException("attachments: together at most 16 MiB");
    }

    /** One that came with text and nothing else. */
    public FailedMessage(
            Instant at,
            String businessKey,
            String step,
            String error,
            Map<String, String> attributes,
            String payloadType,
            String payload) {
        this(at, "", businessKey, step, error, attributes, payloadType, payload, null, List.of(), List.of());
    }

    private static void atMost(String name, String text, int most) {
        if (text.length() > most) {
            throw new IllegalArgumentException(
                    "%s is too long: at most %,d characters, were %,d".formatted(name, most, text.length()));
        }
    }
}
