package app.morvet.probe;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.checks.Look;
import app.morvet.core.checks.OsService;
import app.morvet.core.checks.Result;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is looked at on a host: commands, services, processes, files, logs. */
class HostLooksTest {
    private static final Instant NOW = Instant.now();

    @TempDir
    Path folder;

    private List<ProcessLooking.Seen> processes = List.of();

    private Result ask(String kind, Map<String, String> fields, String memory) throws InterruptedException {
        var permits = new Permits() {
            @Override
            public void reach(String host) {}

            @Override
            public void read(Path file) {
                if (!file.startsWith(folder)) throw new IllegalArgumentException("only below " + folder);
            }

            @Override
            public List<String> command(String name, Map<String, String> arguments) {
                return switch (name) {
                    case "hello" -> List.of("sh", "-c", "echo hello; echo wrong >&2; exit 3");
                    case "children" ->
                        List.of("sh", "-c", "sleep 60 & echo $! > " + folder.resolve("child") + "; sleep 60");
                    case "talks" -> List.of("sh", "-c", "yes harbour");
                    default -> throw new IllegalArgumentException("no command " + name);
                };
            }
        };
        var host = new ProcessLooking.Host() {
            @Override
            public List<ProcessLooking.Seen> processes() {
                return processes;
            }

            @Override
            public boolean listens(long process, int port) {
                return process == 2 && port == 8080;
            }
        };
        return Prober.ofHost(permits, host).ask(Look.of(kind, fields).target(), new Around("", "", memory, NOW));
    }

    @Test
    void aCommandIsHeldAgainstItsExitCodeAndItsOutput() throws Exception {
        var result = ask("command", Map.of("command", "hello", "exit", "0, 3", "expected", "text \"wrong\""), "");
        assertThat(result.state()).isEqualTo("passed");
        assertThat(result.said()).contains("hello", "wrong");
        assertThat(result.figures()).extracting(Result.Figure::value).containsExactly(3.0);
        assertThat(ask("command", Map.of("command", "hello"), "").why())
                .isEqualTo("expected exit code 0, it ended with 3");
        assertThat(ask("command", Map.of("command", "rm"), "").why()).isEqualTo("no command rm");
    }

    @Test
    void oneThatRunsTooLongIsEndedWithItsChildren() throws Exception {
        var result = ask("command", Map.of("command", "children", "longest", "1 s"), "");
        assertThat(result.why()).isEqualTo("expected an end within 1 s, it was ended, with all that it began");
        assertThat(result.took()).isLessThan(Duration.ofSeconds(10));
        // What is dead and not cleared away by the machine yet has no command line any more.
        var child = Path.of("/proc", Files.readString(folder.resolve("child")).strip(), "cmdline");
        for (int tries = 0;
                tries < 50 && Files.exists(child) && !Files.readString(child).isEmpty();
                tries++) Thread.sleep(100);
        assertThat(!Files.exists(child) || Files.readString(child).isEmpty()).isTrue();
    }

    @Test
    void ofOneThatTalksForEverTheBeginningIsKept() throws Exception {
        var result = ask("command", Map.of("command", "talks", "longest", "1 s"), "");
        assertThat(result.state()).isEqualTo("failed");
        assertThat(result.said()).startsWith("harbour\nharbour").hasSizeLessThanOrEqualTo(256 * 1024);
    }

    /** As systemd 252 and 255 print it. */
    @ParameterizedTest
    @CsvSource({
        "loaded,    active,       running,      enabled,  running",
        "loaded,    active,       exited,       enabled,  stopped",
        "loaded,    activating,   auto-restart, enabled,  starting",
        "loaded,    inactive,     dead,         disabled, stopped",
        "loaded,    failed,       failed,       enabled,  failed",
        "loaded,    deactivating, stop-sigterm, static,   stopped",
    })
    void servicesOfSystemd(String load, String active, String sub, String start, String word) {
        var told = ServiceLooking.ofSystemd(
                "ledger-post",
                "LoadState=%s\nActiveState=%s\nSubState=%s\nUnitFileState=%s\n".formatted(load, active, sub, start));
        assertThat(told).isEqualTo(new ServiceLooking.Told(word, start));
        var result = ServiceLooking.result(
                new OsService("ledger-post", "running", Duration.ofSeconds(3)), told, Duration.ZERO);
        assertThat(result.passed()).isEqualTo(word.equals("running"));
        assertThat(result.facts()).isEqualTo(Map.of("start_mode", start));
        assertThat(result.figures().getFirst().words().get((int)
                        result.figures().getFirst().value()))
                .isEqualTo(word);
    }

    @Test
    void aServiceThatIsNotThere() {
        assertThatThrownBy(() -> ServiceLooking.ofSystemd("x", "LoadState=not-found\nActiveState=inactive\n"))
                .hasMessage("there is no service x");
        assertThatThrownBy(() -> ServiceLooking.ofSystemd("x", "System has not been booted with systemd"))
                .hasMessageStartingWith("systemd does not answer");
        assertThatThrownBy(() ->
                        ServiceLooking.ofWindows("x", "[SC] EnumQueryServicesStatus:OpenService FAILED 1060:", ""))
                .hasMessageStartingWith("there is no service x");
    }

    /** As the service control of Windows prints it. */
    @ParameterizedTest
    @CsvSource({
        "4  RUNNING,0,2   AUTO_START,running",
        "1  STOPPED,0,3   DEMAND_START,stopped",
        "1  STOPPED,1067,2   AUTO_START,failed",
        "2  START_PENDING,0,2   AUTO_START  (DELAYED),starting",
        "1  STOPPED,1077,3   DEMAND_START,stopped"
    })
    void servicesOfWindows(String state, String exit, String start, String word) {
        var query =
                """

                SERVICE_NAME: LedgerPost
                        TYPE               : 10  WIN32_OWN_PROCESS
                        STATE              : %s
                                                (STOPPABLE, NOT_PAUSABLE, ACCEPTS_SHUTDOWN)
                        WIN32_EXIT_CODE    : %s  (0x0)
                        SERVICE_EXIT_CODE  : 0  (0x0)
                        CHECKPOINT         : 0x0
                """
                        .formatted(state, exit);
        var config =
                """
                [SC] QueryServiceConfig SUCCESS

                SERVICE_NAME: LedgerPost
                        TYPE               : 10  WIN32_OWN_PROCESS
                        START_TYPE         : %s
                        ERROR_CONTROL      : 1   NORMAL
                """
                        .formatted(start);
        assertThat(ServiceLooking.ofWindows("LedgerPost", query, config).state())
                .isEqualTo(word);
        assertThat(ServiceLooking.ofWindows("LedgerPost", query, config).start())
                .startsWith(start.split("\\s+")[1]);
    }

    @Test
    void processesAreCountedAndTheirUseAddedUp() throws Exception {
        processes = List.of(
                new ProcessLooking.Seen(1, "java", "java -jar ledger-post.jar", 12, 300, NOW),
                new ProcessLooking.Seen(2, "java", "java -jar ledger-post.jar --port 8080", 8, 200, NOW),
                new ProcessLooking.Seen(3, "sshd", "sshd", 1, 10, NOW));
        var result = ask("process", Map.of("pattern", "ledger-post", "port", "8080"), "");
        assertThat(result.state()).isEqualTo("passed");
        assertThat(result.figures()).extracting(Result.Figure::value).containsExactly(2.0, 20.0, 500.0);
        assertThat(ask("process", Map.of("pattern", "ledger-post", "port", "9090"), "")
                        .why())
                .isEqualTo("expected one of them at port 9090, none listens there");
        assertThat(ask("process", Map.of("pattern", "ledger-post", "most", "1"), "")
                        .why())
                .isEqualTo("expected 1 to 1, there are 2");
        assertThat(ask("process", Map.of("pattern", "gate"), "").why()).isEqualTo("expected at least 1, there is none");
    }

    @Test
    void filesAreFoundByTheirPatternAndOnlyWhereTheyMayBe() throws Exception {
        Files.writeString(folder.resolve("a.csv"), "12345");
        Files.writeString(folder.resolve("b.csv"), "123");
        Files.writeString(folder.resolve("c.txt"), "1");
        Files.setLastModifiedTime(folder.resolve("a.csv"), FileTime.from(NOW.minusSeconds(7200)));
        Files.setLastModifiedTime(folder.resolve("b.csv"), FileTime.from(NOW.minusSeconds(3600)));
        var result = ask("file", Map.of("path", folder + "/*.csv", "age", "2 h", "least", "8 B", "most", "8 B"), "");
        assertThat(result.why()).isEmpty();
        assertThat(result.figures()).extracting(Result.Figure::value).startsWith(2.0, 8.0);
        assertThat(ask("file", Map.of("path", folder + "/*.csv", "age", "30 min"), "")
                        .why())
                .isEqualTo("expected at most 30 min old, the newest is 1 h old");
        assertThat(ask("file", Map.of("path", folder.toString(), "count", "2"), "")
                        .why())
                .isEqualTo("expected at most 2 files, there are 3");
        assertThat(ask("file", Map.of("path", "/etc/*.conf"), "").why()).isEqualTo("only below " + folder);
    }

    @Test
    void aFileThatDiffersIsChangedUntilSomebodySaysThatItIsRight() throws Exception {
        var file = folder.resolve("ledger.conf");
        Files.writeString(file, "limit = 40");
        var fields = Map.of("path", file.toString(), "same", "unchanged");
        var first = ask("file", fields, "");
        assertThat(first.state()).isEqualTo("passed");
        assertThat(ask("file", fields, first.memory()).state()).isEqualTo("passed");
        Files.writeString(file, "limit = 80");
        var changed = ask("file", fields, first.memory());
        assertThat(changed.state()).isEqualTo("changed");
        assertThat(changed.why()).isEqualTo("expected what is in it as before, it differs");
        assertThat(changed.said()).startsWith("checksum ");
        assertThat(changed.memory()).isEqualTo(first.memory());
        assertThat(changed.facts()).isNotEqualTo(first.facts());
        assertThat(ask("file", fields, "").state()).as("begun anew").isEqualTo("passed");
    }

    private String append(Path file, String text) throws IOException {
        Files.writeString(file, text, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
        return text;
    }

    private static double counted(Result result) {
        return result.figures().stream().mapToDouble(Result.Figure::value).sum();
    }

    @Test
    void aLogIsReadOnWhereReadingStoppedThroughItsTurningOver() throws Exception {
        var log = folder.resolve("gate.log");
        var fields = Map.of("path", log.toString(), "pattern", "ERROR", "most", "2");
        append(log, "ERROR long ago\n");
        var result = ask("log", fields, "");
        assertThat(result.said()).isEqualTo("read from here on");
        append(log, "fine\nERROR one\nERROR half a li");
        result = ask("log", fields, result.memory());
        assertThat(counted(result)).isEqualTo(1);
        append(log, "ne\n");
        result = ask("log", fields, result.memory());
        assertThat(counted(result))
                .as("the half line is counted once it is whole")
                .isEqualTo(1);
        assertThat(result.said()).isEqualTo("ERROR half a line");
        // Turned over: what came last into the old one, and what came first into the new one.
        append(log, "ERROR last of the old\n");
        Files.move(log, folder.resolve("gate.log.1"));
        append(log, "ERROR first of the new\nERROR second\n");
        result = ask("log", fields, result.memory());
        assertThat(counted(result)).isEqualTo(3);
        assertThat(result.why()).isEqualTo("expected 2 lines at most, there were 3");
        // Emptied where it stands.
        Files.writeString(log, "ERROR after it was emptied\n");
        result = ask("log", fields, result.memory());
        assertThat(counted(result)).isEqualTo(1);
        Files.delete(log);
        result = ask("log", fields, result.memory());
        assertThat(result.why()).isEqualTo("expected a log, there is no file " + log);
        assertThat(result.memory()).isNotEmpty();
    }

    @Test
    void whatDiffersOfAPageIsSaid() {
        assertThat(PageLooking.difference("Car 40\nBike 5\nPet 5", "Car 45\nBike 5\nPet 5\nDog 8"))
                .isEqualTo("gone: Car 40\nnew: Car 45\nnew: Dog 8\n");
    }
}
