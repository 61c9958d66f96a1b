package app.morvet.probe;

import java.time.Instant;

/**
 * What one look is to know beside its target.
 *
 * @param headers that are sent with calls over HTTP, one {@code Name: value} a line; they may hold secrets
 * @param logIn   for what is logged in to with {@code user} and, in the next line, a password; empty where it is not
 * @param memory  what the last look left behind; empty at the first
 */
public record Around(String headers, String logIn, String memory, Instant now) {
    public static Around plain(Instant now) {
        return new Around("", "", "", now);
    }

    /** What comes before the first line's end. */
    public String user() {
        return logIn.lines().findFirst().orElse("").strip();
    }

    public String password() {
        int end = logIn.indexOf('\n');
        return end < 0 ? "" : logIn.substring(end + 1).strip();
    }
}
