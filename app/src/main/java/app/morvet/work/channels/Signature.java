package app.morvet.work.channels;

import app.morvet.ground.connections.Connection;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * By which whoever is called knows that it was Morvet, and when: HMAC with SHA-256 (RFC 2104) over the time, a line's end, and the body,
 * by the secret of the connection. The time is in seconds since 1970.
 */
final class Signature {
    private static final String TIME = "Morvet-Time";
    private static final String NAME = "Morvet-Signature";

    private Signature() {}

    /** The headers that bear it; none where the connection has no secret. */
    static Map<String, String> of(Connection connection, String body) {
        if (connection.secret().isEmpty()) return Map.of();
        var time = "" + Instant.now().getEpochSecond();
        return Map.of(TIME, time, NAME, sign(connection.secret(), time, body));
    }

    static String sign(String secret, String time, String body) {
        try {
            var mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal((time + "\n" + body).getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
