package app.morvet.probe;

import app.morvet.core.checks.LogLines;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Reads what was added to a log since the last look, also where it was turned over meanwhile: the rest of the old one, as long
 * as it lies beside the new one, and then the new one. A line that is not whole yet is left for the next time.
 */
final class LogLooking implements Looking<LogLines> {
    private static final long MOST_A_LOOK = 4L * 1024 * 1024;

    /**
     * Where reading stopped.
     *
     * @param file which file it was, whatever it is called by now
     */
    private record Place(String file, long at) {
        static Place of(String memory) {
            int space = memory.lastIndexOf(' ');
            return new Place(memory.substring(0, space), Long.parseLong(memory.substring(space + 1)));
        }

        String memory() {
            return file + " " + at;
        }
    }

    private record Read(List<String> lines, long end) {}

    private final Permits permits;

    LogLooking(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<LogLines> of() {
        return LogLines.class;
    }

    @Override
    public Result at(LogLines target, Around around, Watch watch) throws IOException {
        var file = Path.of(target.path());
        permits.read(file);
        if (!Files.isRegularFile(file))
            return Result.of(List.of(Verdict.of("a log", false, "there is no file " + file)), watch.took(), "")
                    .remembering(around.memory());
        var name = identity(file);
        // At the first look only what comes from then on is news.
        if (around.memory().isEmpty())
            return Result.of(List.of(), watch.took(), "read from here on")
                    .remembering(new Place(name, Files.size(file)).memory());
        var before = Place.of(around.memory());
        var lines = new ArrayList<String>();
        long from = before.at();
        if (!before.file().equals(name)) {
            var old = turnedOver(file, before.file());
            if (old != null) lines.addAll(read(old, before.at(), true).lines());
            from = 0;
        } else if (Files.size(file) < from) from = 0;
        var read = read(file, from, false);
        lines.addAll(read.lines());
        return result(target, lines, watch).remembering(new Place(name, read.end()).memory());
    }

    private static Result result(LogLines target, List<String> lines, Watch watch) {
        var counts = target.counted(lines);
        int all = counts.values().stream().mapToInt(Integer::intValue).sum();
        var figures = new ArrayList<Result.Figure>();
        var part = target.part();
        // Without a named part all are counted as one, also where there are none.
        if (part.isEmpty()) figures.add(Result.Figure.count("log_lines", Map.of(), all));
        else
            counts.forEach((word, count) ->
                    figures.add(Result.Figure.count("log_lines", Map.of(part, word.isEmpty() ? "none" : word), count)));
        var verdicts = target.most() < 0
                ? List.<Verdict>of()
                : List.of(Verdict.of(
                        "%d lines at most".formatted(target.most()), all <= target.most(), "there were " + all));
        var said = lines.stream()
                .filter(line -> !target.counted(List.of(line)).isEmpty())
                .limit(50)
                .reduce((a, b) -> a + "\n" + b)
                .orElse("%d lines, none matches".formatted(lines.size()));
        return Result.of(verdicts, watch.took(), said).with(figures, Map.of(), "");
    }

    private static Read read(Path path, long from, boolean whole) throws IOException {
        try (var file = new RandomAccessFile(path.toFile(), "r")) {
            long length = file.length();
            // Of very much only the newest is read.
            long start = Math.max(from, length - MOST_A_LOOK);
            var bytes = new byte[(int) Math.max(0, length - start)];
            file.seek(start);
            file.readFully(bytes);
            int end = bytes.length;
            if (!whole) while (end > 0 && bytes[end - 1] != '\n') end--;
            return new Read(
                    new String(bytes, 0, end, StandardCharsets.UTF_8).lines().toList(), start + end);
        }
    }

    private static @org.jspecify.annotations.Nullable Path turnedOver(Path file, String identity) throws IOException {
        var folder = file.toAbsolutePath().getParent();
        if (folder == null) return null;
        var name = String.valueOf(file.getFileName());
        try (var all = Files.list(folder)) {
            for (var one : all.filter(it -> it.getFileName().toString().startsWith(name.replaceAll("\\.\\w+$", "")))
                    .toList()) if (Files.isRegularFile(one) && identity(one).equals(identity)) return one;
        }
        return null;
    }

    private static String identity(Path file) throws IOException {
        var attributes = Files.readAttributes(file, BasicFileAttributes.class);
        // Where the system knows files by no key, when it was made tells it from the one before it.
        var key = attributes.fileKey();
        return (key == null ? attributes.creationTime().toString() : key.toString()).replace(' ', '_');
    }
}
