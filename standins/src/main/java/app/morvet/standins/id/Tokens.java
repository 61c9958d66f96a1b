package app.morvet.standins.id;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.Signature;
import java.security.interfaces.RSAPublicKey;
import java.util.Base64;
import java.util.Map;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Signs what is said of people: JSON Web Signature (RFC 7515) with RS256, by a key of this run. */
@Component
class Tokens {
    private static final String KEY_ID = "of-this-run";
    private static final Base64.Encoder BASE64 = Base64.getUrlEncoder().withoutPadding();

    private final KeyPair key;
    private final JsonMapper json = new JsonMapper();

    Tokens() {
        try {
            var generator = KeyPairGenerator.getInstance("RSA");
            generator.initialize(2048);
            key = generator.generateKeyPair();
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException(never);
        }
    }

    /** The key by which signatures are checked, as a set of one (RFC 7517). */
    Map<String, Object> keys() {
        var open = (RSAPublicKey) key.getPublic();
        return Map.of("keys", new Object[] {
            Map.of(
                    "kty",
                    "RSA",
                    "alg",
                    "RS256",
                    "use",
                    "sig",
                    "kid",
                    KEY_ID,
                    "n",
                    number(open.getModulus()),
                    "e",
                    number(open.getPublicExponent()))
        });
    }

    private static String number(BigInteger value) {
        var bytes = value.toByteArray();
        int from = bytes[0] == 0 ? 1 : 0;
        return BASE64.encodeToString(java.util.Arrays.copyOfRange(bytes, from, bytes.length));
    }

    String sign(Map<String, Object> claims) {
        var signed = part(Map.of("alg", "RS256", "kid", KEY_ID, "typ", "JWT")) + "." + part(claims);
        try {
            var signature = Signature.getInstance("SHA256withRSA");
            signature.initSign(key.getPrivate());
            signature.update(signed.getBytes(StandardCharsets.US_ASCII));
            return signed + "." + BASE64.encodeToString(signature.sign());
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException(never);
        }
    }

    private String part(Map<String, Object> values) {
        return BASE64.encodeToString(json.writeValueAsBytes(values));
    }
}
