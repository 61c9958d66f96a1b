package app.morvet.sources.messages;

import app.morvet.core.messages.Masking;
import app.morvet.ground.page.Finder;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Failed messages, by their business key; and that there are some with these words in them, which are found one by one elsewhere. */
@Component
@Order(3)
class MessageFinder implements Finder {
    /** What is told may be a little ahead. */
    private static final Duration AHEAD = Duration.ofHours(1);

    private final MessageStore messages;
    private final MessageViews views;
    private final SearchStore search;
    private final MessageQueries queries;
    private final Times times;

    MessageFinder(MessageStore messages, MessageViews views, SearchStore search, MessageQueries queries, Times times) {
        this.times = times;
        this.messages = messages;
        this.views = views;
        this.search = search;
        this.queries = queries;
    }

    @Override
    public String name() {
        return "Failed messages";
    }

    @Override
    public String hint() {
        return "the whole business key of a message of the last 90 days, or words in it";
    }

    @Override
    public List<Hit> find(String words, int most) {
        return Stream.concat(byKey(words, most), withWords(words)).toList();
    }

    private Stream<Hit> byKey(String words, int most) {
        return messages
                .byKey(
                        words,
                        times.now().minus(MessageQueries.WITHOUT_SPAN),
                        times.now().plus(AHEAD),
                        most)
                .stream()
                .map(views::row)
                // That there is one with a key that is hidden would tell that key.
                .filter(row -> !row.businessKey().contains(Masking.HIDDEN))
                .map(row -> new Hit("/messages/" + row.id(), row.businessKey(), row.at() + " · " + row.firstLine()));
    }

    private Stream<Hit> withWords(String words) {
        var asked = Map.of("q", words);
        var query = queries.of(asked);
        if (query.asked().isEmpty()) return Stream.empty();
        return search.page(query, MessageId.NEWEST, 1).stream()
                .map(latest -> new Hit(
                        queries.address(asked),
                        "All with these words in them",
                        "the latest at " + times.of(latest.line().at())));
    }
}
