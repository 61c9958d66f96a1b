package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The part of a payload that an error names: by an XPath or a JSON Pointer (RFC 6901), by a JSONPath, or by a line and
 * column.
 *
 * @param start in the payload's text
 * @param end   behind it
 * @param named as the error names it
 * @param line  whether only a line is known, and no field of it
 */
public record FailingPart(int start, int end, String named, boolean line) {
    private static final Pattern PATH = Pattern.compile("(?<![\\w/:.])((?:/@?[\\w.~:-]*[\\w~-](?:\\[\\d+])?)+)");
    private static final Pattern JSON_PATH = Pattern.compile("\\$((?:\\.[\\w-]+|\\[\\d+]|\\['[^']+'])+)");
    private static final Pattern LINE = Pattern.compile(
            "(?i)\\b(?:line|zeile|ligne|rivi|rad)\\s*[:#]?\\s*(\\d{1,7})(?:\\s*[,;:]?\\s*(?:and\\s+)?(?:col(?:umn)?|pos(?:ition)?|spalte|colonne|sarake)\\s*[:#]?\\s*(\\d{1,7}))?");

    /**
     * One step of a path.
     *
     * @param position which of those of its name under the same parent, from 1 as in XPath; 0 where that is not said
     */
    private record Step(String name, int position) {}

    public static Optional<FailingPart> of(String error, PayloadScan scan, String text) {
        for (var found = PATH.matcher(error); found.find(); ) {
            var field = byPath(steps(found.group(1).split("/")), scan, true);
            if (field.isPresent()) return Optional.of(part(field.get(), found.group(1)));
        }
        for (var found = JSON_PATH.matcher(error); found.find(); ) {
            var steps = steps(found.group(1)
                    .replaceAll("\\['([^']+)']", ".$1")
                    .replace("[", ".[")
                    .split("\\."));
            var field = byPath(steps, scan, false);
            if (field.isPresent()) return Optional.of(part(field.get(), found.group()));
        }
        var line = LINE.matcher(error);
        if (!line.find()) return Optional.empty();
        var column = line.group(2);
        return atLine(
                Integer.parseInt(line.group(1)),
                column == null ? 0 : Integer.parseInt(column),
                line.group(),
                scan,
                text);
    }

    private static FailingPart part(PayloadScan.Field field, String named) {
        return new FailingPart(field.start(), field.end(), named, false);
    }

    private static List<Step> steps(String[] parts) {
        var steps = new ArrayList<Step>();
        for (var part : parts) {
            if (part.isEmpty()) continue;
            int bracket = part.indexOf('[');
            var name = (bracket > 0 ? part.substring(0, bracket) : part)
                    .replace("~1", "/")
                    .replace("~0", "~");
            if (bracket > 0) steps.add(new Step(name, position(part.substring(bracket + 1, part.length() - 1))));
            else steps.add(new Step(part.matches("\\d+") ? "[" + part + "]" : name, 0));
        }
        return steps;
    }

    /** One that cannot be there is one that is not found. */
    private static int position(String digits) {
        int position = digits.length() > 7 ? 0 : Integer.parseInt(digits);
        return position == 0 ? Integer.MAX_VALUE : position;
    }

    /** @param anywhere whether a path that does not fit from the root is tried as the end of one */
    private static Optional<PayloadScan.Field> byPath(List<Step> steps, PayloadScan scan, boolean anywhere) {
        if (steps.isEmpty()) return Optional.empty();
        var fromRoot = followed(steps, scan, field -> field.path().size() == 1);
        if (fromRoot.isPresent() || !anywhere || steps.size() < 2) return fromRoot;
        return followed(steps, scan, field -> true);
    }

    /** The first field to which the steps lead. */
    private static Optional<PayloadScan.Field> followed(
            List<Step> steps, PayloadScan scan, Predicate<PayloadScan.Field> first) {
        var at = scan.fields().stream()
                .filter(field ->
                        first.test(field) && isCalled(field, steps.getFirst().name()))
                .toList();
        for (var step : steps.subList(1, steps.size()))
            at = at.stream().flatMap(parent -> children(parent, step, scan)).toList();
        return at.stream().findFirst();
    }

    private static Stream<PayloadScan.Field> children(PayloadScan.Field parent, Step step, PayloadScan scan) {
        var found = scan.fields().stream()
                .filter(field -> field.path().size() == parent.path().size() + 1
                        && isCalled(field, step.name())
                        && field.path().subList(0, parent.path().size()).equals(parent.path())
                        && belongs(field, parent, scan));
        if (step.position() == 0) return found;
        return found.sorted(Comparator.comparingInt(PayloadScan.Field::start))
                .skip(step.position() - 1L)
                .limit(1);
    }

    /** A field stands within its parent, but for an attribute, which stands before what the element holds. */
    private static boolean belongs(PayloadScan.Field field, PayloadScan.Field parent, PayloadScan scan) {
        if (!field.path().getLast().startsWith("@"))
            return parent.start() <= field.start() && field.end() <= parent.end();
        return field.start() < parent.start()
                && scan.fields().stream()
                        .noneMatch(other -> other.path().equals(parent.path())
                                && field.start() < other.start()
                                && other.start() < parent.start());
    }

    /** Without its prefix, as errors tell names, or with it. */
    private static boolean isCalled(PayloadScan.Field field, String name) {
        if (field.path().isEmpty()) return false;
        var whole = field.path().getLast();
        if (whole.equals(name)) return true;
        var bare = whole.substring(whole.lastIndexOf(':') + 1).replace("@", "");
        return name.equals(whole.startsWith("@") ? "@" + bare : bare);
    }

    private static Optional<FailingPart> atLine(int line, int column, String named, PayloadScan scan, String text) {
        int start = 0;
        for (int i = 1; i < line; i++) {
            start = text.indexOf('\n', start) + 1;
            if (start == 0) return Optional.empty();
        }
        int end = text.indexOf('\n', start);
        if (end < 0) end = text.length();
        int at = Math.min(start + Math.max(0, column - 1), end);
        if (column > 0) {
            var smallest = scan.fields().stream()
                    .filter(field -> field.leaf() && field.start() <= at && at <= field.end())
                    .min(Comparator.comparingInt(field -> field.end() - field.start()));
            if (smallest.isPresent()) return Optional.of(part(smallest.get(), named));
        }
        return start < end ? Optional.of(new FailingPart(start, end, named, true)) : Optional.empty();
    }
}
