package app.morvet.ground.page;

import java.util.List;
import java.util.function.Function;
import org.springframework.ui.Model;

/**
 * What a page shows of a list that is longer.
 *
 * @param from    place of the first that is shown, counted from 0
 * @param earlier where the leaf before begins; -1 where there is none
 * @param later   the same of the one after it
 */
public record Leaf<T>(List<T> shown, int from, int earlier, int later) {
    /**
     * @param from as it stands in an address, so it may be anything
     * @param most that are shown at once
     */
    public static <T> Leaf<T> of(List<T> all, int from, int most) {
        int start = Math.clamp(from, 0, all.size());
        int end = Math.min(all.size(), start + most);
        return new Leaf<>(
                all.subList(start, end),
                start,
                start == 0 ? -1 : Math.max(0, start - most),
                end < all.size() ? end : -1);
    }

    /** Puts its rows in, and where the others begin. */
    public void show(Model model, Function<T, ?> row) {
        model.addAttribute("rows", shown.stream().map(row).toList());
        model.addAttribute("from", from);
        model.addAttribute("earlier", earlier);
        model.addAttribute("later", later);
    }
}
