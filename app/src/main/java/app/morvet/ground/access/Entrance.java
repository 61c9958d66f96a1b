package app.morvet.ground.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.io.Serializable;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.authentication.AuthenticationSuccessHandler;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.savedrequest.RequestCache;
import org.springframework.stereotype.Component;

/**
 * What happens once somebody is known: of whom a second factor is asked gives it first, and is nobody until then; all others are in, and
 * go to the page that they wanted.
 */
@Component
class Entrance implements AuthenticationSuccessHandler {
    static final String CODE = "/login/code";
    private static final String HALF = "morvet.half";
    private static final Duration FOR_THE_CODE = Duration.ofMinutes(5);

    /** Whose password was right, and until when the code may be given. */
    private record Half(Person person, Instant until) implements Serializable {
        private static final long serialVersionUID = 1;
    }

    private final WantedPage wanted = new WantedPage();
    private final SavedRequestAwareAuthenticationSuccessHandler onwards =
            new SavedRequestAwareAuthenticationSuccessHandler();
    private final HttpSessionSecurityContextRepository contexts = new HttpSessionSecurityContextRepository();
    private final SecondFactor second;
    private final StillThePerson still;
    private final OwnSessions sessions;
    private final Devices devices;

    Entrance(SecondFactor second, StillThePerson still, OwnSessions sessions, Devices devices) {
        this.second = second;
        this.still = still;
        this.sessions = sessions;
        this.devices = devices;
        onwards.setRequestCache(wanted);
        onwards.setDefaultTargetUrl(LogInController.SHIFT);
    }

    /** Which page somebody wanted who has to log in first. */
    RequestCache wanted() {
        return wanted;
    }

    @Override
    public void onAuthenticationSuccess(HttpServletRequest request, HttpServletResponse response, Authentication known)
            throws IOException, ServletException {
        var person = (Person) Objects.requireNonNull(known.getPrincipal());
        if (second.isAsked(person)) {
            SecurityContextHolder.clearContext();
            contexts.saveContext(SecurityContextHolder.createEmptyContext(), request, response);
            request.getSession()
                    .setAttribute(HALF, new Half(person, Instant.now().plus(FOR_THE_CODE)));
            response.sendRedirect(CODE);
        } else in(person, request, response, known);
    }

    /** Of whom the code is asked in a session. */
    Optional<Person> half(HttpSession session) {
        return session.getAttribute(HALF) instanceof Half(var person, var until)
                        && Instant.now().isBefore(until)
                ? Optional.of(person)
                : Optional.empty();
    }

    /** The password is to be given again. */
    void forget(HttpSession session) {
        session.removeAttribute(HALF);
    }

    /** The code was right. */
    void enter(Person person, HttpServletRequest request, HttpServletResponse response)
            throws IOException, ServletException {
        forget(request.getSession());
        request.changeSessionId();
        var known = UsernamePasswordAuthenticationToken.authenticated(person, null, person.authorities());
        var context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(known);
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
        in(person, request, response, known);
    }

    private void in(Person person, HttpServletRequest request, HttpServletResponse response, Authentication known)
            throws IOException, ServletException {
        still.begins(person, request.getSession());
        sessions.begins(
                person,
                request.getSession(),
                request.getRemoteAddr(),
                Objects.requireNonNullElse(request.getHeader(HttpHeaders.USER_AGENT), ""));
        devices.remember(person, Whence.of(request).device(), response);
        if (person.may("WORK")) onwards.onAuthenticationSuccess(request, response, known);
        else response.sendRedirect(LogInController.HANDED);
    }
}
