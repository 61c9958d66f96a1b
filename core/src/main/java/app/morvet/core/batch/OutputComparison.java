package app.morvet.core.batch;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * Two outputs of a job beside each other. Lines that differ only in their figures (times, counts, ids) are taken as the same;
 * what stands in one of them only is told. The longest common subsequence of lines decides.
 */
public final class OutputComparison {
    private static final int MOST_LINES = 1200;
    private static final Pattern FIGURES = Pattern.compile("[0-9]+(?:[.,:T-][0-9]+)*");

    /** How the two sides of a row stand to each other. */
    public enum Same {
        SAME,
        LEFT_ONLY,
        RIGHT_ONLY
    }

    /** @param left empty where only the right has it; likewise {@code right} */
    public record Row(Same same, String left, String right) {}

    private OutputComparison() {}

    /** Of the last lines of each, 1,200 at most. */
    public static List<Row> of(String left, String right) {
        var a = tail(left);
        var b = tail(right);
        var plainA = a.stream().map(OutputComparison::plain).toList();
        var plainB = b.stream().map(OutputComparison::plain).toList();
        var longest = new int[a.size() + 1][b.size() + 1];
        for (int i = a.size() - 1; i >= 0; i--)
            for (int j = b.size() - 1; j >= 0; j--)
                longest[i][j] = plainA.get(i).equals(plainB.get(j))
                        ? longest[i + 1][j + 1] + 1
                        : Math.max(longest[i + 1][j], longest[i][j + 1]);
        var rows = new ArrayList<Row>();
        int i = 0;
        int j = 0;
        while (i < a.size() || j < b.size()) {
            if (i < a.size() && j < b.size() && plainA.get(i).equals(plainB.get(j))) {
                rows.add(new Row(Same.SAME, a.get(i++), b.get(j++)));
            } else if (j == b.size() || i < a.size() && longest[i + 1][j] >= longest[i][j + 1]) {
                rows.add(new Row(Same.LEFT_ONLY, a.get(i++), ""));
            } else rows.add(new Row(Same.RIGHT_ONLY, "", b.get(j++)));
        }
        return List.copyOf(rows);
    }

    private static List<String> tail(String text) {
        var lines = text.lines().toList();
        return lines.size() <= MOST_LINES ? lines : lines.subList(lines.size() - MOST_LINES, lines.size());
    }

    private static String plain(String line) {
        return FIGURES.matcher(line).replaceAll("#").strip();
    }
}
