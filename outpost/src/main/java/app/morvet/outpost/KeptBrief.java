package app.morvet.outpost;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Optional;
import java.util.logging.Level;
import java.util.logging.Logger;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * The brief on disk, so that an outpost that begins while Morvet is away knows what to look at. It may hold what checks log in
 * with, so nobody but the owner of the process may read it.
 */
final class KeptBrief {
    private static final Logger log = Logger.getLogger(KeptBrief.class.getName());

    private final Path file;

    KeptBrief(Path folder) {
        this.file = folder.resolve("brief");
    }

    Optional<JsonNode> read() {
        try {
            return Files.exists(file) ? Optional.of(Wire.JSON.readTree(Files.readString(file))) : Optional.empty();
        } catch (IOException | JacksonException broken) {
            log.log(Level.WARNING, "the brief that was kept cannot be read; it waits for Morvet", broken);
            return Optional.empty();
        }
    }

    void write(JsonNode brief) {
        var fresh = file.resolveSibling("brief.new");
        try {
            Files.deleteIfExists(fresh);
            if (FileSystems.getDefault().supportedFileAttributeViews().contains("posix"))
                Files.createFile(
                        fresh, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(fresh, brief.toString());
            Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException full) {
            throw new UncheckedIOException(full);
        }
    }
}
