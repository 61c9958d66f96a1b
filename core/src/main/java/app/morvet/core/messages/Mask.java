package app.morvet.core.messages;

import app.morvet.core.sorting.Patterns;
import com.google.re2j.Pattern;
import java.text.Normalizer;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A rule that hides something personal or secret in messages.
 *
 * @param interfaces keys of the interfaces that it holds for; empty for all
 * @param path       the last names of the path to the field, {@code *} for any; empty where a pattern decides
 * @param pattern    what a value looks like that is hidden; null where the path decides
 */
public record Mask(Set<String> interfaces, List<String> path, @Nullable Pattern pattern) {
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
                .map(Mask::normal)
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
        return new Mask(interfaces, List.of(), Patterns.read(pattern));
    }

    public boolean holdsFor(String interfaceKey) {
        return interfaces.isEmpty() || interfaces.contains(interfaceKey);
    }

    /** Whether a field of this path is hidden, or lies in one that is. */
    boolean hidesPath(List<String> names) {
        if (path.isEmpty()) return false;
        var bare = names.stream()
                .filter(name -> !name.startsWith("["))
                .map(Mask::normal)
                .toList();
        if (bare.size() < path.size()) return false;
        for (int i = 0; i < path.size(); i++) {
            var wanted = path.get(path.size() - 1 - i);
            if (!wanted.equals("*") && !wanted.equals(bare.get(bare.size() - 1 - i))) return false;
        }
        return true;
    }

    /** Whether a comment or the like may hold a field of this name, written out. */
    boolean mayHide(String text) {
        return !path.isEmpty() && normal(text).contains(path.getLast().replace("@", ""));
    }

    /** Whether a value, or anything that it may stand for, looks like what is hidden. */
    boolean hidesValue(String value) {
        var looksLike = pattern;
        if (looksLike == null) return false;
        for (var form : Unescaped.forms(value)) if (looksLike.matcher(form).find()) return true;
        return false;
    }

    private static String normal(String name) {
        var bare = name.startsWith("@") ? name.substring(1) : name;
        var local = bare.substring(bare.lastIndexOf(':') + 1);
        return (name.startsWith("@") ? "@" : "")
                + Normalizer.normalize(local, Normalizer.Form.NFKC).toLowerCase(Locale.ROOT);
    }
}
