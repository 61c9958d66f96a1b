package app.morvet.ground.base;

import java.util.List;

/** How many something takes in, and the names of the first few: as pages say it while a rule is edited. */
public record Named(int count, List<String> first) {
    private static final int FEW = 8;

    public Named {
        first = List.copyOf(first);
    }

    public static Named of(List<String> names) {
        return of(names, FEW);
    }

    public static Named of(List<String> names, int most) {
        return new Named(names.size(), names.stream().limit(most).toList());
    }

    public boolean none() {
        return count == 0;
    }

    /** The names, and that there are more. */
    public String list() {
        return String.join(", ", first) + (count > first.size() ? " …" : "");
    }

    /** As {@code 3 jobs: this, that, another.} */
    public String counted(String one, String many) {
        return "%d %s: %s%s".formatted(count, count == 1 ? one : many, list(), count > first.size() ? "" : ".");
    }
}
