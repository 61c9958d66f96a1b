package app.morvet.core.changes;

import java.time.Instant;

/**
 * Something about a component that became different: a version, a file, a setting, a start mode.
 *
 * @param at     when it was changed, or seen to be
 * @param what   of what sort it is, in a word or two: {@code version}
 * @param name   of what was changed, where the component has several; may be empty
 * @param before empty where there was nothing, or it is not known
 * @param after  empty where there is nothing any more
 * @param by     who changed it, in words; may be empty
 * @param note   may be empty
 */
public record Change(Instant at, String what, String name, String before, String after, String by, String note) {
    private static final int LONGEST_WHAT = 40;
    private static final int LONGEST_NAME = 200;
    private static final int LONGEST_VALUE = 2000;
    private static final int SHOWN = 80;

    /** @throws IllegalArgumentException where it is no change, or longer than it may be */
    public Change {
        if (what.isBlank()) throw new IllegalArgumentException("what is missing, such as version or setting");
        atMost("what", what, LONGEST_WHAT);
        atMost("name", name, LONGEST_NAME);
        atMost("before", before, LONGEST_VALUE);
        atMost("after", after, LONGEST_VALUE);
        atMost("by", by, LONGEST_NAME);
        atMost("note", note, LONGEST_VALUE);
        if (before.equals(after))
            throw new IllegalArgumentException(
                    before.isEmpty()
                            ? "before and after are missing; a change has one of them at least"
                            : "before and after are the same, which is no change");
    }

    private static void atMost(String what, String text, int most) {
        if (text.length() > most)
            throw new IllegalArgumentException(
                    "%s is too long: at most %,d characters, were %,d".formatted(what, most, text.length()));
    }

    /** {@code version of gate firmware: 4.1 → 4.2}, {@code file seats.lic: …}. */
    public String words() {
        boolean called = what.equals("file") || what.equals("setting");
        var subject = name.isEmpty() ? what : what + (called ? " " : " of ") + name;
        if (before.isEmpty()) return subject + ": " + cut(after) + ", which is new";
        if (after.isEmpty()) return subject + ": " + cut(before) + " is gone";
        return subject + ": " + cut(before) + " → " + cut(after);
    }

    private static String cut(String value) {
        var line = value.lines().findFirst().orElse("");
        return line.length() <= SHOWN && line.length() == value.length()
                ? line
                : line.substring(0, Math.min(line.length(), SHOWN)) + "…";
    }
}
