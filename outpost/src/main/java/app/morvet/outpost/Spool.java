package app.morvet.outpost;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.UUID;

/**
 * What was seen and is not taken yet, on disk and in order. Each thing has a number; Morvet says up to which it has taken them,
 * and so nothing is taken twice or lost. It stands in pieces, of which the oldest goes where there would be too much. A piece
 * that ends in the middle of a line, since the process was killed, ends before it.
 */
final class Spool {
    private static final String END = ".lines";
    private static final long PIECE = 512 * 1024;

    private final Path folder;
    private final long most;
    private final String id;
    /** The pieces, by the number of their first thing. */
    private final TreeMap<Long, Long> pieces = new TreeMap<>();

    private long next = 1;
    private long takenTo;
    private long bytes;
    private long dropped;

    /** @param most so many bytes are kept at most */
    Spool(Path folder, long most) {
        this.folder = folder;
        this.most = most;
        try {
            Files.createDirectories(folder);
            var idFile = folder.resolve("id");
            if (!Files.exists(idFile))
                Files.writeString(idFile, UUID.randomUUID().toString());
            id = Files.readString(idFile).strip();
            var taken = folder.resolve("taken");
            if (Files.exists(taken)) takenTo = number(Files.readString(taken));
            next = takenTo + 1;
            try (var all = Files.list(folder)) {
                for (var file :
                        all.filter(it -> it.toString().endsWith(END)).sorted().toList()) pick(file);
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    private static long number(String text) {
        return text.strip().matches("\\d{1,18}") ? Long.parseLong(text.strip()) : 0;
    }

    private void pick(Path file) throws IOException {
        long first = number(String.valueOf(file.getFileName()).replace(END, ""));
        var text = Files.readString(file);
        if (!text.endsWith("\n") && !text.isEmpty()) {
            text = text.substring(0, text.lastIndexOf('\n') + 1);
            Files.writeString(file, text);
        }
        long lines = text.chars().filter(c -> c == '\n').count();
        long size = Files.size(file);
        pieces.put(first, size);
        bytes += size;
        next = Math.max(next, first + lines);
    }

    String id() {
        return id;
    }

    /** Puts down one thing, without a line's end in it; it is on disk when this returns. */
    synchronized void put(String line) {
        var bytesOfIt = (line + "\n").getBytes(StandardCharsets.UTF_8);
        try {
            var last = pieces.lastEntry();
            long piece = last == null || last.getValue() >= PIECE ? next : last.getKey();
            Files.write(file(piece), bytesOfIt, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
            pieces.merge(piece, (long) bytesOfIt.length, Long::sum);
            bytes += bytesOfIt.length;
            next++;
            while (bytes > most && pieces.size() > 1) dropOldest();
        } catch (IOException full) {
            throw new UncheckedIOException(full);
        }
    }

    private void dropOldest() throws IOException {
        var oldest = pieces.firstEntry();
        long after = pieces.higherKey(oldest.getKey());
        dropped += Math.max(0, after - Math.max(oldest.getKey(), takenTo + 1));
        remove(oldest.getKey());
    }

    private void remove(long piece) throws IOException {
        Files.deleteIfExists(file(piece));
        var size = pieces.remove(piece);
        bytes -= size == null ? 0 : size;
    }

    private Path file(long first) {
        return folder.resolve("%018d%s".formatted(first, END));
    }

    /** One thing with its number. */
    record Kept(long number, String line) {}

    /** The oldest that are not taken yet, of so many characters together, one at least where there is any. */
    synchronized List<Kept> oldest(int characters) {
        var some = new ArrayList<Kept>();
        int all = 0;
        try {
            for (var first : List.copyOf(pieces.keySet())) {
                long number = first;
                for (var line : Files.readAllLines(file(first))) {
                    if (number > takenTo) {
                        all += line.length();
                        if (all > characters && !some.isEmpty()) return some;
                        some.add(new Kept(number, line));
                    }
                    number++;
                }
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
        return some;
    }

    /** Everything up to a number was taken. */
    synchronized void taken(long to) {
        if (to <= takenTo) return;
        takenTo = Math.min(to, next - 1);
        try {
            var fresh = folder.resolve("taken.new");
            Files.writeString(fresh, "" + takenTo);
            Files.move(
                    fresh,
                    folder.resolve("taken"),
                    StandardCopyOption.ATOMIC_MOVE,
                    StandardCopyOption.REPLACE_EXISTING);
            for (var first : List.copyOf(pieces.keySet())) {
                var after = pieces.higherKey(first);
                if (after == null ? takenTo >= next - 1 && pieces.get(first) >= PIECE : after <= takenTo + 1)
                    remove(first);
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    synchronized long waiting() {
        var first = pieces.isEmpty() ? next : pieces.firstKey();
        return next - Math.max(first, takenTo + 1);
    }

    /** How many were given up since this began, for want of room. */
    synchronized long dropped() {
        return dropped;
    }
}
