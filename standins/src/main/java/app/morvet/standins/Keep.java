package app.morvet.standins;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Small files that outlive a restart, each replaced as a whole. */
@Component
public class Keep {
    private final Path folder;
    private final JsonMapper json;

    Keep(StandInSettings settings, JsonMapper json) {
        this.folder = settings.data();
        this.json = json;
    }

    public <T> Optional<T> read(String name, Class<T> kind) {
        var file = folder.resolve(name);
        if (!Files.exists(file)) return Optional.empty();
        return Optional.of(json.readValue(file.toFile(), kind));
    }

    public synchronized void write(String name, Object value) {
        try {
            Files.createDirectories(folder);
            var fresh = folder.resolve(name + ".new");
            json.writeValue(fresh.toFile(), value);
            Files.move(
                    fresh, folder.resolve(name), StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
