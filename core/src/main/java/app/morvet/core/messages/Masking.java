package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.IntFunction;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

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
    private static final FieldPath ATTRIBUTES = FieldPath.ROOT.child("attributes");
    private static final int LONGEST_UNREAD = 256 * 1024;

    /** Where more places would be hidden, all is. */
    private static final int MOST_PLACES = 500_000;

    private static final int SHORT = 12;
    private static final int MOST_SHORT = 10_000;

    private final List<Mask> masks;
    private final List<NamesWithin> names;

    private Masking(List<Mask> masks) {
        this.masks = masks;
        this.names = masks.stream()
                .map(Mask::names)
                .filter(some -> !some.isEmpty())
                .map(NamesWithin::new)
                .toList();
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

    /** What is hidden in a payload: places, as starts and ends, not overlapping, in order. */
    record Hidden(PayloadScan scan, List<int[]> places) {}

    Hidden hidden(String mediaType, String text) {
        var finder = new Finder();
        var scan = PayloadScan.of(mediaType, text, finder);
        var places = finder.places;
        if (scan.readTo() < text.length())
            places.addAll(unread(scan.format(), text.substring(scan.readTo()), scan.readTo()));
        if (places.size() > MOST_PLACES) return new Hidden(scan, List.of(new int[] {0, text.length()}));
        return new Hidden(scan, merged(places));
    }

    /** Is told of the fields of one payload and keeps where something is hidden. */
    private final class Finder implements Consumer<PayloadScan.Field> {
        private final List<int[]> places = new ArrayList<>();
        private final Map<String, Boolean> decided = new HashMap<>();
        private @Nullable FieldPath last;
        private boolean lastHidden;

        @Override
        public void accept(PayloadScan.Field field) {
            // That there are too many is seen in the end; until then no more are kept.
            if (places.size() > MOST_PLACES) return;
            if (field.start() >= field.end() && field.parts().length == 0) return;
            if (hiddenByPath(field)) places.add(new int[] {field.start(), field.end()});
            else if (field.parts().length > 0 && hiddenByValue(field.value())) {
                // Of a plain text only what looks like it; of all else the value.
                if (field.path().isRoot() && !mayHideWithin(field.value()))
                    places.addAll(within(field.value(), field.start()));
                else
                    for (int i = 0; i < field.parts().length; i += 2)
                        places.add(new int[] {field.parts()[i], field.parts()[i + 1]});
            }
        }

        private boolean hiddenByPath(PayloadScan.Field field) {
            var path = field.path();
            if (path.isAside())
                return !path.name().equals("#name") && masks.stream().anyMatch(mask -> mask.mayHide(field.value()));
            if (path.named() != last) {
                last = path.named();
                lastHidden = masks.stream()
                        .anyMatch(mask -> mask.hidesPath(path) || path.isAttribute() && mask.hidesPath(path.parent()));
            }
            return lastHidden;
        }

        /** Payloads of many values have mostly short ones, and few different. */
        private boolean hiddenByValue(String value) {
            return value.length() > SHORT || decided.size() >= MOST_SHORT
                    ? hides(value)
                    : decided.computeIfAbsent(value, Masking.this::hides);
        }
    }

    /** Whether a value looks like what is hidden, or is a document that may hold it, however it is written. */
    private boolean hides(String value) {
        for (var form : Unescaped.forms(value)) if (looksLike(form) || mayHold(form)) return true;
        return false;
    }

    private boolean hidesValue(String value) {
        for (var form : Unescaped.forms(value)) if (looksLike(form)) return true;
        return false;
    }

    private boolean mayHideWithin(String value) {
        for (var form : Unescaped.forms(value)) if (mayHold(form)) return true;
        return false;
    }

    private boolean looksLike(String form) {
        var lower = form.toLowerCase(Locale.ROOT);
        for (var mask : masks) if (mask.looksLike(form, lower)) return true;
        return false;
    }

    private boolean mayHold(String form) {
        if (names.isEmpty()) return false;
        var folded = FieldPath.folded(form);
        for (var some : names) if (some.standIn(folded)) return true;
        return false;
    }

    /**
     * Of what cannot be read, all is hidden where a path might lead into it; where only patterns decide, what looks like
     * them, and all of it where it does so once its markup is taken out.
     */
    private List<int[]> unread(PayloadScan.Format format, String rest, int offset) {
        var all = List.of(new int[] {offset, offset + rest.length()});
        boolean table = format == PayloadScan.Format.TABLE;
        if (masks.stream().anyMatch(mask -> table ? mask.hidesColumns() : mask.pattern() == null)) return all;
        if (masks.stream().noneMatch(mask -> mask.pattern() != null)) return List.of();
        if (rest.length() > LONGEST_UNREAD) return all;
        var found = within(rest, offset);
        var left = new StringBuilder(rest);
        for (var range : found) blank(left, range[0] - offset, range[1] - offset);
        var bare = MARKUP.matcher(left).replaceAll("");
        return hidesValue(bare) ? all : found;
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
        var hidden = hidden(mediaType, text);
        return replaced(text, hidden.places(), start -> replacement(hidden.scan(), start));
    }

    static String replacement(PayloadScan scan, int start) {
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
        if (!hidesValue(text)) return new Masked(text, 0);
        return replaced(text, merged(within(text, 0)), start -> HIDDEN);
    }

    /**
     * Where in a plain text the hidden things stand. What a pattern finds as it is written is hidden by itself; what it
     * finds only after unescaping is hidden with the words that it is written in, and all of it where even that is not
     * enough or the text is long.
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
        var words = WORDS.matcher(rest.length() > LONGEST_UNREAD ? "" : rest.toString());
        while (words.find()) {
            if (!hidesValue(words.group())) continue;
            ranges.add(new int[] {offset + words.start(), offset + words.end()});
            blank(rest, words.start(), words.end());
        }
        return hidesValue(rest.toString()) ? List.of(new int[] {offset, offset + text.length()}) : ranges;
    }

    private static void blank(StringBuilder text, int start, int end) {
        for (int i = start; i < end; i++) text.setCharAt(i, '\u2592');
    }

    /** Attributes: one is hidden whole where its name is a masked one or its value looks like a hidden one. */
    public Map<String, String> attributes(Map<String, String> attributes) {
        var shown = new LinkedHashMap<String, String>();
        attributes.forEach((name, value) -> {
            boolean hidden = hides(value)
                    || masks.stream()
                            .anyMatch(mask -> mask.hidesPath(ATTRIBUTES.child(name))
                                    || mask.hidesPath(ATTRIBUTES.child("@" + name)));
            shown.put(name, hidden ? HIDDEN : value);
        });
        return shown;
    }
}
