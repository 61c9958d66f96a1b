package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import java.util.regex.Pattern;

/**
 * Hides what the masks name, in payloads, errors and attributes. It goes by what a field says, not by how it is written:
 * entities, escapes, character data sections, comments within a value and base64 are undone before it is compared, and names
 * are compared without prefixes. What cannot be read is hidden whole where a field might stand in it, so breaking a payload
 * uncovers nothing.
 */
public final class Masking {
    /** What stands in place of what is hidden. */
    public static final String HIDDEN = "▒▒▒▒";

    /** @param hidden how many places were hidden */
    public record Masked(String text, int hidden) {}

    private static final Pattern WORDS = Pattern.compile("\\S+");
    private static final Pattern MARKUP =
            Pattern.compile("(?s)<!--.{0,2000}?-->|<!--|-->|<!\\[CDATA\\[|]]>|<[^<>]{0,500}>");
    private static final int LONGEST_UNREAD = 256 * 1024;
    private final List<Mask> masks;

    private Masking(List<Mask> masks) {
        this.masks = masks;
    }

    /** The masks that hold for an interface. */
    public static Masking of(List<Mask> masks, String interfaceKey) {
        return new Masking(
                masks.stream().filter(one -> one.holdsFor(interfaceKey)).toList());
    }

    /** All masks, whatever interfaces they hold for. */
    public static Masking ofAll(List<Mask> masks) {
        return new Masking(List.copyOf(masks));
    }

    public boolean hidesNothing() {
        return masks.isEmpty();
    }

    /** Places of a payload that are hidden, as starts and ends, not overlapping, in order. */
    List<int[]> hidden(PayloadScan scan, String text) {
        var ranges = new ArrayList<int[]>();
        if (masks.isEmpty()) return ranges;
        for (var field : scan.fields()) {
            if (field.start() >= field.end() && field.parts().isEmpty()) continue;
            if (hiddenByPath(field)) ranges.add(new int[] {field.start(), field.end()});
            else if (hiddenByValue(field, scan.format())) {
                if (scan.format() == PayloadScan.Format.TEXT) ranges.addAll(within(field.value(), field.start()));
                else ranges.addAll(field.parts());
            }
        }
        if (scan.readTo() < text.length()) ranges.addAll(unread(text.substring(scan.readTo()), scan.readTo()));
        return merged(ranges);
    }

    /**
     * Of what cannot be read, all is hidden where a path might lead into it; where only patterns decide, what looks like
     * them, and all of it where it does so once its markup is taken out.
     */
    private List<int[]> unread(String rest, int offset) {
        var all = List.of(new int[] {offset, offset + rest.length()});
        if (rest.length() > LONGEST_UNREAD || masks.stream().anyMatch(mask -> mask.pattern() == null)) return all;
        var found = within(rest, offset);
        var left = new StringBuilder(rest);
        for (var range : found) blank(left, range[0] - offset, range[1] - offset);
        var bare = MARKUP.matcher(left).replaceAll("");
        return masks.stream().anyMatch(mask -> mask.hidesValue(bare)) ? all : found;
    }

    private boolean hiddenByPath(PayloadScan.Field field) {
        boolean aside = !field.path().isEmpty() && field.path().getLast().startsWith("#");
        return masks.stream().anyMatch(mask -> mask.hidesPath(field.path()) || aside && mask.mayHide(field.value()));
    }

    private boolean hiddenByValue(PayloadScan.Field field, PayloadScan.Format format) {
        return !field.parts().isEmpty() && masks.stream().anyMatch(mask -> mask.hidesValue(field.value()));
    }

    private static List<int[]> merged(List<int[]> found) {
        var ranges = new ArrayList<>(found);
        ranges.sort(Comparator.comparingInt((int[] one) -> one[0]).thenComparing(one -> -one[1]));
        var merged = new ArrayList<int[]>();
        for (var one : ranges) {
            if (one[0] >= one[1]) continue;
            if (!merged.isEmpty() && one[0] <= merged.getLast()[1])
                merged.getLast()[1] = Math.max(merged.getLast()[1], one[1]);
            else merged.add(one.clone());
        }
        return merged;
    }

    /** A payload with what is hidden replaced; it stays well-formed where it was. */
    public Masked payload(String mediaType, String text) {
        if (masks.isEmpty() || text.isEmpty()) return new Masked(text, 0);
        var scan = PayloadScan.of(mediaType, text);
        return replaced(text, hidden(scan, text), start -> replacement(scan, text, start));
    }

    static String replacement(PayloadScan scan, String text, int start) {
        boolean json = scan.format() == PayloadScan.Format.JSON && start < scan.readTo();
        return json ? "\"" + HIDDEN + "\"" : HIDDEN;
    }

    private static Masked replaced(String text, List<int[]> ranges, IntFunction<String> by) {
        if (ranges.isEmpty()) return new Masked(text, 0);
        var out = new StringBuilder();
        int at = 0;
        for (var range : ranges) {
            out.append(text, at, range[0]).append(by.apply(range[0]));
            at = range[1];
        }
        return new Masked(out.append(text, at, text.length()).toString(), ranges.size());
    }

    /** An error or another plain text: patterns count, paths do not. */
    public Masked text(String text) {
        if (masks.stream().noneMatch(mask -> mask.hidesValue(text))) return new Masked(text, 0);
        return replaced(text, merged(within(text, 0)), start -> HIDDEN);
    }

    /**
     * Where in a plain text the hidden things stand. What a pattern finds as it is written is hidden by itself; what it
     * finds only after unescaping is hidden with the words that it is written in, and all of it where even that is not
     * enough.
     */
    private List<int[]> within(String text, int offset) {
        var ranges = new ArrayList<int[]>();
        var rest = new StringBuilder(text);
        for (var mask : masks) {
            var pattern = mask.pattern();
            if (pattern == null) continue;
            var found = pattern.matcher(text);
            while (found.find()) {
                if (found.start() == found.end()) continue;
                ranges.add(new int[] {offset + found.start(), offset + found.end()});
                blank(rest, found.start(), found.end());
            }
        }
        var words = WORDS.matcher(rest.toString());
        while (words.find()) {
            if (masks.stream().noneMatch(mask -> mask.hidesValue(words.group()))) continue;
            ranges.add(new int[] {offset + words.start(), offset + words.end()});
            blank(rest, words.start(), words.end());
        }
        return masks.stream().anyMatch(mask -> mask.hidesValue(rest.toString()))
                ? List.of(new int[] {offset, offset + text.length()})
                : ranges;
    }

    private static void blank(StringBuilder text, int start, int end) {
        for (int i = start; i < end; i++) text.setCharAt(i, '\u2592');
    }

    /** Attributes: one is hidden whole where its name is a masked one or its value looks like a hidden one. */
    public Map<String, String> attributes(Map<String, String> attributes) {
        var shown = new LinkedHashMap<String, String>();
        attributes.forEach((name, value) -> {
            boolean hidden = masks.stream()
                    .anyMatch(mask -> mask.hidesPath(List.of("attributes", name))
                            || mask.hidesPath(List.of("attributes", "@" + name))
                            || mask.hidesValue(value));
            shown.put(name, hidden ? HIDDEN : value);
        });
        return shown;
    }
}
