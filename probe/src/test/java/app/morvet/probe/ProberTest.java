package app.morvet.probe;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.checks.Certificate;
import app.morvet.core.checks.Expectation;
import app.morvet.core.checks.Look;
import app.morvet.core.checks.Port;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Target;
import app.morvet.core.checks.Verdict;
import app.morvet.core.checks.WebCall;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Servers that answer, and servers that misbehave in each of the ways there are: a clear word for each, and in time. */
class ProberTest {
    private static final Duration PATIENCE = Duration.ofMillis(1500);

    private interface Behaviour {
        void answer(String request, OutputStream out) throws IOException, InterruptedException;
    }

    private final List<String> requests = new CopyOnWriteArrayList<>();
    private ServerSocket server;
    private volatile Behaviour behaviour = (request, out) -> {};
    /** Whether the server says something before it is asked. */
    private volatile boolean speaksFirst;

    @BeforeEach
    void open() throws IOException {
        server = new ServerSocket(0, 20, InetAddress.getLoopbackAddress());
        Thread.ofVirtual().start(() -> {
            try {
                while (true) {
                    var caller = server.accept();
                    Thread.ofVirtual().start(() -> serve(caller));
                }
            } catch (IOException closed) {
                // the test is over
            }
        });
    }

    @AfterEach
    void close() throws IOException {
        server.close();
    }

    private void serve(Socket caller) {
        try (caller) {
            var head = new StringBuilder();
            while (!speaksFirst && head.indexOf("\r\n\r\n") < 0) {
                int read = caller.getInputStream().read();
                if (read < 0) break;
                head.append((char) read);
            }
            requests.add(head.toString());
            behaviour.answer(head.toString(), caller.getOutputStream());
        } catch (IOException | InterruptedException gone) {
            // who asked has hung up
        }
    }

    private static void write(OutputStream out, String text) throws IOException {
        out.write(text.getBytes(StandardCharsets.UTF_8));
        out.flush();
    }

    private static String http(int code, String body, String... headers) {
        return "HTTP/1.1 %d Some\r\nConnection: close\r\n%sContent-Length: %d\r\n\r\n%s"
                .formatted(code, String.join("", List.of(headers)), body.length(), body);
    }

    private String address() {
        return "127.0.0.1:" + server.getLocalPort();
    }

    private Result ask(Target target, String headers) throws InterruptedException {
        return ask(target, new Around(headers, "", "", Instant.now()));
    }

    private Result ask(Target target, Around around) throws InterruptedException {
        var reach = List.of(address(), "127.0.0.1:1", "nowhere.invalid:80");
        Permits permits = host -> {
            if (!reach.contains(host)) throw new IllegalArgumentException("Morvet may not call " + host);
        };
        return Prober.ofNetwork(permits, List.of()).ask(target, around);
    }

    private Result call(String expected, boolean follow) throws InterruptedException {
        var expectations = new ArrayList<Expectation>(List.of(Expectation.Code.of("200")));
        expectations.addAll(Expectation.read(expected));
        var step = new WebCall.Step("GET", "http://" + address() + "/status", "", follow, expectations, Map.of());
        return ask(new WebCall(List.of(step), PATIENCE, "", ""), "X-Key: harbour-secret");
    }

    @Test
    void anAnswerIsHeldAgainstWhatIsExpected() throws Exception {
        behaviour = (request, out) -> write(out, http(200, "{\"status\":\"open\"}"));
        var passed = call("$.status = \"open\"", false);
        assertThat(passed.state()).isEqualTo("passed");
        assertThat(passed.said()).isEqualTo("{\"status\":\"open\"}");
        assertThat(requests.getFirst()).startsWith("GET /status").contains("X-Key: harbour-secret");
        assertThat(call("$.status = \"shut\"\nno text \"open\"", false).why())
                .isEqualTo("expected $.status = \"shut\", it is \"open\"; expected no text \"open\", it stands there");
        behaviour = (request, out) -> write(out, http(503, "later"));
        assertThat(call("", false).why()).isEqualTo("expected 200, it answered 503");
    }

    @ParameterizedTest
    @CsvSource({
        "hangs,             no answer within 1500 ms",
        "begins,            it began to answer and did not end within",
        "sends for ever,    it began to answer and did not end within",
        "hangs up,          it speaks no HTTP",
        "speaks mail,       it speaks no HTTP",
        "goes in circles,   it is sent on more than 5 times",
        "sends elsewhere,   Morvet may not call 192.0.2.7:80",
    })
    void whoMisbehavesIsTold(String how, String word) throws Exception {
        behaviour = switch (how) {
            case "hangs" -> (request, out) -> Thread.sleep(4000);
            case "begins" ->
                (request, out) -> {
                    write(out, "HTTP/1.1 200 OK\r\nContent-Length: 100\r\n\r\nbegun");
                    Thread.sleep(4000);
                };
            case "sends for ever" ->
                (request, out) -> {
                    write(out, "HTTP/1.1 200 OK\r\n\r\n");
                    while (true) {
                        write(out, "x".repeat(100));
                        Thread.sleep(20);
                    }
                };
            case "hangs up" -> (request, out) -> {};
            case "speaks mail" -> (request, out) -> write(out, "220 mail.sundrava.example\r\n");
            case "goes in circles" -> (request, out) -> write(out, http(302, "", "Location: /status\r\n"));
            default -> (request, out) -> write(out, http(302, "", "Location: http://192.0.2.7/\r\n"));
        };
        long start = System.nanoTime();
        var result = call("", true);
        assertThat(result.state()).isEqualTo("no answer");
        assertThat(result.why()).startsWith(word);
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(4));
    }

    @Test
    void ofAHundredMegabytesTheFirstIsLookedAt() throws Exception {
        behaviour = (request, out) -> {
            write(out, "HTTP/1.1 200 OK\r\nContent-Length: 100000000\r\n\r\nopen");
            for (int i = 0; i < 100; i++) write(out, "x".repeat(1_000_000));
        };
        var result = call("text \"open\"", false);
        assertThat(result.state()).isEqualTo("passed");
        assertThat(result.said()).hasSize(1_048_576);
    }

    @Test
    void whoIsSentOnIsFollowedOnlyWhereThatIsWanted() throws Exception {
        behaviour = (request, out) ->
                write(out, request.startsWith("GET /status") ? http(301, "", "Location: /new\r\n") : http(200, "here"));
        assertThat(call("text \"here\"", true).state()).isEqualTo("passed");
        assertThat(call("", false).why()).isEqualTo("expected 200, it answered 301");
    }

    @Test
    void aPortIsReachedAndItsFirstLineRead() throws Exception {
        speaksFirst = true;
        behaviour = (request, out) -> write(out, "SSH-2.0-harbour\r\nmore");
        var target = new Port("127.0.0.1", server.getLocalPort(), "SSH-2.0", PATIENCE);
        assertThat(ask(target, "").state()).isEqualTo("passed");
        assertThat(ask(new Port("127.0.0.1", server.getLocalPort(), "", PATIENCE), "")
                        .state())
                .isEqualTo("passed");
        behaviour = (request, out) -> Thread.sleep(4000);
        assertThat(ask(target, "").why()).isEqualTo("no answer within 1500 ms");
        assertThat(ask(new Port("127.0.0.1", 1, "", PATIENCE), "").why()).isEqualTo("nobody listens at 127.0.0.1:1");
        assertThat(ask(new Port("nowhere.invalid", 80, "", PATIENCE), "").why())
                .isEqualTo("the name nowhere.invalid is not known");
        assertThat(ask(new Port("127.0.0.2", 22, "", PATIENCE), "").why())
                .startsWith("Morvet may not call 127.0.0.2:22");
    }

    @Test
    void whatHasNoCertificateIsTold() throws Exception {
        speaksFirst = true;
        behaviour = (request, out) -> write(out, "SSH-2.0-harbour\r\n");
        assertThat(ask(new Certificate("127.0.0.1", server.getLocalPort(), 21, false, "", PATIENCE), "")
                        .why())
                .startsWith("no safe connection: ");
    }

    @Test
    void whatOneStepAnswersIsSaidInTheNext() throws Exception {
        behaviour = (request, out) -> {
            if (request.startsWith("POST /in")) write(out, http(200, "{\"token\": \"a/17\"}"));
            else if (request.startsWith("GET /me/a%2F17") && request.contains("X-Token: a/17"))
                write(out, http(200, "welcome"));
            else write(out, http(401, "who are you"));
        };
        var fields = Map.of(
                "url",
                "http://" + address() + "/in",
                "method",
                "POST",
                "takes",
                "token from $.token",
                "url2",
                "http://" + address() + "/me/{token}",
                "expected2",
                "text \"welcome\"");
        var headers = "X-Token: {token}\nX-Key: harbour-secret";
        var passed = ask(Look.of("http", fields).target(), headers);
        assertThat(passed.why()).isEmpty();
        assertThat(passed.verdicts())
                .extracting(Verdict::expected)
                .containsExactly("step 1: 200", "step 2: 200", "step 2: text \"welcome\"");
        assertThat(requests.getFirst())
                .as("what is not carried yet is not sent")
                .doesNotContain("X-Token")
                .contains("X-Key");
        behaviour = (request, out) -> write(out, http(200, "{}"));
        var stopped = ask(Look.of("http", fields).target(), headers);
        assertThat(stopped.why()).isEqualTo("expected step 1: a value to carry as token, there is nothing at $.token");
        assertThat(requests).as("the second step builds on the first").hasSize(3);
    }

    @Test
    void aPageThatReadsOtherwiseIsChanged() throws Exception {
        behaviour = (request, out) ->
                write(out, http(200, "<html><p id=a>Car 40</p><script>x()</script><p>now</p></html>"));
        var target = Look.of("page", Map.of("url", "http://" + address() + "/prices", "part", "#a"))
                .target();
        var first = ask(target, "");
        assertThat(first.said()).isEqualTo("Car 40");
        behaviour = (request, out) -> write(out, http(200, "<html><p id=a>Car&nbsp;45</p></html>"));
        var changed = ask(target, new Around("", "", first.memory(), Instant.now()));
        assertThat(changed.state()).isEqualTo("changed");
        assertThat(changed.said()).isEqualTo("gone: Car 40\nnew: Car 45\n");
        assertThat(changed.memory()).isEqualTo("Car 40");
        behaviour = (request, out) -> write(out, http(200, "<html></html>"));
        assertThat(ask(target, "").why()).isEqualTo("there is no part #a on the page");
        behaviour = (request, out) -> write(out, http(500, "no"));
        assertThat(ask(target, "").why()).isEqualTo("expected 200-299, it answered 500");
    }

    @Test
    void whatIsLookedAtOnHostsIsNotLookedAtFromAfar() throws Exception {
        for (var kind : List.of("command", "service", "process"))
            assertThat(ask(
                                    Look.of(kind, Map.of("command", "x", "service", "x", "pattern", "x"))
                                            .target(),
                                    "")
                            .why())
                    .contains("have an outpost do it");
    }

    @Test
    void ofWhatNobodyThoughtOfThereIsAWord() throws Exception {
        var broken = new Looking<app.morvet.core.checks.Sql>() {
            @Override
            public Class<app.morvet.core.checks.Sql> of() {
                return app.morvet.core.checks.Sql.class;
            }

            @Override
            public Result at(app.morvet.core.checks.Sql target, Around around, Watch watch) {
                throw new IllegalStateException("the driver is in pieces");
            }
        };
        var fields = Map.of("host", "db.example", "database", "ledger", "statement", "select 1", "value", "1");
        var result = Prober.ofNetwork(host -> {}, List.of(broken))
                .ask(Look.of("sql", fields).target(), new Around("", "", "kept", Instant.now()));
        assertThat(result.why()).isEqualTo("it broke off: the driver is in pieces");
        assertThat(result.memory()).isEqualTo("kept");
    }
}
