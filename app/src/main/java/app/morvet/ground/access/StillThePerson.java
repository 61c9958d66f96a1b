package app.morvet.ground.access;

import app.morvet.ground.nodes.Notices;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Who is logged in is asked anew with each request: who has another role by now has its rights at once, and a session ends
 * with the password that it began with, and after a day in any case. What is known of people is forgotten when one is changed,
 * on whatever node and in whatever way.
 */
@Component
class StillThePerson extends OncePerRequestFilter {
    static final String PASSWORD = "morvet.password";
    static final Duration LONGEST = Duration.ofHours(24);
    private static final Duration REMEMBERED = Duration.ofSeconds(30);

    private final AccessStore store;
    private final Cache<Long, Optional<AccessStore.Current>> known = Caffeine.newBuilder()
            .expireAfterWrite(REMEMBERED)
            .maximumSize(10_000)
            .build();

    StillThePerson(AccessStore store, Notices notices) {
        this.store = store;
        notices.hear("people", none -> known.invalidateAll());
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        var logged = SecurityContextHolder.getContext().getAuthentication();
        if (logged != null && logged.getPrincipal() instanceof Person person) {
            var session = request.getSession(false);
            var now = now(person, session);
            if (now == null || session == null || isOver(session, now)) {
                if (session != null) session.invalidate();
                SecurityContextHolder.clearContext();
            } else if (!now.person().equals(person)) {
                var context = SecurityContextHolder.createEmptyContext();
                context.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(
                        now.person(), null, now.person().authorities()));
                SecurityContextHolder.setContext(context);
            }
        }
        chain.doFilter(request, response);
    }

    /** What is remembered may be from before a password that the session has been told of already. */
    private AccessStore.@Nullable Current now(Person person, @Nullable HttpSession session) {
        var kept = known.get(person.id(), store::current).orElse(null);
        if (kept == null || session == null || !(session.getAttribute(PASSWORD) instanceof Integer version))
            return kept;
        if (version <= kept.passwordVersion()) return kept;
        known.invalidate(person.id());
        return known.get(person.id(), store::current).orElse(null);
    }

    private static boolean isOver(HttpSession session, AccessStore.Current now) {
        var began = Instant.ofEpochMilli(session.getCreationTime());
        return !Integer.valueOf(now.passwordVersion()).equals(session.getAttribute(PASSWORD))
                || began.plus(LONGEST).isBefore(Instant.now());
    }

    /** The session that has just begun ends with this password. */
    void begins(Person person, HttpSession session) {
        store.current(person.id()).ifPresent(now -> session.setAttribute(PASSWORD, now.passwordVersion()));
    }
}
