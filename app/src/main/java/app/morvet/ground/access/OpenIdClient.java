package app.morvet.ground.access;

import app.morvet.ground.base.MorvetSettings;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.client.registration.ClientRegistrationRepository;
import org.springframework.security.oauth2.client.registration.ClientRegistrations;
import org.springframework.stereotype.Component;

/** How the log-in elsewhere is reached: asked of it when somebody first logs in, so that Morvet starts without it. */
@Component
class OpenIdClient implements ClientRegistrationRepository {
    static final String ID = "company";
    static final String BEGIN = "/oauth2/authorization/" + ID;

    private static final Duration NOT_SOONER = Duration.ofSeconds(10);
    private static final Logger LOG = LoggerFactory.getLogger(OpenIdClient.class);

    private final OpenIdSettings settings;
    private final MorvetSettings morvet;
    private volatile @Nullable ClientRegistration known;
    private volatile Instant tried = Instant.EPOCH;

    OpenIdClient(OpenIdSettings settings, MorvetSettings morvet) {
        this.settings = settings;
        this.morvet = morvet;
    }

    /** Null where there is none, or it does not answer. */
    @Override
    public @Nullable ClientRegistration findByRegistrationId(String id) {
        if (!id.equals(ID) || !settings.isSet()) return null;
        var registration = known;
        var now = Instant.now();
        // Whoever asks while it does not answer neither makes it be asked again and again, nor fills the log.
        if (registration != null || now.isBefore(tried.plus(NOT_SOONER))) return registration;
        tried = now;
        known = registration = read().orElse(null);
        return registration;
    }

    private Optional<ClientRegistration> read() {
        try {
            return Optional.of(ClientRegistrations.fromIssuerLocation(settings.issuer())
                    .registrationId(ID)
                    .clientId(settings.clientId())
                    .clientSecret(settings.clientSecret())
                    .scope("openid", "profile", "email")
                    .redirectUri(morvet.link("/login/oauth2/code/" + ID))
                    .userNameAttributeName("sub")
                    .build());
        } catch (IllegalArgumentException | IllegalStateException none) {
            LOG.warn("The log-in at {} does not say how it is reached: {}", settings.issuer(), none.getMessage());
            return Optional.empty();
        }
    }
}
