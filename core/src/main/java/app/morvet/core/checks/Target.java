package app.morvet.core.checks;

import java.net.URI;
import java.net.URISyntaxException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** What a check asks, and what it expects. Each kind says so in a sentence. */
public sealed interface Target {
    /** What is expected of an answer, in the order in which it is told. */
    List<Expectation> expectations();

    /** How long it is waited for at most. */
    Duration patience();

    /** As {@code call https://fares.example and expect 200 within 800 ms}. */
    String words();

    /** The machine that is asked, with its port: what is on the allow-list, and what is not asked too often at once. */
    String host();

    private static String host(String host, int port) {
        if (host.isBlank() || !host.matches("[A-Za-z0-9.:\\[\\]_-]{1,253}"))
            throw new IllegalArgumentException("\"" + host + "\" is not the name of a host");
        if (port < 1 || port > 65_535) throw new IllegalArgumentException("a port is 1 to 65535, was " + port);
        return host.toLowerCase(Locale.ROOT) + ":" + port;
    }

    private static Duration bearable(Duration patience) {
        if (patience.compareTo(Duration.ofMillis(100)) < 0 || patience.compareTo(Duration.ofSeconds(60)) > 0)
            throw new IllegalArgumentException("a check waits 100 ms to 60 s");
        return patience;
    }

    /**
     * A call over HTTP.
     *
     * @param url    absolute, without a name and password in it
     * @param body   empty where none is sent
     * @param follow whether it goes where it is sent on to, at most five times
     */
    record Http(
            String method, String url, String body, boolean follow, Duration patience, List<Expectation> expectations)
            implements Target {
        public static final List<String> METHODS = List.of("GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS");
        private static final int LONGEST_BODY = 65_536;

        public Http {
            if (!METHODS.contains(method))
                throw new IllegalArgumentException("the method is one of " + String.join(", ", METHODS));
            uri(url);
            if (body.length() > LONGEST_BODY)
                throw new IllegalArgumentException("a body has at most 65,536 characters");
            bearable(patience);
            expectations = List.copyOf(expectations);
        }

        private static URI uri(String url) {
            try {
                var uri = new URI(url);
                if (!Set.of("http", "https").contains(String.valueOf(uri.getScheme())) || uri.getHost() == null)
                    throw new IllegalArgumentException("\"" + url + "\" must be http://host:port/… or https://host/…");
                if (uri.getUserInfo() != null)
                    throw new IllegalArgumentException("no name and password stand in an address; use a header");
                return uri;
            } catch (URISyntaxException bad) {
                throw new IllegalArgumentException("\"" + url + "\" is not an address", bad);
            }
        }

        @Override
        public String host() {
            var uri = uri(url);
            return Target.host(
                    uri.getHost(),
                    uri.getPort() >= 0 ? uri.getPort() : uri.getScheme().equals("https") ? 443 : 80);
        }

        @Override
        public String words() {
            var verb = method.equals("GET") ? "call " : "send " + method + " to ";
            var first = expectations.stream()
                    .filter(one -> one instanceof Expectation.Code || one instanceof Expectation.Within)
                    .map(Expectation::words)
                    .collect(Collectors.joining(" "));
            var with = new ArrayList<String>();
            for (var one : expectations)
                if (!(one instanceof Expectation.Code || one instanceof Expectation.Within)) with.add(one.words());
            return verb + url + " and expect " + first + (with.isEmpty() ? "" : " with " + String.join(" and ", with));
        }
    }

    /** @param firstLine what must stand in the first line that is sent; empty where it is enough that it can be reached */
    record Port(String name, int port, String firstLine, Duration patience) implements Target {
        public Port {
            Target.host(name, port);
            bearable(patience);
            if (firstLine.length() > 200) throw new IllegalArgumentException("a first line has at most 200 characters");
        }

        @Override
        public String host() {
            return Target.host(name, port);
        }

        @Override
        public List<Expectation> expectations() {
            return firstLine.isEmpty() ? List.of() : List.of(new Expectation.Text(firstLine, true));
        }

        @Override
        public String words() {
            return "reach port %d of %s".formatted(port, name)
                    + (firstLine.isEmpty() ? "" : " and expect \"" + firstLine + "\" in its first line");
        }
    }

    /** @param days so many must be left until the certificate runs out */
    record Certificate(String name, int port, int days, Duration patience) implements Target {
        public Certificate {
            Target.host(name, port);
            bearable(patience);
            if (days < 0 || days > 3650) throw new IllegalArgumentException("days left are 0 to 3650, was " + days);
        }

        @Override
        public String host() {
            return Target.host(name, port);
        }

        @Override
        public List<Expectation> expectations() {
            return List.of();
        }

        @Override
        public String words() {
            return "look at the certificate of %s:%d and expect %d days left".formatted(name, port, days);
        }
    }
}
