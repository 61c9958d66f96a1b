package app.morvet.core.alert;

import org.jspecify.annotations.Nullable;

/**
 * What tells two troubles of one component apart, such as a failure family.
 *
 * @param of         which sort of trouble, such as {@code failures}; not blank, without {@code /}
 * @param id         which one of that sort, without {@code /}; empty for all of them on a component
 * @param everywhere whether it is one trouble on whichever component it shows
 */
public record Topic(String of, String id, boolean everywhere) {
    private static final String EVERYWHERE = "everywhere";

    public Topic {
        if (of.isBlank() || of.contains("/") || id.contains("/"))
            throw new IllegalArgumentException("a topic is of a sort and has no / in it, was " + of + ", " + id);
        if (everywhere && id.isEmpty()) throw new IllegalArgumentException("only one trouble can be one everywhere");
    }

    /** All trouble of a sort on a component. */
    public static Topic all(String of) {
        return new Topic(of, "", false);
    }

    /** One trouble of a sort on a component. */
    public static Topic one(String of, String id) {
        return new Topic(of, id, false);
    }

    /** One trouble of a sort, on whichever components it shows. */
    public static Topic everywhere(String of, String id) {
        return new Topic(of, id, true);
    }

    /** Whether it stands for all trouble of its sort on a component, of which the other is one. */
    public boolean covers(Topic other) {
        return id.isEmpty() && !other.id.isEmpty() && !other.everywhere && of.equals(other.of);
    }

    /** As it is stored: {@code failures}, {@code failures/12} or {@code failures/rule 7/everywhere}. */
    public String text() {
        return of + (id.isEmpty() ? "" : "/" + id) + (everywhere ? "/" + EVERYWHERE : "");
    }

    /**
     * What {@link #text} gave.
     *
     * @throws IllegalArgumentException where it is none of its forms
     */
    public static @Nullable Topic parse(@Nullable String text) {
        if (text == null) return null;
        var parts = text.split("/", -1);
        if (parts.length > 3 || parts.length == 3 && !parts[2].equals(EVERYWHERE))
            throw new IllegalArgumentException("\"" + text + "\" is no topic");
        return new Topic(parts[0], parts.length > 1 ? parts[1] : "", parts.length == 3);
    }
}
