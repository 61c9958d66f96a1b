package app.morvet.ground.access;

import app.morvet.ground.base.Seal;
import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import io.nayuki.qrcodegen.QrCode;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * A second factor: a code of six figures that a telephone reckons every half minute from a secret and the time (RFC 6238, with SHA-1), or
 * one of ten codes that were written down. None is good twice. The code of the half minute before and after is taken as well. Telephones
 * go by the clock of the world, whatever Morvet's says.
 */
@Service
class SecondFactor {
    private static final String SEALED_FOR = "second factor";
    private static final int SECRET_BYTES = 20;
    private static final int CODES = 10;
    /** 50 bits each. */
    private static final int CODE_LETTERS = 10;

    private static final String LETTERS = "abcdefghijkmnpqrstuvwxyz23456789";

    /** What a telephone is told: as a picture (a path in a square of so many units) and to be typed. */
    record Secret(String typed, String path, int size) {}

    private final SecondFactorStore store;
    private final Seal seal;
    private final Audit audit;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();
    private final TimeBasedOneTimePasswordGenerator codes = new TimeBasedOneTimePasswordGenerator();

    SecondFactor(SecondFactorStore store, Seal seal, Audit audit, Clock clock) {
        this.store = store;
        this.seal = seal;
        this.audit = audit;
        this.clock = clock;
    }

    /** Whether it is asked of somebody. */
    boolean isAsked(Person who) {
        return store.of(who.id()).filter(SecondFactorStore.Factor::confirmed).isPresent();
    }

    long recoveryLeft(Person who) {
        return store.recoveryLeft(who.id());
    }

    /**
     * A new secret, which nothing is asked of until a code shows that the telephone has it.
     *
     * @throws IllegalArgumentException where there is one that is confirmed
     */
    @Transactional
    public void begin(Person who) {
        if (isAsked(who)) throw new IllegalArgumentException("you have a second factor; remove it first");
        var secret = new byte[SECRET_BYTES];
        random.nextBytes(secret);
        store.begin(who.id(), seal.close(new Base32().encodeToString(secret), SEALED_FOR), clock.instant());
    }

    /** What is not confirmed yet, for the telephone. */
    Optional<Secret> pending(Person who) {
        return store.of(who.id()).filter(factor -> !factor.confirmed()).map(factor -> {
            var typed = seal.open(factor.secret(), SEALED_FOR);
            var address = "otpauth://totp/Morvet:%s?secret=%s&issuer=Morvet"
                    .formatted(URLEncoder.encode(who.login(), StandardCharsets.UTF_8), typed);
            var picture = QrCode.encodeText(address, QrCode.Ecc.MEDIUM);
            return new Secret(typed.replaceAll("(.{4})(?=.)", "$1 "), path(picture), picture.size + 8);
        });
    }

    /** With a margin of four units, as readers want it. */
    private static String path(QrCode picture) {
        var path = new StringBuilder();
        for (int y = 0; y < picture.size; y++)
            for (int x = 0; x < picture.size; x++)
                if (picture.getModule(x, y))
                    path.append('M').append(x + 4).append(' ').append(y + 4).append("h1v1h-1z");
        return path.toString();
    }

    /**
     * The telephone has it: from now on it is asked at each log-in.
     *
     * @return ten codes for the day on which the telephone is lost; they are shown once
     * @throws IllegalArgumentException where it is not the code of now
     */
    @Transactional
    public List<String> confirm(Person who, String code) {
        var factor = store.of(who.id())
                .filter(it -> !it.confirmed())
                .orElseThrow(() -> new IllegalArgumentException("begin with a new second factor"));
        if (!takes(who, factor, code))
            throw new IllegalArgumentException(
                    "this is not the code that the telephone shows now; is its clock right?");
        store.confirm(who.id(), clock.instant());
        audit.record(who, "second factor set", "person " + who.name(), null, null);
        return recoveryCodes(who);
    }

    /** Ten new ones, in the place of those before. */
    private List<String> recoveryCodes(Person who) {
        var fresh = new ArrayList<String>();
        for (int i = 0; i < CODES; i++) {
            var code = new StringBuilder();
            for (int letter = 0; letter < CODE_LETTERS; letter++)
                code.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
            fresh.add(code.insert(CODE_LETTERS / 2, '-').toString());
        }
        store.addRecovery(who.id(), fresh.stream().map(one -> hash(who, one)).toList());
        return fresh;
    }

    private static byte[] hash(Person who, String code) {
        return DigestUtils.sha256(who.id() + " " + code.replace("-", ""));
    }

    /** Whether this is the code of now, or one of those that were written down. It is taken by that, and good no more. */
    @Transactional
    public boolean isRight(Person who, String typed) {
        var factor = store.of(who.id()).orElse(null);
        if (factor == null) return false;
        if (takes(who, factor, typed)) return true;
        var code = typed.replaceAll("[\\s-]", "").toLowerCase(Locale.ROOT);
        if (!store.takeRecovery(who.id(), hash(who, code))) return false;
        audit.record(who, "recovery code used", "person " + who.name(), null, store.recoveryLeft(who.id()) + " left");
        return true;
    }

    private boolean takes(Person who, SecondFactorStore.Factor factor, String typed) {
        var code = typed.replaceAll("\\s", "");
        if (!code.matches("\\d{6}")) return false;
        var secret = seal.open(factor.secret(), SEALED_FOR);
        long step = Instant.now().getEpochSecond() / seconds();
        for (long near = step - 1; near <= step + 1; near++) {
            boolean same = MessageDigest.isEqual(
                    code.getBytes(StandardCharsets.US_ASCII), at(secret, near).getBytes(StandardCharsets.US_ASCII));
            if (!same || !store.take(who.id(), near)) continue;
            if (!seal.isOfToday(factor.secret())) store.sealedAnew(who.id(), seal.close(secret, SEALED_FOR));
            return true;
        }
        return false;
    }

    private long seconds() {
        return codes.getTimeStep().toSeconds();
    }

    private String at(String secret, long step) {
        try {
            var key = new SecretKeySpec(new Base32().decode(secret), codes.getAlgorithm());
            return codes.generateOneTimePasswordString(key, Instant.ofEpochSecond(step * seconds()));
        } catch (InvalidKeyException never) {
            throw new IllegalStateException(never);
        }
    }

    /**
     * It is asked no more.
     *
     * @param of whose it is; another than {@code by} where an admin removes it for somebody who has lost their telephone
     */
    @Transactional
    public void remove(Person of, Person by) {
        if (store.remove(of.id())) audit.record(by, "second factor removed", "person " + of.name(), null, null);
    }
}
