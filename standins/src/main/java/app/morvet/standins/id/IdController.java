package app.morvet.standins.id;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;
import org.springframework.web.util.UriComponentsBuilder;

/**
 * The company's log-in, by OpenID Connect Core 1.0 with the code flow and PKCE (RFC 7636): one click says who one is. Whose group does
 * anything at Morvet, Morvet decides. Tokens go by the clock of the machine, as those of a company would.
 */
@Controller
class IdController {
    static final String CLIENT = "morvet";
    private static final int CODE_BYTES = 24;
    private static final long GOOD_SECONDS = 120;

    record Known(String login, String name, List<String> groups) {}

    private static final List<Known> PEOPLE = List.of(
            new Known("sanni.kallio", "Sanni Kallio", List.of("everybody", "application-support")),
            new Known("joel.varis", "Joel Varis", List.of("everybody", "application-support", "support-leads")),
            new Known("aulis.kanto", "Aulis Kanto", List.of("everybody")));

    private record Asked(Map<String, String> question, Known who, Instant at) {}

    private final Tokens tokens;
    private final Map<String, Asked> codes = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();

    IdController(Tokens tokens) {
        this.tokens = tokens;
    }

    private static String issuer() {
        return ServletUriComponentsBuilder.fromCurrentContextPath().path("/id").toUriString();
    }

    @GetMapping("/id/.well-known/openid-configuration")
    @ResponseBody
    Map<String, Object> offered() {
        var here = issuer();
        return Map.of(
                "issuer",
                here,
                "authorization_endpoint",
                here + "/authorize",
                "token_endpoint",
                here + "/token",
                "jwks_uri",
                here + "/keys",
                "response_types_supported",
                List.of("code"),
                "subject_types_supported",
                List.of("public"),
                "id_token_signing_alg_values_supported",
                List.of("RS256"),
                "code_challenge_methods_supported",
                List.of("S256"));
    }

    @GetMapping("/id/keys")
    @ResponseBody
    Map<String, Object> keys() {
        return tokens.keys();
    }

    @GetMapping("/id/authorize")
    String ask(@RequestParam Map<String, String> question, Model model) {
        model.addAttribute("people", PEOPLE);
        model.addAttribute("question", question);
        return "id";
    }

    /** @param who nobody where the reader does not want to */
    @PostMapping("/id/authorize")
    ResponseEntity<Void> answer(@RequestParam Map<String, String> sent, @RequestParam(defaultValue = "") String who) {
        var back = UriComponentsBuilder.fromUriString(sent.getOrDefault("redirect_uri", "/"))
                .queryParam("state", sent.getOrDefault("state", ""));
        var known = PEOPLE.stream().filter(one -> one.login().equals(who)).findFirst();
        if (known.isEmpty()) back.queryParam("error", "access_denied");
        else {
            var bytes = new byte[CODE_BYTES];
            random.nextBytes(bytes);
            var code = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
            codes.values().removeIf(one -> one.at().plusSeconds(GOOD_SECONDS).isBefore(Instant.now()));
            codes.put(code, new Asked(new HashMap<>(sent), known.get(), Instant.now()));
            back.queryParam("code", code);
        }
        return ResponseEntity.status(HttpStatus.FOUND)
                .location(URI.create(back.build().encode().toUriString()))
                .build();
    }

    /** A code is good once, for whoever began with it. */
    @PostMapping("/id/token")
    ResponseEntity<Map<String, Object>> token(
            @RequestParam Map<String, String> sent,
            @RequestHeader(name = "Authorization", defaultValue = "") String client) {
        var asked = codes.remove(sent.getOrDefault("code", ""));
        boolean right = asked != null
                && client.startsWith("Basic ")
                && new String(Base64.getDecoder().decode(client.substring(6)), StandardCharsets.UTF_8)
                        .startsWith(CLIENT + ":")
                && challenge(sent.getOrDefault("code_verifier", ""))
                        .equals(asked.question().get("code_challenge"));
        if (!right) return ResponseEntity.badRequest().body(Map.of("error", "invalid_grant"));
        var now = Instant.now().getEpochSecond();
        var claims = new HashMap<String, Object>();
        claims.put("iss", issuer());
        claims.put("aud", CLIENT);
        claims.put("sub", "u-" + Integer.toHexString(asked.who().login().hashCode()));
        claims.put("iat", now);
        claims.put("exp", now + GOOD_SECONDS);
        claims.put("nonce", asked.question().getOrDefault("nonce", ""));
        claims.put("preferred_username", asked.who().login());
        claims.put("name", asked.who().name());
        claims.put("email", asked.who().login() + "@sundrava.example");
        claims.put("groups", asked.who().groups());
        return ResponseEntity.ok(Map.of(
                "access_token",
                "nothing",
                "token_type",
                "Bearer",
                "expires_in",
                GOOD_SECONDS,
                "id_token",
                tokens.sign(claims)));
    }

    private static String challenge(String verifier) {
        try {
            var hash = MessageDigest.getInstance("SHA-256").digest(verifier.getBytes(StandardCharsets.US_ASCII));
            return Base64.getUrlEncoder().withoutPadding().encodeToString(hash);
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException(never);
        }
    }
}
