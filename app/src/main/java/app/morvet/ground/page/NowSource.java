package app.morvet.ground.page;

import java.util.List;

/** A feature that has something to say on the now line. Says nothing while nothing needs eyes. */
public interface NowSource {
    List<NowItem> now();

    /** What stands beside the time, whether or not anything needs eyes; empty for nothing. */
    default String standing() {
        return "";
    }

    /** The topics of {@link Live} on which what it says may change. */
    default List<String> topics() {
        return List.of("now");
    }

    /**
     * One thing that needs eyes.
     *
     * @param mark  relief mark: {@code critical}, {@code warning}, {@code notice}, {@code nodata} or {@code held}
     * @param words what it is, with its count: {@code 2 critical}
     * @param link  the list of just these
     */
    record NowItem(String mark, String words, String link) {}
}
