package app.morvet.sources.messages;

import app.morvet.core.messages.Fingerprint;
import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Tells failed messages their family, by the fingerprint of their error. A new family is made in a transaction of its own: it
 * is not undone when what came with it is. What was stored before families were is told its family in the background.
 */
@Service
public class Families implements Errand {
    private static final int A_TIME = 1000;
    private static final int MOST_KNOWN = 50_000;

    /** A family among others, for whoever shows a few of them: the first line of what stays, and how many. */
    public record Share(long family, String words, long count) {}

    private final FamilyStore store;
    private final Masks masks;
    private final Errands errands;
    private final Clock clock;
    private final TransactionTemplate transaction;
    private final Cache<String, Long> known =
            Caffeine.newBuilder().maximumSize(MOST_KNOWN).build();

    Families(FamilyStore store, Masks masks, Errands errands, Clock clock, TransactionTemplate transaction) {
        this.store = store;
        this.masks = masks;
        this.errands = errands;
        this.clock = clock;
        this.transaction = transaction;
    }

    /** An error, and when it happened. */
    record Seen(String error, Instant at) {}

    /** The families of some errors, in their order. Outside of a transaction: what was made stays, whatever becomes of the errors. */
    Long[] of(Collection<Seen> errors) {
        return of(errors, known::getIfPresent);
    }

    /** @param settled the family of a fingerprint, where nothing of it need be told to the store; else null */
    private Long[] of(Collection<Seen> errors, Function<String, @Nullable Long> settled) {
        var prints = new ArrayList<Fingerprint>(errors.size());
        var ids = new HashMap<String, Long>();
        var news = new LinkedHashMap<String, Fingerprint>();
        var first = new HashMap<String, Instant>();
        // In a storm many errors are the same to the letter.
        var byText = new HashMap<String, Fingerprint>();
        for (var one : errors) {
            var print = byText.computeIfAbsent(one.error(), Fingerprint::of);
            prints.add(print);
            if (ids.containsKey(print.key())) continue;
            var id = news.containsKey(print.key()) ? null : settled.apply(print.key());
            if (id != null) {
                ids.put(print.key(), id);
                continue;
            }
            news.put(print.key(), print);
            first.merge(print.key(), one.at(), (earlier, at) -> at.isBefore(earlier) ? at : earlier);
        }
        if (!news.isEmpty()) {
            var seen = news.keySet().stream().map(first::get).toList();
            var made = transaction.execute(status -> store.ensure(List.copyOf(news.values()), seen));
            for (var family : Objects.requireNonNull(made)) {
                known.put(family.fingerprint(), family.id());
                ids.put(family.fingerprint(), family.id());
            }
        }
        return prints.stream().map(print -> ids.get(print.key())).toArray(Long[]::new);
    }

    /** What failed on an interface in a span, by family, the most frequent first. */
    public List<Share> shares(MessageScope scope, Instant from, Instant to, int most) {
        return store.tallies(scope, from, to, most).stream()
                .map(one -> new Share(
                        one.family().id(), hidden(firstLine(one.family().skeleton())), one.count()))
                .toList();
    }

    /** The first line of what stays of a family's error, with what the masks name hidden. */
    public String firstLineOf(long family) {
        return store.byId(family).map(one -> hidden(firstLine(one.skeleton()))).orElse("");
    }

    String hidden(String text) {
        return masks.anywhere().text(text).text();
    }

    /** What stays of a family's error, all of it: for proposing rules, and not for showing. */
    public String skeletonOf(long family) {
        return store.byId(family).map(FamilyStore.Family::skeleton).orElse("");
    }

    static String firstLine(String skeleton) {
        return skeleton.lines().findFirst().orElse("");
    }

    @Override
    public String name() {
        return "families-of-old";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        errands.unlessWaiting(clock.instant().plusSeconds(5), name(), "all");
    }

    @Override
    public Optional<Instant> run(String id) {
        var orphans = store.orphans(A_TIME);
        if (orphans.isEmpty()) return Optional.empty();
        // What is old may be the first of its family, so the store is told of all of it.
        var families = of(
                orphans.stream()
                        .map(one -> new Seen(one.error(), one.id().at()))
                        .toList(),
                none -> null);
        transaction.executeWithoutResult(status -> {
            for (int i = 0; i < families.length; i++) store.adopt(orphans.get(i).id(), families[i]);
        });
        return Optional.of(clock.instant());
    }
}
