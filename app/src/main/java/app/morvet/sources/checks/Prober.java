package app.morvet.sources.checks;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.base.PlainText;
import app.morvet.ground.connections.SecretHeaders;
import java.io.IOException;
import java.net.ConnectException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.net.UnknownHostException;
import java.net.http.HttpRequest;
import java.net.http.HttpTimeoutException;
import java.nio.channels.UnresolvedAddressException;
import java.security.GeneralSecurityException;
import java.security.cert.CertificateParsingException;
import java.security.cert.X509Certificate;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;
import org.springframework.stereotype.Component;

/** Asks once, and says what came of it: an answer held against what is expected, or why there was none. */
@Component
class Prober {
    private static final int MOST_HOPS = 5;
    private static final int LONGEST_LINE = 1000;

    private final Outgoing outgoing;
    private final Clock clock;

    Prober(Outgoing outgoing, Clock clock) {
        this.outgoing = outgoing;
        this.clock = clock;
    }

    /** @throws IllegalArgumentException where it may not be asked; says how it may be */
    void allowed(Target target) {
        outgoing.check("http://" + target.host());
    }

    Result ask(Target target, String headers) throws InterruptedException {
        long start = System.nanoTime();
        try {
            allowed(target);
            return switch (target) {
                case Target.Http it -> Result.of(it, http(it, headers, start));
                case Target.Port it -> Result.of(it, new Answer(0, firstLine(it), since(start)));
                case Target.Certificate it -> certificate(it, start);
            };
        } catch (IOException | IllegalArgumentException none) {
            return Result.none(since(start), why(none, target));
        } catch (GeneralSecurityException never) {
            throw new IllegalStateException(never);
        }
    }

    private static Duration since(long start) {
        return Duration.ofNanos(System.nanoTime() - start);
    }

    private Answer http(Target.Http target, String headers, long start) throws IOException, InterruptedException {
        var url = target.url();
        for (int hop = 0; ; hop++) {
            var request = HttpRequest.newBuilder();
            // What is secret goes to the host that it is meant for, and nowhere that that sends on to.
            if (sameHost(url, target.url())) SecretHeaders.into(request, headers);
            var left = target.patience().minus(since(start));
            if (!left.isPositive()) throw new HttpTimeoutException("no answer in time");
            boolean first = hop == 0;
            request.method(
                    first ? target.method() : "GET",
                    target.body().isEmpty() || !first
                            ? HttpRequest.BodyPublishers.noBody()
                            : HttpRequest.BodyPublishers.ofString(target.body()));
            var answer = outgoing.call(request, url, left);
            boolean sentOn = answer.status() / 100 == 3 && !answer.location().isEmpty();
            if (!target.follow() || !sentOn)
                return new Answer(answer.status(), PlainText.of(answer.body()), since(start));
            if (hop == MOST_HOPS)
                throw new IllegalArgumentException(
                        "it is sent on more than " + MOST_HOPS + " times, at last to " + answer.location());
            url = URI.create(url).resolve(answer.location()).toString();
        }
    }

    private static boolean sameHost(String one, String other) {
        return URI.create(one).getAuthority().equals(URI.create(other).getAuthority());
    }

    private static String firstLine(Target.Port target) throws IOException {
        try (var socket = new Socket()) {
            int millis = (int) target.patience().toMillis();
            socket.connect(new InetSocketAddress(target.name(), target.port()), millis);
            if (target.firstLine().isEmpty()) return "";
            socket.setSoTimeout(millis);
            long until = System.nanoTime() + target.patience().toNanos();
            var line = new StringBuilder();
            var in = socket.getInputStream();
            for (int read = in.read(); read >= 0 && read != '\n' && line.length() < LONGEST_LINE; read = in.read()) {
                line.append((char) read);
                if (System.nanoTime() > until) throw new SocketTimeoutException("no whole line in time");
            }
            return PlainText.of(line.toString().strip());
        }
    }

    private Result certificate(Target.Certificate target, long start) throws IOException, GeneralSecurityException {
        var context = SSLContext.getInstance("TLS");
        context.init(null, new TrustManager[] {new Anything()}, null);
        try (var plain = new Socket()) {
            int millis = (int) target.patience().toMillis();
            plain.connect(new InetSocketAddress(target.name(), target.port()), millis);
            plain.setSoTimeout(millis);
            try (var socket =
                    (SSLSocket) context.getSocketFactory().createSocket(plain, target.name(), target.port(), true)) {
                socket.startHandshake();
                var chain = Stream.of(socket.getSession().getPeerCertificates())
                        .map(X509Certificate.class::cast)
                        .toList();
                var left = Duration.between(
                        clock.instant(), chain.getFirst().getNotAfter().toInstant());
                return Result.certificate(target, since(start), left.toSeconds() / 86_400.0, words(chain));
            }
        }
    }

    private static String words(List<X509Certificate> chain) throws CertificateParsingException {
        var words = new StringBuilder();
        for (var one : chain)
            words.append("%s, from %s, good from %s to %s%n"
                    .formatted(
                            one.getSubjectX500Principal().getName(),
                            one.getIssuerX500Principal().getName(),
                            one.getNotBefore()
                                    .toInstant()
                                    .atZone(ZoneOffset.UTC)
                                    .toLocalDate(),
                            one.getNotAfter().toInstant().atZone(ZoneOffset.UTC).toLocalDate()));
        var names = chain.getFirst().getSubjectAlternativeNames();
        if (names != null)
            words.append("names: ")
                    .append(String.join(
                            ", ",
                            names.stream().map(it -> String.valueOf(it.get(1))).toList()));
        return PlainText.of(words.toString().strip());
    }

    /** In a word that a person can act on. */
    private static String why(Exception none, Target target) {
        for (Throwable at = none; at != null; at = at.getCause()) {
            if (at instanceof UnknownHostException || at instanceof UnresolvedAddressException)
                return "the name " + target.host().replaceAll(":\\d+$", "") + " is not known";
            if (at instanceof SSLException) return "no safe connection: " + at.getMessage();
        }
        if (none instanceof HttpTimeoutException timeout
                && String.valueOf(timeout.getMessage()).startsWith("it began"))
            return String.valueOf(timeout.getMessage());
        if (none instanceof HttpTimeoutException || none instanceof SocketTimeoutException)
            return "no answer within " + target.patience().toMillis() + " ms";
        if (none instanceof ConnectException) return "nobody listens at " + target.host();
        if (none instanceof IllegalArgumentException) return String.valueOf(none.getMessage());
        var message = String.valueOf(none.getMessage());
        var lower = message.toLowerCase(Locale.ROOT);
        if (target instanceof Target.Http
                && (lower.contains("status line") || lower.contains("header parser") || lower.contains("http/1.1")))
            return "it speaks no HTTP: " + message;
        return "it broke off: " + message;
    }

    /** A certificate is looked at whoever signed it, and when it has run out above all. */
    private static final class Anything extends X509ExtendedTrustManager {
        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket) {}

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket) {}

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, javax.net.ssl.SSLEngine engine) {}

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, javax.net.ssl.SSLEngine engine) {}

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type) {}

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type) {}

        @Override
        public X509Certificate[] getAcceptedIssuers() {
            return new X509Certificate[0];
        }
    }
}
