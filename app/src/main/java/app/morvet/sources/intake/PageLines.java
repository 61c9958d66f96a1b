package app.morvet.sources.intake;

import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The lines of a page by their numbers, found when the first is asked for. */
final class PageLines {
    private final String page;
    private int @Nullable [] starts;

    PageLines(String page) {
        this.page = page;
    }

    /** @param number from 1; empty where there is no such line */
    String at(int number) {
        if (starts == null)
            starts = IntStream.concat(
                            IntStream.of(0),
                            IntStream.range(0, page.length())
                                    .filter(i -> page.charAt(i) == '\n')
                                    .map(i -> i + 1))
                    .toArray();
        if (number < 1 || number > starts.length) return "";
        int end = number < starts.length ? starts[number] - 1 : page.length();
        return page.substring(starts[number - 1], end).stripTrailing();
    }
}
