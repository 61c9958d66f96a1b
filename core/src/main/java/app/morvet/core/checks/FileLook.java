package app.morvet.core.checks;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A file, or the files of a folder.
 *
 * @param path  whole; {@code *} and {@code ?} in its last part stand for any characters
 * @param there whether any must be there; false where none may be
 * @param age   how old the newest may be at most; null where that does not matter
 * @param least bytes that they have together at least
 * @param most  the same at most; below 0 where that does not matter
 * @param same  whether what is in it must be as before
 */
public record FileLook(
        String path,
        boolean there,
        @Nullable Duration age,
        long least,
        long most,
        int count,
        boolean same,
        Duration patience)
        implements Target {
    private static final String SOME = "something to be there";

    public static final Kind KIND = new Kind(
            "file",
            "file or folder",
            true,
            "look at {path} and expect {there}, at most {age} old, of {least} to {most}, {count} files at most, {same}",
            List.of(
                    Kind.Field.of("path", "Path", "wide", "", "/srv/out/*.csv"),
                    Kind.Field.choice("there", "There", SOME, "nothing to be there"),
                    Kind.Field.of("age", "Age of the newest", "short", "", "any age"),
                    Kind.Field.of("least", "Size at least", "short", "", "0 MB"),
                    Kind.Field.of("most", "Size at most", "short", "", "any size"),
                    Kind.Field.of("count", "Files at most", "short", "", "any number of"),
                    Kind.Field.choice("same", "What is in it", "whatever is in it", "unchanged")),
            fields -> new FileLook(
                    fields.read("path", Limits::path, "/"),
                    fields.text("there").equals(SOME),
                    fields.has("age") ? fields.span("age") : null,
                    fields.has("least") ? fields.read("least", FileLook::bytes, 0L) : 0,
                    fields.has("most") ? fields.read("most", FileLook::bytes, 0L) : -1,
                    fields.has("count") ? fields.whole("count") : -1,
                    fields.text("same").equals("unchanged"),
                    Duration.ofSeconds(30)));

    public FileLook {
        Limits.path(path);
    }

    /**
     * What was found.
     *
     * @param newest   when the newest was written; null where there is none
     * @param checksum of all of them; empty where it was not asked for
     */
    public record Found(int files, long bytes, @Nullable Instant newest, String checksum) {}

    /** What becomes of each thing that is expected. */
    public List<Verdict> verdicts(Found found, Instant now) {
        var verdicts = new ArrayList<Verdict>();
        if (!there) {
            verdicts.add(Verdict.of("nothing there", found.files() == 0, files(found.files()) + " there"));
            return verdicts;
        }
        verdicts.add(Verdict.of("something there", found.files() > 0, "nothing is there"));
        var newest = found.newest();
        if (newest == null) return verdicts;
        if (age != null) {
            var old = Duration.between(newest, now);
            verdicts.add(Verdict.of(
                    "at most " + Limits.words(age) + " old",
                    old.compareTo(age) <= 0,
                    "the newest is " + Limits.words(Duration.ofSeconds(old.toSeconds())) + " old"));
        }
        if (least > 0)
            verdicts.add(Verdict.of("at least " + size(least), found.bytes() >= least, "it is " + size(found.bytes())));
        if (most >= 0)
            verdicts.add(Verdict.of("at most " + size(most), found.bytes() <= most, "it is " + size(found.bytes())));
        if (count >= 0)
            verdicts.add(Verdict.of("at most " + files(count), found.files() <= count, "there are " + found.files()));
        return verdicts;
    }

    private static String files(int count) {
        return count == 1 ? "1 file" : "%,d files".formatted(count);
    }

    private static long bytes(String text) {
        var part =
                java.util.regex.Pattern.compile("(\\d{1,12})\\s*(B|kB|MB|GB)?").matcher(text);
        if (!part.matches()) throw new IllegalArgumentException("\"" + text + "\" is no size; write it such as 20 MB");
        long number = Long.parseLong(part.group(1));
        return switch (part.group(2) == null ? "B" : part.group(2)) {
            case "kB" -> number * 1000;
            case "MB" -> number * 1_000_000;
            case "GB" -> number * 1_000_000_000;
            default -> number;
        };
    }

    private static String size(long bytes) {
        if (bytes >= 1_000_000_000 && bytes % 100_000_000 == 0) return bytes / 1_000_000_000.0 + " GB";
        if (bytes >= 1_000_000) return "%.1f MB".formatted(bytes / 1e6).replace(".0 ", " ");
        if (bytes >= 1000) return "%.1f kB".formatted(bytes / 1e3).replace(".0 ", " ");
        return bytes + " B";
    }

    @Override
    public String words() {
        var words = new StringBuilder("look at " + path + " and expect ").append(there ? SOME : "nothing to be there");
        if (age != null) words.append(", at most ").append(Limits.words(age)).append(" old");
        if (least > 0) words.append(", at least ").append(size(least));
        if (most >= 0) words.append(", at most ").append(size(most));
        if (count >= 0) words.append(", at most ").append(files(count));
        if (same) words.append(", unchanged");
        return words.toString();
    }
}
