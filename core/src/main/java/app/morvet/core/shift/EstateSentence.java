package app.morvet.core.shift;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Trouble;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What there is now in the whole estate, in one sentence: each sort of trouble once, the worst first; what there is none of is not said. */
public final class EstateSentence {
    private EstateSentence() {}

    /** An alert that is up, on a component. */
    public record Up(long component, Trouble trouble, Severity severity) {}

    /** @param count of components, however many alerts each has; {@code worst} of their alerts */
    public record Part(Trouble trouble, int count, Severity worst) {
        public String words() {
            return trouble.words(count);
        }
    }

    /** By the worst of each sort, then by how many components, then in the order of the sorts. */
    public static List<Part> of(Collection<Up> up) {
        var components = new EnumMap<Trouble, Set<Long>>(Trouble.class);
        var worst = new EnumMap<Trouble, Severity>(Trouble.class);
        for (var one : up) {
            components.computeIfAbsent(one.trouble(), none -> new HashSet<>()).add(one.component());
            worst.merge(one.trouble(), one.severity(), (a, b) -> a.worseThan(b) ? a : b);
        }
        var parts = new ArrayList<Part>();
        components.forEach((trouble, some) -> parts.add(new Part(trouble, some.size(), worst.get(trouble))));
        parts.sort(Comparator.comparing(Part::worst)
                .reversed()
                .thenComparing(Comparator.comparing(Part::count).reversed())
                .thenComparing(Part::trouble));
        return parts;
    }
}
