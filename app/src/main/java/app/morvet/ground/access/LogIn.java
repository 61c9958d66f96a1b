package app.morvet.ground.access;

import java.time.Duration;
import java.util.Locale;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.security.authentication.AuthenticationServiceException;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Checks a log-in. A try is counted before the password is looked at ({@link Tries}). Logins that do not exist are slowed down
 * in the same way and cost the same time, so that nobody learns which ones do. Passwords are looked at few at a time, so
 * that many tries take no time from the pages.
 */
@Component
class LogIn {
    private static final Duration WAITS = Duration.ofSeconds(5);

    private final AccessStore store;
    private final PasswordEncoder passwords;
    private final Tries tries;
    private final Devices devices;
    private final String nobody;
    private final Semaphore looking =
            new Semaphore(Math.max(1, Runtime.getRuntime().availableProcessors() / 2), true);

    LogIn(AccessStore store, PasswordEncoder passwords, Tries tries, Devices devices) {
        this.store = store;
        this.passwords = passwords;
        this.tries = tries;
        this.devices = devices;
        this.nobody = passwords.encode("nobody has this password");
    }

    Authentication authenticate(Authentication tried) {
        if (!(tried.getDetails() instanceof Whence whence)) throw new BadCredentialsException("It comes from nowhere.");
        var login = tried.getName().strip().toLowerCase(Locale.ROOT);
        var device = devices.knows(login, whence.device()) ? whence.device() : "";
        var wait = tries.count(login, whence.address(), device);
        if (!wait.isZero())
            throw new LockedException(
                    "Too many tries. The next is possible in %d s.".formatted(Math.max(1, wait.toSeconds() + 1)));
        var found = store.byLogin(login);
        var hash = found.map(AccessStore.WithPassword::passwordHash).orElse(nobody);
        boolean right = matches(String.valueOf(tried.getCredentials()), hash);
        if (!right || found.isEmpty())
            throw new BadCredentialsException("Login and password do not belong together. Check both and try again.");
        tries.right(login, whence.address(), device);
        var person = found.get().person();
        var known = UsernamePasswordAuthenticationToken.authenticated(person, null, person.authorities());
        // Where it came from is of no use any more, and is not to be kept with the session.
        known.setDetails("");
        return known;
    }

    private boolean matches(String password, String hash) {
        try {
            if (!looking.tryAcquire(WAITS.toMillis(), TimeUnit.MILLISECONDS)) throw busy();
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
            throw busy();
        }
        try {
            return passwords.matches(password, hash);
        } finally {
            looking.release();
        }
    }

    private static AuthenticationException busy() {
        return new AuthenticationServiceException("Many log in at this moment. Try again in a little while.");
    }
}
