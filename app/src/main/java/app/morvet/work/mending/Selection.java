package app.morvet.work.mending;

import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageQueries;
import app.morvet.sources.messages.MessageQuery;
import app.morvet.sources.messages.SearchStore;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.util.MultiValueMap;

/**
 * Which failed messages somebody means: some that were picked, or all that a search finds.
 *
 * @param parameters of the address by which the same are meant again
 */
record Selection(List<MessageId> messages, MultiValueMap<String, String> parameters, boolean more) {
    /** So many are dealt with at a time; whoever means more does it twice. */
    static final int MOST = 100_000;

    private static final List<String> OF_SEARCH =
            List.of("interface", "family", "rule", "state", "key", "q", "days", "from", "to");

    /** @throws IllegalArgumentException where the search cannot be read; says why */
    static Selection of(MultiValueMap<String, String> asked, MessageQueries queries, SearchStore search) {
        var kept = new org.springframework.util.LinkedMultiValueMap<String, String>();
        var picked = asked.getOrDefault("ids", List.of());
        if (!picked.isEmpty()) {
            kept.put("ids", picked);
            return new Selection(
                    picked.stream()
                            .distinct()
                            .limit(MOST)
                            .map(id -> MessageId.parse(id)
                                    .orElseThrow(() ->
                                            new IllegalArgumentException("There is no failed message " + id + ".")))
                            .toList(),
                    kept,
                    false);
        }
        Map<String, String> one = new LinkedHashMap<>();
        for (var name : OF_SEARCH) {
            var value = asked.getFirst(name);
            if (value == null || value.isBlank()) continue;
            one.put(name, value);
            kept.add(name, value);
        }
        if (one.isEmpty()) throw new IllegalArgumentException("Pick failed messages, or search for them, first.");
        MessageQuery query = queries.of(one);
        var found = search.ids(query, MOST + 1);
        boolean more = found.size() > MOST;
        return new Selection(more ? List.copyOf(found.subList(0, MOST)) : found, kept, more);
    }
}
