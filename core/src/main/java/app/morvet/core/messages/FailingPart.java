package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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

    /** What looks like a path in an error may be an address or a file; so many are tried. */
    private static final int MOST_TRIED = 20;

    /**
     * One step of a path.
     *
     * @param position which of those of its name under the same parent, from 1 as in XPath; 0 where that is not said
     */
    private record Step(String name, int position) {}

    static Optional<FailingPart> of(String error, String mediaType, String text) {
        var path = PATH.matcher(error);
        var jsonPath = JSON_PATH.matcher(error);
        var line = LINE.matcher(error);
        boolean hasPath = path.find();
        boolean hasJsonPath = jsonPath.find();
        boolean hasLine = line.find();
        if (!hasPath && !hasJsonPath && !hasLine) return Optional.empty();
        var fields = new Fields(mediaType, text);
        for (int tried = 0; hasPath && tried < MOST_TRIED; tried++, hasPath = path.find()) {
            var field = fields.byPath(steps(path.group(1).split("/")), true);
            if (field.isPresent()) return Optional.of(part(field.get(), path.group(1)));
        }
        for (int tried = 0; hasJsonPath && tried < MOST_TRIED; tried++, hasJsonPath = jsonPath.find()) {
            var steps = steps(jsonPath.group(1)
                    .replaceAll("\\['([^']+)']", ".$1")
                    .replace("[", ".[")
                    .split("\\."));
            var field = fields.byPath(steps, false);
            if (field.isPresent()) return Optional.of(part(field.get(), jsonPath.group()));
        }
        if (!hasLine) return Optional.empty();
        var column = line.group(2);
        return atLine(
                Integer.parseInt(line.group(1)),
                column == null ? 0 : Integer.parseInt(column),
                line.group(),
                fields,
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

    /** The fields of a payload, and those of each by what they stand in. */
    private static final class Fields {
        private final List<PayloadScan.Field> all;
        private final Map<FieldPath, List<PayloadScan.Field>> within = new IdentityHashMap<>();

        Fields(String mediaType, String text) {
            all = PayloadScan.fields(mediaType, text).stream()
                    .filter(field -> !field.path().isAside() && !field.path().isRoot())
                    .sorted(Comparator.comparingInt(PayloadScan.Field::start))
                    .toList();
            for (var field : all)
                within.computeIfAbsent(field.path().parent(), parent -> new ArrayList<>())
                        .add(field);
        }

        /** @param anywhere whether a path that does not fit from the root is tried as the end of one */
        Optional<PayloadScan.Field> byPath(List<Step> steps, boolean anywhere) {
            if (steps.isEmpty()) return Optional.empty();
            var fromRoot = followed(steps, within.getOrDefault(FieldPath.ROOT, List.of()));
            if (fromRoot.isPresent() || !anywhere || steps.size() < 2) return fromRoot;
            return followed(steps, all);
        }

        /** The first field to which the steps lead. */
        private Optional<PayloadScan.Field> followed(List<Step> steps, List<PayloadScan.Field> first) {
            var at = first.stream()
                    .filter(field -> isCalled(field, steps.getFirst().name()))
                    .toList();
            for (var step : steps.subList(1, steps.size()))
                at = at.stream().flatMap(parent -> children(parent, step)).toList();
            return at.stream().findFirst();
        }

        private Stream<PayloadScan.Field> children(PayloadScan.Field parent, Step step) {
            var found = within.getOrDefault(parent.path(), List.of()).stream()
                    .filter(field -> isCalled(field, step.name()));
            return step.position() == 0
                    ? found
                    : found.skip(step.position() - 1L).limit(1);
        }

        /** The smallest that holds a place. */
        Optional<PayloadScan.Field> leafAt(int place) {
            return all.stream()
                    .filter(field -> field.leaf() && field.start() <= place && place <= field.end())
                    .min(Comparator.comparingInt(field -> field.end() - field.start()));
        }
    }

    /** Without its prefix, as errors tell names, or with it. */
    private static boolean isCalled(PayloadScan.Field field, String name) {
        var whole = field.path().name();
        if (whole.equals(name)) return true;
        var bare = whole.substring(whole.lastIndexOf(':') + 1).replace("@", "");
        return name.equals(whole.startsWith("@") ? "@" + bare : bare);
    }

    private static Optional<FailingPart> atLine(int line, int column, String named, Fields fields, String text) {
        int start = 0;
        for (int i = 1; i < line; i++) {
            start = text.indexOf('\n', start) + 1;
            if (start == 0) return Optional.empty();
        }
        int end = text.indexOf('\n', start);
        if (end < 0) end = text.length();
        int at = Math.min(start + Math.max(0, column - 1), end);
        if (column > 0) {
            var smallest = fields.leafAt(at);
            if (smallest.isPresent()) return Optional.of(part(smallest.get(), named));
        }
        return start < end ? Optional.of(new FailingPart(start, end, named, true)) : Optional.empty();
    }
}
