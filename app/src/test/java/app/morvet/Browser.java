package app.morvet;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;

/** Somebody at the pages, with cookies and without scripts. */
public final class Browser {
    private final CookieManager cookies = new CookieManager();
    private final HttpClient client =
            HttpClient.newBuilder().cookieHandler(cookies).build();
    private final String address;
    private String token = "";
    private String tokenOf = "";

    Browser(int port) {
        this.address = "http://127.0.0.1:" + port;
    }

    public HttpResponse<String> get(String path, String... headers) throws Exception {
        var request = HttpRequest.newBuilder(URI.create(address + path));
        if (headers.length > 0) request.headers(headers);
        return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    /** A page or a part of one that is shown, to be looked at by its elements. */
    public Document page(String path, String... headers) throws Exception {
        return shown(get(path, headers));
    }

    public static Document shown(HttpResponse<String> answer) {
        return shown(answer, 200);
    }

    public static Document shown(HttpResponse<String> answer, int status) {
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
        return Jsoup.parse(answer.body());
    }

    /** The texts of what a selector finds on a page, in order. */
    public List<String> texts(String path, String selector) throws Exception {
        return page(path).select(selector).eachText();
    }

    /** Posts a form with the token that pages bear, and with the headers given. */
    public HttpResponse<String> post(String path, String form, String... headers) throws Exception {
        return postAsIs(path, form + "&_csrf=" + encoded(token()), headers);
    }

    /** As pages bear it, asked for once in a session. */
    private String token() throws Exception {
        if (!token.isEmpty() && tokenOf.equals(cookies())) return token;
        var found = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"")
                .matcher(get("/login").body());
        assertThat(found.find()).isTrue();
        token = found.group(1);
        tokenOf = cookies();
        return token;
    }

    private String cookies() {
        return cookies.getCookieStore().getCookies().stream()
                .map(HttpCookie::toString)
                .sorted()
                .collect(Collectors.joining("; "));
    }

    public HttpResponse<String> post(String path, Map<String, String> fields) throws Exception {
        return post(
                path,
                fields.entrySet().stream()
                        .map(entry -> entry.getKey() + "=" + encoded(entry.getValue()))
                        .collect(Collectors.joining("&")));
    }

    /** Begins to read what never ends, such as the live stream. */
    public HttpResponse<InputStream> listen(String path) throws Exception {
        return client.send(
                HttpRequest.newBuilder(URI.create(address + path)).build(), HttpResponse.BodyHandlers.ofInputStream());
    }

    public HttpResponse<String> postAsIs(String path, String form, String... headers) throws Exception {
        var request = HttpRequest.newBuilder(URI.create(address + path))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form));
        for (int i = 0; i < headers.length; i += 2) request.header(headers[i], headers[i + 1]);
        return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    /** Gives back where the log-in leads; nowhere where it is refused. */
    public String logIn(String login, String password) throws Exception {
        return post("/login", "username=" + login + "&password=" + password)
                .headers()
                .firstValue("location")
                .orElse("");
    }

    /** Where an answer leads. */
    public static String to(HttpResponse<String> answer) {
        return URI.create(answer.headers().firstValue("location").orElseThrow(() -> new AssertionError(answer.body())))
                .getPath();
    }

    public static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }
}
