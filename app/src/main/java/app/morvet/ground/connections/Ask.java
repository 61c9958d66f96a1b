package app.morvet.ground.connections;

import java.util.Map;

/**
 * One request to a connection.
 *
 * @param what    for people, such as {@code ticket posted}
 * @param key     is sent as {@code Idempotency-Key}: the same twice is done once; empty for what changes nothing
 * @param path    behind the address of the connection
 * @param body    empty for one that only reads
 * @param method  as in HTTP
 * @param type    media type of the body
 * @param headers of this request alone, beside those of the connection
 */
public record Ask(
        String what, String key, String path, String body, String method, String type, Map<String, String> headers) {
    public Ask {
        headers = Map.copyOf(headers);
    }

    /** JSON that is posted; without a body, one that only reads. */
    public Ask(String what, String key, String path, String body) {
        this(what, key, path, body, body.isEmpty() ? "GET" : "POST", "application/json", Map.of());
    }

    public static Ask read(String what, String path) {
        return new Ask(what, "", path, "");
    }
}
