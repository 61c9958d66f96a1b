package app.morvet.core.checks;

import java.time.Duration;
import java.util.Locale;

/** What holds for targets of all kinds. */
final class Limits {
    private static final Duration SHORTEST = Duration.ofMillis(100);
    private static final Duration LONGEST = Duration.ofSeconds(60);

    private Limits() {}

    static String host(String host, int port) {
        if (host.isBlank() || !host.matches("[A-Za-z0-9.:\\[\\]_-]{1,253}"))
            throw new IllegalArgumentException("\"" + host + "\" is not the name of a host");
        if (port < 1 || port > 65_535) throw new IllegalArgumentException("a port is 1 to 65535, was " + port);
        return host.toLowerCase(Locale.ROOT) + ":" + port;
    }

    static Duration bearable(Duration patience) {
        if (patience.compareTo(SHORTEST) < 0 || patience.compareTo(LONGEST) > 0)
            throw new IllegalArgumentException("a check waits 100 ms to 60 s");
        return patience;
    }

    static int days(int days) {
        if (days < 0 || days > 3650) throw new IllegalArgumentException("days left are 0 to 3650, was " + days);
        return days;
    }

    /** A path as it is written on any system, without a way up out of where it begins. */
    static String path(String path) {
        if (path.isBlank() || path.length() > 500 || path.indexOf('\0') >= 0)
            throw new IllegalArgumentException("a path has 1 to 500 characters");
        if (!path.matches("/.*|[A-Za-z]:[\\\\/].*"))
            throw new IllegalArgumentException("\"" + path + "\" must be a whole path, such as /var/log/ledger.log");
        if (path.matches("(.*[\\\\/])?\\.\\.([\\\\/].*)?"))
            throw new IllegalArgumentException("\"" + path + "\" must not go up with ..");
        return path;
    }

    static String words(Duration span) {
        return span.toMillis() % 1000 == 0 ? app.morvet.core.guard.Spans.words(span) : span.toMillis() + " ms";
    }
}
