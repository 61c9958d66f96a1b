package app.morvet.ground.access;

import java.util.Map;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;

/**
 * A log-in elsewhere, by OpenID Connect Core 1.0 (code flow with PKCE, RFC 7636); none where there is no issuer.
 *
 * @param issuer     its address; what it offers is read from {@code /.well-known/openid-configuration} below it
 * @param name       what the button says after "Log in with"
 * @param loginClaim which claim says what somebody logs in as; {@code nameClaim} and {@code mailClaim} their name and mail
 * @param groupsClaim which claim lists the groups that they are in
 * @param roles      which group makes somebody what here; of several the one that may most counts, and without any nobody is let in
 * @param teams      which group makes somebody a member of which team, by its key
 */
@ConfigurationProperties("morvet.open-id")
record OpenIdSettings(
        @DefaultValue("") String issuer,
        @DefaultValue("") String clientId,
        @DefaultValue("") String clientSecret,
        @DefaultValue("the company's log-in") String name,
        @DefaultValue("preferred_username") String loginClaim,
        @DefaultValue("name") String nameClaim,
        @DefaultValue("email") String mailClaim,
        @DefaultValue("groups") String groupsClaim,
        @DefaultValue Map<String, Role> roles,
        @DefaultValue Map<String, String> teams) {

    boolean isSet() {
        return !issuer.isEmpty();
    }
}
