package app.morvet.ground.access;

import app.morvet.ground.base.Seal;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.ObjectInputStream;
import java.io.ObjectOutputStream;
import java.time.Duration;
import java.util.Base64;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.oauth2.client.web.AuthorizationRequestRepository;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;
import org.springframework.stereotype.Component;
import org.springframework.web.util.WebUtils;

/**
 * What was asked of the log-in elsewhere, until its answer comes: kept with the reader, sealed, so that whoever is not known costs the
 * store nothing. What is not sealed by Morvet itself is not read.
 */
@Component
class OpenIdRequests implements AuthorizationRequestRepository<OAuth2AuthorizationRequest> {
    private static final String COOKIE = "morvet_asked";
    private static final String SEALED_FOR = "log-in elsewhere";
    private static final String MARK = "sealed:";
    private static final Duration KEPT = Duration.ofMinutes(10);

    private final Seal seal;

    OpenIdRequests(Seal seal) {
        this.seal = seal;
    }

    @Override
    public @Nullable OAuth2AuthorizationRequest loadAuthorizationRequest(HttpServletRequest request) {
        var cookie = WebUtils.getCookie(request, COOKIE);
        if (cookie == null) return null;
        try {
            var stored = new String(Base64.getUrlDecoder().decode(cookie.getValue()));
            if (!stored.startsWith(MARK)) return null;
            var bytes = Base64.getDecoder().decode(seal.open(stored, SEALED_FOR));
            try (var in = new ObjectInputStream(new ByteArrayInputStream(bytes))) {
                var asked = (OAuth2AuthorizationRequest) in.readObject();
                return asked.getState() != null && asked.getState().equals(request.getParameter("state"))
                        ? asked
                        : null;
            }
        } catch (IllegalArgumentException | IllegalStateException | IOException | ClassNotFoundException none) {
            return null;
        }
    }

    @Override
    public void saveAuthorizationRequest(
            @Nullable OAuth2AuthorizationRequest asked, HttpServletRequest request, HttpServletResponse response) {
        if (asked == null) {
            cookie("", Duration.ZERO, request, response);
            return;
        }
        var bytes = new ByteArrayOutputStream();
        try (var out = new ObjectOutputStream(bytes)) {
            out.writeObject(asked);
        } catch (IOException never) {
            throw new IllegalStateException(never);
        }
        var sealed = seal.close(Base64.getEncoder().encodeToString(bytes.toByteArray()), SEALED_FOR);
        cookie(Base64.getUrlEncoder().withoutPadding().encodeToString(sealed.getBytes()), KEPT, request, response);
    }

    private static void cookie(String value, Duration kept, HttpServletRequest request, HttpServletResponse response) {
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                ResponseCookie.from(COOKIE, value)
                        .httpOnly(true)
                        // It must come along when the other log-in sends its reader back.
                        .sameSite("Lax")
                        .secure(request.isSecure())
                        .path("/login/oauth2")
                        .maxAge(kept)
                        .build()
                        .toString());
    }

    @Override
    public @Nullable OAuth2AuthorizationRequest removeAuthorizationRequest(
            HttpServletRequest request, HttpServletResponse response) {
        var asked = loadAuthorizationRequest(request);
        cookie("", Duration.ZERO, request, response);
        return asked;
    }
}
