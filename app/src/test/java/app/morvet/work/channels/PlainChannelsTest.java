package app.morvet.work.channels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Unanswered;
import java.io.IOException;
import java.net.DatagramPacket;
import java.net.DatagramSocket;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;

/** Call-outs as lines of a file and of a system log, which other tools read on. */
class PlainChannelsTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2027-03-18T02:39:04Z"), ZoneOffset.UTC);
    private static final Map<String, String> VALUES =
            Map.of("title", "Critical: it \"stopped\"", "state", "open", "severity", "critical", "case", "74");

    @TempDir
    private Path folder;

    private static Connection channel(String sort, String url, Map<String, String> settings) {
        return new Connection(1, sort, "k", null, "The log", url, "", "", settings, 1);
    }

    private LineFile files() {
        return new LineFile(folder.resolve("call-outs"), new JsonMapper(), CLOCK);
    }

    private static SystemLog log(int port) {
        var settings = new MorvetSettings(
                ZoneOffset.UTC,
                URI.create("http://localhost"),
                Duration.ZERO,
                null,
                List.of("127.0.0.1:" + port),
                "morvet@localhost",
                Duration.ofDays(400),
                Duration.ofDays(400),
                Duration.ofDays(400),
                Duration.ofDays(120));
        return new SystemLog(new Outgoing(settings), CLOCK, "node-1");
    }

    @Test
    void aFileGetsAJsonObjectALine() throws Exception {
        var to = channel(LineFile.SORT, "", Map.of("file", "all.jsonl"));
        files().send(to, VALUES, "k-1", "");
        files().send(to, VALUES, "k-2", "");
        var lines = Files.readAllLines(folder.resolve("call-outs/all.jsonl"));
        assertThat(lines).hasSize(2);
        var first = new JsonMapper().readTree(lines.getFirst());
        assertThat(first.path("title").stringValue()).isEqualTo("Critical: it \"stopped\"");
        assertThat(first.path("key").stringValue()).isEqualTo("k-1");
        assertThat(first.path("at").stringValue()).isEqualTo("2027-03-18T02:39:04Z");
    }

    @Test
    void aFileThatHasGrownIsPutAsideAndFiveAreKept() throws Exception {
        var to = channel(LineFile.SORT, "", Map.of("file", "all.jsonl"));
        var file = Files.createDirectories(folder.resolve("call-outs")).resolve("all.jsonl");
        for (int round = 1; round <= 7; round++) {
            Files.write(file, new byte[10_000_000]);
            files().send(to, VALUES, "k-" + round, "");
            assertThat(Files.readString(file)).as("a fresh one").contains("k-" + round);
        }
        try (var all = Files.list(folder.resolve("call-outs"))) {
            assertThat(all.map(one -> one.getFileName().toString()))
                    .containsExactlyInAnyOrder(
                            "all.jsonl", "all.jsonl.1", "all.jsonl.2", "all.jsonl.3", "all.jsonl.4", "all.jsonl.5");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "../up", "/etc/x", "a/b", ".hidden", "a b", "x\u0000"})
    void aFileLiesInItsFolderAndNowhereElse(String name) {
        assertThatThrownBy(() -> LineFile.check(name)).hasMessageContaining("no folder");
    }

    @Test
    void whatCannotBeWrittenIsTriedAgain() throws Exception {
        Files.writeString(folder.resolve("call-outs"), "a file where a folder should be");
        assertThatThrownBy(() -> files().send(channel(LineFile.SORT, "", Map.of("file", "a")), VALUES, "k", ""))
                .isInstanceOfSatisfying(
                        Unanswered.class, failed -> assertThat(failed.lasting()).isFalse());
    }

    @Test
    void aSystemLogGetsADatagram() throws Exception {
        try (var socket = new DatagramSocket(0, InetAddress.getByName("127.0.0.1"))) {
            socket.setSoTimeout(10_000);
            int port = socket.getLocalPort();
            log(port).send(channel(SystemLog.SORT, "udp://127.0.0.1:" + port, Map.of()), VALUES, "k-1", "");
            var packet = new DatagramPacket(new byte[4_096], 4_096);
            socket.receive(packet);
            assertThat(new String(packet.getData(), 0, packet.getLength(), StandardCharsets.UTF_8))
                    .isEqualTo(
                            "<130>1 2027-03-18T02:39:04Z node-1 morvet - call-out [morvet@32473 case=\"74\" key=\"k-1\""
                                    + " severity=\"critical\" state=\"open\"] \ufeffCritical: it \"stopped\"");
        }
    }

    @Test
    void overAConnectionItsLengthGoesBefore() throws Exception {
        try (var server = new ServerSocket(0, 1, InetAddress.getByName("127.0.0.1"))) {
            var heard = CompletableFuture.supplyAsync(() -> {
                try (var socket = server.accept()) {
                    return socket.getInputStream().readAllBytes();
                } catch (IOException failed) {
                    throw new IllegalStateException(failed);
                }
            });
            int port = server.getLocalPort();
            log(port).send(channel(SystemLog.SORT, "tcp://127.0.0.1:" + port, Map.of()), VALUES, "k-1", "");
            var text = new String(heard.get(), StandardCharsets.UTF_8);
            int blank = text.indexOf(' ');
            assertThat(Integer.parseInt(text.substring(0, blank)))
                    .isEqualTo(text.substring(blank + 1).getBytes(StandardCharsets.UTF_8).length);
        }
    }

    @Test
    void whoIsNotOnTheListIsNotCalled() {
        assertThatThrownBy(() -> log(1).send(channel(SystemLog.SORT, "udp://127.0.0.1:2", Map.of()), VALUES, "k", ""))
                .isInstanceOfSatisfying(
                        Unanswered.class, failed -> assertThat(failed.lasting()).isTrue())
                .hasMessageContaining("Morvet may not call 127.0.0.1:2");
        for (var address : List.of("http://127.0.0.1:1", "udp://127.0.0.1", "127.0.0.1:1", "tcp://a b"))
            assertThatThrownBy(() -> log(1).check(address)).as(address).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void whoDoesNotListenIsTriedAgain() {
        assertThatThrownBy(() -> log(1).send(channel(SystemLog.SORT, "tcp://127.0.0.1:1", Map.of()), VALUES, "k", ""))
                .isInstanceOfSatisfying(
                        Unanswered.class, failed -> assertThat(failed.lasting()).isFalse());
    }
}
