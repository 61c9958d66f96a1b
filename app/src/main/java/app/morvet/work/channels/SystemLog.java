package app.morvet.work.channels;

import app.morvet.core.callouts.SyslogLine;
import app.morvet.core.callouts.Way;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Unanswered;
import java.io.IOException;
import java.net.DatagramPacket;
import java.net.DatagramSocket;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.SSLSocketFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** A system log (RFC 5424) over UDP (RFC 5426), TCP (RFC 6587, by counted octets) or TLS (RFC 5425). */
@Component
public class SystemLog implements Outside {
    public static final String SORT = "syslog";
    private static final Set<String> SCHEMES = Set.of("udp", "tcp", "tls");
    private static final int PATIENCE_MILLIS = 10_000;

    private final Outgoing outgoing;
    private final Clock clock;
    private final String host;

    SystemLog(Outgoing outgoing, Clock clock, @Value("${morvet.node:${HOSTNAME:node}}") String host) {
        this.outgoing = outgoing;
        this.clock = clock;
        this.host = host;
    }

    @Override
    public String kind() {
        return SORT;
    }

    @Override
    public Way way() {
        return Way.SYSLOG;
    }

    /** @throws IllegalArgumentException where an address is none, or may not be called */
    void check(String address) {
        URI uri;
        try {
            uri = URI.create(address);
        } catch (IllegalArgumentException bad) {
            throw new IllegalArgumentException("\"" + address + "\" is not an address", bad);
        }
        if (uri.getScheme() == null || !SCHEMES.contains(uri.getScheme()) || uri.getHost() == null || uri.getPort() < 0)
            throw new IllegalArgumentException("an address is udp://host:port, tcp://host:port or tls://host:port");
        outgoing.reach(uri.getHost() + ":" + uri.getPort());
    }

    @Override
    public String send(Connection to, Map<String, String> values, String key, String id) throws Unanswered {
        try {
            check(to.url());
        } catch (IllegalArgumentException wrongSettings) {
            throw new Unanswered(String.valueOf(wrongSettings.getMessage()), true);
        }
        var facts = new HashMap<>(values);
        var words = facts.getOrDefault("title", "");
        facts.keySet().removeAll(Set.of("title", "text"));
        facts.put("key", key);
        var line = SyslogLine.of(level(values), clock.instant(), host, "call-out", facts, words);
        try {
            send(URI.create(to.url()), line);
            return "";
        } catch (IOException cannot) {
            throw new Unanswered("%s takes nothing: %s".formatted(to.name(), cannot.getMessage()), false);
        }
    }

    private static SyslogLine.Level level(Map<String, String> values) {
        if ("over".equals(values.get("state"))) return SyslogLine.Level.INFORMATIONAL;
        return switch (values.getOrDefault("severity", "")) {
            case "critical" -> SyslogLine.Level.CRITICAL;
            case "warning" -> SyslogLine.Level.WARNING;
            default -> SyslogLine.Level.NOTICE;
        };
    }

    private static void send(URI to, byte[] line) throws IOException {
        if (to.getScheme().equals("udp")) {
            try (var socket = new DatagramSocket()) {
                socket.send(new DatagramPacket(line, line.length, InetAddress.getByName(to.getHost()), to.getPort()));
            }
            return;
        }
        try (var socket = connected(to)) {
            var out = socket.getOutputStream();
            out.write((line.length + " ").getBytes(StandardCharsets.US_ASCII));
            out.write(line);
            out.flush();
        }
    }

    private static Socket connected(URI to) throws IOException {
        var plain = new Socket();
        plain.connect(new InetSocketAddress(to.getHost(), to.getPort()), PATIENCE_MILLIS);
        plain.setSoTimeout(PATIENCE_MILLIS);
        if (!to.getScheme().equals("tls")) return plain;
        var factory = (SSLSocketFactory) SSLSocketFactory.getDefault();
        var secure = (SSLSocket) factory.createSocket(plain, to.getHost(), to.getPort(), true);
        var parameters = secure.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS");
        secure.setSSLParameters(parameters);
        secure.startHandshake();
        return secure;
    }
}
