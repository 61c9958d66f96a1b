package app.morvet.core.messages;

import java.text.Normalizer;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Where a field of a payload stands, from the inside out. Each element, object or list that is met has a path of its own, so
 * two fields have the same parent when it is the same object. A name begins with {@code @} for an attribute and with {@code #}
 * for what stands beside the fields: a comment, an instruction, the name of a member.
 */
final class FieldPath {
    static final FieldPath ROOT = new FieldPath(null, "", -1);

    private final @Nullable FieldPath parent;
    private final String name;
    private final int place;
    private final FieldPath named;
    private final int depth;
    private @Nullable String normal;

    private FieldPath(@Nullable FieldPath parent, String name, int place) {
        this.parent = parent;
        this.name = name;
        this.place = place;
        this.named = parent != null && place >= 0 ? parent.named : this;
        this.depth = parent == null ? 0 : parent.depth + 1;
    }

    FieldPath child(String childName) {
        return new FieldPath(this, childName, -1);
    }

    /** @param childPlace in a list, from 0 */
    FieldPath child(int childPlace) {
        return new FieldPath(this, "", childPlace);
    }

    boolean isRoot() {
        return parent == null;
    }

    /** The root is its own. */
    FieldPath parent() {
        return parent == null ? this : parent;
    }

    /** Itself, or the nearest around it that has a name and not only a place in a list; the root where none has. */
    FieldPath named() {
        return named;
    }

    int depth() {
        return depth;
    }

    /** {@code [0]} for the first of a list. */
    String name() {
        return place < 0 ? name : "[" + place + "]";
    }

    boolean isAttribute() {
        return name.startsWith("@");
    }

    /** Whether it is no field but something beside them. */
    boolean isAside() {
        return name.startsWith("#");
    }

    /** The name without prefix and capitals. */
    String normal() {
        if (normal == null) normal = normal(name);
        return normal;
    }

    static String normal(String name) {
        boolean attribute = name.startsWith("@");
        var local = name.substring(Math.max(attribute ? 1 : 0, name.lastIndexOf(':') + 1));
        return (attribute ? "@" : "") + folded(local);
    }

    /** In one way of writing and without capitals. */
    static String folded(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c >= 0x80 || c >= 'A' && c <= 'Z')
                return Normalizer.normalize(text, Normalizer.Form.NFKC).toLowerCase(Locale.ROOT);
        }
        return text;
    }
}
