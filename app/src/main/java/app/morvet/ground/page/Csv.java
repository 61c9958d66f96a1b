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
        return cell instanceof String text && isFormula(text) ? "'" + text : cell;
    }

    /** A cell as it was before it was made harmless. */
    public static String plain(String cell) {
        return cell.startsWith("'") && isFormula(cell) ? cell.substring(1) : cell;
    }

    /** Whether it is one behind whatever quotes it has, so that a quote of its own is not taken for the mark. */
    private static boolean isFormula(String text) {
        int begin = 0;
        while (begin < text.length() && text.charAt(begin) == '\'') begin++;
        return begin < text.length() && FORMULA.indexOf(text.charAt(begin)) >= 0;
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
