package app.morvet.ground.access;

import app.morvet.ground.base.Seal;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Base64;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.oauth2.client.web.AuthorizationRequestRepository;
import org.springframework.security.oauth2.core.endpoint.OAuth2AuthorizationRequest;
import org.springframework.security.oauth2.core.endpoint.OAuth2ParameterNames;
import org.springframework.security.oauth2.core.endpoint.PkceParameterNames;
import org.springframework.security.oauth2.core.oidc.endpoint.OidcParameterNames;
import org.springframework.stereotype.Component;
import org.springframework.web.util.WebUtils;

/**
 * What was asked of the log-in elsewhere, until its answer comes: what of it is made up for one time is kept with the reader, sealed, so
 * that whoever is not known costs the store nothing. What Morvet has not sealed is not read.
 */
@Component
class OpenIdRequests implements AuthorizationRequestRepository<OAuth2AuthorizationRequest> {
    static final String COOKIE = "morvet_asked";
    private static final String SEALED_FOR = "log-in elsewhere";
    private static final String MARK = "sealed:";
    private static final Duration KEPT = Duration.ofMinutes(10);

    private final Seal seal;
    private final OpenIdClient client;

    OpenIdRequests(Seal seal, OpenIdClient client) {
        this.seal = seal;
        this.client = client;
    }

    @Override
    public @Nullable OAuth2AuthorizationRequest loadAuthorizationRequest(HttpServletRequest request) {
        var cookie = WebUtils.getCookie(request, COOKIE);
        var there = client.findByRegistrationId(OpenIdClient.ID);
        if (cookie == null || there == null) return null;
        var kept = opened(cookie.getValue());
        if (kept.length != 3 || !kept[0].equals(request.getParameter(OAuth2ParameterNames.STATE))) return null;
        return OAuth2AuthorizationRequest.authorizationCode()
                .authorizationUri(there.getProviderDetails().getAuthorizationUri())
                .clientId(there.getClientId())
                .redirectUri(there.getRedirectUri())
                .scopes(there.getScopes())
                .state(kept[0])
                .attributes(all -> {
                    all.put(OAuth2ParameterNames.REGISTRATION_ID, OpenIdClient.ID);
                    all.put(OidcParameterNames.NONCE, kept[1]);
                    all.put(PkceParameterNames.CODE_VERIFIER, kept[2]);
                })
                .build();
    }

    private String[] opened(String cookie) {
        try {
            var sealed = new String(Base64.getUrlDecoder().decode(cookie), StandardCharsets.UTF_8);
            return sealed.startsWith(MARK) ? seal.open(sealed, SEALED_FOR).split(" ") : new String[0];
        } catch (IllegalArgumentException | IllegalStateException notOurs) {
            return new String[0];
        }
    }

    @Override
    public void saveAuthorizationRequest(
            @Nullable OAuth2AuthorizationRequest asked, HttpServletRequest request, HttpServletResponse response) {
        if (asked == null) {
            cookie("", Duration.ZERO, request, response);
            return;
        }
        var kept = String.join(
                " ",
                Objects.requireNonNull(asked.getState()),
                Objects.requireNonNull(asked.<String>getAttribute(OidcParameterNames.NONCE)),
                Objects.requireNonNull(asked.<String>getAttribute(PkceParameterNames.CODE_VERIFIER)));
        var sealed = seal.close(kept, SEALED_FOR).getBytes(StandardCharsets.UTF_8);
        cookie(Base64.getUrlEncoder().withoutPadding().encodeToString(sealed), KEPT, request, response);
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
