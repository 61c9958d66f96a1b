package app.morvet.probe;

import app.morvet.core.checks.Certificate;
import app.morvet.core.checks.CertificateFile;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.cert.CertificateException;
import java.security.cert.CertificateFactory;
import java.security.cert.CertificateParsingException;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLHandshakeException;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;

/** The certificate that a port shows: how long it is good, for which names, and by whom it is signed. */
final class CertificateLooking implements Looking<Certificate> {
    static final String DAYS_LEFT = "certificate_days_left";
    private static final double SECONDS_A_DAY = 86_400;

    private final Permits permits;

    CertificateLooking(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<Certificate> of() {
        return Certificate.class;
    }

    @Override
    public Result at(Certificate target, Around around, Watch watch) throws IOException, GeneralSecurityException {
        target.hosts().forEach(permits::reach);
        var context = SSLContext.getInstance("TLS");
        context.init(null, new TrustManager[] {new Anything()}, null);
        var chain = handshake(target, context, "", watch);
        var verdicts = new ArrayList<Verdict>();
        verdicts.add(daysLeft(target.days(), chain.getFirst(), around.now()));
        if (target.trusted()) verdicts.add(signed(target, watch));
        return result(verdicts, chain, around.now(), watch);
    }

    /** @param names how the names of the certificate are held against that of the host; empty where they are not */
    private static List<X509Certificate> handshake(Certificate target, SSLContext context, String names, Watch watch)
            throws IOException {
        try (var plain = new Socket()) {
            plain.connect(new InetSocketAddress(target.name(), target.port()), watch.leftMillis());
            plain.setSoTimeout(watch.leftMillis());
            try (var socket =
                    (SSLSocket) context.getSocketFactory().createSocket(plain, target.name(), target.port(), true)) {
                if (!names.isEmpty()) {
                    var parameters = socket.getSSLParameters();
                    parameters.setEndpointIdentificationAlgorithm(names);
                    socket.setSSLParameters(parameters);
                }
                socket.startHandshake();
                return Stream.of(socket.getSession().getPeerCertificates())
                        .map(X509Certificate.class::cast)
                        .toList();
            }
        }
    }

    /** Whether somebody who believes only whom they should would go on after the handshake. */
    private static Verdict signed(Certificate target, Watch watch) throws GeneralSecurityException, IOException {
        var expected = "signed by somebody known, for this host";
        var context = SSLContext.getInstance("TLS");
        context.init(null, Webs.believing(target.trust()), null);
        try {
            handshake(target, context, "HTTPS", watch);
            return Verdict.of(expected, true, "");
        } catch (SSLHandshakeException not) {
            return Verdict.of(expected, false, "it is not: " + not.getMessage());
        }
    }

    static Verdict daysLeft(int days, X509Certificate certificate, Instant now) {
        double left = left(certificate, now);
        return Verdict.of(days + " days left", left >= days, "there are %.0f".formatted(Math.floor(left)));
    }

    private static double left(X509Certificate certificate, Instant now) {
        return Duration.between(now, certificate.getNotAfter().toInstant()).toSeconds() / SECONDS_A_DAY;
    }

    static Result result(List<Verdict> verdicts, List<X509Certificate> chain, Instant now, Watch watch)
            throws CertificateParsingException {
        return Result.of(verdicts, watch.took(), words(chain))
                .with(Result.Figure.gauge(DAYS_LEFT, "", left(chain.getFirst(), now)));
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
        return words.toString().strip();
    }

    /** The first certificate that stands in a file. */
    static final class InFile implements Looking<CertificateFile> {
        private static final long LONGEST = 1_000_000;

        private final Permits permits;

        InFile(Permits permits) {
            this.permits = permits;
        }

        @Override
        public Class<CertificateFile> of() {
            return CertificateFile.class;
        }

        @Override
        public Result at(CertificateFile target, Around around, Watch watch)
                throws IOException, GeneralSecurityException {
            var file = Path.of(target.path());
            permits.read(file);
            if (!Files.isRegularFile(file)) throw new IllegalArgumentException("there is no file " + file);
            if (Files.size(file) > LONGEST) throw new IllegalArgumentException("a certificate is not that long");
            var bytes = Files.readAllBytes(file);
            var text = new String(bytes, StandardCharsets.ISO_8859_1);
            List<X509Certificate> chain;
            try {
                chain = text.contains("-----BEGIN")
                        ? List.copyOf(Webs.certificates(text))
                        : List.of((X509Certificate) CertificateFactory.getInstance("X.509")
                                .generateCertificate(new java.io.ByteArrayInputStream(bytes)));
            } catch (CertificateException none) {
                throw new IllegalArgumentException("there is no certificate in " + file, none);
            }
            return result(List.of(daysLeft(target.days(), chain.getFirst(), around.now())), chain, around.now(), watch);
        }
    }

    /** A certificate is looked at whoever signed it, and when it has run out above all. */
    private static final class Anything extends X509ExtendedTrustManager {
        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket) {}

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket) {}

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, SSLEngine engine) {}

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, SSLEngine engine) {}

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
