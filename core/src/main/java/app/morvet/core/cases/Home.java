package app.morvet.core.cases;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Topic;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Which case an alert goes into, by what it is about and nothing else. There is one open case for each component that causes
 * trouble and each topic; what is about all trouble of a sort on a component goes with the first of that sort, whichever was
 * heard of first, so that the order in which those that judge come to speak makes no difference.
 */
public sealed interface Home {
    /** An open case takes it in. */
    record Joins(long into) implements Home {}

    /** An open case takes it in since it explains it. */
    record Explained(long by) implements Home {}

    /** An open case about all trouble of a sort turns out to be about this one. */
    record Becomes(long which) implements Home {}

    /** A case settled lately is open again. */
    record Reopens(long which) implements Home {}

    /** A new case. */
    record Opens() implements Home {}

    /**
     * A case as folding sees it.
     *
     * @param component the one that causes the trouble
     * @param since     when the first alert of its topic was raised in it
     * @param settledAt null while it is open
     */
    record Known(long id, long component, @Nullable Topic topic, Instant since, @Nullable Instant settledAt) {
        private boolean open() {
            return settledAt == null;
        }

        private boolean isAbout(About about) {
            return Objects.equals(topic, about.topic())
                    && (component == about.cause() || topic != null && topic.everywhere());
        }

        private boolean isOneOf(Topic all, long on) {
            return component == on && topic != null && all.covers(topic);
        }
    }

    /**
     * @param cases       the open ones on the component that causes it and those of its topic, and the one settled last; more do no harm
     * @param explanation the open case that explains it, if any; asked only where it matters
     */
    static Home of(About about, Instant raisedAt, Collection<Known> cases, Supplier<Optional<Long>> explanation) {
        var open = first(cases.stream().filter(one -> one.open() && one.isAbout(about)));
        if (open.isPresent()) return new Joins(open.get().id());
        var topic = about.topic();
        var one = topic == null ? Optional.<Known>empty() : withTheFirst(topic, about.cause(), cases);
        if (one.isPresent()) return new Joins(one.get().id());
        var explained = explanation.get();
        if (explained.isPresent()) return new Explained(explained.get());
        var adopted = first(
                cases.stream().filter(it -> it.open() && it.component() == about.cause() && covers(it.topic(), topic)));
        if (adopted.isPresent()) return new Becomes(adopted.get().id());
        return cases.stream()
                .filter(it -> it.settledAt() != null && it.isAbout(about))
                .max(Comparator.comparing((Known it) -> Objects.requireNonNull(it.settledAt())))
                .filter(it -> Comeback.reopens(Objects.requireNonNull(it.settledAt()), raisedAt))
                .<Home>map(it -> new Reopens(it.id()))
                .orElseGet(Opens::new);
    }

    /** Into which case alerts about all trouble of a sort go, and from which. */
    record Gathering(long into, List<Long> from) {}

    /**
     * What is about all trouble of a sort on a component goes with the first of that sort. That it is the first may be heard
     * after another was taken for it: then alerts move once more.
     *
     * @param about what has just been raised and is in one of the cases
     * @return empty where no open case is about one trouble of that sort
     */
    static Optional<Gathering> gathering(About about, Collection<Known> cases) {
        var topic = about.topic();
        if (topic == null || topic.everywhere()) return Optional.empty();
        var all = Topic.all(topic.of());
        return withTheFirst(all, about.cause(), cases)
                .map(first -> new Gathering(
                        first.id(),
                        cases.stream()
                                .filter(it -> it.open() && it.id() != first.id() && it.isOneOf(all, about.cause()))
                                .map(Known::id)
                                .toList()));
    }

    private static Optional<Known> withTheFirst(Topic all, long component, Collection<Known> cases) {
        return first(cases.stream().filter(it -> it.open() && it.isOneOf(all, component)));
    }

    private static boolean covers(@Nullable Topic all, @Nullable Topic one) {
        return all != null && one != null && all.covers(one);
    }

    private static Optional<Known> first(Stream<Known> cases) {
        return cases.min(Comparator.comparing(Known::since)
                .thenComparing(it -> it.topic() == null ? "" : it.topic().text())
                .thenComparing(Known::id));
    }
}
