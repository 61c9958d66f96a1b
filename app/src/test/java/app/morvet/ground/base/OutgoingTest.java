package app.morvet.ground.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.probe.Web;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Calls to hosts that do not behave. */
class OutgoingTest {
    private static final Duration KEPT = Duration.ofDays(400);

    /** Held, since a socket that nobody knows any more is hung up when the garbage is collected. */
    private final Queue<Socket> callers = new ConcurrentLinkedQueue<>();

    @AfterEach
    void hangUp() throws IOException {
        for (var caller : callers) caller.close();
    }

    /** Answers with some text and then says nothing more, without hanging up. */
    private ServerSocket saying(String text) throws IOException {
        var server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress());
        Thread.ofVirtual().start(() -> {
            try {
                while (true) {
                    Socket caller = server.accept();
                    callers.add(caller);
                    caller.getInputStream().read();
                    caller.getOutputStream().write(text.getBytes(StandardCharsets.US_ASCII));
                    caller.getOutputStream().flush();
                }
            } catch (IOException closed) {
                // the test is over
            }
        });
        return server;
    }

    private static Web.Answer call(ServerSocket server, Duration patience) throws Exception {
        var settings = new MorvetSettings(
                ZoneId.of("UTC"),
                URI.create("http://localhost"),
                Duration.ZERO,
                null,
                List.of("127.0.0.1:" + server.getLocalPort()),
                "",
                KEPT,
                KEPT,
                KEPT,
                KEPT);
        return new Outgoing(settings, patience)
                .call(HttpRequest.newBuilder().GET(), "http://127.0.0.1:" + server.getLocalPort() + "/");
    }

    @Test
    void whoSendsHeadersAndThenNothingIsNotWaitedFor() throws Exception {
        try (var server = saying("HTTP/1.1 200 OK\r\nContent-Length: 100\r\n\r\nbegun")) {
            assertThatThrownBy(() -> call(server, Duration.ofSeconds(1)))
                    .isInstanceOf(HttpTimeoutException.class)
                    .hasMessageContaining("did not end within 1 s");
        }
    }

    @Test
    void whoSaysNothingAtAllNeither() throws Exception {
        try (var server = saying("")) {
            assertThatThrownBy(() -> call(server, Duration.ofSeconds(1))).isInstanceOf(HttpTimeoutException.class);
        }
    }

    @Test
    void aWholeAnswerIsTaken() throws Exception {
        try (var server =
                saying("HTTP/1.1 404 Not Found\r\nContent-Type: text/plain\r\nContent-Length: 4\r\n\r\nnone")) {
            assertThat(call(server, Outgoing.PATIENCE)).isEqualTo(new Web.Answer(404, "text/plain", "", "", "none"));
        }
    }
}
