package app.morvet.core.messages;

import app.morvet.core.sorting.SearchPattern;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A rule that hides something personal or secret in messages.
 *
 * @param interfaces keys of the interfaces that it holds for; empty for all
 * @param path       the last names of the path to the field, {@code *} for any; empty where a pattern decides
 * @param pattern    what a value looks like that is hidden; null where the path decides
 */
public record Mask(Set<String> interfaces, List<String> path, @Nullable SearchPattern pattern) {
    public Mask {
        interfaces = Set.copyOf(interfaces);
        path = List.copyOf(path);
        if (path.isEmpty() == (pattern == null))
            throw new IllegalArgumentException("a mask has either a path or a pattern");
    }

    /**
     * Hides fields by their path: {@code member/@no}, {@code customer/mail}, {@code iban}. Names are compared without
     * prefixes, places in lists and capitals.
     *
     * @throws IllegalArgumentException where it names nothing
     */
    public static Mask ofPath(Set<String> interfaces, String path) {
        if (path.length() > 300) throw new IllegalArgumentException("the path is longer than 300 characters");
        var names = Arrays.stream(path.strip().split("[/.]"))
                .map(String::strip)
                .filter(name -> !name.isEmpty() && !name.equals("$"))
                .map(FieldPath::normal)
                .toList();
        if (names.isEmpty() || names.stream().allMatch("*"::equals))
            throw new IllegalArgumentException("the path names no field, such as customer/mail or member/@no");
        return new Mask(interfaces, names, null);
    }

    /**
     * Hides whatever looks like this, in any field.
     *
     * @throws app.morvet.core.sorting.Faulty where the pattern cannot be read
     */
    public static Mask ofPattern(Set<String> interfaces, String pattern) {
        if (pattern.isBlank() || pattern.length() > 500)
            throw new IllegalArgumentException("the pattern has 1 to 500 characters");
        return new Mask(interfaces, List.of(), SearchPattern.of(pattern));
    }

    public boolean holdsFor(String interfaceKey) {
        return interfaces.isEmpty() || interfaces.contains(interfaceKey);
    }

    /** Whether a field of this path is hidden. */
    boolean hidesPath(FieldPath field) {
        if (path.isEmpty()) return false;
        var at = field.named();
        for (int i = path.size() - 1; i >= 0; i--) {
            if (at.isRoot()) return false;
            var wanted = path.get(i);
            if (!wanted.equals("*") && !wanted.equals(at.normal())) return false;
            at = at.parent().named();
        }
        return true;
    }

    /** Whether it can hide a column of a table, which is called by one name. */
    boolean hidesColumns() {
        return path.size() == 1;
    }

    /** Whether a comment or the like may hold a field of this name, written out in whatever way. */
    boolean mayHide(String text) {
        return !path.isEmpty()
                && FieldPath.folded(text)
                        .contains(path.getLast().replace("@", "").replace("*", ""));
    }

    /** Names that stand in whatever document this hides something in, the last one with a value; empty where none is known. */
    List<String> names() {
        return path.stream()
                .map(name -> name.replace("@", ""))
                .filter(name -> !name.equals("*"))
                .toList();
    }

    /** @param lower the text in lower case */
    boolean looksLike(String text, String lower) {
        return pattern != null && pattern.foundIn(text, lower);
    }
}
