package app.morvet.ground.access;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.oauth2.core.oidc.user.OidcUser;
import org.springframework.security.web.authentication.AuthenticationSuccessHandler;
import org.springframework.stereotype.Component;

/** Who was let in elsewhere becomes who they are here, by what is said there of them. A second factor is asked there, not here. */
@Component
class OpenIdEntrance implements AuthenticationSuccessHandler {
    private final OpenIdSettings settings;
    private final People people;
    private final Entrance entrance;

    OpenIdEntrance(OpenIdSettings settings, People people, Entrance entrance) {
        this.settings = settings;
        this.people = people;
        this.entrance = entrance;
    }

    @Override
    public void onAuthenticationSuccess(HttpServletRequest request, HttpServletResponse response, Authentication known)
            throws IOException, ServletException {
        try {
            var person = people.fromElsewhere(said((OidcUser) Objects.requireNonNull(known.getPrincipal())));
            entrance.enter(person, request, response);
        } catch (IllegalArgumentException not) {
            SecurityContextHolder.clearContext();
            request.getSession().invalidate();
            LogInController.refuse(request, response, HttpStatus.FORBIDDEN, String.valueOf(not.getMessage()));
        }
    }

    private People.Elsewhere said(OidcUser user) {
        var groups = groups(user.getClaim(settings.groupsClaim()));
        var login = claim(user, settings.loginClaim()).toLowerCase(Locale.ROOT);
        var role = groups.stream()
                .flatMap(group -> Optional.ofNullable(settings.roles().get(group)).stream())
                .max(Enum::compareTo)
                .orElseThrow(() -> new IllegalArgumentException(
                        "You are known there as %s, and in no group that does anything here. Ask your admin for one of: %s."
                                .formatted(
                                        login,
                                        String.join(
                                                ", ",
                                                settings.roles().keySet().stream()
                                                        .sorted()
                                                        .toList()))));
        var teams = groups.stream()
                .flatMap(group -> Optional.ofNullable(settings.teams().get(group)).stream())
                .toList();
        var name = claim(user, settings.nameClaim());
        return new People.Elsewhere(
                user.getIssuer() + " " + user.getSubject(),
                login,
                name.isEmpty() ? login : name,
                role,
                claim(user, settings.mailClaim()),
                teams);
    }

    private static String claim(OidcUser user, String name) {
        return user.getClaim(name) instanceof String text ? text.strip() : "";
    }

    private static List<String> groups(@Nullable Object claim) {
        return switch (claim) {
            case Collection<?> several -> several.stream().map(String::valueOf).toList();
            case String one -> List.of(one);
            case null, default -> List.of();
        };
    }
}
