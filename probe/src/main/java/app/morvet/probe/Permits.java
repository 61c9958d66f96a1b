package app.morvet.probe;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** What may be looked at from here. Each says what is not allowed, and how it would be. */
public interface Permits {
    /**
     * @param host with its port
     * @throws IllegalArgumentException where it may not be reached
     */
    void reach(String host);

    /** @throws IllegalArgumentException where it may not be read */
    default void read(Path file) {
        throw new IllegalArgumentException("no files are read from here");
    }

    /**
     * The words of a command, with its arguments in their places.
     *
     * @throws IllegalArgumentException where it may not be run, or not with these arguments
     */
    default List<String> command(String name, Map<String, String> arguments) {
        throw new IllegalArgumentException("no commands are run from here");
    }
}
