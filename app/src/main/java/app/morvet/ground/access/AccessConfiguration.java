package app.morvet.ground.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.WebAttributes;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;
import org.springframework.security.web.savedrequest.HttpSessionRequestCache;
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
        "/login", "/error", "/css/**", "/js/**", "/fonts/**", "/vendor/**", "/webjars/**", "/favicon.svg"
    };

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder(11);
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
    SecurityFilterChain peoplePaths(HttpSecurity http, LogIn logIn, List<PathRights> features) throws Exception {
        return http.authenticationProvider(logIn)
                .authorizeHttpRequests(paths -> {
                    paths.requestMatchers(FOR_ALL).permitAll();
                    paths.requestMatchers("/setup/**", "/openapi/**").hasAuthority("SETUP");
                    for (var feature : features)
                        for (var rule : feature.rules())
                            paths.requestMatchers(rule.method(), rule.patterns().toArray(String[]::new))
                                    .hasAuthority(rule.right());
                    paths.anyRequest().hasAuthority("WORK");
                })
                .formLogin(form ->
                        form.loginPage("/login").defaultSuccessUrl("/cases").failureHandler(this::refused))
                .logout(logout -> logout.logoutSuccessUrl("/login?out"))
                .exceptionHandling(handling -> handling.authenticationEntryPoint(this::notLoggedIn))
                .requestCache(cache -> cache.requestCache(onlyWholePages()))
                .csrf(csrf -> csrf.spa())
                .headers(headers -> headers.contentSecurityPolicy(policy -> policy.policyDirectives(CONTENT_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(
                                org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter
                                        .ReferrerPolicy.SAME_ORIGIN)))
                .build();
    }

    /** Where to go after the log-in: the page that was asked for, and never a part of one that a page fetches for itself. */
    private static RequestCache onlyWholePages() {
        var cache = new HttpSessionRequestCache();
        cache.setRequestMatcher(request -> {
            var accept = request.getHeader("Accept");
            return "GET".equals(request.getMethod())
                    && request.getHeader("HX-Request") == null
                    && accept != null
                    && accept.contains("text/html");
        });
        return cache;
    }

    /** A NUL is no text that anybody types, and no database takes it: who sends one is told so before anything is asked. */
    @Bean
    HttpFirewall withoutNul() {
        var firewall = new StrictHttpFirewall();
        firewall.setAllowedParameterValues(value -> value.indexOf('\0') < 0);
        return firewall;
    }

    /** Parallel requests of one session may set the same attribute first; the later one wins, and neither fails. */
    @Bean
    SessionRepositoryCustomizer<JdbcIndexedSessionRepository> sessionsForPostgres() {
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer();
    }

    private void refused(HttpServletRequest request, HttpServletResponse response, AuthenticationException why)
            throws java.io.IOException {
        request.getSession().setAttribute(WebAttributes.AUTHENTICATION_EXCEPTION, why.getMessage());
        request.getSession().setAttribute("login.typed", request.getParameter("username"));
        response.sendRedirect("/login?refused");
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
