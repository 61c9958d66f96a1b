package app.morvet.ground.access;

import app.morvet.ground.base.MorvetSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Checks a log-in. After {@value #TRIES} wrong passwords within a quarter of an hour a login is locked for five minutes
 * from the last of them. Logins that do not exist lock in the same way and cost the same time, so that nobody learns
 * which ones do.
 */
@Component
class LogIn implements AuthenticationProvider {
    static final int TRIES = 5;
    static final Duration COUNTED = Duration.ofMinutes(15);
    static final Duration LOCKED = Duration.ofMinutes(5);

    private final AccessStore store;
    private final PasswordEncoder passwords;
    private final Clock clock;
    private final ZoneId zone;
    private final String nobody;

    LogIn(AccessStore store, PasswordEncoder passwords, Clock clock, MorvetSettings settings) {
        this.store = store;
        this.passwords = passwords;
        this.clock = clock;
        this.zone = settings.zone();
        this.nobody = passwords.encode("nobody has this password");
    }

    @Override
    public Authentication authenticate(Authentication tried) {
        var login = tried.getName().strip().toLowerCase(Locale.ROOT);
        var now = clock.instant();
        var failures = store.failuresSince(login, now.minus(COUNTED));
        if (failures.size() >= TRIES) {
            var until = failures.getLast().plus(LOCKED);
            if (now.isBefore(until)) throw locked(until);
        }
        var found = store.byLogin(login);
        var hash = found.map(AccessStore.WithPassword::passwordHash).orElse(nobody);
        boolean right = passwords.matches(String.valueOf(tried.getCredentials()), hash);
        if (!right || found.isEmpty()) {
            store.addFailure(login, now);
            if (failures.size() + 1 >= TRIES) throw locked(now.plus(LOCKED));
            throw new BadCredentialsException("Login and password do not belong together. Check both and try again.");
        }
        store.forgetFailures(login, now.minus(Duration.ofDays(1)));
        var person = found.get().person();
        var rights =
                person.role().rights().stream().map(SimpleGrantedAuthority::new).toList();
        return UsernamePasswordAuthenticationToken.authenticated(person, null, rights);
    }

    private LockedException locked(Instant until) {
        var clockTime = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ENGLISH).format(until.atZone(zone));
        return new LockedException(
                "Too many wrong passwords. This login is locked until " + clockTime + " (" + zone + ").");
    }

    @Override
    public boolean supports(Class<?> kind) {
        return UsernamePasswordAuthenticationToken.class.isAssignableFrom(kind);
    }
}
