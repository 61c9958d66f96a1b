package app.morvet.ground.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.AuthenticationServiceException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.config.annotation.authentication.builders.AuthenticationManagerBuilder;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.oauth2.client.OAuth2AuthorizedClient;
import org.springframework.security.oauth2.client.web.OAuth2AuthorizedClientRepository;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.csrf.CsrfFilter;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;
import org.springframework.session.config.SessionRepositoryCustomizer;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;

/** Which right each path needs: what features say of theirs, and what holds for all. */
@Configuration(proxyBeanMethods = false)
class AccessConfiguration {
    private static final Logger LOG = LoggerFactory.getLogger(AccessConfiguration.class);
    private static final String CONTENT_POLICY =
            "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    private static final String[] FOR_ALL = {
        "/login",
        "/login/refused",
        "/login/code",
        "/take/**",
        "/wall",
        "/error",
        "/assets/**",
        "/fonts/**",
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
            Entrance entrance,
            OpenIdEntrance elsewhere,
            OpenIdClient client,
            OpenIdRequests asked,
            List<PathRights> features)
            throws Exception {
        // Nothing else knows anybody, so a try is looked at once.
        http.getSharedObject(AuthenticationManagerBuilder.class).parentAuthenticationManager(null);
        return http.authenticationProvider(passwords(logIn))
                .addFilterBefore(new OwnPagesOnly(), CsrfFilter.class)
                .addFilterBefore(still, AuthorizationFilter.class)
                .authorizeHttpRequests(paths -> {
                    paths.requestMatchers(FOR_ALL).permitAll();
                    paths.requestMatchers("/setup/**", "/openapi/**").hasAuthority("SETUP");
                    paths.requestMatchers("/me/**", "/me").hasAuthority("TEAM");
                    for (var feature : features)
                        for (var rule : feature.rules())
                            paths.requestMatchers(rule.method(), rule.patterns().toArray(String[]::new))
                                    .hasAuthority(rule.right());
                    paths.anyRequest().hasAuthority("WORK");
                })
                .formLogin(form -> form.loginPage("/login")
                        .authenticationDetailsSource(Whence::of)
                        .successHandler(entrance)
                        .failureHandler(AccessConfiguration::refused))
                .oauth2Login(login -> login.loginPage("/login")
                        .clientRegistrationRepository(client)
                        .authorizedClientRepository(noneIsKept())
                        .authorizationEndpoint(there -> there.authorizationRequestRepository(asked))
                        .successHandler(elsewhere)
                        .failureHandler(AccessConfiguration::refusedElsewhere))
                .logout(logout -> logout.logoutSuccessUrl("/login?out"))
                .exceptionHandling(handling -> handling.authenticationEntryPoint(this::notLoggedIn))
                .requestCache(cache -> cache.requestCache(entrance.wanted()))
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

    private static AuthenticationProvider passwords(LogIn logIn) {
        return new AuthenticationProvider() {
            @Override
            public Authentication authenticate(Authentication tried) {
                return logIn.authenticate(tried);
            }

            @Override
            public boolean supports(Class<?> kind) {
                return UsernamePasswordAuthenticationToken.class.isAssignableFrom(kind);
            }
        };
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

    /** Before anything else is given them. */
    @Bean
    static BeanPostProcessor sessionsInUse() {
        return new BeanPostProcessor() {
            @Override
            public Object postProcessAfterInitialization(Object bean, String name) {
                return bean instanceof JdbcIndexedSessionRepository sessions ? new SessionsInUse<>(sessions) : bean;
            }
        };
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
        LogInController.refuse(request, response, status, String.valueOf(why.getMessage()));
    }

    /** Why a log-in elsewhere came to nothing is for those who set it up; whoever waits is told that it did. */
    private static void refusedElsewhere(
            HttpServletRequest request, HttpServletResponse response, AuthenticationException why)
            throws IOException, ServletException {
        // Anybody can have it come to nothing, so it makes no line of the log unless one asks for it.
        LOG.debug("A log-in elsewhere came to nothing: {}", why.getMessage());
        LogInController.refuse(
                request,
                response,
                HttpStatus.UNAUTHORIZED,
                "You were not let in there, or its answer was not right. Try again.");
    }

    /** What could be asked elsewhere with what was given for a log-in is not asked, so none of it is kept. */
    private static OAuth2AuthorizedClientRepository noneIsKept() {
        return new OAuth2AuthorizedClientRepository() {
            @Override
            public <T extends OAuth2AuthorizedClient> @Nullable T loadAuthorizedClient(
                    String id, Authentication who, HttpServletRequest request) {
                return null;
            }

            @Override
            public void saveAuthorizedClient(
                    OAuth2AuthorizedClient client,
                    Authentication who,
                    HttpServletRequest request,
                    HttpServletResponse response) {}

            @Override
            public void removeAuthorizedClient(
                    String id, Authentication who, HttpServletRequest request, HttpServletResponse response) {}
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
