package app.morvet.work.channels;

import app.morvet.core.callouts.Way;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Unanswered;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * A file with one JSON object a line, which other tools read on. It lies in the folder {@code morvet.channel-files}, on the node that tells, and
 * is put aside when it has grown to ten megabytes; five of those are kept.
 */
@Component
public class LineFile implements Outside {
    public static final String SORT = "file";
    static final String FILE = "file";
    private static final String NAME = "[A-Za-z0-9][A-Za-z0-9._-]{0,79}";
    private static final long LARGEST = 10_000_000;
    private static final int KEPT = 5;

    private final Path folder;
    private final JsonMapper json;
    private final Clock clock;

    LineFile(@Value("${morvet.channel-files:call-outs}") Path folder, JsonMapper json, Clock clock) {
        this.folder = folder;
        this.json = json;
        this.clock = clock;
    }

    @Override
    public String kind() {
        return SORT;
    }

    @Override
    public Way way() {
        return Way.FILE;
    }

    /** @throws IllegalArgumentException where a file cannot have this name */
    static void check(String name) {
        if (!name.matches(NAME))
            throw new IllegalArgumentException(
                    "a file has a name of letters, digits, dots and dashes, such as call-outs.jsonl, and no folder");
    }

    @Override
    public synchronized String send(Connection to, Map<String, String> values, String key, String id)
            throws Unanswered {
        var line = new TreeMap<String, String>(values);
        line.put("key", key);
        line.put("at", clock.instant().toString());
        try {
            var file = Files.createDirectories(folder).resolve(to.get(FILE));
            if (Files.exists(file) && Files.size(file) >= LARGEST) putAside(file);
            Files.writeString(
                    file,
                    json.writeValueAsString(line) + "\n",
                    StandardCharsets.UTF_8,
                    StandardOpenOption.CREATE,
                    StandardOpenOption.APPEND);
            return "";
        } catch (IOException cannot) {
            throw new Unanswered("%s cannot be written: %s".formatted(to.name(), cannot.getMessage()), false);
        }
    }

    private static void putAside(Path file) throws IOException {
        for (int number = KEPT; number > 1; number--) {
            var older = file.resolveSibling(file.getFileName() + "." + (number - 1));
            if (Files.exists(older))
                Files.move(
                        older,
                        file.resolveSibling(file.getFileName() + "." + number),
                        StandardCopyOption.REPLACE_EXISTING);
        }
        Files.move(file, file.resolveSibling(file.getFileName() + ".1"), StandardCopyOption.REPLACE_EXISTING);
    }
}
