package app.morvet.ground.page;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Arrays;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;

/**
 * Writes CSV (RFC 4180). A text that a spreadsheet would take for a formula has a quote before it, which spreadsheets take for
 * the mark of a text, and {@link #plain} takes away again.
 */
public final class Csv implements AutoCloseable {
    private static final String FORMULA = "=+-@\t\r";

    private final CSVPrinter out;

    public Csv(Appendable to) {
        try {
            this.out = new CSVPrinter(to, CSVFormat.RFC4180);
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }

    /** A line; numbers are written as they are. */
    public Csv line(@Nullable Object... cells) {
        return line(Arrays.asList(cells));
    }

    public Csv line(List<? extends @Nullable Object> cells) {
        try {
            out.printRecord(cells.stream().map(Csv::harmless).toList());
            return this;
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }

    private static Object harmless(@Nullable Object cell) {
        if (cell == null) return "";
        if (!(cell instanceof String text)) return cell;
        return !text.isEmpty() && FORMULA.indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }

    /** A cell as it was before it was made harmless. */
    public static String plain(String cell) {
        boolean marked = cell.length() > 1 && cell.charAt(0) == '\'' && FORMULA.indexOf(cell.charAt(1)) >= 0;
        return marked ? cell.substring(1) : cell;
    }

    @Override
    public void close() {
        try {
            out.close(true);
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }
}
