package app.morvet.outpost;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the file on the host allows, and that nothing else is allowed. */
class OwnFileTest {
    static final String FILE =
            """
            morvet: http://127.0.0.1:7400
            name: quay-03
            key: mo_key
            reach: [127.0.0.1:7402]
            read: [%s/logs]
            commands:
              health:
                run: [/opt/ledger/health, --depth, "{depth}"]
                arguments: {depth: [quick, full]}
                longest: 20 s
            actions:
              restart ledger-post:
                run: [systemctl, restart, ledger-post]
                of: ledger-post
                right: lead
                atMost: 2 in 1 h
            watcher:
              after: 90 s
              call: http://127.0.0.1:9/told
            """;

    @TempDir
    Path folder;

    private OwnFile read(String text) throws IOException {
        var file = folder.resolve("outpost.yaml");
        Files.writeString(file, text);
        return OwnFile.read(file, Map.of());
    }

    @Test
    void itSaysWhatMayBeDone() throws IOException {
        var own = read(FILE.formatted(folder));
        assertThat(own.allows())
                .containsExactly(
                        "checks may reach 127.0.0.1:7402",
                        "files below " + folder + "/logs may be read",
                        "command health with depth one of quick, full");
        assertThat(own.actions().get("restart ledger-post").right()).isEqualTo("lead");
        assertThat(own.actions().get("restart ledger-post").atMost()).isEqualTo(2);
        assertThat(own.commands().get("health").words(Map.of("depth", "full")))
                .containsExactly("/opt/ledger/health", "--depth", "full");
        assertThat(own.watcher()).isNotNull();
        assertThat(OwnFile.read(null, Map.of("morvet", "https://m.example/x/", "name", "a", "key", "k"))
                        .morvet())
                .hasToString("https://m.example/x");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    depth=full; rm -rf /  | depth=full; rm -rf / is not one of quick, full
                    depth=$(reboot)       | is not one of quick, full
                    depth=--full          | is not one of quick, full
                    depth=                | is not one of quick, full
                    length=full           | there is no argument length here
                    """)
    void anArgumentIsOneOfThoseThatAreListed(String argument, String why) throws IOException {
        var own = read(FILE.formatted(folder));
        var part = argument.split("=", 2);
        assertThatThrownBy(() -> new Allowed(own).command("health", Map.of(part[0], part[1])))
                .hasMessageContaining(why);
        assertThatThrownBy(() -> new Allowed(own).command("health", Map.of()))
                .hasMessageContaining("the argument depth is missing");
    }

    @Test
    void whatIsNotNamedIsNotDone() throws IOException {
        var allowed = new Allowed(read(FILE.formatted(folder)));
        allowed.reach("127.0.0.1:7402");
        for (var host : List.of("127.0.0.1:22", "localhost:7402", "quay-04:7402"))
            assertThatThrownBy(() -> allowed.reach(host)).hasMessageContaining("does not let checks reach " + host);
        assertThatThrownBy(() -> allowed.command("sh", Map.of())).hasMessageContaining("names no command \"sh\"");
    }

    @Test
    void onlyWhatLiesBelowAFolderIsRead() throws IOException {
        Files.createDirectories(folder.resolve("logs/below"));
        Files.writeString(folder.resolve("secret"), "x");
        Files.createSymbolicLink(folder.resolve("logs/way-out"), folder.resolve("secret"));
        var allowed = new Allowed(read(FILE.formatted(folder)));
        allowed.read(folder.resolve("logs/gate.log"));
        allowed.read(folder.resolve("logs/below/gate.log"));
        for (var path : List.of("secret", "logs/../secret", "logs-other/x", "logs/way-out"))
            assertThatThrownBy(() -> allowed.read(folder.resolve(path)))
                    .as(path)
                    .hasMessageContaining("be read; add its folder");
        assertThatThrownBy(() -> allowed.read(Path.of("/etc/passwd"))).hasMessageContaining("/etc/passwd be read");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    name: quay-03                                                   | say where Morvet is
                    morvet: ftp://x, name: a, key: b                                | must be http
                    morvet: http://x, name: a, key: b, shell: yes                   | says shell, which means nothing; known are
                    morvet: http://x, name: a, key: b, reach: here                  | reach is a list
                    morvet: http://x, name: a, key: b, commands: [x]                | commands has names and values
                    morvet: http://x, name: a, key: b, commands: {x: {}}            | x: run is a list of words
                    morvet: http://x, name: a, key: b, actions: {x: {run: [y], right: root}} | right is analyst, lead or admin
                    morvet: http://x, name: a, key: b, actions: {x: {run: [y], atMost: often}} | atMost is written 4 in 1 h
                    morvet: http://x, name: a, key: b, watcher: {after: soon}       | is not a duration
                    [1, 2                                                           | cannot be read
                    """)
    void whatCannotBeMeantIsSaid(String text, String why) {
        assertThatThrownBy(() -> read("{" + text + "}"))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining(why);
    }
}
