package app.morvet.outpost;

import app.morvet.probe.Permits;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** What checks may do here: what the file on this host names, and nothing else. */
final class Allowed implements Permits {
    private final OwnFile own;

    Allowed(OwnFile own) {
        this.own = own;
    }

    @Override
    public void reach(String host) {
        if (!own.reach().contains(host))
            throw new IllegalArgumentException(
                    "the file of the outpost %s does not let checks reach %s; add it under reach"
                            .formatted(own.name(), host));
    }

    /** Links are followed first: what counts is where they lead. */
    @Override
    public void read(Path file) {
        var whole = file.toAbsolutePath().normalize();
        var real = whole;
        try {
            if (Files.exists(whole)) real = whole.toRealPath();
        } catch (IOException unreachable) {
            // what cannot be resolved is judged by its name
        }
        for (var folder : own.read()) if (whole.startsWith(folder) && real.startsWith(realOf(folder))) return;
        throw new IllegalArgumentException(
                "the file of the outpost %s does not let %s be read; add its folder under read"
                        .formatted(own.name(), file));
    }

    private static Path realOf(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException missing) {
            return folder;
        }
    }

    @Override
    public List<String> command(String name, Map<String, String> arguments) {
        var command = own.commands().get(name);
        if (command == null)
            throw new IllegalArgumentException(
                    "the file of the outpost %s names no command \"%s\"; add it under commands"
                            .formatted(own.name(), name));
        return command.words(arguments);
    }
}
