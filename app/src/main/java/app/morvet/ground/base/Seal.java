package app.morvet.ground.base;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Seals what is secret before it is stored, so that a copy of the database gives none of it away: AES-256 in GCM (NIST SP
 * 800-38D) with a nonce of its own for each text, bound to what it belongs to.
 *
 * <p>The keys are {@code morvet.secret-keys}: each 32 bytes in Base64, with commas between. The first seals; the others only
 * open, so a new key is put before the old one, and the old one is taken away after a start.
 */
@Component
public class Seal {
    private static final String MARK = "sealed:";
    private static final int NONCE = 12;
    private static final int TAG_BITS = 128;
    private static final int KEY = 32;

    private final List<SecretKeySpec> keys;
    private final SecureRandom random = new SecureRandom();

    /** @throws WrongSetting where a key is none */
    Seal(@Value("${morvet.secret-keys:}") String keys) {
        this.keys = Arrays.stream(keys.split(","))
                .map(String::strip)
                .filter(one -> !one.isEmpty())
                .map(Seal::key)
                .toList();
    }

    private static SecretKeySpec key(String text) {
        byte[] bytes;
        try {
            bytes = Base64.getDecoder().decode(text);
        } catch (IllegalArgumentException notBase64) {
            bytes = new byte[0];
        }
        if (bytes.length != KEY)
            throw new WrongSetting(
                    "morvet.secret-keys",
                    "each key must be 32 bytes in Base64",
                    "Make one with: head -c 32 /dev/urandom | base64");
        return new SecretKeySpec(bytes, "AES");
    }

    /**
     * Seals a text; an empty one is none, and stays so.
     *
     * @throws IllegalStateException where there is no key to seal with; says how to give one
     */
    public String close(String text, String belongsTo) {
        if (text.isEmpty()) return "";
        if (keys.isEmpty())
            throw new IllegalStateException(
                    "There is no key to seal secrets with. Set morvet.secret-keys to the outcome of: head -c 32 /dev/urandom | base64");
        var nonce = new byte[NONCE];
        random.nextBytes(nonce);
        try {
            var sealed = cipher(Cipher.ENCRYPT_MODE, keys.getFirst(), nonce, belongsTo)
                    .doFinal(text.getBytes(StandardCharsets.UTF_8));
            var all = Arrays.copyOf(nonce, NONCE + sealed.length);
            System.arraycopy(sealed, 0, all, NONCE, sealed.length);
            return mark(keys.getFirst()) + Base64.getEncoder().encodeToString(all);
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException(never);
        }
    }

    /**
     * Opens what is sealed; what was stored before there was a key is given back as it is.
     *
     * @throws IllegalStateException where none of the keys opens it
     */
    public String open(String stored, String belongsTo) {
        if (!stored.startsWith(MARK)) return stored;
        for (var key : keys) {
            var text = opened(key, stored, belongsTo);
            if (text != null) return text;
        }
        throw new IllegalStateException("No key of morvet.secret-keys opens the secrets of a " + belongsTo
                + "; put the one that sealed them there as well.");
    }

    /** Whether there is nothing to be done: it is sealed with the first of the keys, or is empty, or plain while there is no key. */
    public boolean isOfToday(String stored) {
        if (keys.isEmpty()) return !stored.startsWith(MARK);
        return stored.isEmpty() || stored.startsWith(mark(keys.getFirst()));
    }

    /** Names the key, by the beginning of its SHA-256. */
    private static String mark(SecretKeySpec key) {
        return MARK + HexFormat.of().formatHex(DigestUtils.sha256(key.getEncoded()), 0, 4) + ":";
    }

    private static @Nullable String opened(SecretKeySpec key, String stored, String belongsTo) {
        if (!stored.startsWith(mark(key))) return null;
        try {
            var all = Base64.getDecoder().decode(stored.substring(mark(key).length()));
            var nonce = Arrays.copyOf(all, NONCE);
            return new String(
                    cipher(Cipher.DECRYPT_MODE, key, nonce, belongsTo).doFinal(all, NONCE, all.length - NONCE),
                    StandardCharsets.UTF_8);
        } catch (GeneralSecurityException | IllegalArgumentException changed) {
            return null;
        }
    }

    private static Cipher cipher(int mode, SecretKeySpec key, byte[] nonce, String belongsTo)
            throws GeneralSecurityException {
        var cipher = Cipher.getInstance("AES/GCM/NoPadding");
        cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
        cipher.updateAAD(belongsTo.getBytes(StandardCharsets.UTF_8));
        return cipher;
    }
}
