package app.morvet.ground.connections;

import app.morvet.probe.Headers;
import java.util.Optional;
import java.util.stream.Collectors;

/** Headers of a connection as people type them, one {@code Name: value} a line; what they say is not shown again. */
public final class SecretHeaders {
    /** Stands for a value that stays as it was. */
    public static final String KEPT = "(kept)";

    private SecretHeaders() {}

    /** For showing: the names, without their values. */
    public static String covered(String headers) {
        return headers.lines()
                .filter(line -> line.contains(":"))
                .map(line -> Headers.name(line) + ": " + KEPT)
                .collect(Collectors.joining("\n"));
    }

    /** The same, with what stands as kept taken from how it was before. */
    public static String keeping(String typed, String before) {
        return typed.lines()
                .map(line -> line.contains(":") && line.strip().endsWith(KEPT)
                        ? before.lines()
                                .filter(old -> Headers.name(old).equals(Headers.name(line)))
                                .findFirst()
                                .orElse(line)
                        : line)
                .collect(Collectors.joining("\n"));
    }

    /** What cannot be meant by them; asked once what is kept is filled in. */
    public static Optional<String> fault(String headers) {
        if (headers.lines().anyMatch(line -> !line.isBlank() && !line.matches("[A-Za-z0-9-]+\\s*:.+")))
            return Optional.of("Each line must read Name: value.");
        return headers.lines()
                .filter(line -> line.strip().endsWith(KEPT))
                .map(line -> "There is no value of %s to be kept; write it anew.".formatted(Headers.name(line)))
                .findFirst();
    }
}
