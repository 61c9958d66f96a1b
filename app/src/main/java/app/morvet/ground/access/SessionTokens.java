package app.morvet.ground.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Base64;
import java.util.UUID;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.csrf.DefaultCsrfToken;
import org.springframework.security.web.csrf.DeferredCsrfToken;
import org.springframework.web.util.WebUtils;

/**
 * What a form must bear so that it is known to be of Morvet's own pages. It follows from the session, so a cookie that
 * somebody else has planted is not believed; the cookie only tells the page's scripts. Before the log-in there is no
 * session, and it is a number in a cookie.
 */
final class SessionTokens implements CsrfTokenRepository {
    private static final String COOKIE = "XSRF-TOKEN";
    private static final String HEADER = "X-XSRF-TOKEN";
    private static final String PARAMETER = "_csrf";

    private static CsrfToken token(String value) {
        return new DefaultCsrfToken(HEADER, PARAMETER, value);
    }

    @Override
    public CsrfToken generateToken(HttpServletRequest request) {
        var bound = ofSession(request);
        return token(bound != null ? bound : UUID.randomUUID().toString());
    }

    private static @Nullable String ofSession(HttpServletRequest request) {
        var session = request.getSession(false);
        if (session == null) return null;
        var hash = DigestUtils.sha256("form of " + session.getId());
        return Base64.getUrlEncoder().withoutPadding().encodeToString(hash);
    }

    private static @Nullable String ofCookie(HttpServletRequest request) {
        var cookie = WebUtils.getCookie(request, COOKIE);
        return cookie == null || cookie.getValue().isBlank() ? null : cookie.getValue();
    }

    @Override
    public @Nullable CsrfToken loadToken(HttpServletRequest request) {
        var bound = ofSession(request);
        var value = bound != null ? bound : ofCookie(request);
        return value == null ? null : token(value);
    }

    @Override
    public void saveToken(@Nullable CsrfToken token, HttpServletRequest request, HttpServletResponse response) {
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                ResponseCookie.from(COOKIE, token == null ? "" : token.getToken())
                        .path("/")
                        .sameSite("Lax")
                        .maxAge(token == null ? 0 : -1)
                        .build()
                        .toString());
    }

    /** The scripts of pages read it from the cookie, so that must say what is expected. */
    @Override
    public DeferredCsrfToken loadDeferredToken(HttpServletRequest request, HttpServletResponse response) {
        return new DeferredCsrfToken() {
            private @Nullable CsrfToken known;
            private boolean made;

            @Override
            public CsrfToken get() {
                var token = known;
                if (token != null) return token;
                token = loadToken(request);
                if (token == null) {
                    token = generateToken(request);
                    made = true;
                }
                if (!token.getToken().equals(ofCookie(request))) saveToken(token, request, response);
                known = token;
                return token;
            }

            @Override
            public boolean isGenerated() {
                get();
                return made;
            }
        };
    }
}
