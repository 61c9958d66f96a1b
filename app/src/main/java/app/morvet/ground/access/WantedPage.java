package app.morvet.ground.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.web.savedrequest.RequestCache;
import org.springframework.security.web.savedrequest.SavedRequest;
import org.springframework.security.web.savedrequest.SimpleSavedRequest;
import org.springframework.web.util.WebUtils;

/**
 * Where to go after the log-in: the page that was asked for, and never a part of one that a page fetches for itself. It is
 * kept with the reader, so that who has not logged in costs the store nothing; and it is a path, so it leads nowhere else.
 */
final class WantedPage implements RequestCache {
    private static final String COOKIE = "morvet_wanted";
    private static final int LONGEST = 1500;

    @Override
    public void saveRequest(HttpServletRequest request, HttpServletResponse response) {
        var query = request.getQueryString();
        var path = request.getRequestURI() + (query == null ? "" : "?" + query);
        if (isWholePage(request) && isOurs(path))
            set(
                    response,
                    Base64.getUrlEncoder().withoutPadding().encodeToString(path.getBytes(StandardCharsets.UTF_8)),
                    600);
    }

    private static boolean isWholePage(HttpServletRequest request) {
        var accept = request.getHeader("Accept");
        return "GET".equals(request.getMethod())
                && request.getHeader("HX-Request") == null
                && accept != null
                && accept.contains("text/html");
    }

    private static boolean isOurs(String path) {
        return path.startsWith("/")
                && !path.startsWith("//")
                && !path.startsWith("/\\")
                && path.length() <= LONGEST
                && path.chars().allMatch(c -> c > ' ' && c < 127);
    }

    private static void set(HttpServletResponse response, String value, long seconds) {
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                ResponseCookie.from(COOKIE, value)
                        .httpOnly(true)
                        .sameSite("Lax")
                        .path("/login")
                        .maxAge(seconds)
                        .build()
                        .toString());
    }

    private static Optional<String> wanted(HttpServletRequest request) {
        try {
            return Optional.ofNullable(WebUtils.getCookie(request, COOKIE))
                    .map(Cookie::getValue)
                    .map(value -> new String(Base64.getUrlDecoder().decode(value), StandardCharsets.UTF_8))
                    .filter(WantedPage::isOurs);
        } catch (IllegalArgumentException notOurs) {
            return Optional.empty();
        }
    }

    @Override
    public @Nullable SavedRequest getRequest(HttpServletRequest request, HttpServletResponse response) {
        return wanted(request).map(SimpleSavedRequest::new).orElse(null);
    }

    /** What was asked for is asked for anew; nothing of the first request is kept but its path. */
    @Override
    public @Nullable HttpServletRequest getMatchingRequest(HttpServletRequest request, HttpServletResponse response) {
        return null;
    }

    @Override
    public void removeRequest(HttpServletRequest request, HttpServletResponse response) {
        set(response, "", 0);
    }
}
