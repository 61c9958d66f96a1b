package app.morvet.ground.access;

import jakarta.servlet.http.HttpServletResponse;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.stereotype.Component;

/** The devices on which people have logged in: each bears a number that nobody can guess, of which the store knows the hash. */
@Component
class Devices {
    private static final Duration KEPT = Duration.ofDays(180);

    private final AccessStore store;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    Devices(AccessStore store, Clock clock) {
        this.store = store;
        this.clock = clock;
    }

    /** Whether a person has logged in on the device that bears this. */
    boolean knows(String login, String device) {
        return !device.isEmpty()
                && store.knowsDevice(login, hash(device), clock.instant().minus(KEPT));
    }

    /** Somebody has logged in: their device is known from now on. */
    void remember(Person person, String device, HttpServletResponse response) {
        boolean known = knows(person.login(), device);
        var number = known ? device : fresh();
        store.keepDevice(
                person.id(), hash(number), clock.instant(), clock.instant().minus(KEPT));
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                ResponseCookie.from(Whence.COOKIE, number)
                        .httpOnly(true)
                        .sameSite("Strict")
                        .path("/login")
                        .maxAge(KEPT)
                        .build()
                        .toString());
    }

    private String fresh() {
        var bytes = new byte[32];
        random.nextBytes(bytes);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }

    private static byte[] hash(String device) {
        return DigestUtils.sha256(device);
    }
}
