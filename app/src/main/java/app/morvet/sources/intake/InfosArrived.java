package app.morvet.sources.intake;

import java.time.Instant;
import java.util.List;
import java.util.Map;

/** What components have said of themselves on a page of metrics. Published once they are registered. */
public record InfosArrived(long feed, List<Told> infos) {
    /**
     * @param component its key
     * @param name      of the info, without its suffix
     */
    public record Told(String component, String name, Map<String, String> labels, Instant at) {}
}
