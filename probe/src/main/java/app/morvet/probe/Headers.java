package app.morvet.probe;

import java.net.http.HttpRequest;

/** Headers as people type them, one {@code Name: value} a line. */
public final class Headers {
    private Headers() {}

    /** Puts them on a request. */
    public static void into(HttpRequest.Builder request, String headers) {
        headers.lines()
                .filter(line -> line.contains(":"))
                .forEach(line -> request.header(
                        name(line), line.substring(line.indexOf(':') + 1).strip()));
    }

    public static String name(String line) {
        return line.split(":", 2)[0].strip();
    }
}
