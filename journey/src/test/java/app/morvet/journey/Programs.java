package app.morvet.journey;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ThreadLocalRandom;

/**
 * The programs as the start command runs them: unpacked, and with an archive of their classes that the first to end leaves
 * for the others.
 */
final class Programs {
    private static final Path ROOT = Path.of("").toAbsolutePath().getParent();
    private static final Path UNPACKED = Path.of("target", "run").toAbsolutePath();
    private static final String JAVA =
            Path.of(System.getProperty("java.home"), "bin", "java").toString();

    private Programs() {}

    static Process start(String module, Map<String, String> settings, Path log)
            throws IOException, InterruptedException {
        var run = unpacked(module);
        var words = new ArrayList<>(List.of(JAVA, "-Xmx512m", "-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1"));
        words.addAll(archive(run));
        words.addAll(List.of(
                "-Xlog:cds=off", "-jar", run.resolve(module + "-1-run.jar").toString()));
        var builder = new ProcessBuilder(words);
        builder.environment().putAll(settings);
        return builder.redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
                .start();
    }

    /** As in {@code ./morvet demo}: what the first to end leaves behind, the others begin with. */
    private static List<String> archive(Path run) throws IOException {
        var kept = run.resolve("classes.jsa");
        if (isFirst(run)) return List.of("-XX:+AutoCreateSharedArchive", "-XX:SharedArchiveFile=" + kept);
        return List.of(Files.exists(kept) ? "-XX:SharedArchiveFile=" + kept : "-Xshare:auto");
    }

    /** One archive is enough: whoever starts before it is written does without. */
    private static boolean isFirst(Path run) throws IOException {
        try {
            Files.createFile(run.resolve("archiving"));
            return true;
        } catch (FileAlreadyExistsException another) {
            return false;
        }
    }

    /** An outpost, as whoever puts it on a host starts it. */
    static Process outpost(Path file, Duration clockAhead, Path log) throws IOException {
        var packed = ROOT.resolve("outpost/target/outpost-1-run.jar");
        if (!Files.exists(packed))
            throw new IllegalStateException(
                    packed + " is not there: run the tests with ./morvet test, which packages first");
        return new ProcessBuilder(
                        JAVA,
                        "-Xmx48m",
                        "-XX:+UseSerialGC",
                        "-XX:TieredStopAtLevel=1",
                        "-jar",
                        packed.toString(),
                        "--file",
                        file.toString(),
                        "--clock-offset",
                        clockAhead.toMillis() / 1000.0 + "s")
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
                .start();
    }

    /** Below those which outgoing connections are given, so that none of these takes it before the process listens on it. */
    static int freePort() {
        for (int tries = 0; tries < 100; tries++) {
            try (var socket = new ServerSocket(ThreadLocalRandom.current().nextInt(20_000, 32_000))) {
                return socket.getLocalPort();
            } catch (IOException taken) {
                continue;
            }
        }
        throw new IllegalStateException("no port is free between 20000 and 32000");
    }

    private static synchronized Path unpacked(String module) throws IOException, InterruptedException {
        var packed = ROOT.resolve(module).resolve("target").resolve(module + "-1-run.jar");
        if (!Files.exists(packed))
            throw new IllegalStateException(
                    packed + " is not there: run the tests with ./morvet test, which packages first");
        var run = UNPACKED.resolve(module);
        Files.createDirectories(UNPACKED);
        var done = run.resolve("unpacked");
        if (Files.exists(done)
                && !Files.getLastModifiedTime(done)
                        .toInstant()
                        .isBefore(Files.getLastModifiedTime(packed).toInstant())) return run;
        Files.deleteIfExists(done);
        int code = new ProcessBuilder(
                        JAVA,
                        "-Djarmode=tools",
                        "-jar",
                        packed.toString(),
                        "extract",
                        "--force",
                        "--destination",
                        run.toString())
                .inheritIO()
                .start()
                .waitFor();
        if (code != 0) throw new IOException(packed + " could not be unpacked");
        Files.deleteIfExists(run.resolve("classes.jsa"));
        Files.deleteIfExists(run.resolve("archiving"));
        Files.createFile(done);
        return run;
    }
}
