package app.morvet.core.messages;

import app.morvet.core.messages.PayloadScan.Field;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.function.Consumer;

/**
 * The fields of values separated by comma, semicolon, tab or bar (RFC 4180), with a byte order mark, a line {@code sep=;} and
 * lines of a single cell before the head. Where the first row does not look like names, no cell can be told from another, and
 * nothing can be read.
 */
final class TableFields {
    private static final String DELIMITERS = ",;\t|";
    private static final int LINES_LOOKED_AT = 5;
    private static final int LONGEST_NAME = 60;
    private static final int MOST_COLUMNS = 10_000;

    private record Cell(int start, int end, String value) {}

    private final String text;
    private final Consumer<Field> fields;
    private final char delimiter;
    private boolean tooWide;
    private int at;

    TableFields(String text, Consumer<Field> fields) {
        this.text = text;
        this.fields = fields;
        this.delimiter = delimiter(text);
    }

    /** @return from where on nothing can be read */
    int scan() {
        at = begin(text);
        for (int before = linesBefore(); before > 0; before--) aside(row());
        int begun = at;
        var head = row();
        if (tooWide || !isHead(head)) return begun;
        aside(head);
        var names = head.stream().map(cell -> cell.value().strip()).toList();
        for (int place = 0; at < text.length(); place++) {
            var path = FieldPath.ROOT.child(place);
            int row = at;
            var cells = row();
            if (tooWide) return row;
            for (int i = 0; i < cells.size(); i++) {
                var cell = cells.get(i);
                fields.accept(Field.leaf(
                        i < names.size() ? path.child(names.get(i)) : path.child(i),
                        cell.start(),
                        cell.end(),
                        cell.value()));
            }
        }
        return text.length();
    }

    /** How many lines of one cell, such as a title, stand before the head: none where no wider one follows soon. */
    private int linesBefore() {
        int begun = at;
        int before = 0;
        boolean wider = false;
        while (before < LINES_LOOKED_AT && at < text.length() && !wider) {
            wider = row().size() > 1;
            if (!wider) before++;
        }
        at = begun;
        return wider ? before : 0;
    }

    /** Behind a byte order mark and a line that names the delimiter. */
    static int begin(String text) {
        int begin = text.startsWith("\uFEFF") ? 1 : 0;
        if (!text.startsWith("sep=", begin)) return begin;
        int end = text.indexOf('\n', begin);
        return end < 0 ? text.length() : end + 1;
    }

    /** What stands oftenest in the first line that has any of them. */
    static char delimiter(String text) {
        int begin = begin(text);
        int named = text.startsWith("\uFEFF") ? 5 : 4;
        if (begin > named && DELIMITERS.indexOf(text.charAt(named)) >= 0) return text.charAt(named);
        return text.substring(begin, Math.min(text.length(), begin + 10_000))
                .lines()
                .limit(LINES_LOOKED_AT)
                .filter(line -> line.chars().anyMatch(c -> DELIMITERS.indexOf(c) >= 0))
                .findFirst()
                .map(TableFields::oftenest)
                .orElse(',');
    }

    private static char oftenest(String line) {
        char best = DELIMITERS.charAt(0);
        for (char one : DELIMITERS.toCharArray()) if (count(line, one) > count(line, best)) best = one;
        return best;
    }

    private static long count(String line, char c) {
        return line.chars().filter(one -> one == c).count();
    }

    private static boolean isHead(List<Cell> cells) {
        var names = new HashSet<String>();
        for (var cell : cells) {
            var name = cell.value().strip();
            if (name.isEmpty()) continue;
            if (name.length() > LONGEST_NAME || name.contains("@") || !names.add(name)) return false;
            if (name.chars().noneMatch(Character::isLetter) || Character.isDigit(name.charAt(0))) return false;
            // Names hardly hold long numbers, which is what identifies people does.
            if (name.chars().filter(Character::isDigit).count() > 4) return false;
        }
        return true;
    }

    private void aside(List<Cell> cells) {
        for (var cell : cells)
            fields.accept(Field.leaf(FieldPath.ROOT.child("#name"), cell.start(), cell.end(), cell.value()));
    }

    private List<Cell> row() {
        var cells = new ArrayList<Cell>();
        while (at < text.length()) {
            cells.add(cell());
            tooWide |= cells.size() > MOST_COLUMNS;
            if (tooWide || at >= text.length() || text.charAt(at) != delimiter) break;
            at++;
            // A delimiter at the very end is followed by one more cell, which is empty.
            if (at == text.length()) cells.add(new Cell(at, at, ""));
        }
        while (at < text.length() && "\r\n".indexOf(text.charAt(at)) >= 0) at++;
        return cells;
    }

    private Cell cell() {
        int start = at;
        var value = new StringBuilder();
        if (text.charAt(at) == '"') {
            at++;
            while (at < text.length()) {
                if (text.charAt(at) == '"') {
                    if (at + 1 < text.length() && text.charAt(at + 1) == '"') at++;
                    else break;
                }
                value.append(text.charAt(at++));
            }
            at = Math.min(text.length(), at + 1);
        }
        int rest = at;
        while (at < text.length() && text.charAt(at) != delimiter && "\r\n".indexOf(text.charAt(at)) < 0) at++;
        value.append(text, rest, at);
        return new Cell(start, at, value.toString());
    }
}
