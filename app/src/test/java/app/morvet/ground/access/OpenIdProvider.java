package app.morvet.ground.access;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.RSASSASigner;
import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jose.jwk.gen.RSAKeyGenerator;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;

/** A log-in elsewhere as OpenID Connect Core 1.0 has it, as small as it can be; a test says who logs in there, and what is wrong. */
public final class OpenIdProvider {
    private final HttpServer server;
    private final RSAKey key;
    private final Map<String, Map<String, String>> asked = new HashMap<>();

    /** What the next who log in are said to be; and what of it is wrong: {@code nonce}, {@code key}, {@code audience}, {@code old}. */
    private Map<String, Object> claims = Map.of();

    private String wrong = "";

    public OpenIdProvider() {
        try {
            key = newKey();
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        } catch (JOSEException never) {
            throw new IllegalStateException(never);
        }
        server.createContext("/", this::answer);
        server.start();
    }

    private static RSAKey newKey() throws JOSEException {
        return new RSAKeyGenerator(2048).keyID("one").generate();
    }

    public String issuer() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    void says(Map<String, Object> claims, String wrong) {
        this.claims = claims;
        this.wrong = wrong;
    }

    private void answer(HttpExchange call) throws IOException {
        var body = new String(call.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        switch (call.getRequestURI().getPath()) {
            case "/.well-known/openid-configuration" ->
                send(
                        call,
                        200,
                        """
                        {"issuer": "ISSUER", "authorization_endpoint": "ISSUER/authorize", "token_endpoint": "ISSUER/token",
                         "jwks_uri": "ISSUER/keys", "response_types_supported": ["code"], "subject_types_supported": ["public"],
                         "id_token_signing_alg_values_supported": ["RS256"]}"""
                                .replace("ISSUER", issuer()));
            case "/keys" -> send(call, 200, new JWKSet(key.toPublicJWK()).toString());
            case "/authorize" -> {
                var query = fields(call.getRequestURI().getRawQuery());
                var code = "code-" + asked.size();
                asked.put(code, query);
                call.getResponseHeaders()
                        .add("Location", query.get("redirect_uri") + "?code=" + code + "&state=" + query.get("state"));
                send(call, 302, "");
            }
            case "/token" -> token(call, fields(body));
            default -> send(call, 404, "");
        }
    }

    private void token(HttpExchange call, Map<String, String> sent) throws IOException {
        var query = asked.remove(sent.get("code"));
        var who = call.getRequestHeaders().getFirst("Authorization");
        var expected = "Basic "
                + Base64.getEncoder()
                        .encodeToString("morvet:so secret".replace(" ", "+").getBytes());
        boolean proven = query != null
                && query.get("code_challenge")
                        .equals(Base64.getUrlEncoder()
                                .withoutPadding()
                                .encodeToString(DigestUtils.sha256(sent.get("code_verifier"))))
                && query.get("redirect_uri").equals(sent.get("redirect_uri"));
        if (!proven || !expected.equals(who)) {
            send(call, 400, "{\"error\": \"invalid_grant\"}");
            return;
        }
        var now = Instant.now();
        var said = new JWTClaimsSet.Builder()
                .issuer(issuer())
                .audience(wrong.equals("audience") ? "another" : "morvet")
                .issueTime(Date.from(now.minusSeconds(wrong.equals("old") ? 7200 : 0)))
                .expirationTime(Date.from(now.plusSeconds(wrong.equals("old") ? -3600 : 300)))
                .claim("nonce", wrong.equals("nonce") ? "another" : query.get("nonce"));
        claims.forEach(said::claim);
        try {
            var token = new SignedJWT(
                    new JWSHeader.Builder(JWSAlgorithm.RS256).keyID("one").build(), said.build());
            token.sign(new RSASSASigner(wrong.equals("key") ? newKey() : key));
            send(
                    call,
                    200,
                    "{\"access_token\": \"a\", \"token_type\": \"Bearer\", \"expires_in\": 300, \"id_token\": \"%s\"}"
                            .formatted(token.serialize()));
        } catch (JOSEException never) {
            throw new IllegalStateException(never);
        }
    }

    private static Map<String, String> fields(@Nullable String encoded) {
        return Arrays.stream((encoded == null ? "" : encoded).split("&"))
                .map(one -> one.split("=", 2))
                .filter(one -> one.length == 2)
                .collect(Collectors.toMap(
                        one -> one[0], one -> URLDecoder.decode(one[1], StandardCharsets.UTF_8), (a, b) -> a));
    }

    private static void send(HttpExchange call, int status, String body) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        call.getResponseHeaders().put("Content-Type", List.of("application/json"));
        call.sendResponseHeaders(status, bytes.length == 0 ? -1 : bytes.length);
        if (bytes.length > 0) call.getResponseBody().write(bytes);
        call.close();
    }
}
