package app.morvet.ground.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Objects;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationServiceException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.authentication.AuthenticationSuccessHandler;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.security.web.csrf.CsrfFilter;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;
import org.springframework.security.web.savedrequest.RequestCache;
import org.springframework.session.config.SessionRepositoryCustomizer;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;

/** Which right each path needs: what features say of theirs, and what holds for all. */
@Configuration
class AccessConfiguration {
    private static final String CONTENT_POLICY =
            "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    private static final String[] FOR_ALL = {
        "/login",
        "/login/refused",
        "/take/**",
        "/error",
        "/css/**",
        "/js/**",
        "/fonts/**",
        "/vendor/**",
        "/webjars/**",
        "/favicon.svg"
    };

    /** @param cost how many rounds a guess at a password takes, as a power of two; fewer than 11 in tests only */
    @Bean
    PasswordEncoder passwordEncoder(@Value("${morvet.password-cost:11}") int cost) {
        return new BCryptPasswordEncoder(cost);
    }

    /** Machines: each controller there checks its own key or secret; there is no session and no cookie to steal. */
    @Bean
    @Order(1)
    SecurityFilterChain machinePaths(HttpSecurity http) throws Exception {
        return http.securityMatcher("/api/**", "/actuator/health/**")
                .authorizeHttpRequests(paths -> paths.anyRequest().permitAll())
                .csrf(csrf -> csrf.disable())
                .sessionManagement(sessions -> sessions.disable())
                .securityContext(context -> context.disable())
                .requestCache(cache -> cache.disable())
                .build();
    }

    @Bean
    @Order(2)
    SecurityFilterChain peoplePaths(
            HttpSecurity http,
            LogIn logIn,
            StillThePerson still,
            OwnSessions sessions,
            Devices devices,
            List<PathRights> features)
            throws Exception {
        var wanted = new WantedPage();
        return http.authenticationManager(logIn::authenticate)
                .addFilterBefore(new OwnPagesOnly(), CsrfFilter.class)
                .addFilterBefore(still, AuthorizationFilter.class)
                .authorizeHttpRequests(paths -> {
                    paths.requestMatchers(FOR_ALL).permitAll();
                    paths.requestMatchers("/setup/**", "/openapi/**").hasAuthority("SETUP");
                    for (var feature : features)
                        for (var rule : feature.rules())
                            paths.requestMatchers(rule.method(), rule.patterns().toArray(String[]::new))
                                    .hasAuthority(rule.right());
                    paths.anyRequest().hasAuthority("WORK");
                })
                .formLogin(form -> form.loginPage("/login")
                        .authenticationDetailsSource(Whence::of)
                        .successHandler(known(still, sessions, devices, wanted))
                        .failureHandler(AccessConfiguration::refused))
                .logout(logout -> logout.logoutSuccessUrl("/login?out"))
                .exceptionHandling(handling -> handling.authenticationEntryPoint(this::notLoggedIn))
                .requestCache(cache -> cache.requestCache(wanted))
                .csrf(csrf -> {
                    csrf.spa();
                    csrf.csrfTokenRepository(new SessionTokens());
                    // Its code is what nobody else knows.
                    csrf.ignoringRequestMatchers("/take/**");
                })
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(
                                org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter
                                        .ReferrerPolicy.SAME_ORIGIN)))
                .build();
    }

    /** A NUL is no text that anybody types, and no database takes it: who sends one is told so before anything is asked. */
    @Bean
    HttpFirewall withoutNul() {
        var firewall = new StrictHttpFirewall();
        firewall.setAllowedParameterValues(value -> value.indexOf('\0') < 0);
        return firewall;
    }

    /** It works within the chain of people's paths only. */
    @Bean
    FilterRegistrationBean<StillThePerson> notByItself(StillThePerson still) {
        var registration = new FilterRegistrationBean<>(still);
        registration.setEnabled(false);
        return registration;
    }

    /** Parallel requests of one session may set the same attribute first; the later one wins, and neither fails. */
    @Bean
    SessionRepositoryCustomizer<JdbcIndexedSessionRepository> sessionsForPostgres() {
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer();
    }

    /** Shown at once, so that nothing need be kept of who is not known. */
    private static void refused(HttpServletRequest request, HttpServletResponse response, AuthenticationException why)
            throws IOException, ServletException {
        var status =
                switch (why) {
                    case LockedException tooMany -> HttpStatus.TOO_MANY_REQUESTS;
                    case AuthenticationServiceException busy -> HttpStatus.SERVICE_UNAVAILABLE;
                    default -> HttpStatus.UNAUTHORIZED;
                };
        response.setStatus(status.value());
        request.setAttribute("refusal", why.getMessage());
        request.setAttribute("typed", request.getParameter("username"));
        request.getRequestDispatcher(LogInController.REFUSED).forward(request, response);
    }

    private static AuthenticationSuccessHandler known(
            StillThePerson still, OwnSessions sessions, Devices devices, RequestCache wanted) {
        var onwards = new SavedRequestAwareAuthenticationSuccessHandler();
        onwards.setRequestCache(wanted);
        onwards.setDefaultTargetUrl("/cases");
        return (request, response, logged) -> {
            if (logged.getPrincipal() instanceof Person person) {
                still.begins(person, request.getSession());
                sessions.begins(
                        person,
                        request.getSession(),
                        request.getRemoteAddr(),
                        Objects.requireNonNullElse(request.getHeader("User-Agent"), ""));
                devices.remember(person, Whence.of(request).device(), response);
                if (!person.may("WORK")) {
                    response.sendRedirect(LogInController.HANDED);
                    return;
                }
            }
            onwards.onAuthenticationSuccess(request, response, logged);
        };
    }

    /**
     * A page sends its reader to the log-in and brings them back after it. What htmx or the live stream asks for must not
     * swap a log-in form into the middle of a page: it gets a plain 401, and the page offers to log in beside it, so that
     * what was typed stays.
     */
    private void notLoggedIn(HttpServletRequest request, HttpServletResponse response, AuthenticationException why)
            throws java.io.IOException, jakarta.servlet.ServletException {
        boolean background =
                request.getHeader("HX-Request") != null || "text/event-stream".equals(request.getHeader("Accept"));
        if (background) response.setStatus(HttpServletResponse.SC_UNAUTHORIZED);
        else new LoginUrlAuthenticationEntryPoint("/login").commence(request, response, why);
    }
}
