package app.morvet.probe;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * One run of a program, by its words and never through a shell. When its time is over it is ended with all that it began.
 *
 * @param code   with which it ended; -1 where it was ended
 * @param output what it printed, also as errors, at most 256 KiB
 */
public record Run(int code, boolean ended, String output, Duration took) {
    private static final int LONGEST_OUTPUT = 256 * 1024;
    private static final Duration TO_END = Duration.ofSeconds(2);

    /** @throws IOException where it cannot be begun */
    public static Run of(List<String> words, Duration longest) throws IOException, InterruptedException {
        long start = System.nanoTime();
        var builder = new ProcessBuilder(words).redirectErrorStream(true);
        var process = builder.start();
        try {
            process.getOutputStream().close();
            var output = new StringBuilder();
            var reader = Thread.ofVirtual().start(() -> read(process, output));
            boolean over = process.waitFor(longest.toMillis(), TimeUnit.MILLISECONDS);
            if (!over) end(process);
            // Something that it left behind may hold its output open for ever.
            reader.join(TO_END);
            process.getInputStream().close();
            synchronized (output) {
                return new Run(
                        over ? process.exitValue() : -1,
                        !over,
                        output.toString(),
                        Duration.ofNanos(System.nanoTime() - start));
            }
        } finally {
            end(process);
        }
    }

    private static void read(Process process, StringBuilder output) {
        var buffer = new byte[8192];
        try (var in = process.getInputStream()) {
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                synchronized (output) {
                    int left = LONGEST_OUTPUT - output.length();
                    // What is beyond is read all the same, so that it does not wait to be read.
                    if (left > 0) output.append(new String(buffer, 0, Math.min(read, left), StandardCharsets.UTF_8));
                }
            }
        } catch (IOException closed) {
            // it was ended
        }
    }

    /** Those that it began first, since they are nobody's once it is gone. */
    private static void end(Process process) throws InterruptedException {
        var all = process.descendants().toList();
        process.destroy();
        all.forEach(ProcessHandle::destroy);
        if (process.isAlive()) process.waitFor(500, TimeUnit.MILLISECONDS);
        process.destroyForcibly();
        all.forEach(ProcessHandle::destroyForcibly);
    }
}
