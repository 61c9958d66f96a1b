package app.morvet.core.shift;

import java.util.ArrayList;
import java.util.List;

/**
 * What the next shift is given, as Markdown: what is still open and what is next of each, what is watched, what is coming, and the notes that
 * were written for it. A part that has nothing in it says so, so that nobody wonders whether it was forgotten.
 *
 * @param from until when the shift goes back, and {@code to} when this was drafted, in words
 */
public record HandoverDraft(
        String from, String to, List<Open> open, List<Watched> watched, List<Coming> coming, List<String> notes) {

    /** @param next who has it or what it waits for, in words */
    public record Open(long id, String severity, String headline, String next) {}

    /** @param why it is only watched */
    public record Watched(long id, String headline, String why) {}

    public record Coming(String at, String words) {}

    public String markdown() {
        var text = new ArrayList<String>();
        text.add("# Handover, %s to %s".formatted(from, to));
        part(
                text,
                "Still open",
                "Nothing is open.",
                open.stream()
                        .map(one -> "- **%s** %s (case %d): %s"
                                .formatted(one.severity(), escaped(one.headline()), one.id(), escaped(one.next())))
                        .toList());
        part(
                text,
                "Watched",
                "Nothing is watched.",
                watched.stream()
                        .map(one ->
                                "- %s (case %d): %s".formatted(escaped(one.headline()), one.id(), escaped(one.why())))
                        .toList());
        part(
                text,
                "Coming",
                "Nothing is known to come.",
                coming.stream()
                        .map(one -> "- %s %s".formatted(one.at(), escaped(one.words())))
                        .toList());
        part(
                text,
                "To know",
                "Nobody has noted anything.",
                notes.stream().map(one -> "- " + oneLine(one)).toList());
        return String.join("\n", text) + "\n";
    }

    private static void part(List<String> text, String title, String nothing, List<String> lines) {
        text.add("");
        text.add("## " + title);
        if (lines.isEmpty()) text.add(nothing);
        text.addAll(lines);
    }

    /** What people have written stays as they wrote it, on one line. */
    private static String oneLine(String text) {
        return text.strip().replaceAll("\\s*\\R\\s*", " ");
    }

    /** What machines say is shown as it is, whatever it has in it. */
    private static String escaped(String text) {
        return oneLine(text).replaceAll("([\\\\`*_\\[\\]<>])", "\\\\$1");
    }
}
