package app.morvet.ground.access;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Which passwords are good enough: long, not among those that are tried first, and nothing of the person who has it. */
final class Passwords {
    static final int SHORTEST = 10;
    /** What is hashed has no more bytes than that. */
    static final int LONGEST_BYTES = 72;

    private static final int LEAST_LETTERS = 5;
    private static final Set<String> COMMON = common();

    private Passwords() {}

    private static Set<String> common() {
        try (var lines = Passwords.class.getResourceAsStream("/common-passwords.txt")) {
            return new String(java.util.Objects.requireNonNull(lines).readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.startsWith("#"))
                    .collect(Collectors.toSet());
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    /** @throws IllegalArgumentException saying why it is not good enough */
    static void check(String password, String login, String name) {
        if (password.length() < SHORTEST)
            throw new IllegalArgumentException(
                    "a password has at least 10 letters; a few words in a row are good ones");
        if (password.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES)
            throw new IllegalArgumentException("a password has at most 72 letters");
        var plain = password.toLowerCase(Locale.ROOT);
        // Digits at the end are what everybody puts there.
        var stem = plain.replaceAll("[^\\p{L}]+$", "");
        if (COMMON.contains(plain) || COMMON.contains(stem))
            throw new IllegalArgumentException("this password is among those that are tried first");
        if (plain.chars().distinct().count() < LEAST_LETTERS)
            throw new IllegalArgumentException("a password has at least 5 different letters");
        if (runs(plain))
            throw new IllegalArgumentException("a password is no row of letters or digits such as 12345678");
        for (var part : (login + " " + name).toLowerCase(Locale.ROOT).split("\\W+"))
            if (part.length() > 2 && plain.contains(part))
                throw new IllegalArgumentException("a password does not have your login or your name in it");
    }

    /** All of it counts up or down by one. */
    private static boolean runs(String text) {
        int step = text.charAt(1) - text.charAt(0);
        if (Math.abs(step) != 1) return false;
        for (int i = 2; i < text.length(); i++) if (text.charAt(i) - text.charAt(i - 1) != step) return false;
        return true;
    }
}
