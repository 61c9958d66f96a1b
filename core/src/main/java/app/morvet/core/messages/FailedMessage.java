package app.morvet.core.messages;

import java.time.Instant;
import java.util.Map;

/**
 * A message that an interface could not deliver, as its middleware told it.
 *
 * @param at          when it failed
 * @param businessKey what people know it by, such as a manifest's number; may be empty, at most 200 characters
 * @param step        the step of the interface at which it failed; at most 200 characters
 * @param error       the error text; not blank, at most 64 Ki characters
 * @param attributes  what else is known, at most 50
 * @param payloadType media type of the payload; empty where there is no payload
 * @param payload     the message as it was carried; at most 1 Mi characters
 */
public record FailedMessage(
        Instant at,
        String businessKey,
        String step,
        String error,
        Map<String, String> attributes,
        String payloadType,
        String payload) {
    public static final int LONGEST_ERROR = 64 * 1024;
    public static final int LONGEST_PAYLOAD = 1024 * 1024;

    public FailedMessage {
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
    }

    private static void atMost(String name, String text, int most) {
        if (text.length() > most) {
            throw new IllegalArgumentException(
                    "%s is too long: at most %,d characters, were %,d".formatted(name, most, text.length()));
        }
    }
}
