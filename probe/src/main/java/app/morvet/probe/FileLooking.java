package app.morvet.probe;

import app.morvet.core.checks.FileLook;
import app.morvet.core.checks.Result;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.apache.commons.codec.digest.DigestUtils;

/** Looks at a file or at the files of a folder, without going into folders below it and without following links. */
final class FileLooking implements Looking<FileLook> {
    private static final int MOST = 10_000;
    private static final long MOST_SUMMED = 512L * 1024 * 1024;

    private final Permits permits;

    FileLooking(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<FileLook> of() {
        return FileLook.class;
    }

    @Override
    public Result at(FileLook target, Around around, Watch watch) throws IOException {
        var files = files(target.path());
        long bytes = 0;
        Instant newest = null;
        for (var file : files) {
            bytes += Files.size(file);
            var written = Files.getLastModifiedTime(file).toInstant();
            if (newest == null || written.isAfter(newest)) newest = written;
        }
        var checksum = target.same() && !files.isEmpty() ? checksum(files, bytes) : "";
        var found = new FileLook.Found(files.size(), bytes, newest, checksum);
        var figures = new ArrayList<Result.Figure>();
        figures.add(Result.Figure.gauge("files", "", found.files()));
        figures.add(Result.Figure.gauge("file_size", "bytes", bytes));
        if (newest != null)
            figures.add(Result.Figure.gauge(
                    "file_age", "seconds", (around.now().toEpochMilli() - newest.toEpochMilli()) / 1000.0));
        var facts = checksum.isEmpty() ? Map.<String, String>of() : Map.of("checksum", checksum);
        var said = files.stream()
                .limit(50)
                .map(Path::toString)
                .reduce((a, b) -> a + "\n" + b)
                .orElse("nothing");
        var result = Result.of(target.verdicts(found, around.now()), watch.took(), said);
        if (!result.passed() || !target.same()) return result.with(figures, facts, around.memory());
        if (around.memory().isEmpty() || around.memory().equals(checksum)) return result.with(figures, facts, checksum);
        return Result.changed(watch.took(), "what is in it", "checksum %s, was %s".formatted(checksum, around.memory()))
                .with(figures, facts, around.memory());
    }

    private List<Path> files(String path) throws IOException {
        var whole = Path.of(path);
        var folder = whole.getParent();
        var last = whole.getFileName() == null ? "" : whole.getFileName().toString();
        if (folder == null) throw new IllegalArgumentException(path + " is all there is");
        if (last.contains("*") || last.contains("?")) return matching(folder, last);
        permits.read(whole);
        if (Files.isDirectory(whole, LinkOption.NOFOLLOW_LINKS)) return matching(whole, "*");
        return Files.isRegularFile(whole, LinkOption.NOFOLLOW_LINKS) ? List.of(whole) : List.of();
    }

    private List<Path> matching(Path folder, String pattern) throws IOException {
        permits.read(folder);
        if (!Files.isDirectory(folder)) return List.of();
        var fits = FileSystems.getDefault().getPathMatcher("glob:" + pattern.replaceAll("[\\[\\]{}\\\\]", "?"));
        try (var all = Files.list(folder)) {
            var files = all.filter(one -> fits.matches(one.getFileName()))
                    .filter(one -> Files.isRegularFile(one, LinkOption.NOFOLLOW_LINKS))
                    .sorted()
                    .limit(MOST + 1)
                    .toList();
            if (files.size() > MOST)
                throw new IllegalArgumentException("there are more than 10,000 files in " + folder);
            return files;
        }
    }

    private static String checksum(List<Path> files, long bytes) throws IOException {
        if (bytes > MOST_SUMMED)
            throw new IllegalArgumentException("what is in it is summed up to 512 MB, it has more");
        var digest = DigestUtils.getSha256Digest();
        for (var file : files) {
            if (files.size() > 1)
                DigestUtils.updateDigest(digest, file.getFileName().toString());
            try (var in = Files.newInputStream(file)) {
                DigestUtils.updateDigest(digest, in);
            }
        }
        return org.apache.commons.codec.binary.Hex.encodeHexString(digest.digest())
                .substring(0, 16);
    }
}
