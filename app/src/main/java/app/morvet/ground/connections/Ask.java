package app.morvet.ground.connections;

/**
 * One request to a connection.
 *
 * @param what for people, such as {@code ticket posted}
 * @param key  is sent as {@code Idempotency-Key}: the same twice is done once; empty for what changes nothing
 * @param path behind the address of the connection
 * @param body JSON; empty for one that only reads
 */
public record Ask(String what, String key, String path, String body) {
    public static Ask read(String what, String path) {
        return new Ask(what, "", path, "");
    }

    public String method() {
        return body.isEmpty() ? "GET" : "POST";
    }
}
