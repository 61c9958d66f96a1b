package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

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
    private static final Pattern PATH = Pattern.compile("(?<![\\w/:.])((?:/@?[\\w.~:-]+(?:\\[\\d+])?)+)");
    private static final Pattern JSON_PATH = Pattern.compile("\\$((?:\\.[\\w-]+|\\[\\d+]|\\['[^']+'])+)");
    private static final Pattern LINE = Pattern.compile(
            "(?i)\\b(?:line|zeile|ligne|rivi|rad)\\s*[:#]?\\s*(\\d{1,7})(?:\\s*[,;:]?\\s*(?:and\\s+)?(?:col(?:umn)?|pos(?:ition)?|spalte|colonne|sarake)\\s*[:#]?\\s*(\\d{1,7}))?");

    public static Optional<FailingPart> of(String error, PayloadScan scan, String text) {
        for (var found = PATH.matcher(error); found.find(); ) {
            var names = names(found.group(1).split("/"));
            var field = byPath(names, scan, true);
            if (field.isPresent()) return Optional.of(part(field.get(), found.group(1)));
        }
        for (var found = JSON_PATH.matcher(error); found.find(); ) {
            var names = names(found.group(1)
                    .replaceAll("\\['([^']+)']", ".$1")
                    .replace("[", ".[")
                    .split("\\."));
            var field = byPath(names, scan, false);
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

    private static List<String> names(String[] parts) {
        var names = new ArrayList<String>();
        for (var part : parts) {
            if (part.isEmpty()) continue;
            int bracket = part.indexOf('[');
            if (bracket > 0)
                names.add(part.substring(0, bracket).replace("~1", "/").replace("~0", "~"));
            else
                names.add(
                        part.matches("\\d+")
                                ? "[" + part + "]"
                                : part.replace("~1", "/").replace("~0", "~"));
        }
        return names;
    }

    /** @param fromRoot whether a path that does not fit from the root is tried as the end of one */
    private static Optional<PayloadScan.Field> byPath(List<String> names, PayloadScan scan, boolean fromRoot) {
        if (names.isEmpty()) return Optional.empty();
        var exact = scan.fields().stream()
                .filter(field ->
                        bare(field.path()).equals(names) || field.path().equals(names))
                .findFirst();
        if (exact.isPresent() || !fromRoot || names.size() < 2) return exact;
        return scan.fields().stream()
                .filter(field -> endsWith(bare(field.path()), names))
                .findFirst();
    }

    private static boolean endsWith(List<String> path, List<String> names) {
        return path.size() >= names.size()
                && path.subList(path.size() - names.size(), path.size()).equals(names);
    }

    /** Without prefixes, as errors tell paths. */
    private static List<String> bare(List<String> path) {
        return path.stream()
                .map(name -> name.startsWith("@")
                        ? "@" + name.substring(name.lastIndexOf(':') + 1).replace("@", "")
                        : name.substring(name.lastIndexOf(':') + 1))
                .toList();
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
