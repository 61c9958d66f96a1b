package app.morvet.ground.page;

import java.util.List;

/** A sort of thing that the search field on top of each page finds. A feature that has one gives it as a bean, with its order. */
public interface Finder {
    /**
     * One that was found.
     *
     * @param beside what stands beside it, to tell it from others; may be empty
     */
    record Hit(String link, String words, String beside) {}

    /** What is found, as a heading: {@code Cases}. */
    String name();

    /** By what it is found, for whoever finds nothing: {@code words of a case's headline or its number}. */
    String hint();

    /**
     * @param words not blank
     * @param most  no more than these
     */
    List<Hit> find(String words, int most);
}
