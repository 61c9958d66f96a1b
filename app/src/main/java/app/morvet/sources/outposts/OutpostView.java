package app.morvet.sources.outposts;

import java.util.List;

/** What a feature shows on the page of an outpost. */
public interface OutpostView {
    /**
     * @param title of a list
     * @param lines what stands there, each with what it links to; an empty link for none
     */
    record Part(String title, List<Line> lines) {}

    record Line(String mark, String words, String beside, String link) {}

    List<Part> of(Outpost outpost);
}
