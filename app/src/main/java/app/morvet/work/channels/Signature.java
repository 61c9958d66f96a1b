package app.morvet.work.channels;

import app.morvet.ground.connections.Connection;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * By which whoever is called knows that it was Morvet, and when: HMAC with SHA-256 (RFC 2104) over the time, a line's end, and the body,
 * by the secret of the connection. The time is in seconds since 1970.
 */
public final class Signature {
    public static final String TIME = "Morvet-Time";
    public static final String NAME = "Morvet-Signature";
    /** A call that is older may be one that somebody has kept. */
    private static final Duration GOOD_FOR = Duration.ofMinutes(5);

    private Signature() {}

    /** The headers that bear it; none where the connection has no secret. */
    static Map<String, String> of(Connection connection, String body) {
        if (connection.secret().isEmpty()) return Map.of();
        var time = "" + Instant.now().getEpochSecond();
        return Map.of(TIME, time, NAME, sign(connection.secret(), time, body));
    }

    /** Whether a call that came in bears one of a connection, made a little while ago. */
    public static boolean isOf(Connection connection, String time, String body, String signature) {
        if (connection.secret().isEmpty() || !time.matches("\\d{1,12}")) return false;
        var age = Duration.between(Instant.ofEpochSecond(Long.parseLong(time)), Instant.now())
                .abs();
        return age.compareTo(GOOD_FOR) <= 0
                && MessageDigest.isEqual(
                        sign(connection.secret(), time, body).getBytes(StandardCharsets.US_ASCII),
                        signature.getBytes(StandardCharsets.US_ASCII));
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
